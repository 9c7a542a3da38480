"""Keeping what a picture is about in view."""

import numpy as np

from ..document import Media, View
from .developing import shown_subject
from .fits import Fit, fit_zoom, limited_view, plane_size
from .views import picture_polygon

MARGIN = 0.06
"""How far inside the view the subject is kept, in shares of the view."""

Box = tuple[float, float, float, float]
"""(left, top, right, bottom) in fractions of what is shown of a picture."""


def view_on_subject(view: View, fit: Fit, media: Media, aspect: float) -> View:
    """The view moved by as little as brings the picture's subject into it, and no further than the fit allows.

    A subject too large for the view is centred.
    """
    subject = shown_subject(media)
    if subject is None or fit == "whole":
        return limited_view(view, fit, media.aspect, aspect)
    return limited_view(_moved_onto(view, fit, media, aspect, subject, MARGIN), fit, media.aspect, aspect)


def view_keeping(view: View, fit: Fit, media: Media, aspect: float, kept: Box) -> View:
    """The view that shows `kept`: moved by as little as it takes, and widened where that does not do, both as far as the fit allows.

    `kept` reaches no farther than the picture.
    """
    view = limited_view(view, fit, media.aspect, aspect)
    for margin in (MARGIN, 0.0):
        moved = limited_view(_moved_onto(view, fit, media, aspect, kept, margin), fit, media.aspect, aspect)
        if shows(moved, fit, media, aspect, kept):
            return moved
    # Wider: as a ratio, since what a turned view shows of the picture is no box.
    wide, close = limited_view(view.model_copy(update={"zoom": 0.05}), fit, media.aspect, aspect).zoom, view.zoom
    for _ in range(40):
        middle = (wide * close) ** 0.5
        wider = limited_view(view.model_copy(update={"zoom": middle}), fit, media.aspect, aspect)
        moved = limited_view(_moved_onto(wider, fit, media, aspect, kept, 0.0), fit, media.aspect, aspect)
        wide, close = (middle, close) if shows(moved, fit, media, aspect, kept) else (wide, middle)
    widest = view.model_copy(update={"zoom": wide})
    return limited_view(_moved_onto(widest, fit, media, aspect, kept, 0.0), fit, media.aspect, aspect)


def seen_of(view: View, fit: Fit, media: Media, aspect: float, box: Box) -> Box | None:
    """The part of a box on the picture that a view shows, as a box; None if it shows nothing of it."""
    polygon = picture_polygon(limited_view(view, fit, media.aspect, aspect), fit, media.aspect, aspect)
    (left, top), (right, bottom) = polygon.min(axis=0), polygon.max(axis=0)
    found = max(box[0], left, 0.0), max(box[1], top, 0.0), min(box[2], right, 1.0), min(box[3], bottom, 1.0)
    return tuple(float(v) for v in found) if found[0] < found[2] and found[1] < found[3] else None  # type: ignore[return-value]


def shows(view: View, fit: Fit, media: Media, aspect: float, box: Box) -> bool:
    """Whether all of a box on the picture is in the view, but for a thousandth of the view."""
    across, down, half_x, half_y = _in_view(view, fit, media, aspect, box)
    return bool((np.abs(across) <= half_x * 1.001).all() and (np.abs(down) <= half_y * 1.001).all())


def _in_view(view: View, fit: Fit, media: Media, aspect: float, box: Box) -> tuple[np.ndarray, np.ndarray, float, float]:
    """(across, down) of the box's corners from the view's middle along its sides, and half its sides; on the picture's plane."""
    width, height = plane_size(media.aspect, aspect)
    magnification = view.zoom * fit_zoom(fit, media.aspect, aspect)
    left, top, right, bottom = box
    x = (np.array((left, right, right, left)) - 0.5 - view.x) * width
    y = (np.array((top, top, bottom, bottom)) - 0.5 - view.y) * height
    c, s = np.cos(np.radians(view.turn)), np.sin(np.radians(view.turn))
    return x * c + y * s, y * c - x * s, aspect / magnification / 2, 0.5 / magnification


def _moved_onto(view: View, fit: Fit, media: Media, aspect: float, box: Box, margin: float) -> View:
    """The view moved along its sides, so that the box lies `margin` (shares of the view) inside it; centred on it if it is too large."""
    width, height = plane_size(media.aspect, aspect)
    across, down, half_x, half_y = _in_view(view, fit, media, aspect, box)
    way_x = _brought(half_x * (1 - 2 * margin), float(across.min()), float(across.max()))
    way_y = _brought(half_y * (1 - 2 * margin), float(down.min()), float(down.max()))
    c, s = np.cos(np.radians(view.turn)), np.sin(np.radians(view.turn))
    x, y = view.x + (way_x * c - way_y * s) / width, view.y + (way_x * s + way_y * c) / height
    return view.model_copy(update={"x": float(x), "y": float(y)})


def _brought(half: float, low: float, high: float) -> float:
    """The least way from 0 of a span of ± `half` that then holds [low, high]; to their middle if it cannot."""
    if high - low >= 2 * half:
        return (low + high) / 2
    return min(max(0.0, high - half), low + half)
