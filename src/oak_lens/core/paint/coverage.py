"""How much of each pixel a shape covers, from the distance to its edge: rectangles with round corners, ellipses, polygons; turned,
grown, feathered, with an uneven edge."""

from dataclasses import dataclass, replace
from math import cos, pi, radians, sin
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .fields import soft_noise
from .kernels import compiled

NOISE_TILE = 256

EVEN = np.zeros((1, 1), np.float32)
EVEN.setflags(write=False)
"""No noise. Read-only as noise is, or the loop would be compiled for either."""


@dataclass(frozen=True, slots=True)
class Shape:
    """A shape in pixels: its middle, half its width and height, its turn in degrees clockwise.

    `radius` rounds a rectangle. `feather` is how many pixels its edge fades over. `rough` moves the edge by so many pixels,
    `rough_px` is the size of its steps.
    """

    outline: str
    x: float
    y: float
    half_width: float
    half_height: float
    turn: float = 0.0
    radius: float = 0.0
    sides: int = 6
    feather: float = 1.0
    rough: float = 0.0
    rough_px: float = 8.0
    seed: int = 0

    def grown(self, by: float) -> "Shape":
        """The same shape with its edge `by` pixels further out."""
        return replace(
            self,
            half_width=max(self.half_width + by, 0.0),
            half_height=max(self.half_height + by, 0.0),
            radius=max(self.radius + by, 0.0) if self.radius else 0.0,
        )


def coverage_of(shape: Shape, width_px: int, height_px: int) -> NDArray[np.uint8]:
    """(h, w) uint8: share of each pixel inside the shape, 0..255."""
    made = np.empty((height_px, width_px), np.uint8)
    normals = np.zeros((1, 3), np.float64)
    kind = {"rectangle": 0, "ellipse": 1, "polygon": 2}[shape.outline]
    if kind == 2:
        normals = _half_planes(shape.sides, shape.half_width, shape.half_height)
    noise = soft_noise(NOISE_TILE, NOISE_TILE, 900 + shape.seed, 2.0, 2.0) if shape.rough else EVEN
    _cover(
        made,
        kind,
        float(shape.x),
        float(shape.y),
        max(float(shape.half_width), 1e-6),
        max(float(shape.half_height), 1e-6),
        cos(radians(shape.turn)),
        sin(radians(shape.turn)),
        float(min(shape.radius, shape.half_width, shape.half_height)),
        max(float(shape.feather), 1.0),
        normals,
        noise,
        float(shape.rough),
        2.0 / shape.rough_px,
    )
    return made


def _half_planes(sides: int, half_width: float, half_height: float) -> NDArray[np.float64]:
    """(sides, 3): normal x, y and distance of each side of a regular polygon, one corner up, stretched to fill its box."""
    angles = [2 * pi * i / sides - pi / 2 for i in range(sides)]
    points = np.array([(cos(a), sin(a)) for a in angles])
    low, high = points.min(axis=0), points.max(axis=0)
    points = ((points - (low + high) / 2) / ((high - low) / 2)) * (half_width, half_height)
    found = []
    for a, b in zip(points, np.roll(points, -1, axis=0), strict=True):
        normal = np.array((b[1] - a[1], a[0] - b[0])) / max(float(np.hypot(*(b - a))), 1e-9)
        found.append((*normal, float(normal @ a)))
    return np.array(found)


@compiled
def _cover(
    target: Any,
    kind: int,
    cx: float,
    cy: float,
    hx: float,
    hy: float,
    c: float,
    s: float,
    radius: float,
    feather: float,
    normals: Any,
    noise: Any,
    rough: float,
    per_px: float,
) -> None:
    tile = noise.shape[0]
    for y in range(target.shape[0]):
        for x in range(target.shape[1]):
            dx, dy = x + 0.5 - cx, y + 0.5 - cy
            px, py = dx * c + dy * s, dy * c - dx * s
            if kind == 0:
                qx, qy = abs(px) - hx + radius, abs(py) - hy + radius
                ox, oy = max(qx, 0.0), max(qy, 0.0)
                d = min(max(qx, qy), 0.0) - radius
                if ox > 0.0 and oy > 0.0:
                    d = np.sqrt(ox * ox + oy * oy) - radius
                elif ox > 0.0 or oy > 0.0:
                    d = max(ox, oy) - radius
            elif kind == 1:
                ux, uy = px / hx, py / hy
                f = np.sqrt(ux * ux + uy * uy)
                gx, gy = ux / hx, uy / hy
                slope = np.sqrt(gx * gx + gy * gy)
                # First-order distance to an implicit curve (Taubin 1994).
                d = f * (f - 1.0) / slope if slope > 1e-12 else -min(hx, hy)
            else:
                d = -1e9
                for i in range(normals.shape[0]):
                    d = max(d, normals[i, 0] * px + normals[i, 1] * py - normals[i, 2])
            if rough > 0.0:
                u, v = (px * per_px) % tile, (py * per_px) % tile
                i, j = int(u), int(v)
                fu, fv = u - i, v - j
                i1, j1, i, j = (i + 1) % tile, (j + 1) % tile, i % tile, j % tile
                n = (noise[j, i] * (1 - fu) + noise[j, i1] * fu) * (1 - fv) + (noise[j1, i] * (1 - fu) + noise[j1, i1] * fu) * fv
                d += rough * n
            share = 0.5 - d / feather
            target[y, x] = np.uint8(min(max(share, 0.0), 1.0) * 255.0 + 0.5)


@compiled
def lay(target: Any, colour: Any, coverage: Any, opacity: float) -> None:
    """A flat colour (3,) 0..255 over `target` (h, w, 4) uint8 premultiplied where `coverage` (h, w) uint8 says."""
    for y in range(target.shape[0]):
        for x in range(target.shape[1]):
            if coverage[y, x] == 0:
                continue
            alpha = np.float32(coverage[y, x]) / np.float32(255.0) * np.float32(opacity)
            keep = np.float32(1.0) - alpha
            for c in range(3):
                target[y, x, c] = np.uint8(np.float32(target[y, x, c]) * keep + np.float32(colour[c]) * alpha + np.float32(0.5))
            target[y, x, 3] = np.uint8(np.float32(target[y, x, 3]) * keep + np.float32(255.0) * alpha + np.float32(0.5))


@compiled
def cut(target: Any, coverage: Any, inverted: bool) -> None:
    """`target` (h, w, 4) uint8 premultiplied kept only where `coverage` (h, w) uint8 says, or only where not."""
    for y in range(target.shape[0]):
        for x in range(target.shape[1]):
            keep = np.uint32(255 - coverage[y, x]) if inverted else np.uint32(coverage[y, x])
            if keep == 255:
                continue
            for c in range(4):
                target[y, x, c] = np.uint8((np.uint32(target[y, x, c]) * keep + np.uint32(127)) // np.uint32(255))


@compiled
def texture(target: Any, field: Any, coverage: Any, amount: float) -> None:
    """`target` lightened and darkened by a relief `field` (h, w) float32 around 0, where `coverage` (h, w) uint8 says."""
    for y in range(target.shape[0]):
        for x in range(target.shape[1]):
            if coverage[y, x] == 0:
                continue
            gain = np.float32(1.0) + field[y, x] * np.float32(amount) * np.float32(coverage[y, x]) / np.float32(255.0)
            alpha = np.float32(target[y, x, 3])
            for c in range(3):
                target[y, x, c] = np.uint8(min(max(np.float32(target[y, x, c]) * gain + np.float32(0.5), np.float32(0.0)), alpha))
