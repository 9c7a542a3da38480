"""Pictures as pyramids: decoded once, kept on disk as plain arrays that processes share by mapping them."""

import threading
from collections import OrderedDict
from collections.abc import Callable
from contextlib import AbstractContextManager
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

from ..core.draw import Picture
from ..core.errors import Fault, MissingPicture
from ..core.paint import ByteCache, coarsest_level, level_size, reduced_level
from .blobs import FolderBlobs
from .clips import ClipReader
from .pictures import read_half, read_picture

LARGEST_KEPT_PIXELS = 9_000_000
"""Levels up to this size are kept on disk once made; larger ones are made from the original each time a close view needs them."""

LARGEST_PREPARED_PIXELS = 2_200_000
"""Levels up to this size are made beforehand: enough for watching. The finer ones are made when first needed."""

KEPT_IN_MEMORY_BYTES = 40 << 20

HALF = 2
"""The level of half the width and height: where a decoder makes that itself, it is the level, and what is smaller comes from it."""

MOST_OPEN_CLIPS = 6


Find = Callable[[str], Path]
"""A file with the original of a content. Raises MissingPicture or FileNotFoundError, or names a file that is not there."""


class Levels(Protocol):
    """Where levels are kept, by content and number."""

    def has(self, key: str, level: int) -> bool: ...

    def local(self, key: str, level: int) -> Path:
        """A file to map. Raises FileNotFoundError."""
        ...

    def writing(self, key: str, level: int) -> AbstractContextManager[Path]:
        """A file to write, which is kept when all went well."""
        ...


@dataclass(frozen=True, slots=True)
class BlobLevels:
    """Levels among blobs, by the keys that `name` gives."""

    blobs: FolderBlobs | Any
    name: Callable[[str, int], str]

    def has(self, key: str, level: int) -> bool:
        return bool(self.blobs.has(self.name(key, level)))

    def local(self, key: str, level: int) -> Path:
        path: Path = self.blobs.local(self.name(key, level))
        return path

    def writing(self, key: str, level: int) -> AbstractContextManager[Path]:
        # They are made again from the original: none need outlive the machine.
        found: AbstractContextManager[Path] = self.blobs.writing(self.name(key, level), durable=False)
        return found


def levels_in(folder: Path) -> BlobLevels:
    """Levels kept in a folder of their own."""
    return BlobLevels(FolderBlobs(folder), lambda key, level: f"{key[:2]}/{key}/{level}.npy")


class Pyramids:
    """A `PictureSource` over files; levels are kept in `levels` if given. Threads and processes may share it."""

    def __init__(self, find: Find, levels: Levels | None = None, memory: ByteCache | None = None):
        self._find = find
        self._levels = levels
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
                made[level] = self._fresh(picture, level, get)
            return made[level]

        for level in range(coarsest_level(picture.width, picture.height) + 1):
            width, height = level_size(picture.width, picture.height, level)
            kept = self._kept(picture, level)
            if kept is not None and width * height <= LARGEST_PREPARED_PIXELS and not kept.has(picture.key, level):
                _keep(kept, picture.key, level, get(level))
            for done in [k for k in made if k < level - 2]:
                del made[done]

    def is_prepared(self, picture: Picture) -> bool:
        """Whether the last level is kept: levels are kept in order."""
        return self._levels is not None and self._levels.has(picture.key, coarsest_level(picture.width, picture.height))

    def _load(self, picture: Picture, level: int) -> NDArray[np.uint8]:
        levels, size = self._kept(picture, level), level_size(picture.width, picture.height, level)
        if levels is None:
            return self._made(picture, level)
        kept = _mapped(levels, picture.key, level, size)
        if kept is None:
            _keep(levels, picture.key, level, self._made(picture, level))
            kept = _mapped(levels, picture.key, level, size)
        return self._made(picture, level) if kept is None else kept

    def _made(self, picture: Picture, level: int) -> NDArray[np.uint8]:
        return self._fresh(picture, level, lambda parent: self.level(picture, parent))

    def _fresh(self, picture: Picture, level: int, parent: Callable[[int], NDArray[np.uint8]]) -> NDArray[np.uint8]:
        """A level from its file, or from its parent level: always in the same way for the same file."""
        if level == 0:
            return self._original(picture)
        half = read_half(self._present(picture)) if level == HALF else None
        if half is not None and half.shape[:2] == level_size(picture.width, picture.height, HALF)[::-1]:
            return half
        return reduced_level((picture.width, picture.height), level, parent)

    def _kept(self, picture: Picture, level: int) -> Levels | None:
        """Where a level is kept; None if it is not."""
        width, height = level_size(picture.width, picture.height, level)
        return self._levels if width * height <= LARGEST_KEPT_PIXELS else None

    def _present(self, picture: Picture) -> Path:
        try:
            path = self._find(picture.key)
        except FileNotFoundError:
            path = Path(picture.key)
        if not path.is_file():
            sentence = f"The file {path.name} is missing. Put it back, replace it on the contact sheet, or remove it from the project."
            raise MissingPicture([Fault("picture.missing", path.name, sentence)])
        return path

    def _original(self, picture: Picture) -> NDArray[np.uint8]:
        return _checked_size(read_picture(self._present(picture)), picture, self._find(picture.key).name)


def _keep(levels: Levels, key: str, level: int, pixels: NDArray[np.uint8]) -> None:
    with levels.writing(key, level) as path, path.open("wb") as stream:
        np.save(stream, pixels, allow_pickle=False)


def _mapped(levels: Levels, key: str, level: int, size: tuple[int, int]) -> NDArray[np.uint8] | None:
    """The kept level, or None if it is not there or not whole."""
    try:
        pixels = np.load(levels.local(key, level), mmap_mode="r", allow_pickle=False)
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
