"""Document + time -> draw list; pure."""

from .backdrops import surface_runs
from .dependence import NOT_SEEN, seen_in, told_in
from .film import SETTLED, film_at, frame_at, poster_at
from .findings import PhotoFinding, photo_findings
from .geometry import LayerGeometry, ViewGeometry, bounds_of, layer_corners_px, layer_geometry, outline_of, view_geometry
from .lanes import Bar, Curve, KeyMark, LaneRow, scene_bars, scene_lanes, values_at
from .lettering import family_key, text_block
from .marks import record_digest, scene_mark
from .paths import Ghost, PathGeometry, ghosts_of, ground_offset, lamp_place, path_geometry
from .plan import PlanView, plan_views
from .scenes import scene_at
from .staging import Placed, Staged, flattened, scene_seeing, shown_layers, staged
from .standing import corrections_of, picture_at
from .timeline import FrameSource, SceneSpan, Timeline, join_length, timeline_of
from .writing import TextFinding, WrittenText, as_written, text_findings, written_text

__all__ = [
    "SETTLED",
    "NOT_SEEN",
    "record_digest",
    "scene_mark",
    "seen_in",
    "join_length",
    "Bar",
    "Curve",
    "KeyMark",
    "LaneRow",
    "scene_bars",
    "scene_lanes",
    "values_at",
    "Ghost",
    "PathGeometry",
    "ghosts_of",
    "ground_offset",
    "lamp_place",
    "path_geometry",
    "PlanView",
    "plan_views",
    "scene_seeing",
    "FrameSource",
    "LayerGeometry",
    "PhotoFinding",
    "Placed",
    "SceneSpan",
    "Timeline",
    "ViewGeometry",
    "bounds_of",
    "corrections_of",
    "picture_at",
    "film_at",
    "poster_at",
    "flattened",
    "frame_at",
    "layer_corners_px",
    "outline_of",
    "photo_findings",
    "scene_at",
    "layer_geometry",
    "staged",
    "Staged",
    "shown_layers",
    "TextFinding",
    "WrittenText",
    "as_written",
    "family_key",
    "text_block",
    "surface_runs",
    "told_in",
    "text_findings",
    "written_text",
    "timeline_of",
    "view_geometry",
]
