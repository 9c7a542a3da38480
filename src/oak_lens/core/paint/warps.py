"""Placing a sprite in the frame."""

from math import floor, log2, sqrt
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..space import Matrix3, map_points
from .kernels import compiled

BLEND_FROM, BLEND_TO = 0.7, 0.85
"""Where between two levels a warp passes from one to the other; outside only one is needed. Late, as cubic splines allow it: in photos the
finer level is nearer to what a whole reduction would give, by 3 to 10 dB. Narrow, since two cost twice as much; in a zoom of a hundredth a
second it is passed in five."""

Spans = tuple[NDArray[np.int64], NDArray[np.int64]]
"""(from, to): pixels of each row of a box, counted from its left edge."""

HALF_PIXEL = np.array(((1.0, 0.0, 0.5), (0.0, 1.0, 0.5), (0.0, 0.0, 1.0)))
HALF_PIXEL_BACK = np.array(((1.0, 0.0, -0.5), (0.0, 1.0, -0.5), (0.0, 0.0, 1.0)))


def pixel_from_frame(width_px: int, height_px: int) -> Matrix3:
    """Frame coordinates (frame heights, centre 0) to pixel positions."""
    return np.array(((height_px, 0.0, width_px / 2.0), (0.0, height_px, height_px / 2.0), (0.0, 0.0, 1.0)))


def determinant(matrix: Matrix3) -> float:
    """Of a (3, 3) matrix."""
    (a, b, c), (d, e, f), (g, h, i) = matrix.tolist()
    return float(a * (e * i - f * h) + b * (f * g - d * i) + c * (d * h - e * g))


def inverse(matrix: Matrix3) -> Matrix3:
    """Of a (3, 3) matrix that has one, by its cofactors: for so few numbers, ten times as quick as a solver."""
    (a, b, c), (d, e, f), (g, h, i) = matrix.tolist()
    x, y, z = e * i - f * h, f * g - d * i, d * h - e * g
    over = 1.0 / (a * x + b * y + c * z)
    return np.array(
        ((x * over, (c * h - b * i) * over, (b * f - c * e) * over), (y * over, (a * i - c * g) * over, (c * d - a * f) * over), (z * over, (b * g - a * h) * over, (a * e - b * d) * over))
    )  # fmt: skip


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


def density(pixel_from_plane: Matrix3, at: tuple[float, float] = (0.0, 0.0)) -> float:
    """Frame pixels per unit of the plane at a point of it, by default its origin: root of the area's derivative; 0 behind the camera."""
    # In numbers of the interpreter's own: for so few, arrays take five times as long.
    (xx, xy, x1), (yx, yy, y1), (wx, wy, w1) = pixel_from_plane.tolist()
    x, y = at
    a, b, c = xx * x + xy * y + x1, yx * x + yy * y + y1, wx * x + wy * y + w1
    if not c > 1e-9:
        return 0.0
    across, down = (xx * c - a * wx) * (yy * c - b * wy), (xy * c - a * wy) * (yx * c - b * wx)
    return float(sqrt(abs(across - down)) / (c * c))


def box_around(points: NDArray[np.float64], width_px: int, height_px: int, margin: int, beyond: int) -> tuple[int, int, int, int] | None:
    """(left, top, right, bottom) of the pixels within `margin` of points and `beyond` of the frame, or None if there are none."""
    if not len(points):
        return None
    xs, ys = points.T.tolist()
    left, top = (max(floor(max(min(v), -1e6)) - margin, -beyond) for v in (xs, ys))
    right, bottom = (min(floor(min(max(v), 1e6)) + 1 + margin, size + beyond) for v, size in ((xs, width_px), (ys, height_px)))
    return (left, top, right, bottom) if left < right and top < bottom else None


def levels_for(pixels_per_unit: float, picture_px_per_unit: float, coarsest: int) -> list[tuple[int, float]]:
    """[(level, weight)] of one or two neighbouring levels for a density in the frame; weights sum to 1."""
    if pixels_per_unit <= 0.0:
        return [(coarsest, 1.0)]
    wanted = min(max(2.0 * log2(picture_px_per_unit / pixels_per_unit), 0.0), float(coarsest))
    lower = floor(wanted)
    share = min(max((wanted - lower - BLEND_FROM) / (BLEND_TO - BLEND_FROM), 0.0), 1.0)
    if share <= 0.0 or lower == coarsest:
        return [(lower, 1.0)]
    if share >= 1.0:
        return [(lower + 1, 1.0)]
    return [(lower, 1.0 - share), (lower + 1, share)]


def nearest_level(pixels_per_unit: float, picture_px_per_unit: float, coarsest: int) -> int:
    """The level of a picture that is as fine as it is seen, or nearly: for what is blurred anyway."""
    if pixels_per_unit <= 0.0:
        return coarsest
    return min(max(round(2.0 * log2(picture_px_per_unit / pixels_per_unit)), 0), coarsest)


def drawn_level(pixels_per_unit: float, px_per_unit: float, coarsest: int, finest: int) -> float:
    """The level of a sprite that is drawn at any resolution: just finer than it is seen, in half levels.

    So its warp reduces by less than a fifth, which needs no second level, and a zoom draws it anew only now and then.
    """
    if pixels_per_unit <= 0.0:
        return float(coarsest)
    wanted = 2.0 * log2(px_per_unit / pixels_per_unit)
    # A hair of rounding must not make a picture that is seen as it is be drawn anew at another size.
    return min(max(floor(2.0 * wanted + 1e-6) / 2.0, float(finest)), float(coarsest))


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


def covered_spans(corners_px: NDArray[np.float64], box: tuple[int, int, int, int]) -> Spans:
    """(from, to), each (box h,): the pixels of each row of the box that lie wholly inside a convex quad, counted from its left edge.

    Corners in frame pixels, clockwise. An empty span stands at the row's end.
    """
    left, top, right, bottom = box
    first, last = np.empty(bottom - top, np.int64), np.empty(bottom - top, np.int64)
    spans_of(np.ascontiguousarray(corners_px), left, top, right, first, last)
    return first, last


def touched_spans(corners_px: NDArray[np.float64], box: tuple[int, int, int, int], margin: float) -> Spans:
    """(from, to), each (box h,): the pixels of each row of the box that a convex polygon with so wide a margin may touch, counted from its
    left edge. Corners (n, 2) in frame pixels."""
    left, top, right, bottom = box
    first, last = np.zeros(bottom - top, np.int64), np.full(bottom - top, right - left, np.int64)
    if np.isfinite(corners_px).all():
        _touched(np.ascontiguousarray(corners_px), left, top, right, margin, first, last)
    return first, last


@compiled
def _touched(corners: Any, left: int, top: int, right: int, margin: float, first: Any, last: Any) -> None:
    count = corners.shape[0]
    for row in range(first.shape[0]):
        above, below = top + row - margin, top + row + 1 + margin
        low, high = np.inf, -np.inf
        for i in range(count):
            x0, y0 = min(max(corners[i, 0], -1e7), 1e7), min(max(corners[i, 1], -1e7), 1e7)
            j = (i + 1) % count
            x1, y1 = min(max(corners[j, 0], -1e7), 1e7), min(max(corners[j, 1], -1e7), 1e7)
            if max(y0, y1) < above or min(y0, y1) > below:
                continue
            if abs(y1 - y0) < 1e-9:
                low, high = min(low, x0, x1), max(high, x0, x1)
                continue
            for y in (min(max(y0, above), below), min(max(y1, above), below)):
                x = x0 + (y - y0) / (y1 - y0) * (x1 - x0)
                low, high = min(low, x), max(high, x)
        if low > high:
            first[row] = last[row] = 0
            continue
        first[row] = min(max(int(np.floor(max(low - margin, -1e8))) - left, 0), right - left)
        last[row] = min(max(int(np.ceil(min(high + margin, 1e8))) - left, 0), right - left)


@compiled
def spans_of(corners: Any, left: int, top: int, right: int, first: Any, last: Any) -> None:
    """See `covered_spans`; for compiled code."""
    for row in range(first.shape[0]):
        y = top + row
        low, high = float(left), float(right)
        for i in range(4):
            x0, y0 = corners[i, 0], corners[i, 1]
            x1, y1 = corners[(i + 1) % 4, 0], corners[(i + 1) % 4, 1]
            if abs(y1 - y0) < 1e-9:
                inside = y >= y0 if x1 > x0 else y + 1 <= y0
                if not inside:
                    high = float(left)
                continue
            slope = (x1 - x0) / (y1 - y0)
            at_top, at_bottom = x0 + (y - y0) * slope, x0 + (y + 1 - y0) * slope
            if y1 > y0:
                high = min(high, at_top, at_bottom)
            else:
                low = max(low, at_top, at_bottom)
        start, end = int(np.ceil(low)) - left, int(np.floor(high)) - left
        if end <= start:
            start = end = right - left
        first[row], last[row] = start, end
