"""Views on a picture: mixing two of them so that a straight zoom looks steady, and where they lie."""

from math import expm1, log

import numpy as np
from numpy.typing import NDArray

from ..curves import Lane, sample
from ..document import View
from ..space import Matrix3, map_points, rectangle_corners, similarity
from .fits import Fit, fit_zoom, limited_view, plane_size


def mix_views(a: View, b: View, s: float) -> View:
    """The view a fraction `s` of the way from `a` to `b` (s may overshoot).

    The magnification is interpolated as a ratio, so equal steps of s multiply it by equal factors. The view's width goes as
    1 / zoom; the centre moves in step with the width, so every edge is a convex combination of its two ends: the
    point that `a` and `b` show at the same place of the frame stays there, and a view between two views inside the
    picture is inside it.
    """
    growth = log(b.zoom / a.zoom)
    share = s if abs(growth) < 1e-9 else expm1(-growth * s) / expm1(-growth)
    return View.model_construct(
        x=a.x + (b.x - a.x) * share, y=a.y + (b.y - a.y) * share, zoom=a.zoom * (b.zoom / a.zoom) ** s, turn=a.turn + (b.turn - a.turn) * s
    )


def view_at(lane: Lane[View], at: int, length: int, fit: Fit, picture_aspect: float, frame_aspect: float, border: float = 0.0) -> View:
    """View of a lane at `at` ticks after the start of a span of `length`, every key kept within what the fit allows."""
    limited = {name: limited_view(key.value, fit, picture_aspect, frame_aspect, border) for name, key in lane.keys.items()}
    if any(limited[name] is not key.value for name, key in lane.keys.items()):
        lane = lane.model_copy(update={"keys": {n: key.model_copy(update={"value": limited[n]}) for n, key in lane.keys.items()}})
    view = sample(lane, at, length, mix_views)
    # Between two turned views, and where a curve overshoots, the rectangle may still touch the limit.
    return limited_view(view, fit, picture_aspect, frame_aspect, border)


def frame_from_view(view: View, fit: Fit, picture_aspect: float, frame_aspect: float) -> Matrix3:
    """(3, 3) similarity from the picture's plane (frame heights, centre 0) to the frame that the view gives."""
    width, height = plane_size(picture_aspect, frame_aspect)
    magnification = view.zoom * fit_zoom(fit, picture_aspect, frame_aspect)
    turn_and_scale = similarity(magnification, -view.turn, 0.0, 0.0)
    centre = similarity(1.0, 0.0, -view.x * width, -view.y * height)
    return turn_and_scale @ centre


def picture_polygon(view: View, fit: Fit, picture_aspect: float, frame_aspect: float) -> NDArray[np.float64]:
    """Corners (4, 2) of the view on the picture, in picture fractions from its top left corner."""
    inverse = np.asarray(np.linalg.inv(frame_from_view(view, fit, picture_aspect, frame_aspect)), np.float64)
    on_plane: NDArray[np.float64] = map_points(inverse, rectangle_corners(frame_aspect, 1.0))
    polygon: NDArray[np.float64] = on_plane / np.array(plane_size(picture_aspect, frame_aspect)) + 0.5
    return polygon
