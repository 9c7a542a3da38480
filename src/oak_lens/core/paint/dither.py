"""Blue noise: an ordering of a tile's pixels whose every prefix is evenly spread."""

from functools import cache, lru_cache

import numpy as np
from numpy.typing import NDArray

TILE = 64
TILES = 8


@cache
def blue_noise() -> NDArray[np.float32]:
    """(64, 64) float32 in (0, 1), tiling without a seam.

    Void filling with a toroidal Gaussian (after Ulichney, "The void-and-cluster method for dither array generation", 1993).
    """
    axis = np.minimum(np.arange(TILE), TILE - np.arange(TILE)).astype(np.float64)
    spread = np.exp(-(axis[:, None] ** 2 + axis[None, :] ** 2) / (2 * 1.9**2))
    energy = np.random.default_rng(7).random((TILE, TILE)) * 1e-6
    rank = np.empty((TILE, TILE))
    for i in range(TILE * TILE):
        y, x = divmod(int(np.argmin(energy)), TILE)
        rank[y, x] = i
        energy += np.roll(spread, (y, x), (0, 1))
        energy[y, x] = np.inf
    return ((rank + 0.5) / (TILE * TILE)).astype(np.float32)


def noise_across(columns: int) -> NDArray[np.float32]:
    """(64, at least 63 + `columns`): the tile side by side, so that a row may begin anywhere in it. It is one of few sizes, and kept."""
    return _across(-(-(columns + TILE - 1) // (TILES * TILE)))


@lru_cache(8)
def _across(eights: int) -> NDArray[np.float32]:
    return np.tile(blue_noise(), (1, TILES * eights))
