"""A lamp's light on what a layer shows."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..draw import Lit
from ..looks.colours import rgb_of
from ..space import Matrix3
from .kernels import compiled

STEP_PX = 8


def light_on(plane_from_pixel: Matrix3, box: tuple[int, int, int, int], lit: Lit) -> NDArray[np.float32]:
    """(rows, columns, 3) factors at every `STEP_PX` pixels of a box and one step beyond: Lambert's cosine, falling off with the square.

    At the distance `falloff` the light of the lamp has halved.
    """
    left, top, right, bottom = box
    x = np.arange((right - left) // STEP_PX + 2) * STEP_PX + left
    y = np.arange((bottom - top) // STEP_PX + 2) * STEP_PX + top
    u, v = np.meshgrid(x.astype(np.float64), y.astype(np.float64))
    h = plane_from_pixel
    w = h[2, 0] * u + h[2, 1] * v + h[2, 2]
    w = np.where(np.abs(w) < 1e-9, 1e-9, w)
    dx = (h[0, 0] * u + h[0, 1] * v + h[0, 2]) / w - lit.x
    dy = (h[1, 0] * u + h[1, 1] * v + h[1, 2]) / w - lit.y
    square = dx * dx + dy * dy + lit.z * lit.z
    cosine = max(lit.z, 0.0) / np.sqrt(np.maximum(square, 1e-12))
    reaches = cosine / (1.0 + square * (lit.unit / lit.falloff) ** 2)
    colour = np.array(rgb_of(lit.colour)) / 255.0
    factors = lit.ambient + (1.0 - lit.ambient + 0.35) * lit.strength * reaches[..., None] * colour
    return np.ascontiguousarray(factors, np.float32)


@compiled
def apply_light(pixels: Any, factors: Any, step: int) -> None:
    """`pixels` (h, w, 4) uint8 premultiplied times light, interpolated between the factors; no colour rises above its alpha."""
    height, width, cells = pixels.shape[0], pixels.shape[1], factors.shape[1]
    share = np.float32(1.0) / np.float32(step)
    row = np.empty((cells, 3), np.float32)
    for y in range(height):
        j = y // step
        f = np.float32(y - j * step) * share
        for i in range(cells):
            for c in range(3):
                row[i, c] = factors[j, i, c] + (factors[j + 1, i, c] - factors[j, i, c]) * f
        line = pixels[y]
        for i in range(cells - 1):
            red, green, blue = row[i, 0], row[i, 1], row[i, 2]
            by_red, by_green, by_blue = (row[i + 1, 0] - red) * share, (row[i + 1, 1] - green) * share, (row[i + 1, 2] - blue) * share
            for x in range(i * step, min(i * step + step, width)):
                alpha = np.float32(line[x, 3])
                line[x, 0] = np.uint8(min(np.float32(line[x, 0]) * red + np.float32(0.5), alpha))
                line[x, 1] = np.uint8(min(np.float32(line[x, 1]) * green + np.float32(0.5), alpha))
                line[x, 2] = np.uint8(min(np.float32(line[x, 2]) * blue + np.float32(0.5), alpha))
                red, green, blue = red + by_red, green + by_green, blue + by_blue
