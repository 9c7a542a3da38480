"""Fit, views, windows, coverage and resolution of a picture in the frame; how it is turned and cropped.

`subject_finding`, which looks into pixels, is imported by who takes pictures in.
"""

from .areas import Handle, file_area, reshaped, turned_area
from .borders import borders_in
from .developing import limited_crop, picture_from_shown, picture_from_turned, shown_subject, turned_from_shown
from .fits import Fit, chosen_fit, fit_zoom, limited_view, plane_size
from .resolution import enlargement
from .subjects import seen_of, shows, view_keeping, view_on_subject
from .suggestions import Wish, suggested_views
from .views import frame_from_view, mix_views, picture_polygon, view_at
from .windows import WINDOW_SIDE, fit_of, on_subject, picture_from_window, seen_aspect

__all__ = [
    "WINDOW_SIDE",
    "Wish",
    "Fit",
    "borders_in",
    "chosen_fit",
    "enlargement",
    "fit_of",
    "fit_zoom",
    "on_subject",
    "frame_from_view",
    "limited_crop",
    "limited_view",
    "mix_views",
    "picture_from_shown",
    "picture_from_turned",
    "picture_from_window",
    "picture_polygon",
    "plane_size",
    "seen_aspect",
    "Handle",
    "file_area",
    "reshaped",
    "turned_area",
    "shown_subject",
    "suggested_views",
    "turned_from_shown",
    "view_at",
    "seen_of",
    "shows",
    "view_keeping",
    "view_on_subject",
]
