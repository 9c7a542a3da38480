"""Drags as data: where a handle was taken and where it is now."""

from math import atan2, degrees
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from .registry import Edit

Coordinate = Annotated[float, Field(ge=-100, le=100, allow_inf_nan=False)]

Handle = Literal["inside", "corner0", "corner1", "corner2", "corner3", "edge0", "edge1", "edge2", "edge3", "turn"]
"""`inside` moves; corners (top left, then clockwise) size; edges (top, then clockwise) widen a window; `turn` turns."""

TURN_STEP_DEG = 15.0


class Gesture(Edit):
    """A drag of one handle, in fractions from the top left of the surface it happens on."""

    handle: Handle
    start: tuple[Coordinate, Coordinate]
    end: tuple[Coordinate, Coordinate]
    constrain: bool = False


Point = NDArray[np.float64]


def along_one_axis(offset: Point) -> Point:
    """The larger component of an offset alone."""
    return np.where(np.abs(offset) >= np.abs(offset).max(), offset, 0.0)


def turned_by(centre: Point, start: Point, end: Point) -> float:
    """Degrees clockwise from `start` to `end` as seen from `centre`, within ±180."""
    a, b = start - centre, end - centre
    difference = degrees(atan2(b[1], b[0]) - atan2(a[1], a[0]))
    return (difference + 180.0) % 360.0 - 180.0


def stepped(angle_deg: float) -> float:
    """The nearest multiple of the turn step."""
    return round(angle_deg / TURN_STEP_DEG) * TURN_STEP_DEG
