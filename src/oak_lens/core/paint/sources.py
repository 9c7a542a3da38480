"""What painting needs from whoever keeps the pictures."""

from typing import Protocol

import numpy as np
from numpy.typing import NDArray


class PictureSource(Protocol):
    """Pictures by media id, as a pyramid; see `levels`."""

    def size(self, media: str) -> tuple[int, int]:
        """(width, height) in pixels of level 0. Raises MissingPicture."""
        ...

    def level(self, media: str, level: int, moment: int = 0) -> NDArray[np.uint8]:
        """(h, w, 4) uint8, premultiplied sRGB, of one level; of a clip, as it stands `moment` ticks into its file.

        Not to be written to. Raises MissingPicture.
        """
        ...
