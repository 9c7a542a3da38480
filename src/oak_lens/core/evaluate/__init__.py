"""Document + time -> draw list; pure."""

from .film import film_at, frame_at
from .findings import PhotoFinding, photo_findings
from .geometry import LayerGeometry, ViewGeometry, layer_corners_px, scene_geometry, view_geometry
from .scenes import scene_at
from .timeline import FrameSource, SceneSpan, Timeline, timeline_of

__all__ = [
    "FrameSource",
    "LayerGeometry",
    "PhotoFinding",
    "SceneSpan",
    "Timeline",
    "ViewGeometry",
    "film_at",
    "frame_at",
    "layer_corners_px",
    "photo_findings",
    "scene_at",
    "scene_geometry",
    "timeline_of",
    "view_geometry",
]
