"""A picture's pyramid: level k is the picture reduced by 2^(k/2) with a Lanczos filter.

Even levels come from the even level before by exact halves, odd levels from the even level before them. So every level has one
definition, whoever computes it and in whatever order; a source may have one of its own for level 2, which others then come from.
"""

from collections.abc import Callable
from functools import lru_cache
from math import ceil

import numpy as np
from numpy.typing import NDArray

from .kernels import resample

SMALLEST_SIDE_PX = 8
LOBES = 3


def level_size(width: int, height: int, level: int) -> tuple[int, int]:
    """(width, height) in pixels of a level, at least 1 x 1."""
    factor = 2.0 ** (-level / 2.0)
    return max(1, ceil(width * factor - 1e-6)), max(1, ceil(height * factor - 1e-6))


@lru_cache(4096)
def coarsest_level(width: int, height: int) -> int:
    """The last level worth having: its shorter side is still `SMALLEST_SIDE_PX` or the picture was smaller to begin with."""
    level = 0
    while min(level_size(width, height, level + 1)) >= SMALLEST_SIDE_PX:
        level += 1
    return level


def parent_level(level: int) -> int:
    """The level that `level` (at least 1) is reduced from."""
    return level - 2 if level % 2 == 0 else level - 1


def reduced_level(size: tuple[int, int], level: int, parent: Callable[[int], NDArray[np.uint8]]) -> NDArray[np.uint8]:
    """Level `level` >= 1 of a picture of `size`, from its parent level (h, w, 4) uint8 premultiplied."""
    pixels = np.ascontiguousarray(parent(parent_level(level)))
    width, height = level_size(*size, level)
    reduced = np.empty((height, width, 4), np.uint8)
    resample(pixels, reduced, *lanczos_weights(pixels.shape[0], height), *lanczos_weights(pixels.shape[1], width))
    return reduced


def lanczos_weights(length: int, target: int) -> tuple[NDArray[np.int64], NDArray[np.float32]]:
    """(starts, weights) that reduce `length` samples to `target` by a Lanczos filter of three lobes.

    starts (target,), weights (target, taps), each row summing to 1; at the ends the filter is cut off and weighed anew.
    """
    scale = max(length / target, 1.0)
    centres = (np.arange(target) + 0.5) * length / target
    taps = min(int(np.ceil(2 * LOBES * scale)) + 1, length)
    starts = np.clip(np.floor(centres - LOBES * scale + 0.5).astype(np.int64), 0, length - taps)
    distance = (starts[:, None] + np.arange(taps) + 0.5 - centres[:, None]) / scale
    weights = np.where(np.abs(distance) < LOBES, np.sinc(distance) * np.sinc(distance / LOBES), 0.0)
    weights /= weights.sum(axis=1, keepdims=True)
    return starts, weights.astype(np.float32)
