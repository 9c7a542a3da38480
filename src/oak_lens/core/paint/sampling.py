"""Where a row's pixels are looked up in a sprite, and with which weights: linearly, of 2 x 2 pixels, or by a cubic spline, of 4 x 4.

All are functions for compiled code. What is told of a row lies in arrays of their own: rows of one could overlap, for all the compiler knows,
and nothing would be vectorised.
"""

from typing import Any

import numpy as np

from .kernels import compiled
from .vectors import UNIT, four_sharp, four_sharp_of_two, prefetch, sixteen_shares

i32, i64, f32 = np.int32, np.int64, np.float32

ROWS_AHEAD = 6
"""Rows of a sprite that are asked for ahead: a turned picture defeats the machine's own guess, and half the time would be waiting."""

LARGEST = 32767
"""Of the machine's fractions of 2^15."""

WITHOUT_FIRST, WITHOUT_FOURTH = 2, 4
"""At a sprite's edges: its second pixel is the first of four, or its last but one the third."""

NEAREST = 1e-6
"""What is divided by at least: beyond the horizon a place is far away, and cut off later."""


@compiled
def places(m: Any, y: int, first: int, n: int, width: int, height: int, share: int, at: Any, upper: Any, lower: Any) -> None:
    """Byte offsets, and weights that sum to `share`, of n pixels of a row. Beyond a sprite its edge goes on."""
    # Counted from the box's edge, so that a pixel is the same whatever else is looked at.
    x0, y0, w0 = f32(m[0, 1] * y + m[0, 2]), f32(m[1, 1] * y + m[1, 2]), f32(m[2, 1] * y + m[2, 2])
    dx, dy, dw = f32(m[0, 0]), f32(m[1, 0]), f32(m[2, 0])
    right, bottom, zero, one, part = f32(width - 1.001), f32(height - 1.001), f32(0.0), f32(1.0), f32(share)
    begin, whole, wide, nearest = i32(first), i32(share), i32(width), f32(NEAREST)
    for i in range(n):
        k = f32(i32(begin + i32(i)))
        near = one / max(w0 + dw * k, nearest)
        u, v = min(max((x0 + dx * k) * near, zero), right), min(max((y0 + dy * k) * near, zero), bottom)
        column, row = i32(u), i32(v)
        fx, fy = (u - f32(column)) * part, v - f32(row)
        across, down, both = i32(fx), i32(fy * part), i32(fx * fy)
        at[i] = i32(i32(i32(row * wide) + column) * i32(4))
        # The right and the left neighbour's weight, side by side.
        upper[i] = i32(i32(i32(across - both) << i32(16)) | i32(i32(i32(whole - across) - i32(down - both)) & i32(0xFFFF)))
        lower[i] = i32(i32(i32(both) << i32(16)) | i32(i32(down - both) & i32(0xFFFF)))


@compiled
def _sharp_places(m: Any, y: int, first: int, n: int, width: int, height: int, at: Any, across: Any, down: Any) -> None:
    """Byte offsets of the first of 4 x 4 pixels of n pixels of a row, and how far each lies from the second, 0..1, across and down: 2 more where
    there is no first, 4 more where there is no fourth. Beyond a sprite its edge goes on."""
    x0, y0, w0 = f32(m[0, 1] * y + m[0, 2]), f32(m[1, 1] * y + m[1, 2]), f32(m[2, 1] * y + m[2, 2])
    dx, dy, dw = f32(m[0, 0]), f32(m[1, 0]), f32(m[2, 0])
    right, bottom, zero, one = f32(width - 1.001), f32(height - 1.001), f32(0.0), f32(1.0)
    begin, wide, nearest, columns, rows = i32(first), i32(width), f32(NEAREST), i32(width - 4), i32(height - 4)
    for i in range(n):
        k = f32(i32(begin + i32(i)))
        near = one / max(w0 + dw * k, nearest)
        u, v = min(max((x0 + dx * k) * near, zero), right), min(max((y0 + dy * k) * near, zero), bottom)
        column, row = i32(i32(u) - i32(1)), i32(i32(v) - i32(1))
        start, begun = min(max(column, i32(0)), columns), min(max(row, i32(0)), rows)
        at[i] = i32(i32(i32(begun * wide) + start) * i32(4))
        # Where the first of four would be one out, the four begin one later, and the other way round.
        across[i] = (u - f32(i32(column + i32(1)))) + f32(WITHOUT_FIRST if start > column else WITHOUT_FOURTH if start < column else 0)
        down[i] = (v - f32(i32(row + i32(1)))) + f32(WITHOUT_FIRST if begun > row else WITHOUT_FOURTH if begun < row else 0)


@compiled
def _weights(told: Any, part: Any, whole: Any) -> Any:
    """Of four samples side by side, in whole parts, for a place that `_sharp_places` tells: Catmull and Rom, "A class of local interpolating
    splines", 1974."""
    half, one, none = f32(0.5), f32(1.0), i32(0)
    kind = i32(i32(told * half) * i32(2))
    t = told - f32(kind)
    s = one - t
    w0, w3 = i32(-half * t * s * s * part), i32(-half * s * t * t * part)
    w2 = i32(half * t * (one + t * (f32(4.0) - f32(3.0) * t)) * part)
    w1 = i32(whole - w0 - w2 - w3)
    first, fourth = kind == i32(WITHOUT_FIRST), kind == i32(WITHOUT_FOURTH)
    return (
        i32(w0 + w1) if first else none if fourth else w0,
        w2 if first else w0 if fourth else w1,
        w3 if first else w1 if fourth else w2,
        none if first else i32(w2 + w3) if fourth else w3,
    )


@compiled
def _cubic_across(places: Any, n: int, share: int, left: Any, right: Any) -> None:
    """Weights of four samples side by side, in pairs that sum to `share`."""
    part, whole = f32(share), i32(share)
    for i in range(n):
        w0, w1, w2, w3 = _weights(places[i], part, whole)
        left[i], right[i] = i32(i32(w1 << i32(16)) | i32(w0 & i32(0xFFFF))), i32(i32(w3 << i32(16)) | i32(w2 & i32(0xFFFF)))


@compiled
def _cubic_down(places: Any, n: int, first: Any, second: Any, third: Any, fourth: Any) -> None:
    """The same one by one, each twice side by side, of 2^15."""
    part, whole, low = f32(LARGEST), i32(LARGEST), i32(0xFFFF)
    for i in range(n):
        w0, w1, w2, w3 = _weights(places[i], part, whole)
        first[i], second[i] = i32(i32(w0 << i32(16)) | i32(w0 & low)), i32(i32(w1 << i32(16)) | i32(w1 & low))
        third[i], fourth[i] = i32(i32(w2 << i32(16)) | i32(w2 & low)), i32(i32(w3 << i32(16)) | i32(w3 & low))


@compiled
def sharp_room(columns: int) -> Any:
    """What `weigh` fills."""
    n = columns + 20
    at, across, down, left, right = np.empty(n, i32), np.empty(n, f32), np.empty(n, f32), np.empty(n, i32), np.empty(n, i32)
    return at, across, down, left, right, np.empty(n, i32), np.empty(n, i32), np.empty(n, i32), np.empty(n, i32), np.empty(128, i32)


@compiled
def weigh(m: Any, y: int, first: int, n: int, sprite: Any, share: int, room: Any) -> None:
    """Into `room`: where n pixels of row y, from column `first` on, lie in a sprite of at least 4 x 4, seen through m, and what `sixteen_shares`
    needs for weights that sum to `share` of 2^14."""
    at, across, down, left, right, d0, d1, d2, d3, _ = room
    _sharp_places(m, y, first, n, sprite.shape[1], sprite.shape[0], at, across, down)
    fetch(sprite, at, n)
    _cubic_across(across, n, min(2 * share, LARGEST), left, right)
    _cubic_down(down, n, d0, d1, d2, d3)


@compiled
def _shares(room: Any, o: Any, share: Any) -> Any:
    """The address of the weights of sixteen places."""
    _, _, _, left, right, d0, d1, d2, d3, made = room
    sixteen_shares(
        left.ctypes.data + o, right.ctypes.data + o, d0.ctypes.data + o, d1.ctypes.data + o, d2.ctypes.data + o, d3.ctypes.data + o, share, made.ctypes.data
    )  # fmt: skip
    return made.ctypes.data


@compiled
def sharp_row(to: Any, add: Any, n: int, a: Any, room: Any, b: Any, other: Any, amount: int) -> None:
    """n pixels, a multiple of four, at the address `to`, by what `weigh` has told of one sprite, or of two if `amount`, the second's share of 2^14,
    is not 0; `add`: the address of what is added to each before it is cut to whole levels."""
    at, at2 = room[0].ctypes.data, other[0].ctypes.data
    for i in range(0, n, 16):
        weights = _shares(room, i64(4 * i), i64((1 << UNIT) - amount))
        weights2 = _shares(other, i64(4 * i), i64(amount)) if amount else weights
        for k in range(0, min(16, n - i), 4):
            o, w = i64(4 * (i + k)), i64(4 * k)
            if amount:
                four_sharp_of_two(
                    to + o, add + o, a.ctypes.data, 4 * a.shape[1], at + o, weights + w, b.ctypes.data, 4 * b.shape[1], at2 + o, weights2 + w
                )
            else:
                four_sharp(to + o, add + o, a.ctypes.data, 4 * a.shape[1], at + o, weights + w)


@compiled
def fetch(sprite: Any, at: Any, n: int) -> None:
    """Asks for the memory that the rows after n pixels at these byte offsets will read."""
    down, most = i64(4 * ROWS_AHEAD * sprite.shape[1]), i64(4 * sprite.shape[0] * sprite.shape[1] - 64)
    for i in range(0, n, 8):
        prefetch(sprite.ctypes.data + min(i64(at[i]) + down, most))
