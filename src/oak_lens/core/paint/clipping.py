"""Parts of planes: what lies before the camera, and what is kept of a plane that another crosses."""

from math import isfinite

import cv2
import numpy as np
from numpy.typing import NDArray

from ..space import NEAR, Matrix3, map_points

FIXED_BITS = 8
FARTHEST_PX = 30_000.0


def before_camera(corners: NDArray[np.float64], pixel_from_plane: Matrix3) -> NDArray[np.float64]:
    """(n, 2): the part of a convex polygon of a plane that lies before the camera; n is 0 if nothing does."""
    depth = corners @ pixel_from_plane[2, :2] + pixel_from_plane[2, 2] - NEAR
    if (depth >= 0.0).all():
        return corners
    kept = []
    for i in range(len(corners)):
        j = (i + 1) % len(corners)
        if depth[i] >= 0.0:
            kept.append(corners[i])
        if depth[i] * depth[j] < 0.0:
            kept.append(corners[i] + (corners[j] - corners[i]) * (depth[i] / (depth[i] - depth[j])))
    return np.array(kept) if len(kept) >= 3 else np.empty((0, 2))


def seen_before_camera(corners: NDArray[np.float64], pixel_from_plane: Matrix3) -> NDArray[np.float64] | None:
    """(n, 2): where points of a plane are seen; None where one of them is not, or too far away to be told."""
    (wx, wy, w1) = pixel_from_plane[2].tolist()
    if not all(wx * x + wy * y + w1 >= NEAR for x, y in corners.tolist()):
        return None
    points = map_points(pixel_from_plane, corners)
    return points if all(map(isfinite, points.ravel().tolist())) else None


def kept_pixels(polygon: NDArray[np.float64], pixel_from_plane: Matrix3, box: tuple[int, int, int, int]) -> NDArray[np.uint8]:
    """(box h, box w) uint8: where a convex polygon of the plane is seen, two pixels larger: neighbours leave no gap, and soft
    outer edges stay whole."""
    left, top, right, bottom = box
    points = np.clip(map_points(pixel_from_plane, polygon), -FARTHEST_PX, FARTHEST_PX)
    coverage = np.zeros((bottom - top, right - left), np.uint8)
    fixed = np.rint((points - (left + 0.5, top + 0.5)) * (1 << FIXED_BITS)).astype(np.int32)
    cv2.fillConvexPoly(coverage, fixed, 255, cv2.LINE_AA, FIXED_BITS)
    return np.asarray(cv2.dilate(coverage, np.ones((5, 5), np.uint8)), np.uint8)
