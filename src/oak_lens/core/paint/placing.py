"""A layer laid over the frame in one pass: seen through its transform, mixed of one or two levels, cut to its edges, composited, row by
row and only where it is."""

from collections.abc import Sequence
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..space import Matrix3
from .dither import noise_across
from .edges import Edges, cut_row, no_edges
from .kernels import compiled, words
from .sprites import Sprite
from .vectors import UNIT, four_of_one, four_of_two, prefetch
from .warps import HALF_PIXEL, HALF_PIXEL_BACK, Spans

i32, i64, f32, u32 = np.int32, np.int64, np.float32, np.uint32

ROWS_AHEAD = 6
"""Rows of a sprite that are asked for ahead: a turned picture defeats the machine's own guess, and half the time would be waiting."""

NEAREST = 1e-6
"""What is divided by at least: beyond the horizon a place is far away, and cut off later."""


def place(
    canvas: NDArray[np.uint8],
    box: tuple[int, int, int, int],
    seen: Sequence[tuple[Sprite, float]],
    plane_from_pixel: Matrix3,
    reach: Spans,
    edges: Edges | None = None,
    opacity: float = 1.0,
    solid: bool = False,
) -> None:
    """One or two sprites, mixed by weights that sum to 1, over `canvas` (box h, box w, 4) uint8 premultiplied, which is `box` of the frame.

    `plane_from_pixel`: from the frame's pixels to the plane of both. `reach`: the pixels of each row that may be touched, counted from the
    box's left edge. `edges`: where a picture ends and its border begins, if they are not in the sprites; `solid`: whether the picture is
    opaque, so that nothing is mixed with what is below it inside those. Porter-Duff source-over (W3C Compositing Level 1, 5.1), to a level.
    """
    left, top, _, bottom = box
    amount = 0 if len(seen) == 1 else round(seen[1][1] * (1 << UNIT))
    shift = np.array(((1.0, 0.0, left), (0.0, 1.0, top), (0.0, 0.0, 1.0)))
    sprites = [np.ascontiguousarray(s.pixels) for s, _ in seen]
    matrices = [np.ascontiguousarray(HALF_PIXEL_BACK @ s.sprite_from_plane @ plane_from_pixel @ shift @ HALF_PIXEL) for s, _ in seen]
    cuts = edges or no_edges(bottom - top)
    _place(
        words(canvas), words(sprites[0]), matrices[0], words(sprites[-1]), matrices[-1], amount, round(opacity * 255), reach[0], reach[1],
        _thresholds(canvas.shape[1] + 4), edges is not None, solid, left, top, cuts.told, cuts.plane_from_pixel, cuts.sizes, cuts.colour, cuts.spans,
    )  # fmt: skip


@lru_cache(8)
def _thresholds(columns: int) -> NDArray[np.int32]:
    """What is added to a pixel's sum before it is cut to whole levels: blue noise, so that each is right on average. Rounded, every pixel
    would, by where it lies between the sprite's, err alike with its neighbours, and slow zooms would drag their pictures to and fro."""
    return (noise_across(columns) * (1 << UNIT)).astype(np.int32)


@compiled
def _places(m: Any, y: int, first: int, n: int, width: int, height: int, share: int, at: Any, upper: Any, lower: Any) -> None:
    """Byte offsets, and weights that sum to `share`, of n pixels of a row. Beyond a sprite its edge goes on."""
    x0, y0 = f32(m[0, 0] * first + m[0, 1] * y + m[0, 2]), f32(m[1, 0] * first + m[1, 1] * y + m[1, 2])
    w0 = f32(m[2, 0] * first + m[2, 1] * y + m[2, 2])
    dx, dy, dw = f32(m[0, 0]), f32(m[1, 0]), f32(m[2, 0])
    right, bottom, zero, one, part = f32(width - 1.001), f32(height - 1.001), f32(0.0), f32(1.0), f32(share)
    whole, wide, nearest = i32(share), i32(width), f32(NEAREST)
    for i in range(n):
        k = f32(i32(i))
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
def _fetch(sprite: Any, at: Any, n: int) -> None:
    down, most = i64(4 * ROWS_AHEAD * sprite.shape[1]), i64(4 * sprite.shape[0] * sprite.shape[1] - 64)
    for i in range(0, n, 8):
        prefetch(sprite.ctypes.data + min(i64(at[i]) + down, most))


@compiled
def _place(
    canvas: Any,
    a: Any,
    ma: Any,
    b: Any,
    mb: Any,
    amount: int,
    opacity: int,
    reach_from: Any,
    reach_to: Any,
    noise: Any,
    edged: bool,
    solid: bool,
    left: int,
    top: int,
    told: bool,
    back: Any,
    sizes: Any,
    colour: Any,
    spans: Any,
) -> None:
    columns = canvas.shape[1]
    line = np.zeros(columns + 4, u32)
    pixels = line.view(np.uint8).reshape((columns + 4, 4))
    # Arrays of their own: rows of one array could overlap, for all the compiler knows, and nothing would be vectorised.
    at, up, low = np.empty(columns + 4, i32), np.empty(columns + 4, i32), np.empty(columns + 4, i32)
    at2, up2, low2 = np.empty(columns + 4, i32), np.empty(columns + 4, i32), np.empty(columns + 4, i32)
    for y in range(canvas.shape[0]):
        start, stop = reach_from[y], reach_to[y]
        if start >= stop:
            continue
        first, last = start, stop
        if edged and told:
            # Where a span is empty its ends meet: at its own place if it lies inside the next larger one.
            first, last = max(spans[4, y], start), min(spans[5, y], stop)
        n = (last - first + 3) // 4 * 4 if last > first else 0
        _places(ma, y, first, n, a.shape[1], a.shape[0], (1 << UNIT) - amount, at, up, low)
        _fetch(a, at, n)
        if amount:
            _places(mb, y, first, n, b.shape[1], b.shape[0], amount, at2, up2, low2)
            _fetch(b, at2, n)
        to = line.ctypes.data + i64(4 * first)
        add = noise[(y + top) & 63].ctypes.data + i64(4 * ((first + left) & 63))
        for i in range(0, n, 4):
            o = i64(4 * i)
            if amount:
                four_of_two(
                    to + o, add + o, a.ctypes.data, 4 * a.shape[1], at.ctypes.data + o, up.ctypes.data + o, low.ctypes.data + o,
                    b.ctypes.data, 4 * b.shape[1], at2.ctypes.data + o, up2.ctypes.data + o, low2.ctypes.data + o,
                )  # fmt: skip
            else:
                four_of_one(to + o, add + o, a.ctypes.data, 4 * a.shape[1], at.ctypes.data + o, up.ctypes.data + o, low.ctypes.data + o)
        inner = outer = stop
        if edged:
            inner, outer = cut_row(pixels, y, start, stop, left, top, told, back, sizes, colour, spans)
            if not solid:
                inner = outer = stop
        row = canvas[y]
        if opacity == 255:
            _over(row[start:inner], line[start:inner])
            row[inner:outer] = line[inner:outer]
            _over(row[outer:stop], line[outer:stop])
        else:
            _over_in_part(row[start:stop], line[start:stop], opacity)


@compiled
def _over(row: Any, line: Any) -> None:
    for x in range(row.shape[0]):
        row[x] = _above(line[x], row[x])


@compiled
def _over_in_part(row: Any, line: Any, opacity: int) -> None:
    for x in range(row.shape[0]):
        row[x] = _above(_scaled(line[x], u32(opacity)), row[x])


@compiled
def _above(pixel: Any, below: Any) -> Any:
    return u32(pixel + _scaled(below, u32(u32(255) - u32(pixel >> u32(24)))))


@compiled
def _scaled(pixel: Any, share: Any) -> Any:
    """A pixel times `share` of 255: two channels at a time, divided by adding the products' own high bytes. Every step in 32 bits."""
    half, odd = u32(0x800080), u32(0xFF00FF)
    rb = u32(u32(u32(pixel & odd) * share) + half)
    ga = u32(u32(u32(u32(pixel >> u32(8)) & odd) * share) + half)
    rb = u32(u32(u32(rb + u32(u32(rb >> u32(8)) & odd)) >> u32(8)) & odd)
    return u32(rb | u32(u32(ga + u32(u32(ga >> u32(8)) & odd)) & u32(0xFF00FF00)))
