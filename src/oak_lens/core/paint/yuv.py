"""Pixels as the coders want them."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .kernels import rgba_to_yuv420


@dataclass(frozen=True, slots=True)
class Yuv420:
    """BT.709 limited range; `luma` (h, w), `blue` and `red` (h/2, w/2), all uint8."""

    luma: NDArray[np.uint8]
    blue: NDArray[np.uint8]
    red: NDArray[np.uint8]


def yuv420(rgba: NDArray[np.uint8], into: Yuv420 | None = None) -> Yuv420:
    """The planes of (h, w, 4) uint8 opaque sRGB; h and w even. `into`: planes of the right size to use."""
    height, width = rgba.shape[:2]
    planes = into or Yuv420(np.empty((height, width), np.uint8), *(np.empty((height // 2, width // 2), np.uint8) for _ in range(2)))
    rgba_to_yuv420(rgba, planes.luma, planes.blue, planes.red)
    return planes
