"""Keeping what a picture is about in view."""

from ..document import Media, View
from .developing import shown_subject
from .fits import Fit, fit_zoom, limited_view, plane_size

MARGIN = 0.06
"""How far inside the view the subject is kept, in shares of the view."""


def view_on_subject(view: View, fit: Fit, media: Media, aspect: float) -> View:
    """The view moved by as little as brings the picture's subject into it, and no further than the fit allows.

    A subject too large for the view is centred.
    """
    subject = shown_subject(media)
    if subject is None or fit == "whole":
        return limited_view(view, fit, media.aspect, aspect)
    width, height = plane_size(media.aspect, aspect)
    magnification = view.zoom * fit_zoom(fit, media.aspect, aspect)
    half_x, half_y = aspect / magnification / width / 2, 1.0 / magnification / height / 2
    left, top, right, bottom = (value - 0.5 for value in subject)
    x = _brought(view.x, half_x * (1 - 2 * MARGIN), left, right)
    y = _brought(view.y, half_y * (1 - 2 * MARGIN), top, bottom)
    return limited_view(view.model_copy(update={"x": x, "y": y}), fit, media.aspect, aspect)


def _brought(centre: float, half: float, low: float, high: float) -> float:
    """The centre nearest to the given one whose span of ± `half` holds [low, high]; their middle if it cannot."""
    if high - low >= 2 * half:
        return (low + high) / 2
    return min(max(centre, high - half), low + half)
