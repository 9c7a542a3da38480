"""Document + time -> draw list; pure."""

from .film import film_at, frame_at
from .findings import PhotoFinding, photo_findings
from .geometry import (
    LayerGeometry,
    Placed,
    ViewGeometry,
    bounds_of,
    flattened,
    layer_corners_px,
    outline_of,
    placed_layers,
    scene_geometry,
    view_geometry,
)
from .places import corrections_of
from .scenes import scene_at, shown_layers
from .timeline import FrameSource, SceneSpan, Timeline, timeline_of

__all__ = [
    "FrameSource",
    "LayerGeometry",
    "PhotoFinding",
    "Placed",
    "SceneSpan",
    "Timeline",
    "ViewGeometry",
    "bounds_of",
    "corrections_of",
    "film_at",
    "flattened",
    "frame_at",
    "layer_corners_px",
    "outline_of",
    "placed_layers",
    "photo_findings",
    "scene_at",
    "scene_geometry",
    "shown_layers",
    "timeline_of",
    "view_geometry",
]
