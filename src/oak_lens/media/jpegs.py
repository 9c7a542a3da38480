"""JPEG for watching."""

import numpy as np
import simplejpeg
from numpy.typing import NDArray


def jpeg(pixels: NDArray[np.uint8], quality: int = 86) -> bytes:
    """JPEG of (h, w, 4) uint8 opaque; releases the interpreter lock."""
    return bytes(simplejpeg.encode_jpeg(pixels, quality=quality, colorspace="RGBX", colorsubsampling="420", fastdct=True))
