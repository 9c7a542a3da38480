"""Placing a sprite in the frame."""

from math import floor, log2, sqrt
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..space import Matrix3, map_points

BLEND_FROM, BLEND_TO = 0.35, 0.65
"""Where between two levels a warp passes from one to the other; outside only one is needed."""

HALF_PIXEL = np.array(((1.0, 0.0, 0.5), (0.0, 1.0, 0.5), (0.0, 0.0, 1.0)))
HALF_PIXEL_BACK = np.array(((1.0, 0.0, -0.5), (0.0, 1.0, -0.5), (0.0, 0.0, 1.0)))


def pixel_from_frame(width_px: int, height_px: int) -> Matrix3:
    """Frame coordinates (frame heights, centre 0) to pixel positions."""
    return np.array(((height_px, 0.0, width_px / 2.0), (0.0, height_px, height_px / 2.0), (0.0, 0.0, 1.0)))


def covered_box(
    pixel_from_plane: Matrix3, corners: NDArray[np.float64], width_px: int, height_px: int, margin: int = 2
) -> tuple[int, int, int, int] | None:
    """(left, top, right, bottom) of the pixels a quad may touch, or None if it is out of the frame."""
    points = map_points(pixel_from_plane, corners)
    if not np.isfinite(points).all():
        return 0, 0, width_px, height_px
    left, top = (floor(v) - margin for v in points.min(axis=0))
    right, bottom = (floor(v) + 1 + margin for v in points.max(axis=0))
    box = max(left, 0), max(top, 0), min(right, width_px), min(bottom, height_px)
    return box if box[0] < box[2] and box[1] < box[3] else None


def covers_frame(pixel_from_plane: Matrix3, corners: NDArray[np.float64], width_px: int, height_px: int) -> bool:
    """Whether a quad covers every pixel of the frame with a pixel to spare: then nothing below it is seen."""
    points = map_points(pixel_from_plane, corners)
    if not np.isfinite(points).all():
        return False
    following = np.roll(points, -1, axis=0) - points
    for x, y in ((-1.0, -1.0), (width_px + 1.0, -1.0), (width_px + 1.0, height_px + 1.0), (-1.0, height_px + 1.0)):
        side = following[:, 0] * (y - points[:, 1]) - following[:, 1] * (x - points[:, 0])
        if not (side > 0).all():
            return False
    return True


def density(pixel_from_plane: Matrix3) -> float:
    """Frame pixels per unit of the plane at its centre: root of the area's derivative."""
    a, b, c = pixel_from_plane @ (0.0, 0.0, 1.0)
    if c <= 1e-9:
        return 0.0
    h = pixel_from_plane
    across = (h[0, 0] * c - a * h[2, 0]) * (h[1, 1] * c - b * h[2, 1])
    down = (h[0, 1] * c - a * h[2, 1]) * (h[1, 0] * c - b * h[2, 0])
    return sqrt(abs(float(across - down))) / float(c * c)


def levels_for(pixels_per_unit: float, picture_px_per_unit: float, coarsest: int, finest: int = 0) -> list[tuple[int, float]]:
    """[(level, weight)] of one or two neighbouring levels for a density in the frame; weights sum to 1."""
    if pixels_per_unit <= 0.0:
        return [(coarsest, 1.0)]
    wanted = min(max(2.0 * log2(picture_px_per_unit / pixels_per_unit), float(finest)), float(coarsest))
    lower = floor(wanted)
    share = min(max((wanted - lower - BLEND_FROM) / (BLEND_TO - BLEND_FROM), 0.0), 1.0)
    if share <= 0.0 or lower == coarsest:
        return [(lower, 1.0)]
    if share >= 1.0:
        return [(lower + 1, 1.0)]
    return [(lower, 1.0 - share), (lower + 1, share)]


def warped(
    picture: NDArray[Any],
    picture_from_pixel: Matrix3,
    box: tuple[int, int, int, int],
    border: int = cv2.BORDER_CONSTANT,
    into: NDArray[Any] | None = None,
) -> NDArray[Any]:
    """(box h, box w, ...) of `picture` seen through `picture_from_pixel`, linearly interpolated; transparent outside.

    `into`: a contiguous array of the result's shape to use.
    """
    left, top, right, bottom = box
    shift = np.array(((1.0, 0.0, left), (0.0, 1.0, top), (0.0, 0.0, 1.0)))
    matrix = HALF_PIXEL_BACK @ picture_from_pixel @ shift @ HALF_PIXEL
    size = (right - left, bottom - top)
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    if abs(matrix[2, 0]) < 1e-15 and abs(matrix[2, 1]) < 1e-15:
        return cv2.warpAffine(picture, matrix[:2] / matrix[2, 2], size, dst=into, flags=flags, borderMode=border, borderValue=0)
    return cv2.warpPerspective(picture, matrix, size, dst=into, flags=flags, borderMode=border, borderValue=0)


def covered_spans(corners_px: NDArray[np.float64], box: tuple[int, int, int, int]) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """(from, to), each (box h,): the pixels of each row of the box that lie wholly inside a convex quad, counted from its left edge.

    Corners in frame pixels, clockwise. An empty span stands at the row's end.
    """
    left, top, right, bottom = box
    rows = np.arange(top, bottom, dtype=np.float64)
    low, high = np.full(rows.size, float(left)), np.full(rows.size, float(right))
    for (x0, y0), (x1, y1) in zip(corners_px, np.roll(corners_px, -1, axis=0), strict=True):
        if abs(y1 - y0) < 1e-9:
            inside = (rows >= y0) if x1 > x0 else (rows + 1 <= y0)
            high = np.where(inside, high, left)
            continue
        at_top, at_bottom = x0 + (rows - y0) * (x1 - x0) / (y1 - y0), x0 + (rows + 1 - y0) * (x1 - x0) / (y1 - y0)
        if y1 > y0:
            high = np.minimum(high, np.minimum(at_top, at_bottom))
        else:
            low = np.maximum(low, np.maximum(at_top, at_bottom))
    first, last = np.ceil(low).astype(np.int64) - left, np.floor(high).astype(np.int64) - left
    empty = last <= first
    return np.where(empty, right - left, first), np.where(empty, right - left, last)
