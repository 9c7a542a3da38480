"""Textures of surfaces in files of this machine: made once for all processes and installations, ahead of their first use if there is time."""

import hashlib
import inspect
import os
from contextlib import suppress
from functools import cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from ..core.paint import fields, surfaces


@cache
def drawn_by() -> str:
    """What says how textures come out: the code that makes them, and what it computes with."""
    sources = "".join(inspect.getsource(module) for module in (surfaces, fields))
    return hashlib.sha256(f"{np.__version__} {sources}".encode()).hexdigest()[:16]


class FolderTextures:
    """The `KeptTextures` of the core, in a folder. They can be made again: what is not there, or not whole, is made anew."""

    def __init__(self, folder: Path):
        self._folder = folder / drawn_by()

    def texture(self, surface: str) -> NDArray[np.uint8] | None:
        try:
            return np.load(self._path(surface))  # type: ignore[no-any-return]
        except (OSError, ValueError, EOFError):
            return None

    def keep(self, surface: str, texture: NDArray[np.uint8]) -> None:
        path = self._path(surface)
        part = path.with_name(f".{path.name}.{os.getpid()}")
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            with part.open("wb") as out:
                np.save(out, texture)
            part.replace(path)
        except OSError:
            # No room for it, or no right: what was made is used all the same, and the next process makes its own.
            with suppress(OSError):
                part.unlink(missing_ok=True)

    def make_one(self) -> bool:
        """Makes one that is not there yet; whether there was one, and it is there now."""
        for surface in surfaces.TEXTURES:
            if not self._path(surface).is_file():
                surfaces.surface_texture.cache_clear()
                surfaces.surface_texture(surface)
                return self._path(surface).is_file()
        return False

    def _path(self, surface: str) -> Path:
        return self._folder / f"{surface}.npy"


def machine_textures() -> FolderTextures:
    """Those of this machine, beside the compiled kernels."""
    compiled = os.environ.get("NUMBA_CACHE_DIR")
    base = Path(compiled).parent if compiled else Path.home() / ".cache" / "oak-lens"
    return FolderTextures(base / "textures")
