"""What painting needs from whoever keeps the pictures."""

from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from ..draw import Picture


class PictureSource(Protocol):
    """Pictures by their content, as pyramids; see `levels`."""

    def size(self, picture: Picture) -> tuple[int, int]:
        """(width, height) in pixels of level 0."""
        ...

    def level(self, picture: Picture, level: int) -> NDArray[np.uint8]:
        """(h, w, 4) uint8, premultiplied sRGB, of one level. Not to be written to. Raises MissingPicture."""
        ...
