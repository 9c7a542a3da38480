"""Finding what a picture is about."""

from typing import Any

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

SIDE_PX = 96
PASSES = 6
EDGES_OF_MASS = (0.04, 0.96)
"""The box holds what stands out between these shares of it, across and down."""

Map = NDArray[np.float64]


def subject_in(pixels: NDArray[np.uint8]) -> tuple[float, float, float, float] | None:
    """(x, y, width, height) in fractions of a picture (h, w, 3) uint8: the box around what stands out most; None if nothing does.

    Three maps in equal parts, weighed a little towards the middle: what is cut off from the picture's rim by edges (minimum barrier
    distance: Zhang et al., ICCV 2015), what is rich in detail, and what is unexpected (spectral residual: Hou & Zhang, CVPR 2007).
    """
    height, width = pixels.shape[:2]
    scale = SIDE_PX / max(height, width)
    size = (max(12, round(width * scale)), max(12, round(height * scale)))
    small = cv2.resize(pixels, size, interpolation=cv2.INTER_AREA)
    if float(small.reshape(-1, 3).std(axis=0).max()) < 2.0:
        return None
    lab: Any = cv2.GaussianBlur(cv2.cvtColor(small, cv2.COLOR_RGB2LAB).astype(np.float64), (0, 0), 1.0)
    barriers = sum(barrier_distance(np.ascontiguousarray(lab[..., i]), PASSES) for i in range(3))
    detail = cv2.GaussianBlur(np.abs(cv2.Laplacian(lab[..., 0], cv2.CV_64F)), (0, 0), 3.0)
    y, x = np.mgrid[: size[1], : size[0]]
    middle = np.exp(-(((x + 0.5) / size[0] - 0.5) ** 2 + ((y + 0.5) / size[1] - 0.5) ** 2) / (2 * 0.33**2))
    stands_out: Any = (_levelled(barriers) + _levelled(detail) + _levelled(_residual(lab[..., 0]))) * (middle + 0.3)
    left, right = _extent(np.maximum(stands_out - 0.8 * stands_out.mean(), 0.0).sum(axis=0))
    top, bottom = _extent(np.maximum(stands_out - 0.8 * stands_out.mean(), 0.0).sum(axis=1))
    return left / size[0], top / size[1], (right - left) / size[0], (bottom - top) / size[1]


def _levelled(found: Any) -> Map:
    """A map from 0 to 1."""
    low, high = float(found.min()), float(found.max())
    levelled: Map = (found - low) / max(high - low, 1e-9)
    return levelled


def _residual(grey: Map) -> Map:
    spectrum = np.fft.fft2(grey)
    magnitude = np.log(np.abs(spectrum) + 1e-6)
    residual = magnitude - cv2.blur(magnitude, (3, 3))
    back = np.abs(np.fft.ifft2(np.exp(residual + 1j * np.angle(spectrum)))) ** 2
    return np.asarray(cv2.GaussianBlur(back, (0, 0), 3.0), np.float64)


def _extent(mass: Map) -> tuple[int, int]:
    """(first, one past the last) place between the edges of a mass along a line."""
    made = mass.cumsum()
    first, last = (int(np.searchsorted(made, share * made[-1])) for share in EDGES_OF_MASS)
    return first, min(last + 1, len(mass))


@numba.njit(nogil=True, cache=True)
def barrier_distance(channel: Any, passes: int) -> Any:
    """(h, w): the least range of values on a way from each pixel to the rim, by raster scans to and fro."""
    height, width = channel.shape
    distance = np.full((height, width), 1e9)
    highest, lowest = channel.copy(), channel.copy()
    distance[0, :] = distance[height - 1, :] = 0.0
    distance[:, 0] = distance[:, width - 1] = 0.0
    for scan in range(passes):
        onwards = scan % 2 == 0
        step = 1 if onwards else -1
        for i in range(height):
            y = i if onwards else height - 1 - i
            for j in range(width):
                x = j if onwards else width - 1 - j
                for way in range(2):
                    from_y, from_x = (y - step, x) if way == 0 else (y, x - step)
                    if from_y < 0 or from_x < 0 or from_y >= height or from_x >= width:
                        continue
                    high = max(highest[from_y, from_x], channel[y, x])
                    low = min(lowest[from_y, from_x], channel[y, x])
                    if high - low < distance[y, x]:
                        distance[y, x] = high - low
                        highest[y, x], lowest[y, x] = high, low
    return distance
