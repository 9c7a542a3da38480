"""Textures of surfaces, made once for all processes, ahead of their first use if there is time."""

import numpy as np
from numpy.typing import NDArray

from ..core.errors import StorageFull
from ..core.paint.surfaces import DRAWING, TEXTURES, surface_texture
from . import keys
from .ports import Blobs

assert keys.TEXTURE_DRAWING == DRAWING


class Textures:
    """The `KeptTextures` of the core: blobs."""

    def __init__(self, blobs: Blobs):
        self._blobs = blobs

    def texture(self, surface: str) -> NDArray[np.uint8] | None:
        try:
            return np.load(self._blobs.local(keys.texture(surface)))  # type: ignore[no-any-return]
        except (FileNotFoundError, ValueError, EOFError):
            # Not there, or cut short: it is made anew.
            return None

    def keep(self, surface: str, texture: NDArray[np.uint8]) -> None:
        try:
            with self._blobs.writing(keys.texture(surface), durable=False) as path, path.open("wb") as out:
                np.save(out, texture)
        except (StorageFull, OSError):
            # What was made is used all the same; the next process makes its own.
            return

    def make_one(self) -> bool:
        """Makes one that is not there yet; whether there was one."""
        for surface in TEXTURES:
            if not self._blobs.has(keys.texture(surface)):
                surface_texture(surface)
                return self._blobs.has(keys.texture(surface))
        return False
