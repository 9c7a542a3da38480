"""Motion blur: the mean of a picture on its way while the shutter is open."""

from math import ceil, log2
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..space import Matrix3, map_points
from .placing import met_halfway
from .scratch import scratch
from .warps import Spans, touched_spans, warped

SHARP_BELOW_PX = 0.6
"""What moves less than this while the shutter is open is not blurred at all."""

SAMPLE_PX = 2.0
MOST_PASSES = 6
"""Passes double the samples: 2^6 are as many as a streak of 128 pixels can show."""

Box = tuple[int, int, int, int]


def streak_px(pixels_on: Matrix3, points: NDArray[np.float64], width_px: int, height_px: int) -> float:
    """Length of the longest streak, in pixels, that `pixels_on` makes of points of the frame; those far outside count where they enter."""
    held = np.clip(points, (-0.25 * width_px, -0.25 * height_px), (1.25 * width_px, 1.25 * height_px))
    moved = map_points(pixels_on, held)
    if not np.isfinite(moved).all():
        return 2.0**MOST_PASSES
    return float(np.hypot(*(moved - held).T).max())


def passes_for(length_px: float) -> int:
    """Passes whose samples lie no farther than two pixels apart: each is interpolated over two, so no gap is seen."""
    return min(max(ceil(log2(max(length_px / SAMPLE_PX, 1.0))), 1), MOST_PASSES)


def streaked(pixels: NDArray[Any], pixels_on: Matrix3, passes: int, box: Box, reach: Spans | None = None) -> NDArray[Any]:
    """`pixels` of a box of the frame (h, w, 4) uint8, or (h, w) float32, which go on beyond their edges, averaged over 2^passes even moments on the
    way from where they are to `pixels_on` of it. They may be overwritten. `reach`: the pixels of each row in which there is anything, all the
    way; None: anywhere.

    The way is that of a one-parameter group: its 2^-n-th root carries a sample to the next, so each pass averages the picture with
    itself moved on by twice the way of the pass before (doubling).
    """
    step = root_of(pixels_on, 2**passes)
    left, top, _, _ = box
    here = np.array(((1.0, 0.0, float(left)), (0.0, 1.0, float(top)), (0.0, 0.0, 1.0)))
    spare = scratch("streak", pixels.shape, pixels.dtype)
    inner = (0, 0, pixels.shape[1], pixels.shape[0])
    reach = reach or (np.zeros(inner[3], np.int64), np.full(inner[3], inner[2], np.int64))
    for _ in range(passes):
        back = np.asarray(np.linalg.inv(here) @ np.linalg.inv(step) @ here)
        if pixels.dtype == np.uint8:
            met_halfway(pixels, back, spare, left, top, reach)
            pixels, spare = spare, pixels
        else:
            moved = warped(pixels, back, inner, cv2.BORDER_REPLICATE, spare)
            cv2.addWeighted(pixels, 0.5, moved, 0.5, 0.0, dst=pixels)
        step = step @ step
    return pixels


WAY_STEPS = 4


def way_of(pixels_on: Matrix3, points: NDArray[np.float64]) -> list[NDArray[np.float64]]:
    """Where points are at five even moments on the way from where they are to `pixels_on` of it. They may be nowhere: not finite."""
    step, way = root_of(pixels_on, WAY_STEPS), [points]
    for _ in range(WAY_STEPS):
        way.append(map_points(step, way[-1]))
    return way


def swept(way: list[NDArray[np.float64]], box: Box, margin: float) -> Spans | None:
    """The pixels of each row of a box of the frame that a polygon on its way may touch, with a margin; None where that cannot be told."""
    if not np.isfinite(way).all():
        return None
    points = np.clip(np.concatenate(way), -1e6, 1e6)
    # Between its moments a turning corner stands out beyond what lies between them, by a quarter of what a moment does beyond its neighbours'.
    out = max((float(np.abs(b - (a + c) / 2).max()) for a, b, c in zip(way, way[1:], way[2:], strict=False)), default=0.0)
    hull = cv2.convexHull(points.astype(np.float32)).reshape(-1, 2).astype(np.float64)
    return touched_spans(hull, box, margin + out / 2)


def root_of(matrix: Matrix3, steps: int) -> Matrix3:
    """The matrix whose power `steps` (a power of two) is `matrix`, for matrices near the identity (Denman and Beavers' iteration)."""
    root = matrix / np.cbrt(np.linalg.det(matrix))
    while steps > 1:
        y, z = root, np.eye(3)
        for _ in range(30):
            following = (y + np.linalg.inv(z)) / 2.0
            z = (z + np.linalg.inv(y)) / 2.0
            if np.abs(following - y).max() < 1e-14:
                y = following
                break
            y = following
        root, steps = y, steps // 2
    return np.asarray(root)
