"""A layer laid over the frame in one pass: seen through its transform, mixed of one or two levels, cut to its edges, composited, row by
row and only where it is."""

from collections.abc import Sequence
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..space import Matrix3
from .dither import TILE, noise_across
from .edges import Edges, cut_row, no_edges
from .kernels import compiled, over_row, scaled, words
from .sampling import fetch, places, sharp_room, sharp_row, weigh
from .sprites import Sprite
from .vectors import UNIT, four_moved, four_of_one, four_of_two
from .warps import HALF_PIXEL, HALF_PIXEL_BACK, Spans

i32, i64, u32 = np.int32, np.int64, np.uint32

ONLY_MOVES = 1e-9
"""A motion whose matrix differs by less from one that carries all on alike: over 10,000 pixels, a hundred thousandth of one."""


def place(
    canvas: NDArray[np.uint8],
    box: tuple[int, int, int, int],
    seen: Sequence[tuple[Sprite, float]],
    plane_from_pixel: Matrix3,
    reach: Spans,
    edges: Edges | None = None,
    opacity: float = 1.0,
    solid: bool = False,
    fresh: bool = False,
    corner: tuple[int, int] = (0, 0),
    sharp: bool = False,
) -> None:
    """One or two sprites, mixed by weights that sum to 1, over `canvas` (h, w, 4) uint8 premultiplied, in which `box` of the frame begins
    at `corner` (x, y).

    `plane_from_pixel`: from the frame's pixels to the plane of both. `reach`: the pixels of each row that may be touched, counted from the
    box's left edge. `edges`: where a picture ends and its border begins, if they are not in the sprites; `solid`: whether the picture is
    opaque, so that nothing is mixed with what is below it inside those. `fresh`: nothing is on the canvas yet, whatever it holds. `sharp`: between a sprite's
    pixels by a cubic spline, else linearly. Porter-Duff source-over (W3C Compositing Level 1, 5.1), to a level.
    """
    left, top, right, bottom = box
    amount = 0 if len(seen) == 1 else round(seen[1][1] * (1 << UNIT))
    middles = plane_from_pixel @ np.array(((1.0, 0.0, left + 0.5), (0.0, 1.0, top + 0.5), (0.0, 0.0, 1.0)))
    sprites = [_read_only(s.pixels) for s, _ in seen]
    matrices = [HALF_PIXEL_BACK @ s.sprite_from_plane @ middles for s, _ in seen]
    cuts = edges or no_edges(bottom - top)
    sharp = sharp and all(min(s.pixels.shape[:2]) >= 4 for s, _ in seen)
    _place(
        words(canvas), corner[0], corner[1], right - left, words(sprites[0]), matrices[0], words(sprites[-1]), matrices[-1], amount, round(opacity * 255), reach[0], reach[1],
        _thresholds(right - left + 4), edges is not None, solid, fresh, sharp, left, top, cuts.told, cuts.plane_from_pixel, cuts.sizes, cuts.colour, cuts.spans,
    )  # fmt: skip


def _read_only(pixels: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """The same for all: what may be written would be compiled for apart."""
    seen = np.ascontiguousarray(pixels).view()
    seen.flags.writeable = False
    return seen


def _thresholds(columns: int) -> NDArray[np.int32]:
    """What is added to a pixel's sum before it is cut to whole levels: blue noise, so that each is right on average. Rounded, every pixel
    would, by where it lies between the sprite's, err alike with its neighbours, and slow zooms would drag their pictures to and fro."""
    return _thresholds_of(noise_across(columns).shape[1])


@lru_cache(8)
def _thresholds_of(width: int) -> NDArray[np.int32]:
    return (noise_across(width - TILE + 1) * (1 << UNIT)).astype(np.int32)


@compiled
def _place(
    canvas: Any,
    corner_x: int,
    corner_y: int,
    columns: int,
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
    fresh: bool,
    sharp: bool,
    left: int,
    top: int,
    told: bool,
    back: Any,
    sizes: Any,
    colour: Any,
    spans: Any,
) -> None:
    line = np.zeros(columns + 4, u32)
    pixels = line.view(np.uint8).reshape((columns + 4, 4))
    # Arrays of their own: rows of one array could overlap, for all the compiler knows, and nothing would be vectorised.
    at, up, low = np.empty(columns + 4, i32), np.empty(columns + 4, i32), np.empty(columns + 4, i32)
    at2, up2, low2 = np.empty(columns + 4, i32), np.empty(columns + 4, i32), np.empty(columns + 4, i32)
    room, room2 = sharp_room(columns), sharp_room(columns)
    for y in range(reach_from.shape[0]):
        start, stop = reach_from[y], reach_to[y]
        row = canvas[corner_y + y, corner_x : corner_x + columns]
        if fresh:
            _clear(row[:start])
            _clear(row[max(start, stop) :])
        if start >= stop:
            continue
        first, last = start, stop
        if edged and told:
            # Where a span is empty its ends meet: at its own place if it lies inside the next larger one.
            first, last = max(spans[4, y], start), min(spans[5, y], stop)
        n = (last - first + 3) // 4 * 4 if last > first else 0
        to = line.ctypes.data + i64(4 * first)
        add = noise[(y + top) & 63].ctypes.data + i64(4 * ((first + left) & 63))
        if sharp:
            weigh(ma, y, first, n, a, (1 << UNIT) - amount, room)
            if amount:
                weigh(mb, y, first, n, b, amount, room2)
            sharp_row(to, add, n, a, room, b, room2, amount)
        else:
            places(ma, y, first, n, a.shape[1], a.shape[0], (1 << UNIT) - amount, at, up, low)
            fetch(a, at, n)
            if amount:
                places(mb, y, first, n, b.shape[1], b.shape[0], amount, at2, up2, low2)
                fetch(b, at2, n)
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
        if opacity < 255:
            _fade(line[start:stop], opacity)
            inner = outer = stop
        if fresh:
            inner, outer = start, stop
        over_row(row[start:inner], line[start:inner])
        _copy(row[inner:outer], line[inner:outer])
        over_row(row[outer:stop], line[outer:stop])


def met_halfway(pixels: NDArray[np.uint8], back: Matrix3, into: NDArray[np.uint8], left: int, top: int, reach: Spans) -> None:
    """(h, w, 4) uint8 premultiplied: the mean of `pixels` and of themselves seen through `back`, from pixels to pixels; beyond their edges
    they go on. Halves go up or down by the noise of the frame, in which they begin at (left, top). `reach`: the pixels of each row in which
    there may be anything before or afterwards."""
    matrix = np.ascontiguousarray(HALF_PIXEL_BACK @ back @ HALF_PIXEL)
    _met_halfway(words(_read_only(pixels)), matrix, _thresholds(pixels.shape[1] + 4), left, top, reach[0], reach[1], words(into))


@compiled
def _met_halfway(pixels: Any, m: Any, noise: Any, left: int, top: int, reach_from: Any, reach_to: Any, into: Any) -> None:
    height, width = pixels.shape
    room = width + 4
    line, at, up, low = np.empty(room, u32), np.empty(room, i32), np.empty(room, i32), np.empty(room, i32)
    # What only moves on is the same weights everywhere, of pixels side by side.
    still = abs(m[2, 2])
    moves = abs(m[2, 0]) + abs(m[2, 1]) < ONLY_MOVES * still and (
        abs(m[0, 0] - m[2, 2]) + abs(m[0, 1]) + abs(m[1, 0]) + abs(m[1, 1] - m[2, 2]) < ONLY_MOVES * still
    )
    x, y_on = m[0, 2] / m[2, 2], m[1, 2] / m[2, 2]
    columns, rows = int(np.floor(x)), int(np.floor(y_on))
    across, down = int((x - columns) * (1 << UNIT)), int((y_on - rows) * (1 << UNIT))
    both = (across * down) >> UNIT
    upper, lower = ((across - both) << 16) | ((1 << UNIT) - across - down + both), (both << 16) | (down - both)
    for y in range(height):
        first, last = reach_from[y], max(reach_from[y], reach_to[y])
        _clear(into[y, :first])
        _clear(into[y, last:])
        if first >= last:
            continue
        # From where to where all four neighbours are in the picture, four pixels at a time.
        within = moves and 0 <= y + rows < height - 1
        begin = min(max(first, -columns), last) if within else last
        end = begin + max(min(last, width - 1 - columns) - begin, 0) // 4 * 4
        if first < begin:
            _met_part(pixels, m, noise, left, top, y, first, begin, line, at, up, low)
        if begin < end:
            here, add = pixels.ctypes.data, noise.ctypes.data + i64(noise.strides[0] * ((y + top) & 63) + 4 * ((begin + left) & 63))
            moved, to = here + i64(4 * ((y + rows) * width + begin + columns)), line.ctypes.data + i64(4 * begin)
            for i in range(0, end - begin, 4):
                four_moved(to + i64(4 * i), add + i64(4 * i), moved + i64(4 * i), moved + i64(4 * (width + i)), upper, lower)
        if end < last:
            _met_part(pixels, m, noise, left, top, y, end, last, line, at, up, low)
        _mean(pixels[y, first:last], line[first:last], noise[(y + top) & 63, (first + left) & 63 :][: last - first], into[y, first:last])


@compiled
def _met_part(pixels: Any, m: Any, noise: Any, left: int, top: int, y: int, first: int, last: int, line: Any, at: Any, up: Any, low: Any) -> None:
    n = (last - first + 3) // 4 * 4
    places(m, y, first, n, pixels.shape[1], pixels.shape[0], 1 << UNIT, at, up, low)
    fetch(pixels, at, n)
    to, add = line.ctypes.data + i64(4 * first), noise.ctypes.data + i64(noise.strides[0] * ((y + top) & 63) + 4 * ((first + left) & 63))
    for i in range(0, n, 4):
        o = i64(4 * i)
        four_of_one(to + o, add + o, pixels.ctypes.data, 4 * pixels.shape[1], at.ctypes.data + o, up.ctypes.data + o, low.ctypes.data + o)


@compiled
def _mean(one: Any, other: Any, thresholds: Any, into: Any) -> None:
    for x in range(into.shape[0]):
        a, b = one[x], other[x]
        differing = u32(a ^ b)
        up = u32(0x01010101) if thresholds[x] & 1 else u32(0)
        into[x] = u32(u32(u32(a & b) + u32(u32(differing & u32(0xFEFEFEFE)) >> u32(1))) + u32(differing & up))


@compiled
def _clear(row: Any) -> None:
    for x in range(row.shape[0]):
        row[x] = u32(0)


@compiled
def _copy(row: Any, line: Any) -> None:
    for x in range(row.shape[0]):
        row[x] = line[x]


@compiled
def _fade(line: Any, opacity: int) -> None:
    for x in range(line.shape[0]):
        line[x] = scaled(line[x], u32(opacity))
