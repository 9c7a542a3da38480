"""What is out of focus, or blurred on purpose."""

from math import ceil, floor, log2
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import Focus
from ..space import Matrix3
from .kernels import compiled
from .scratch import scratch

SHARP_BELOW_PX = 0.35
"""Standard deviations below this, in pixels, change nothing that is seen."""

EVEN_WITHIN = 0.15
"""A blur that varies over a layer by less than this share is one blur."""

RUNG = 2.0**0.5
MOST_RUNGS = 8
SHARPEST_RUNG_PX = 0.9
GRID = 24
"""Cells, each way, by which it is told where which blur is wanted."""

LARGEST_PX = 160.0

Box = tuple[int, int, int, int]


def sigmas_at(
    points: NDArray[np.float64], plane_from_pixel: Matrix3, blur: float, focus: Focus | None, height_px: int
) -> NDArray[np.float64]:
    """(n,): standard deviation of the blur, in pixels, at pixel positions (n, 2).

    The circle of confusion is spread evenly: a disc of diameter c has the standard deviation c / 4 along each axis. 1 / W is linear in
    the pixel's place, for points of a plane.
    """
    even = np.full(len(points), blur * height_px)
    if focus is None:
        return even
    inverse_depth = points @ plane_from_pixel[2, :2] + plane_from_pixel[2, 2]
    circles = focus.k * np.abs(1.0 - focus.at * inverse_depth) * height_px / 4.0
    found: NDArray[np.float64] = np.minimum(np.sqrt(even * even + circles * circles), LARGEST_PX)
    return found


def softened(pixels: NDArray[np.uint8], sigma_px: float, border: int = cv2.BORDER_CONSTANT) -> NDArray[np.uint8]:
    """(h, w, 4) uint8 premultiplied, blurred by a Gaussian; wide ones at a lower resolution, which holds all of them.

    `border`: what lies beyond the edges; by default nothing.
    """
    step = 2 ** max(0, floor(log2(max(sigma_px / 2.0, 1.0))))
    height, width = pixels.shape[:2]
    if step == 1:
        side = 2 * ceil(3.2 * sigma_px) + 1
        return np.asarray(cv2.GaussianBlur(pixels, (side, side), sigma_px, borderType=border), np.uint8)
    columns, rows = ceil(width / step), ceil(height / step)
    padded: Any = cv2.copyMakeBorder(pixels, 0, rows * step - height, 0, columns * step - width, border, value=(0, 0, 0, 0))
    small: Any = cv2.resize(padded, (columns, rows), interpolation=cv2.INTER_AREA)
    # Taking the mean of step x step pixels and interpolating between them blurs, too.
    own = (step * step - 1.0) / 12.0 + step * step / 6.0
    sigma = max(sigma_px * sigma_px - own, 0.04) ** 0.5 / step
    side = 2 * ceil(3.2 * sigma) + 1
    soft: Any = cv2.GaussianBlur(small, (side, side), sigma, borderType=border)
    large: Any = cv2.resize(soft, (columns * step, rows * step), interpolation=cv2.INTER_LINEAR)
    return np.ascontiguousarray(large[:height, :width], np.uint8)


def softened_unevenly(
    pixels: NDArray[np.uint8],
    plane_from_pixel: Matrix3,
    box: Box,
    blur: float,
    focus: Focus,
    height_px: int,
    border: int = cv2.BORDER_CONSTANT,
) -> NDArray[np.uint8]:
    """The same with a blur that changes over the plane: a ladder of blurs, mixed at each pixel by variance."""
    left, top, right, bottom = box
    height, width = pixels.shape[:2]
    x, y = np.linspace(left, right, GRID + 1), np.linspace(top, bottom, GRID + 1)
    points = np.stack(np.meshgrid(x, y), axis=-1)
    sigmas = sigmas_at(points.reshape(-1, 2), plane_from_pixel, blur, focus, height_px).reshape(GRID + 1, GRID + 1)
    rungs = _ladder(max(blur * height_px, SHARPEST_RUNG_PX), float(sigmas.max()))
    ladder = scratch("ladder", (len(rungs), height, width, 4), np.uint8)
    for index, sigma in enumerate(rungs):
        lower, upper = rungs[max(index - 1, 0)], rungs[min(index + 1, len(rungs) - 1)]
        # A rung is only wanted where the blur lies between its neighbours.
        wanted = _cells(sigmas, lower, upper, width, height)
        if wanted is None:
            continue
        x0, y0, x1, y1 = wanted
        if sigma < SHARP_BELOW_PX:
            ladder[index, y0:y1, x0:x1] = pixels[y0:y1, x0:x1]
            continue
        # On whole steps of the reduction, so that its pixels lie alike wherever the part begins.
        margin = 16 * ceil(3.2 * sigma / 16)
        a, b = max(x0 // 32 * 32 - margin, 0), max(y0 // 32 * 32 - margin, 0)
        c, d = min(x1 + margin, width), min(y1 + margin, height)
        soft = softened(np.ascontiguousarray(pixels[b:d, a:c]), sigma, border)
        ladder[index, y0:y1, x0:x1] = soft[y0 - b : y1 - b, x0 - a : x1 - a]
    h = plane_from_pixel
    row = np.array((h[2, 0], h[2, 1], h[2, 2] + h[2, 0] * (left + 0.5) + h[2, 1] * (top + 0.5)))
    result = np.empty_like(pixels)
    _mix_ladder(ladder, np.array(rungs) ** 2, result, row, focus.k * height_px / 4.0, focus.at, (blur * height_px) ** 2)
    return result


def _ladder(low: float, largest: float) -> list[float]:
    """Standard deviations from nothing to the largest, in steps of a root of two, the smallest ones wider apart."""
    rungs = [0.0]
    rung = max(low, largest / RUNG ** (MOST_RUNGS - 2))
    while rung < largest * 0.999:
        rungs.append(rung)
        rung *= RUNG
    return [*rungs, max(largest, low)]


def _cells(sigmas: NDArray[Any], lower: float, upper: float, width: int, height: int) -> Box | None:
    """(left, top, right, bottom) of the grid's cells in which a blur between two values may lie, in pixels; None if in none."""
    corners = [sigmas[:-1, :-1], sigmas[:-1, 1:], sigmas[1:, :-1], sigmas[1:, 1:]]
    low, high = np.minimum.reduce(corners), np.maximum.reduce(corners)
    # Where the focus lies in a cell, it is sharper inside than at any corner.
    spread = (high - low) + 1e-9
    touched = (low - spread <= upper) & (high >= lower)
    rows, columns = np.nonzero(touched)
    if not len(rows):
        return None
    x0, x1 = int(columns.min() * width / GRID), ceil((columns.max() + 1) * width / GRID)
    y0, y1 = int(rows.min() * height / GRID), ceil((rows.max() + 1) * height / GRID)
    return max(x0 - 1, 0), max(y0 - 1, 0), min(x1 + 1, width), min(y1 + 1, height)


@compiled
def _mix_ladder(ladder: Any, variances: Any, target: Any, row: Any, circle: float, at: float, own: float) -> None:
    """Each pixel between the two rungs whose variances enclose its own. `row`: 1 / W at the first pixel, per column, per row."""
    rungs = ladder.shape[0]
    for y in range(target.shape[0]):
        for x in range(target.shape[1]):
            radius = circle * abs(1.0 - at * (row[0] * x + row[1] * y + row[2]))
            variance = min(own + radius * radius, variances[rungs - 1])
            k = 0
            while k < rungs - 2 and variances[k + 1] < variance:
                k += 1
            share = (variance - variances[k]) / max(variances[k + 1] - variances[k], 1e-9)
            part = np.float32(min(max(share, 0.0), 1.0))
            for c in range(4):
                a, b = np.float32(ladder[k, y, x, c]), np.float32(ladder[k + 1, y, x, c])
                target[y, x, c] = np.uint8(a + (b - a) * part + np.float32(0.5))
