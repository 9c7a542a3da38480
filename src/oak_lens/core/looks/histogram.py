"""How the levels of a picture are spread, and how much of it is clipped."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

BINS, SHIFT = 64, 2


@dataclass(frozen=True, slots=True)
class Histogram:
    """Of each channel (red, green, blue): `BINS` heights from black to white, 1 the highest of all three (the ends, where clipped levels
    pile up, not counted); and the shares of the picture, 0..1, in which some channel is clipped at black (`dark`) or at white (`light`)."""

    channels: tuple[tuple[float, ...], ...]
    dark: float
    light: float


def histogram(pixels: NDArray[np.uint8]) -> Histogram:
    """Of a picture (h, w, 3) uint8 sRGB."""
    counts = np.stack([np.bincount(pixels[..., c].reshape(-1) >> SHIFT, minlength=BINS) for c in range(3)]).astype(np.float64)
    highest = max(float(counts[:, 1:-1].max()), 1.0)
    heights = np.minimum(counts / highest, 1.0).round(4)
    return Histogram(
        tuple(tuple(float(h) for h in row) for row in heights),
        round(float((pixels == 0).any(axis=-1).mean()), 4),
        round(float((pixels == 255).any(axis=-1).mean()), 4),
    )
