"""Whole picture, filled frame, free: what zoom 1 means, and how far a view may go."""

from math import cos, radians, sin
from typing import Literal

from ..document import FitChoice, View

Fit = Literal["whole", "fill", "free"]

FILL_KEEPS = 0.7
"""A picture fills the frame by itself if at least this share of it stays in sight: cut by more, it would lose what it is about."""


def plane_size(picture_aspect: float, frame_aspect: float) -> tuple[float, float]:
    """(width, height) in frame heights of a picture that just fits the frame whole."""
    if picture_aspect >= frame_aspect:
        return frame_aspect, frame_aspect / picture_aspect
    return picture_aspect, 1.0


def cover_zoom(picture_aspect: float, frame_aspect: float) -> float:
    """How much larger than whole a picture must be to fill the frame."""
    ratio = picture_aspect / frame_aspect
    return max(ratio, 1.0 / ratio)


def chosen_fit(choice: FitChoice, picture_aspect: float, frame_aspect: float) -> Fit:
    """The fit that `auto` stands for: pictures near the frame's shape and panoramas fill it, tall ones stay whole.

    A panorama fills a frame it is wider than: the view travels along it. A picture much taller than the
    frame would lose its subject, so it stays whole over its backdrop.
    """
    if choice != "auto":
        return choice
    keeps = 1.0 / cover_zoom(picture_aspect, frame_aspect)
    return "fill" if keeps >= FILL_KEEPS or (picture_aspect > 2.2 and picture_aspect > frame_aspect) else "whole"


def fit_zoom(fit: Fit, picture_aspect: float, frame_aspect: float) -> float:
    """Magnification, relative to the whole picture just fitting, that zoom 1 stands for."""
    return cover_zoom(picture_aspect, frame_aspect) if fit == "fill" else 1.0


def limited_view(view: View, fit: Fit, picture_aspect: float, frame_aspect: float, border: float = 0.0) -> View:
    """The nearest view that the fit allows.

    `fill`: the view rectangle, turned as it is, stays inside the picture (no bare edge). `whole`: the picture with its
    border (in frame heights at zoom 1) stays inside the view. `free`: as given.
    """
    if fit == "free":
        return view
    width, height = plane_size(picture_aspect, frame_aspect)
    c, s = abs(cos(radians(view.turn))), abs(sin(radians(view.turn)))
    if fit == "fill":
        # Half extents, across and down the picture, of the turned view rectangle at magnification 1.
        half_x, half_y = (frame_aspect * c + s) / 2.0, (frame_aspect * s + c) / 2.0
        base = cover_zoom(picture_aspect, frame_aspect)
        magnification = max(view.zoom * base, 2.0 * half_x / width, 2.0 * half_y / height)
        room_x = max(0.0, 0.5 - half_x / magnification / width)
        room_y = max(0.0, 0.5 - half_y / magnification / height)
        zoom = max(view.zoom, magnification / base)
        x, y = min(max(view.x, -room_x), room_x), min(max(view.y, -room_y), room_y)
    else:
        # The same the other way round: half extents of the turned picture as seen in the view, and its middle's place there.
        half_x = ((width + 2 * border) * c + (height + 2 * border) * s) / 2.0
        half_y = ((width + 2 * border) * s + (height + 2 * border) * c) / 2.0
        zoom = min(view.zoom, frame_aspect / (2.0 * half_x), 0.5 / half_y)
        room_x, room_y = max(0.0, frame_aspect / 2.0 / zoom - half_x), max(0.0, 0.5 / zoom - half_y)
        cos_turn, sin_turn = cos(radians(view.turn)), sin(radians(view.turn))
        across, down = view.x * width, view.y * height
        seen_x, seen_y = across * cos_turn + down * sin_turn, down * cos_turn - across * sin_turn
        if abs(seen_x) <= room_x and abs(seen_y) <= room_y:
            x, y = view.x, view.y
        else:
            seen_x, seen_y = min(max(seen_x, -room_x), room_x), min(max(seen_y, -room_y), room_y)
            x, y = (seen_x * cos_turn - seen_y * sin_turn) / width, (seen_x * sin_turn + seen_y * cos_turn) / height
    if (x, y, zoom) == (view.x, view.y, view.zoom):
        return view
    return view.model_copy(update={"x": x, "y": y, "zoom": zoom})
