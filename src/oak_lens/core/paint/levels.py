"""A picture's pyramid: level k is the picture reduced by 2^(k/2) with a Lanczos filter.

Even levels come from the even level before by exact halves, odd levels from the even level before them. So every level has one
definition, whoever computes it and in whatever order.
"""

from collections.abc import Callable
from math import ceil

import numpy as np
from numpy.typing import NDArray
from PIL import Image

SMALLEST_SIDE_PX = 8


def level_size(width: int, height: int, level: int) -> tuple[int, int]:
    """(width, height) in pixels of a level, at least 1 x 1."""
    factor = 2.0 ** (-level / 2.0)
    return max(1, ceil(width * factor - 1e-6)), max(1, ceil(height * factor - 1e-6))


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
    # "RGBX" has Pillow filter four channels alike; under "RGBA" it would multiply by alpha a second time.
    source = Image.frombuffer("RGBX", pixels.shape[1::-1], pixels, "raw", "RGBX", 0, 1)
    reduced = np.array(source.resize(level_size(*size, level), Image.Resampling.LANCZOS))
    if reduced[..., 3].min() < 255:
        # The filter's overshoot must not lift a colour above its alpha.
        reduced[..., :3] = np.minimum(reduced[..., :3], reduced[..., 3:])
    return reduced
