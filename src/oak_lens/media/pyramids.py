"""Pictures as pyramids: decoded once, kept on disk as plain arrays that processes share by mapping them."""

import os
import threading
from collections import OrderedDict
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from ..core.draw import Picture
from ..core.errors import Fault, MissingPicture
from ..core.paint import ByteCache, coarsest_level, level_size, reduced_level
from .clips import ClipReader
from .pictures import read_picture

LARGEST_KEPT_PIXELS = 9_000_000
"""Levels up to this size are kept on disk once made; larger ones are made from the original each time a close view needs them."""

LARGEST_PREPARED_PIXELS = 2_200_000
"""Levels up to this size are made beforehand: enough for watching. The finer ones are made when first needed."""

KEPT_IN_MEMORY_BYTES = 40 << 20

MOST_OPEN_CLIPS = 6


Find = Callable[[str], Path]
"""Where the original of a content lies. Raises MissingPicture, or names a file that may not be there."""


class Pyramids:
    """A `PictureSource` over files; levels are kept under `folder` if one is given. Threads and processes may share it."""

    def __init__(self, find: Find, folder: Path | None = None, memory: ByteCache | None = None):
        self._find = find
        self._folder = folder
        self._memory = memory or ByteCache(KEPT_IN_MEMORY_BYTES)
        self._readers: OrderedDict[str, ClipReader] = OrderedDict()
        self._readers_lock = threading.Lock()

    def size(self, picture: Picture) -> tuple[int, int]:
        return picture.width, picture.height

    def level(self, picture: Picture, level: int) -> NDArray[np.uint8]:
        if picture.clip:
            reader = self._reader(picture)
            return self._clip_level(picture, reader, reader.index_at(picture.moment), level)
        # A mapped level counts in full, too: its pages stay with the process for as long as it is mapped.
        return self._memory.get((picture.key, level), lambda: self._load(picture, level), lambda pixels: pixels.nbytes)

    def _clip_level(self, picture: Picture, reader: ClipReader, index: int, level: int) -> NDArray[np.uint8]:
        def made() -> NDArray[np.uint8]:
            if level == 0:
                return _checked_size(reader.frame(index), picture, self._find(picture.key).name)
            return reduced_level((picture.width, picture.height), level, lambda parent: self._clip_level(picture, reader, index, parent))

        return self._memory.get((picture.key, level, index), made, lambda pixels: pixels.nbytes)

    def _reader(self, picture: Picture) -> ClipReader:
        with self._readers_lock:
            reader = self._readers.get(picture.key)
            if reader is None:
                reader = self._readers[picture.key] = ClipReader(self._present(picture))
            self._readers.move_to_end(picture.key)
            while len(self._readers) > MOST_OPEN_CLIPS:
                self._readers.popitem(last=False)[1].close()
            return reader

    def prepare(self, picture: Picture) -> None:
        """Make and keep every level for watching. Raises InvalidPicture, MissingPicture."""
        made: dict[int, NDArray[np.uint8]] = {}

        def get(level: int) -> NDArray[np.uint8]:
            if level not in made:
                made[level] = self._original(picture) if level == 0 else reduced_level((picture.width, picture.height), level, get)
            return made[level]

        for level in range(coarsest_level(picture.width, picture.height) + 1):
            width, height = level_size(picture.width, picture.height, level)
            if width * height <= LARGEST_PREPARED_PIXELS and self._kept(picture, level) and not self._path(picture, level).exists():
                self._keep(self._path(picture, level), get(level))
            for done in [k for k in made if k < level - 2]:
                del made[done]

    def is_prepared(self, picture: Picture) -> bool:
        """Whether the last level is kept: levels are kept in order."""
        return self._folder is not None and self._path(picture, coarsest_level(picture.width, picture.height)).exists()

    def _load(self, picture: Picture, level: int) -> NDArray[np.uint8]:
        if not self._kept(picture, level):
            return self._made(picture, level)
        path = self._path(picture, level)
        kept = _mapped(path, level_size(picture.width, picture.height, level))
        if kept is None:
            self._keep(path, self._made(picture, level))
            kept = _mapped(path, level_size(picture.width, picture.height, level))
        return self._made(picture, level) if kept is None else kept

    def _made(self, picture: Picture, level: int) -> NDArray[np.uint8]:
        if level == 0:
            return self._original(picture)
        return reduced_level((picture.width, picture.height), level, lambda parent: self.level(picture, parent))

    def _kept(self, picture: Picture, level: int) -> bool:
        width, height = level_size(picture.width, picture.height, level)
        return self._folder is not None and width * height <= LARGEST_KEPT_PIXELS

    def _path(self, picture: Picture, level: int) -> Path:
        assert self._folder is not None
        return self._folder / picture.key[:2] / picture.key / f"{level}.npy"

    def _present(self, picture: Picture) -> Path:
        path = self._find(picture.key)
        if not path.is_file():
            sentence = f"The file {path.name} is missing. Put it back, replace it on the contact sheet, or remove it from the project."
            raise MissingPicture([Fault("picture.missing", path.name, sentence)])
        return path

    def _original(self, picture: Picture) -> NDArray[np.uint8]:
        return _checked_size(read_picture(self._present(picture)), picture, self._find(picture.key).name)

    def _keep(self, path: Path, pixels: NDArray[np.uint8]) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        part = path.with_name(f".{path.name}.{os.getpid()}-{threading.get_ident()}")
        with part.open("wb") as stream:
            np.save(stream, pixels, allow_pickle=False)
        part.replace(path)


def _mapped(path: Path, size: tuple[int, int]) -> NDArray[np.uint8] | None:
    """The kept level, or None if it is not there or not whole."""
    try:
        pixels = np.load(path, mmap_mode="r", allow_pickle=False)
    except (ValueError, OSError, EOFError):
        return None
    return pixels if pixels.shape == (size[1], size[0], 4) and pixels.dtype == np.uint8 else None


def _checked_size(pixels: NDArray[np.uint8], picture: Picture, name: str) -> NDArray[np.uint8]:
    if pixels.shape[:2] != (picture.height, picture.width):
        raise MissingPicture(
            [
                Fault(
                    "picture.changed",
                    name,
                    f"The picture file {name} is not the one the document speaks of: it is {pixels.shape[1]} x {pixels.shape[0]} pixels, not {picture.width} x {picture.height}.",
                )
            ]
        )
    return pixels
