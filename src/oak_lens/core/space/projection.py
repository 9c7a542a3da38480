"""A plane in space seen by the camera: a homography."""

from math import inf

import numpy as np
from numpy.typing import NDArray

from .transforms import Matrix3, Matrix4

FEW = 8
"""Points: so many are mapped one by one."""


def plane_homography(frame_from_plane: Matrix4) -> Matrix3:
    """(3, 3) homography of the plane's own z = 0, from its full (4, 4) matrix: the columns x, y and 1."""
    return np.ascontiguousarray(frame_from_plane[np.ix_((0, 1, 3), (0, 1, 3))])


def map_points(matrix: Matrix3, points: NDArray[np.float64]) -> NDArray[np.float64]:
    """Points (n, 2) through a homography (3, 3); (n, 2).

    A point on or behind the camera's plane maps to infinity.
    """
    if len(points) <= FEW:
        # In numbers of the interpreter's own: for so few, arrays take five times as long.
        (xx, xy, x1), (yx, yy, y1), (wx, wy, w1) = matrix.tolist()
        found = []
        for x, y in points.tolist():
            w = wx * x + wy * y + w1
            found.append(((xx * x + xy * y + x1) / w, (yx * x + yy * y + y1) / w) if w > 1e-9 else (inf, inf))
        return np.array(found, np.float64).reshape(-1, 2)
    homogeneous = points @ matrix[:, :2].T + matrix[:, 2]
    w = homogeneous[:, 2:3]
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        return np.where(w > 1e-9, homogeneous[:, :2] / w, np.inf)


def rectangle_corners(width: float, height: float) -> NDArray[np.float64]:
    """Corners (4, 2) of a centred rectangle: top left, top right, bottom right, bottom left."""
    x, y = width / 2.0, height / 2.0
    return np.array(((-x, -y), (x, -y), (x, y), (-x, y)))


def box_corners(left: float, top: float, right: float, bottom: float) -> NDArray[np.float64]:
    """Corners (4, 2) of a rectangle: top left, top right, bottom right, bottom left."""
    return np.array(((left, top), (right, top), (right, bottom), (left, bottom)))
