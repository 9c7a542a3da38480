"""Shadows laid over a frame: a coverage, seen where it is needed alone, in a colour."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..space import Matrix3
from .kernels import compiled
from .vectors import eight_shaded
from .warps import HALF_PIXEL_BACK, Spans

u64 = np.uint64

Ranges = NDArray[np.int64]
"""(4, h): of each row the pixels of two ranges, one after the other: from, to, from, to."""


def everywhere(rows: int, columns: int) -> Ranges:
    """All pixels."""
    ranges = np.full((4, rows), columns, np.int64)
    ranges[0] = 0
    return ranges


def around(reach: Spans, hidden: Spans | None) -> Ranges:
    """The pixels within reach on both sides of what something opaque will lie over."""
    ranges = np.empty((4, len(reach[0])), np.int64)
    _around(reach[0], reach[1], *(hidden or (reach[1], reach[1])), ranges)
    return ranges


@compiled
def _around(reach_from: Any, reach_to: Any, hidden_from: Any, hidden_to: Any, ranges: Any) -> None:
    for y in range(ranges.shape[1]):
        ranges[0, y], ranges[1, y] = reach_from[y], min(hidden_from[y], reach_to[y])
        ranges[2, y], ranges[3, y] = max(hidden_to[y], reach_from[y]), reach_to[y]


def seen(
    coverage: NDArray[np.float32], coverage_from_pixel: Matrix3, step: int, grid: tuple[int, int, int, int], top: int, left: int, ranges: Ranges,
    into: NDArray[np.float32],
) -> None:  # fmt: skip
    """`coverage` (h, w) 0..1, 0 at its edges, as it is seen on a grid of `step` pixels of the frame, (left, top, right, bottom) in cells: those
    cells of `into` that pixels in `ranges`, whose rows begin at `top` and columns at `left` of the frame, are shaded from (see `shade`)."""
    # The middle of a cell, in pixels of the frame.
    shift = np.array(((float(step), 0.0, step * (grid[0] + 0.5)), (0.0, float(step), step * (grid[1] + 0.5)), (0.0, 0.0, 1.0)))
    matrix = HALF_PIXEL_BACK @ coverage_from_pixel @ shift
    _seen(coverage, matrix, step, grid[1], 0 if step == 1 else left - step * grid[0] - step // 2, top, ranges, into)


@compiled
def _seen(coverage: Any, m: Any, step: int, first_row: int, start: int, top: int, ranges: Any, into: Any) -> None:
    rows, cells = into.shape
    height, width, flat = ranges.shape[1], np.int32(coverage.shape[1]), coverage.reshape(-1)
    at, across, down = np.empty(cells, np.int32), np.empty(cells, np.float32), np.empty(cells, np.float32)
    right, bottom = np.float32(coverage.shape[1] - 1.001), np.float32(coverage.shape[0] - 1.001)
    none, one, nearest = np.float32(0.0), np.float32(1.0), np.float32(1e-6)
    for j in range(rows):
        # The rows of pixels between this row of cells and its neighbours.
        if step == 1:
            y0, y1 = j, j + 1
        else:
            y0 = max(step * (first_row + j) - step // 2 - top, 0)
            y1 = min(step * (first_row + j + 1) + step // 2 - top, height)
        for part in range(2):
            first, last = cells * step, 0
            for y in range(y0, y1):
                if ranges[2 * part, y] < ranges[2 * part + 1, y]:
                    first, last = min(first, ranges[2 * part, y]), max(last, ranges[2 * part + 1, y])
            if first >= last:
                continue
            low, high = (first + start) // step, min((last + start - 1) // step + 1 + (step > 1), cells)
            # Counted from the grid's edge, so that a cell is the same whatever else is looked at.
            x0, y0f, w0 = np.float32(m[0, 1] * j + m[0, 2]), np.float32(m[1, 1] * j + m[1, 2]), np.float32(m[2, 1] * j + m[2, 2])
            dx, dy, dw = np.float32(m[0, 0]), np.float32(m[1, 0]), np.float32(m[2, 0])
            # First where each is looked for, several at a time, then what is there. Indices that are never below nothing, and no parts of
            # arrays: both would cost more than a short row's pixels.
            begin = np.int32(low)
            for i in range(u64(high - low)):
                k = np.float32(np.int32(begin + np.int32(i)))
                near = one / max(w0 + dw * k, nearest)
                u, v = min(max((x0 + dx * k) * near, none), right), min(max((y0f + dy * k) * near, none), bottom)
                column, row = np.int32(u), np.int32(v)
                at[i] = np.int32(np.int32(row * width) + column)
                across[i], down[i] = u - np.float32(column), v - np.float32(row)
            for i in range(u64(high - low)):
                here, x, y = u64(at[i]), across[i], down[i]
                upper = flat[here] * (one - x) + flat[here + u64(1)] * x
                here += u64(width)
                lower = flat[here] * (one - x) + flat[here + u64(1)] * x
                into[u64(j), u64(low) + i] = upper * (one - y) + lower * y


@compiled
def shade(
    pixels: Any,
    coverage: Any,
    step: int,
    first_column: int,
    first_row: int,
    colour: Any,
    opacity: float,
    noise: Any,
    left: int,
    top: int,
    ranges: Any,
    opaque: bool,
) -> None:
    """`pixels` (see `words`) darkened or tinted where `coverage` (h, w) float32 0..1 says; `opaque`: whether all of it is, so its alpha stays.

    The coverage has one value for `step` pixels of the frame each way (1, or a power of 2), its first at (`first_column`, `first_row`) of
    that grid, and is interpolated between them; with a step of 1 it lies on the pixels. `colour`: (3,) float32 0..255. `noise` (64, at least
    63 more than there are columns) 0..1 dithers. `ranges`: see `around`.
    Cell by cell the opacities of a row, then its pixels without a branch: so both are done several at a time.
    """
    none, one, scale = np.float32(0.0), np.float32(1.0), np.float32(opacity)
    cells = coverage.shape[1]
    row, alphas = np.empty(cells, np.float32), np.empty(step * cells, np.float32)
    parts = np.empty(step, np.float32)
    for i in range(step):
        parts[i] = (np.float32(i) + np.float32(0.5)) / np.float32(step)
    # The pixel that the first of the opacities is for; half a cell lies before the first cell's middle.
    start = 0 if step == 1 else left - step * first_column - step // 2
    for y in range(pixels.shape[0]):
        v = (np.float32(y + top) + np.float32(0.5)) / np.float32(step) - np.float32(first_row) - np.float32(0.5)
        j = y if step == 1 else int(v)
        share = none if step == 1 else v - np.float32(j)
        above, below = u64(j), u64(j if step == 1 else j + 1)
        for part in range(2):
            first, last = ranges[2 * part, y], min(ranges[2 * part + 1, y], step * (cells - (step > 1)) - start)
            if first >= last:
                continue
            low, high = (first + start) // step, (last + start - 1) // step + 1
            for c in range(u64(low), u64(min(high + 1, cells))):
                row[c] = (coverage[above, c] * (one - share) + coverage[below, c] * share) * scale
            # Where it is nothing, nothing is done.
            if step == 1:
                while low < high and row[low] <= none:
                    low += 1
                while low < high and row[high - 1] <= none:
                    high -= 1
                for c in range(u64(low), u64(high)):
                    alphas[c] = row[c]
            else:
                while low < high and row[low] <= none and row[low + 1] <= none:
                    low += 1
                while low < high and row[high - 1] <= none and row[high] <= none:
                    high -= 1
                for c in range(u64(low), u64(high)):
                    here, rise = row[c], row[c + u64(1)] - row[c]
                    for i in range(u64(step)):
                        alphas[u64(step) * c + i] = here + rise * parts[i]
            first, last = max(first, step * low - start), min(last, step * high - start)
            if first >= last:
                continue
            _shade_row(pixels, y, first, last, alphas, start, noise, (y + top) & 63, left, colour, opaque)


@compiled
def _shade_row(
    pixels: Any, y: int, first: int, last: int, alphas: Any, start: int, noise: Any, noise_row: int, left: int, colour: Any, opaque: bool
) -> None:
    """Pixels `first` to `last` of row y, by opacities counted from `start` before."""
    red, green, blue = colour[0], colour[1], colour[2]
    across = ((first + left) & 63) - first
    x = first
    if opaque:
        to, by = pixels.ctypes.data + pixels.strides[0] * y, alphas.ctypes.data + 4 * start
        dither = noise.ctypes.data + noise.strides[0] * noise_row + 4 * across
        while x + 8 <= last:
            eight_shaded(to + 4 * x, by + 4 * x, dither + 4 * x, red, green, blue)
            x += 8
    byte, none = np.int32(255), np.float32(0.0)
    for i in range(u64(x), u64(last)):
        pixel, alpha = np.int32(pixels[u64(y), i]), alphas[u64(start) + i]
        dithered = noise[u64(noise_row), u64(across) + i] if alpha > none else none
        keep = np.float32(1.0) - alpha
        above = np.int32(np.float32(np.int32((pixel >> np.int32(24)) & byte)) * keep + (np.float32(255.0) * alpha + dithered))
        if opaque:
            above = byte
        # Dither must not lift a colour above its alpha.
        r = min(np.int32(np.float32(np.int32(pixel & byte)) * keep + (red * alpha + dithered)), above)
        g = min(np.int32(np.float32(np.int32((pixel >> np.int32(8)) & byte)) * keep + (green * alpha + dithered)), above)
        b = min(np.int32(np.float32(np.int32((pixel >> np.int32(16)) & byte)) * keep + (blue * alpha + dithered)), above)
        pixels[u64(y), i] = np.uint32(np.int32(r | np.int32(g << np.int32(8))) | np.int32(np.int32(b << np.int32(16)) | np.int32(above << np.int32(24))))
