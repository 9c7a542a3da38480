"""Elementary transforms as matrices; signs in `conventions.md`."""

from math import cos, radians, sin

import numpy as np
from numpy.typing import NDArray

Matrix4 = NDArray[np.float64]
Matrix3 = NDArray[np.float64]


def translated(x: float, y: float, z: float = 0.0) -> Matrix4:
    m = np.eye(4)
    m[:3, 3] = (x, y, z)
    return m


def scaled(s: float) -> Matrix4:
    return np.diag((s, s, s, 1.0))


def turned(deg: float) -> Matrix4:
    """About the viewing axis, clockwise as seen."""
    c, s = cos(radians(deg)), sin(radians(deg))
    m = np.eye(4)
    m[:2, :2] = ((c, -s), (s, c))
    return m


def tipped(deg: float) -> Matrix4:
    """About the horizontal axis, top edge away from the viewer."""
    c, s = cos(radians(deg)), sin(radians(deg))
    m = np.eye(4)
    m[1:3, 1:3] = ((c, -s), (s, c))
    return m


def swung(deg: float) -> Matrix4:
    """About the vertical axis, right edge away from the viewer."""
    c, s = cos(radians(deg)), sin(radians(deg))
    m = np.eye(4)
    m[0, 0], m[0, 2], m[2, 0], m[2, 2] = c, s, -s, c
    return m


def similarity(scale: float, turn_deg: float, x: float, y: float) -> Matrix3:
    """Scale, then turn, then move, in the plane: (3, 3) float."""
    c, s = scale * cos(radians(turn_deg)), scale * sin(radians(turn_deg))
    return np.array(((c, -s, x), (s, c, y), (0.0, 0.0, 1.0)))
