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


def words(picture: Any) -> Any:
    """A picture (h, w, 4) as (h, w) uint32, a pixel a number, in the same memory."""
    return picture.view(np.uint32)[..., 0]


@compiled
def over(target: Any, source: Any, opacity: int) -> None:
    """`source` over `target` in place; opacity 0..255. Porter-Duff source-over, W3C Compositing Level 1, 5.1."""
    for y in range(target.shape[0]):
        if opacity == 255:
            over_row(target[y].view(np.uint32)[:, 0], source[y].view(np.uint32)[:, 0])
        else:
            _over_in_part(target[y], source[y], opacity)


@compiled
def _over_in_part(to: Any, of: Any, opacity: int) -> None:
    for x in range(to.shape[0]):
        alpha = np.uint32(of[x, 3])
        if alpha == 0:
            continue
        scale = np.uint32(opacity)
        keep = np.uint32(255 * 255) - alpha * scale
        for c in range(4):
            value = np.uint32(of[x, c]) * scale * np.uint32(255) + np.uint32(to[x, c]) * keep
            to[x, c] = np.uint8((value + np.uint32(32512)) // np.uint32(65025))


@compiled
def over_row(row: Any, line: Any) -> None:
    """Pixels (n,) uint32 over others. Most are opaque, or nothing: sixteen of one kind are copied, or left out."""
    u32, u64 = np.uint32, np.uint64
    n, some = u64(row.shape[0]), u64(16)
    i = u64(0)
    while i + some <= n:
        every, either = u32(0xFFFFFFFF), u32(0)
        for k in range(some):
            every &= line[i + k]
            either |= line[i + k]
        if every >= u32(0xFF000000):
            for k in range(some):
                row[i + k] = line[i + k]
        elif either:
            for k in range(some):
                row[i + k] = _over_one(row[i + k], line[i + k])
        i += some
    for k in range(i, n):
        row[k] = _over_one(row[k], line[k])


@compiled
def _over_one(below: Any, pixel: Any) -> Any:
    return np.uint32(pixel + scaled(below, np.uint32(np.uint32(255) - np.uint32(pixel >> np.uint32(24)))))


@compiled
def scaled(pixel: Any, share: Any) -> Any:
    """A pixel times `share` of 255, rounded: two channels at a time, divided by adding the products' own high bytes. Every step in 32 bits."""
    u32 = np.uint32
    half, odd = u32(0x800080), u32(0xFF00FF)
    rb = u32(u32(u32(pixel & odd) * share) + half)
    ga = u32(u32(u32(u32(pixel >> u32(8)) & odd) * share) + half)
    rb = u32(u32(u32(rb + u32(u32(rb >> u32(8)) & odd)) >> u32(8)) & odd)
    return u32(rb | u32(u32(ga + u32(u32(ga >> u32(8)) & odd)) & u32(0xFF00FF00)))


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
        to, of = target[y], source[y]
        for x in range(hidden_from[y]):
            to[x] = of[x]
        to, of = target[y, hidden_to[y] :], source[y, hidden_to[y] :]
        for x in range(to.shape[0]):
            to[x] = of[x]


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
