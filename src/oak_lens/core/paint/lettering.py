"""A line of handwriting as coverage."""

from functools import lru_cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

HANDWRITING = "kalam.woff"
ASCENT, DESCENT = 1.1, 0.5
"""Room above and below the base line, in shares of the size."""


@lru_cache(maxsize=32)
def _face(size_px: int) -> ImageFont.FreeTypeFont:
    return ImageFont.truetype(str(files(__package__) / "faces" / HANDWRITING), size_px)


def written(text: str, size_px: float, widest_px: float) -> NDArray[np.uint8]:
    """(h, w) uint8 coverage of one line in the handwriting face, its letters `size_px` high, smaller if it is too wide."""
    size = max(4, round(size_px))
    length = _face(size).getlength(text)
    if length > widest_px:
        size = max(4, int(size * widest_px / length))
        length = _face(size).getlength(text)
    canvas = Image.new("L", (int(length) + 4, round(size * (ASCENT + DESCENT)) + 2), 0)
    ImageDraw.Draw(canvas).text((2, size * ASCENT), text, fill=255, font=_face(size), anchor="ls")
    return np.asarray(canvas)
