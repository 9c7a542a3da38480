"""Areas inside closed polylines, through any homography, covered exactly: neither blurred nor jumping however slowly they move.

Signed areas under edges are summed along rows (the accumulation buffer of Carpenter's and Catmull's coverage: every edge adds what it
covers to its right). Segments are (n, 4) closed polylines, as `letters.outlines` makes them; what lies behind the eye is cut off.
"""

from typing import Any

import numpy as np

from .kernels import compiled

NEAR = 1e-4
"""The least depth that is seen: what is nearer is cut off in the plane."""


@compiled
def add_edge(sums: Any, x0: float, y0: float, x1: float, y1: float, weight: float) -> None:
    """One edge into `sums` (h, w + 2) float32, whose running sums along rows are the covered areas."""
    if y0 == y1:
        return
    sign = weight
    if y0 > y1:
        x0, y0, x1, y1, sign = x1, y1, x0, y0, -weight
    height, width = sums.shape[0], sums.shape[1] - 2
    if y1 <= 0.0 or y0 >= height:
        return
    slope = (x1 - x0) / (y1 - y0)
    first, last = max(int(y0), 0), min(height, int(np.ceil(y1)))
    for row in range(first, last):
        top, bottom = max(float(row), y0), min(row + 1.0, y1)
        d = sign * (bottom - top)
        a, b = x0 + slope * (top - y0), x0 + slope * (bottom - y0)
        low, high = min(a, b), max(a, b)
        if low < 0.0:
            # What lies left of the box covers its rows wholly.
            share = 1.0 if high <= 0.0 else -low / (high - low)
            sums[row, 0] += np.float32(d * share)
            d, low, high = d * (1.0 - share), 0.0, max(high, 0.0)
        if low >= width or d == 0.0:
            continue
        if high > width:
            d, high = d * (width - low) / (high - low), float(width)
        column, before = int(low), 0.0
        per = d / (high - low) if high > low else 0.0
        while True:
            # What is covered right of the edge in each column it crosses, less what the columns before have counted.
            u, v = max(low, float(column)), min(high, column + 1.0)
            crossed = (v - u) * per if high > low else d
            covered = (u - low) * per + crossed * (column + 1.0 - 0.5 * (u + v))
            sums[row, column] += np.float32(covered - before)
            before, column = covered, column + 1
            if column >= high:
                break
        sums[row, column] += np.float32(d - before)


@compiled
def _extent(part: Any, matrices: Any, box: Any) -> bool:
    """(left, top, right, bottom) into `box` of what is seen of a piece at all its moments; whether anything is."""
    left = top = 1e18
    right = bottom = -1e18
    for m in range(matrices.shape[0]):
        h = matrices[m]
        for i in range(part.shape[0]):
            x, y = part[i, 0], part[i, 1]
            w = h[2, 0] * x + h[2, 1] * y + h[2, 2]
            if w > NEAR:
                u, v = (h[0, 0] * x + h[0, 1] * y + h[0, 2]) / w, (h[1, 0] * x + h[1, 1] * y + h[1, 2]) / w
                left, right, top, bottom = min(left, u), max(right, u), min(top, v), max(bottom, v)
            # Where an edge comes near the eye it is cut off, and may reach anywhere.
            x, y = part[i, 2], part[i, 3]
            after = h[2, 0] * x + h[2, 1] * y + h[2, 2]
            if (w > NEAR) != (after > NEAR):
                t = (NEAR - w) / (after - w)
                x, y = part[i, 0] + (x - part[i, 0]) * t, part[i, 1] + (y - part[i, 1]) * t
                u, v = (h[0, 0] * x + h[0, 1] * y + h[0, 2]) / NEAR, (h[1, 0] * x + h[1, 1] * y + h[1, 2]) / NEAR
                left, right, top, bottom = min(left, u), max(right, u), min(top, v), max(bottom, v)
    box[0], box[1], box[2], box[3] = left, top, right, bottom
    return left < right and top < bottom


@compiled
def _sum_piece(sums: Any, part: Any, matrices: Any, left: float, top: float) -> None:
    """A piece at all its moments into `sums`, whose first pixel lies at (left, top); each moment counts alike."""
    weight = 1.0 / matrices.shape[0]
    for m in range(matrices.shape[0]):
        h = matrices[m]
        end_x = end_y = np.nan
        # Where the contour left what is seen, and where it first came into it: both lie on the line that cuts it off.
        out_x = out_y = in_x = in_y = 0.0
        is_out = waits = False
        for i in range(part.shape[0]):
            x0, y0, x1, y1 = part[i, 0], part[i, 1], part[i, 2], part[i, 3]
            if x0 != end_x or y0 != end_y:
                if waits and is_out:
                    add_edge(sums, out_x, out_y, in_x, in_y, weight)
                is_out = waits = False
            end_x, end_y = x1, y1
            w0 = h[2, 0] * x0 + h[2, 1] * y0 + h[2, 2]
            w1 = h[2, 0] * x1 + h[2, 1] * y1 + h[2, 2]
            seen0, seen1 = w0 > NEAR, w1 > NEAR
            if not seen0 and not seen1:
                continue
            t = 0.0 if seen0 and seen1 else (NEAR - w0) / (w1 - w0)
            if not seen0:
                x0, y0, w0 = x0 + (x1 - x0) * t, y0 + (y1 - y0) * t, NEAR
            if not seen1:
                x1, y1, w1 = x0 + (x1 - x0) * t, y0 + (y1 - y0) * t, NEAR
            u0, v0 = (h[0, 0] * x0 + h[0, 1] * y0 + h[0, 2]) / w0 - left, (h[1, 0] * x0 + h[1, 1] * y0 + h[1, 2]) / w0 - top
            u1, v1 = (h[0, 0] * x1 + h[0, 1] * y1 + h[0, 2]) / w1 - left, (h[1, 0] * x1 + h[1, 1] * y1 + h[1, 2]) / w1 - top
            if not seen0:
                if is_out:
                    add_edge(sums, out_x, out_y, u0, v0, weight)
                    is_out = False
                else:
                    in_x, in_y, waits = u0, v0, True
            add_edge(sums, u0, v0, u1, v1, weight)
            if not seen1:
                out_x, out_y, is_out = u1, v1, True
        if waits and is_out:
            add_edge(sums, out_x, out_y, in_x, in_y, weight)


@compiled
def paint_areas(
    target: Any, segments: Any, starts: Any, matrices: Any, opacities: Any, colours: Any, seconds: Any, backs: Any, slope: Any, left: int, top: int
) -> None:
    """Pieces laid over `target` (h, w, 4) uint8 premultiplied, whose first pixel is the frame's (left, top).

    Piece i: segments starts[i] to starts[i + 1] through matrices[i] (m, 3, 3), one for each moment of its exposure; opacities (n,); colours
    (n, 3) float32 0..255. `slope` (3,): at (x, y) of a piece's own plane a share x s0 + y s1 + s2 of `seconds` (n, 3) is taken; all 0 for none.
    `backs` (n, 3, 3): pixels to the piece's own plane.
    """
    box = np.empty(4)
    shaded = slope[0] != 0.0 or slope[1] != 0.0 or slope[2] != 0.0
    for c in range(len(starts) - 1):
        part = segments[starts[c] : starts[c + 1]]
        if opacities[c] <= 0.0 or len(part) == 0 or not _extent(part, matrices[c], box):
            continue
        x0, y0 = max(int(np.floor(max(box[0], -1e9))), left), max(int(np.floor(max(box[1], -1e9))), top)
        x1 = min(int(np.ceil(min(box[2], 1e9))), left + target.shape[1])
        y1 = min(int(np.ceil(min(box[3], 1e9))), top + target.shape[0])
        if x0 >= x1 or y0 >= y1:
            continue
        sums = np.zeros((y1 - y0, x1 - x0 + 2), np.float32)
        _sum_piece(sums, part, matrices[c], float(x0), float(y0))
        opacity, back = np.float32(opacities[c]), backs[c]
        one = np.float32(1.0)
        red, green, blue = np.float32(colours[c, 0]), np.float32(colours[c, 1]), np.float32(colours[c, 2])
        for y in range(y1 - y0):
            total = np.float32(0.0)
            for x in range(x1 - x0):
                total += sums[y, x]
                alpha = min(abs(total), one) * opacity
                if alpha < np.float32(0.0005):
                    continue
                if shaded:
                    px, py = x0 + x + 0.5, y0 + y + 0.5
                    w = back[2, 0] * px + back[2, 1] * py + back[2, 2]
                    u, v = (back[0, 0] * px + back[0, 1] * py + back[0, 2]) / w, (back[1, 0] * px + back[1, 1] * py + back[1, 2]) / w
                    t = np.float32(min(max(u * slope[0] + v * slope[1] + slope[2], 0.0), 1.0))
                    red = np.float32(colours[c, 0] + (seconds[c, 0] - colours[c, 0]) * t)
                    green = np.float32(colours[c, 1] + (seconds[c, 1] - colours[c, 1]) * t)
                    blue = np.float32(colours[c, 2] + (seconds[c, 2] - colours[c, 2]) * t)
                to = target[y0 - top + y, x0 - left + x]
                keep = one - alpha
                to[0] = np.uint8(np.float32(to[0]) * keep + red * alpha + np.float32(0.5))
                to[1] = np.uint8(np.float32(to[1]) * keep + green * alpha + np.float32(0.5))
                to[2] = np.uint8(np.float32(to[2]) * keep + blue * alpha + np.float32(0.5))
                to[3] = np.uint8(np.float32(to[3]) * keep + np.float32(255.0) * alpha + np.float32(0.5))


@compiled
def cover_areas(target: Any, segments: Any, starts: Any, matrices: Any, opacities: Any) -> None:
    """How much of each pixel of `target` (h, w) float32 0..1 the pieces cover, over what it has; matrices lead to its own pixels."""
    box = np.empty(4)
    for c in range(len(starts) - 1):
        part = segments[starts[c] : starts[c + 1]]
        if opacities[c] <= 0.0 or len(part) == 0 or not _extent(part, matrices[c], box):
            continue
        x0, y0 = max(int(np.floor(max(box[0], -1e9))), 0), max(int(np.floor(max(box[1], -1e9))), 0)
        x1, y1 = min(int(np.ceil(min(box[2], 1e9))), target.shape[1]), min(int(np.ceil(min(box[3], 1e9))), target.shape[0])
        if x0 >= x1 or y0 >= y1:
            continue
        sums = np.zeros((y1 - y0, x1 - x0 + 2), np.float32)
        _sum_piece(sums, part, matrices[c], float(x0), float(y0))
        one, opacity = np.float32(1.0), np.float32(opacities[c])
        for y in range(y1 - y0):
            total = np.float32(0.0)
            for x in range(x1 - x0):
                total += sums[y, x]
                alpha = min(abs(total), one) * opacity
                to = target[y0 + y, x0 + x]
                target[y0 + y, x0 + x] = to + alpha * (one - to)
