"""Inner loops over pixels, compiled; they release the interpreter lock.

All pictures are (h, w, 4) uint8 premultiplied sRGB in contiguous rows.
"""

from collections.abc import Callable
from typing import Any, TypeVar, cast

import numba
import numpy as np

F = TypeVar("F", bound=Callable[..., Any])


def compiled(function: F) -> F:
    """The function compiled for the machine, cached on disk, without the interpreter lock."""
    return cast(F, numba.njit(function, nogil=True, cache=True, error_model="numpy", boundscheck=False))


@compiled
def over(target: Any, source: Any, opacity: int) -> None:
    """`source` over `target` in place; opacity 0..255. Porter-Duff source-over, W3C Compositing Level 1, 5.1."""
    height, width = target.shape[0], target.shape[1]
    for y in range(height):
        to, of = target[y], source[y]
        for x in range(width):
            alpha = np.uint32(of[x, 3])
            if alpha == 0:
                continue
            if alpha == 255 and opacity == 255:
                to[x, 0], to[x, 1], to[x, 2], to[x, 3] = of[x, 0], of[x, 1], of[x, 2], np.uint8(255)
                continue
            scale = np.uint32(opacity)
            keep = np.uint32(255 * 255) - alpha * scale
            for c in range(4):
                value = np.uint32(of[x, c]) * scale * np.uint32(255) + np.uint32(to[x, c]) * keep
                to[x, c] = np.uint8((value + np.uint32(32512)) // np.uint32(65025))


def words(picture: Any) -> Any:
    """A picture (h, w, 4) as (h, w) uint32, a pixel a number, in the same memory."""
    return picture.view(np.uint32)[..., 0]


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
    hidden_from: Any,
    hidden_to: Any,
    opaque: bool,
) -> None:
    """`pixels` (see `words`) darkened or tinted where `coverage` (h, w) float32 0..1 says; `opaque`: whether all of it is, so its alpha stays.

    The coverage has one value for `step` pixels of the frame each way (1, or a power of 2), its first at (`first_column`, `first_row`) of
    that grid, and is interpolated between them; with a step of 1 it lies on the pixels. `colour`: (3,) float32 0..255. `noise` (64, 64)
    0..1 dithers. Row y is left alone from x = hidden_from[y] to hidden_to[y]: something opaque will lie over it.
    Cell by cell the opacities of a row, then its pixels without a branch: so both are done several at a time.
    """
    red, green, blue = colour[0], colour[1], colour[2]
    one, none = np.float32(1.0), np.float32(0.0)
    cells, width = coverage.shape[1], pixels.shape[1]
    row, alphas = np.empty(cells, np.float32), np.empty(step * cells, np.float32)
    tile = np.empty((width // 64 + 2) * 64, np.float32)
    # The pixel that the first of the opacities is for; half a cell lies before the first cell's middle.
    start = 0 if step == 1 else left - step * first_column - step // 2
    for y in range(pixels.shape[0]):
        if step == 1:
            for k in range(cells):
                row[k] = coverage[y, k] * np.float32(opacity)
        else:
            v = (np.float32(y + top) + np.float32(0.5)) / np.float32(step) - np.float32(first_row) - np.float32(0.5)
            j = int(v)
            f = v - np.float32(j)
            for k in range(cells):
                row[k] = (coverage[j, k] * (one - f) + coverage[j + 1, k] * f) * np.float32(opacity)
        low, high = 0, cells
        while low < cells and row[low] <= none:
            low += 1
        if low == cells:
            continue
        while row[high - 1] <= none:
            high -= 1
        if step == 1:
            for k in range(low, high):
                alphas[k] = row[k]
        else:
            low, high = max(low - 1, 0), min(high, cells - 1)
            for k in range(low, high):
                here, rise = row[k], row[k + 1] - row[k]
                for part in range(step):
                    alphas[step * k + part] = here + rise * ((np.float32(part) + np.float32(0.5)) / np.float32(step))
        for x in range(tile.shape[0]):
            tile[x] = noise[(y + top) & 63, x & 63]
        for part in range(2):
            first = max(0 if part == 0 else hidden_to[y], step * low - start)
            last = min(hidden_from[y] if part == 0 else width, step * high - start)
            if first >= last:
                continue
            line, here = pixels[y, first:last], alphas[start + first : start + last]
            dither = tile[(first + left) & 63 : ((first + left) & 63) + last - first]
            if opaque:
                _shade_opaque(line, here, dither, red, green, blue)
            else:
                _shade_clear(line, here, dither, red, green, blue)


@compiled
def _shade_opaque(line: Any, alphas: Any, dithers: Any, red: Any, green: Any, blue: Any) -> None:
    byte, full = np.int32(255), np.int32(-16777216)
    for x in range(line.shape[0]):
        pixel, alpha = np.int32(line[x]), alphas[x]
        dither = dithers[x] if alpha > np.float32(0.0) else np.float32(0.0)
        keep = np.float32(1.0) - alpha
        r = np.int32(np.float32(np.int32(pixel & byte)) * keep + (red * alpha + dither))
        g = np.int32(np.float32(np.int32((pixel >> np.int32(8)) & byte)) * keep + (green * alpha + dither))
        b = np.int32(np.float32(np.int32((pixel >> np.int32(16)) & byte)) * keep + (blue * alpha + dither))
        line[x] = np.uint32(np.int32(r | np.int32(g << np.int32(8))) | np.int32(np.int32(b << np.int32(16)) | full))


@compiled
def _shade_clear(line: Any, alphas: Any, dithers: Any, red: Any, green: Any, blue: Any) -> None:
    byte = np.int32(255)
    for x in range(line.shape[0]):
        pixel, alpha = np.int32(line[x]), alphas[x]
        dither = dithers[x] if alpha > np.float32(0.0) else np.float32(0.0)
        keep = np.float32(1.0) - alpha
        above = np.int32(np.float32(np.int32((pixel >> np.int32(24)) & byte)) * keep + (np.float32(255.0) * alpha + dither))
        # Dither must not lift a colour above its alpha.
        r = min(np.int32(np.float32(np.int32(pixel & byte)) * keep + (red * alpha + dither)), above)
        g = min(np.int32(np.float32(np.int32((pixel >> np.int32(8)) & byte)) * keep + (green * alpha + dither)), above)
        b = min(np.int32(np.float32(np.int32((pixel >> np.int32(16)) & byte)) * keep + (blue * alpha + dither)), above)
        line[x] = np.uint32(np.int32(r | np.int32(g << np.int32(8))) | np.int32(np.int32(b << np.int32(16)) | np.int32(above << np.int32(24))))


@compiled
def quantise(target: Any, colour: Any, noise: Any) -> None:
    """`colour` (h, w, 3) float32 0..255 into opaque `target`, dithered by `noise` (64, 64) 0..1."""
    for y in range(target.shape[0]):
        for x in range(target.shape[1]):
            dither = noise[y & 63, x & 63]
            for c in range(3):
                target[y, x, c] = np.uint8(min(np.float32(255.0), max(np.float32(0.0), colour[y, x, c] + dither)))
            target[y, x, 3] = np.uint8(255)


@compiled
def mix(target: Any, above: Any, amount: int) -> None:
    """`target` = mix of `target` and `above`; amount 0..65536 is above's share."""
    first, second = target.reshape(-1), above.reshape(-1)
    keep = np.uint32(65536 - amount)
    add = np.uint32(amount)
    for i in range(first.shape[0]):
        first[i] = np.uint8((np.uint32(first[i]) * keep + np.uint32(second[i]) * add + np.uint32(32768)) >> np.uint32(16))


@compiled
def rgba_to_yuv420(rgba: Any, luma: Any, blue: Any, red: Any) -> None:
    """BT.709 limited range (ITU-R BT.709-6, 3.5), chroma sited left as H.264 expects by default.

    rgba (h, w, 4); luma (h, w); blue, red (h/2, w/2); all uint8; h and w even. 16-bit fixed point, rounded.
    """
    height, width = luma.shape
    for y in range(0, height, 2):
        for row in range(y, y + 2):
            for x in range(width):
                r, g, b = np.int32(rgba[row, x, 0]), np.int32(rgba[row, x, 1]), np.int32(rgba[row, x, 2])
                luma[row, x] = np.uint8((np.int32(11966) * r + np.int32(40254) * g + np.int32(4064) * b + np.int32(1081344)) >> 16)
        for i in range(width // 2):
            x = 2 * i
            before = x - 1 if x > 0 else 0
            r = g = b = np.int32(0)
            for row in range(y, y + 2):
                r += np.int32(rgba[row, before, 0]) + 2 * np.int32(rgba[row, x, 0]) + np.int32(rgba[row, x + 1, 0])
                g += np.int32(rgba[row, before, 1]) + 2 * np.int32(rgba[row, x, 1]) + np.int32(rgba[row, x + 1, 1])
                b += np.int32(rgba[row, before, 2]) + 2 * np.int32(rgba[row, x, 2]) + np.int32(rgba[row, x + 1, 2])
            # Sums are of weight 8, so 16 + 3 bits of fraction; 128.5 rounds.
            blue[y // 2, i] = np.uint8((np.int32(-6596) * r + np.int32(-22189) * g + np.int32(28785) * b + np.int32(67371008)) >> 19)
            red[y // 2, i] = np.uint8((np.int32(28785) * r + np.int32(-26145) * g + np.int32(-2640) * b + np.int32(67371008)) >> 19)


@compiled
def resample(source: Any, target: Any, row_starts: Any, row_weights: Any, column_starts: Any, column_weights: Any) -> None:
    """`source` (h, w, 4) reduced into `target`: each target row and column is a weighted sum of some of the source's.

    starts (n,) int64: the first source line of each; weights (n, taps) float32, zero where not needed. Rows are summed first, in
    order through memory; the sums stay in one row's buffer.
    """
    width = source.shape[1]
    row = np.empty(width * 4, np.float32)
    for y in range(target.shape[0]):
        for i in range(row.shape[0]):
            row[i] = np.float32(0.0)
        first_line = row_starts[y]
        # Four lines in one pass: the buffer is read and written a quarter as often.
        for tap in range(0, row_weights.shape[1] - 3, 4):
            w0, w1, w2, w3 = row_weights[y, tap], row_weights[y, tap + 1], row_weights[y, tap + 2], row_weights[y, tap + 3]
            l0, l1 = source[first_line + tap].reshape(-1), source[first_line + tap + 1].reshape(-1)
            l2, l3 = source[first_line + tap + 2].reshape(-1), source[first_line + tap + 3].reshape(-1)
            for i in range(row.shape[0]):
                row[i] += (w0 * np.float32(l0[i]) + w1 * np.float32(l1[i])) + (w2 * np.float32(l2[i]) + w3 * np.float32(l3[i]))
        for tap in range(row_weights.shape[1] // 4 * 4, row_weights.shape[1]):
            weight = row_weights[y, tap]
            line = source[first_line + tap].reshape(-1)
            for i in range(row.shape[0]):
                row[i] += weight * np.float32(line[i])
        for x in range(target.shape[1]):
            first = column_starts[x] * 4
            a = b = c = d = np.float32(0.5)
            for tap in range(column_weights.shape[1]):
                weight = column_weights[x, tap]
                at = first + (tap << 2)
                a += weight * row[at]
                b += weight * row[at + 1]
                c += weight * row[at + 2]
                d += weight * row[at + 3]
            low, high = np.float32(0.0), np.float32(255.0)
            d = min(max(d, low), high)
            # The filter's overshoot must not lift a colour above its alpha.
            target[y, x, 0] = np.uint8(min(max(a, low), d))
            target[y, x, 1] = np.uint8(min(max(b, low), d))
            target[y, x, 2] = np.uint8(min(max(c, low), d))
            target[y, x, 3] = np.uint8(d)
