"""Fit, views, coverage and resolution of a picture in the frame."""

from .fits import chosen_fit, fit_zoom, limited_view, plane_size
from .resolution import enlargement
from .suggestions import suggested_views
from .views import frame_from_view, mix_views, picture_polygon, view_at

__all__ = [
    "chosen_fit",
    "enlargement",
    "fit_zoom",
    "frame_from_view",
    "limited_view",
    "mix_views",
    "picture_polygon",
    "plane_size",
    "suggested_views",
    "view_at",
]
