"""A correction worked out from a picture's own histogram."""

import numpy as np
from numpy.typing import NDArray

MIDDLE = 0.44
BRIGHT = 0.62
"""Pictures whose middle is darker than this are not darkened: snow and mist are bright on purpose."""

LEAST_RANGE = 0.82


def suggested_correction(pixels: NDArray[np.uint8]) -> dict[str, float]:
    """Numbers of a `Correction` for a picture (h, w, 3) uint8 sRGB: its middle brought near middle grey, its range widened, a cast
    taken out in part. Night scenes and snow keep their character: nothing is corrected all the way."""
    colour = pixels.reshape(-1, 3).astype(np.float64) / 255.0
    grey = colour @ (0.2126, 0.7152, 0.0722)
    low, dark, middle, light, high = np.percentile(grey, (1, 12, 50, 88, 99))
    # A picture with some bright parts is dark on purpose: its highlights say how far it may be lifted.
    room = np.log2(max(0.97, 1e-3) / max(high, 0.08)) * 2.2
    wanted = np.log2(MIDDLE / max(middle, 0.02)) * 1.1 if middle < MIDDLE else min(np.log2(BRIGHT / middle), 0.0)
    exposure = float(np.clip(0.55 * min(wanted, room + 0.35) if wanted > 0 else 0.6 * wanted, -1.2, 1.6))
    contrast = float(np.clip((LEAST_RANGE - (high - low)) * 0.9, 0.0, 0.5))
    shadows = float(np.clip((0.10 - dark) * 3.0, 0.0, 0.4))
    highlights = float(np.clip((0.90 - light) * 1.5, -0.25, 0.0)) if light > 0.9 else 0.0
    near = (grey > 0.15) & (grey < 0.85)
    warmth = tint = 0.0
    if near.mean() > 0.1:
        red, green, blue = colour[near].mean(axis=0)
        warmth = float(np.clip((blue - red) * 0.7, -0.25, 0.25))
        tint = float(np.clip((green - (red + blue) / 2) * 0.7, -0.2, 0.2))
    spread = float((colour.max(axis=1) - colour.min(axis=1)).mean())
    saturation = 1.0 + float(np.clip((0.16 - spread) * 1.2, 0.0, 0.18)) if spread > 0.01 else 1.0
    values = {
        "exposure": exposure,
        "contrast": contrast,
        "shadows": shadows,
        "highlights": highlights,
        "warmth": warmth,
        "tint": tint,
        "saturation": saturation,
    }
    return {name: round(value, 2) for name, value in values.items()}
