"""Inner loops over pixels, compiled; they release the interpreter lock.

All pictures are (h, w, 4) uint8 premultiplied sRGB in contiguous rows.
"""

from collections.abc import Callable
from typing import Any, TypeVar, cast

import numba
import numpy as np

from .vectors import BLUE, CHROMA_BITS, CHROMA_PLUS, LUMA, LUMA_BITS, LUMA_PLUS, RED, eight_mixed, four_of_chroma, sixteen_of_luma

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
    that grid, and is interpolated between them; with a step of 1 it lies on the pixels. `colour`: (3,) float32 0..255. `noise` (64, at least
    63 more than there are columns) 0..1 dithers. Row y is left alone from x = hidden_from[y] to hidden_to[y]: something opaque will lie over it.
    Cell by cell the opacities of a row, then its pixels without a branch: so both are done several at a time.
    """
    red, green, blue = colour[0], colour[1], colour[2]
    none = np.float32(0.0)
    cells, width = coverage.shape[1], pixels.shape[1]
    row, alphas = np.empty(cells, np.float32), np.empty(step * cells, np.float32)
    # The pixel that the first of the opacities is for; half a cell lies before the first cell's middle.
    start = 0 if step == 1 else left - step * first_column - step // 2
    for y in range(pixels.shape[0]):
        v = (np.float32(y + top) + np.float32(0.5)) / np.float32(step) - np.float32(first_row) - np.float32(0.5)
        j = y if step == 1 else int(v)
        share = none if step == 1 else v - np.float32(j)
        above, below = coverage[j], coverage[j if step == 1 else j + 1]
        for part in range(2):
            first, last = (0, hidden_from[y]) if part == 0 else (hidden_to[y], width)
            last = min(last, step * (cells - (step > 1)) - start)
            if first >= last:
                continue
            low, high = (first + start) // step, (last + start - 1) // step + 1
            _between(row[low : min(high + 1, cells)], above[low:], below[low:], share, np.float32(opacity))
            # Where it is nothing, nothing is done.
            if step == 1:
                while low < high and row[low] <= none:
                    low += 1
                while low < high and row[high - 1] <= none:
                    high -= 1
                alphas[low:high] = row[low:high]
            else:
                while low < high and row[low] <= none and row[low + 1] <= none:
                    low += 1
                while low < high and row[high - 1] <= none and row[high] <= none:
                    high -= 1
                for k in range(low, high):
                    here, rise = row[k], row[k + 1] - row[k]
                    for i in range(step):
                        alphas[step * k + i] = here + rise * ((np.float32(i) + np.float32(0.5)) / np.float32(step))
            first, last = max(first, step * low - start), min(last, step * high - start)
            if first >= last:
                continue
            across = (first + left) & 63
            line, here, dither = pixels[y, first:last], alphas[start + first : start + last], noise[(y + top) & 63, across : across + last - first]
            if opaque:
                _shade_opaque(line, here, dither, red, green, blue)
            else:
                _shade_clear(line, here, dither, red, green, blue)


@compiled
def _between(row: Any, above: Any, below: Any, share: Any, scale: Any) -> None:
    for k in range(row.shape[0]):
        row[k] = (above[k] * (np.float32(1.0) - share) + below[k] * share) * scale


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
def copy_around(target: Any, source: Any, hidden_from: Any, hidden_to: Any) -> None:
    """`source` into `target` (see `words`), but row y from x = hidden_from[y] to hidden_to[y]: something opaque will lie there."""
    for y in range(target.shape[0]):
        first, last = hidden_from[y], hidden_to[y]
        target[y, :first] = source[y, :first]
        target[y, last:] = source[y, last:]


@compiled
def mix(target: Any, above: Any, amount: int) -> None:
    """`target` = mix of `target` and `above`; amount 0..65536 is above's share."""
    first, second = target.reshape(-1), above.reshape(-1)
    length, share = first.shape[0], min((amount + 1) >> 1, 32767)
    to, of = first.ctypes.data, second.ctypes.data
    for i in range(0, length - 31, 32):
        eight_mixed(to + i, of + i, share)
    for i in range(length // 32 * 32, length):
        first[i] = np.uint8(first[i] + (((np.int32(second[i]) - np.int32(first[i])) * share + 16384) >> 15))


@compiled
def rgba_to_yuv420(rgba: Any, luma: Any, blue: Any, red: Any) -> None:
    """BT.709 limited range (ITU-R BT.709-6, 3.5), chroma sited left as H.264 expects by default.

    rgba (h, w, 4); luma (h, w); blue, red (h/2, w/2); all uint8 in contiguous rows; h and w even. Fixed point, rounded.
    """
    height, width = luma.shape
    half = width // 2
    for y in range(0, height, 2):
        for row in range(y, y + 2):
            at, to = rgba[row].ctypes.data, luma[row].ctypes.data
            for x in range(0, width - 15, 16):
                sixteen_of_luma(to + x, at + 4 * x)
            for x in range(width // 16 * 16, width):
                r, g, b = np.int32(rgba[row, x, 0]), np.int32(rgba[row, x, 1]), np.int32(rgba[row, x, 2])
                luma[row, x] = np.uint8((LUMA[0] * r + LUMA[1] * g + LUMA[2] * b + LUMA_PLUS) >> LUMA_BITS)
        upper, lower = rgba[y].ctypes.data, rgba[y + 1].ctypes.data
        to_blue, to_red = blue[y // 2].ctypes.data, red[y // 2].ctypes.data
        _chroma_of(rgba, y, 0, min(1, half), blue, red)
        # What is read goes to the pixel after those it is for.
        done = 1
        while 2 * done + 8 < width:
            four_of_chroma(to_blue + done, to_red + done, upper + 8 * done, lower + 8 * done)
            done += 4
        _chroma_of(rgba, y, done, half, blue, red)


@compiled
def _chroma_of(rgba: Any, y: int, first: int, last: int, blue: Any, red: Any) -> None:
    for i in range(first, last):
        x = 2 * i
        before = x - 1 if x > 0 else 0
        r = g = b = np.int32(0)
        for row in range(y, y + 2):
            r += np.int32(rgba[row, before, 0]) + 2 * np.int32(rgba[row, x, 0]) + np.int32(rgba[row, x + 1, 0])
            g += np.int32(rgba[row, before, 1]) + 2 * np.int32(rgba[row, x, 1]) + np.int32(rgba[row, x + 1, 1])
            b += np.int32(rgba[row, before, 2]) + 2 * np.int32(rgba[row, x, 2]) + np.int32(rgba[row, x + 1, 2])
        # Sums are of weight 8, so 16 + 3 bits of fraction; 128.5 rounds.
        blue[y // 2, i] = np.uint8((BLUE[0] * r + BLUE[1] * g + BLUE[2] * b + CHROMA_PLUS) >> CHROMA_BITS)
        red[y // 2, i] = np.uint8((RED[0] * r + RED[1] * g + RED[2] * b + CHROMA_PLUS) >> CHROMA_BITS)


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
