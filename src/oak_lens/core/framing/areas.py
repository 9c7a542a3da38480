"""Rectangles on a picture, dragged by their corners: its crop, its subject."""

from math import cos, radians, sin
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from ..document import Area, Media
from .developing import picture_from_turned

Handle = Literal["inside", "corner0", "corner1", "corner2", "corner3"]
"""What of a rectangle is dragged; corners clockwise from the top left, along its own axes."""

LEAST = 0.03
"""Heights of the picture that a dragged rectangle keeps."""

Point = tuple[float, float]


def reshaped(area: Area, handle: Handle, start: Point, end: Point, shape: float | None, aspect: float, turn: float) -> Area:
    """The rectangle after a handle went from `start` to `end`, in fractions of the picture, of width / height `aspect`; the corner
    opposite stays. `shape`: width / height it keeps, None: any; `turn`: degrees it is turned by, clockwise. Never beyond the picture."""
    dx, dy = (end[0] - start[0]) * aspect, end[1] - start[1]
    c, s = cos(radians(turn)), sin(radians(turn))
    width, height = area.width * aspect, area.height
    x, y = (area.x + area.width / 2) * aspect, area.y + area.height / 2
    if handle != "inside":
        # Along the rectangle's own axes, in heights of the picture.
        u, v = dx * c + dy * s, dy * c - dx * s
        corner = int(handle[-1])
        sx, sy = (1 if corner in (1, 2) else -1), (1 if corner >= 2 else -1)
        w, h = max(LEAST, width + sx * u), max(LEAST, height + sy * v)
        if shape is not None:
            w, h = (h * shape, h) if w / h > shape else (w, w / shape)
        mx, my = sx * (w - width) / 2, sy * (h - height) / 2
        dx, dy, width, height = mx * c - my * s, mx * s + my * c, w, h
    share = min(1.0, aspect / width, 1.0 / height)
    w, h = width * share / aspect, height * share
    left = min(max((x + dx) / aspect - w / 2, 0.0), 1.0 - w)
    top = min(max(y + dy - h / 2, 0.0), 1.0 - h)
    return Area(x=left, y=top, width=w, height=h)


def turned_area(media: Media, area: Area) -> Area:
    """A rectangle in fractions of the file's picture, in those of the picture as it is turned by quarters and flipped."""
    return _mapped(np.linalg.inv(picture_from_turned(media)), area)


def file_area(media: Media, area: Area) -> Area:
    """The other way round."""
    return _mapped(picture_from_turned(media), area)


def _mapped(matrix: NDArray[np.floating[Any]], area: Area) -> Area:
    corners = np.array(((area.x, area.y, 1.0), (area.x + area.width, area.y + area.height, 1.0))) @ matrix.T
    low, high = corners[:, :2].min(axis=0), corners[:, :2].max(axis=0)
    x, y = max(float(low[0]), 0.0), max(float(low[1]), 0.0)
    return Area(x=x, y=y, width=min(float(high[0]), 1.0) - x, height=min(float(high[1]), 1.0) - y)
