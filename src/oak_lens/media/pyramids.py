"""Pictures as pyramids: decoded once, kept on disk as plain arrays that processes share by mapping them."""

import os
import threading
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

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


@dataclass(frozen=True, slots=True)
class PictureFile:
    """Where an original lies, and its displayed size in pixels. `key` names its content; `clip`: whether it is one."""

    path: Path
    key: str
    width: int
    height: int
    clip: bool = False


class Pyramids:
    """A `PictureSource` over files; levels are kept under `folder` if one is given. Threads and processes may share it."""

    def __init__(self, files: Mapping[str, PictureFile], folder: Path | None = None, memory: ByteCache | None = None):
        self._files = files
        self._folder = folder
        self._memory = memory or ByteCache(KEPT_IN_MEMORY_BYTES)
        self._readers: OrderedDict[str, ClipReader] = OrderedDict()
        self._readers_lock = threading.Lock()

    def size(self, media: str) -> tuple[int, int]:
        file = self._file(media)
        return file.width, file.height

    def level(self, media: str, level: int, moment: int = 0) -> NDArray[np.uint8]:
        file = self._file(media)
        if file.clip:
            reader = self._reader(file)
            return self._clip_level(file, reader, reader.index_at(moment), level)
        # A mapped level counts in full, too: its pages stay with the process for as long as it is mapped.
        return self._memory.get((file.key, level), lambda: self._load(media, file, level), lambda pixels: pixels.nbytes)

    def _clip_level(self, file: PictureFile, reader: ClipReader, index: int, level: int) -> NDArray[np.uint8]:
        def made() -> NDArray[np.uint8]:
            if level == 0:
                return _checked_size(reader.frame(index), file)
            return reduced_level((file.width, file.height), level, lambda parent: self._clip_level(file, reader, index, parent))

        return self._memory.get((file.key, level, index), made, lambda pixels: pixels.nbytes)

    def _reader(self, file: PictureFile) -> ClipReader:
        with self._readers_lock:
            reader = self._readers.get(file.key)
            if reader is None:
                reader = self._readers[file.key] = ClipReader(_present(file))
            self._readers.move_to_end(file.key)
            while len(self._readers) > MOST_OPEN_CLIPS:
                self._readers.popitem(last=False)[1].close()
            return reader

    def prepare(self, media: str) -> None:
        """Make and keep every level for watching. Raises InvalidPicture, MissingPicture."""
        file = self._file(media)
        made: dict[int, NDArray[np.uint8]] = {}

        def get(level: int) -> NDArray[np.uint8]:
            if level not in made:
                made[level] = _original(file) if level == 0 else reduced_level((file.width, file.height), level, get)
            return made[level]

        for level in range(coarsest_level(file.width, file.height) + 1):
            width, height = level_size(file.width, file.height, level)
            if width * height <= LARGEST_PREPARED_PIXELS and self._kept(file, level) and not self._path(file, level).exists():
                self._keep(self._path(file, level), get(level))
            for done in [k for k in made if k < level - 2]:
                del made[done]

    def is_prepared(self, media: str) -> bool:
        """Whether the last level is kept: levels are kept in order."""
        file = self._file(media)
        return self._folder is not None and self._path(file, coarsest_level(file.width, file.height)).exists()

    def _file(self, media: str) -> PictureFile:
        try:
            return self._files[media]
        except KeyError:
            raise MissingPicture([Fault("picture.missing", f"media.{media}", "The picture's file is missing.")]) from None

    def _load(self, media: str, file: PictureFile, level: int) -> NDArray[np.uint8]:
        if not self._kept(file, level):
            return self._made(media, file, level)
        path = self._path(file, level)
        kept = _mapped(path, level_size(file.width, file.height, level))
        if kept is None:
            self._keep(path, self._made(media, file, level))
            kept = _mapped(path, level_size(file.width, file.height, level))
        return self._made(media, file, level) if kept is None else kept

    def _made(self, media: str, file: PictureFile, level: int) -> NDArray[np.uint8]:
        if level == 0:
            return _original(file)
        return reduced_level((file.width, file.height), level, lambda parent: self.level(media, parent))

    def _kept(self, file: PictureFile, level: int) -> bool:
        width, height = level_size(file.width, file.height, level)
        return self._folder is not None and width * height <= LARGEST_KEPT_PIXELS

    def _path(self, file: PictureFile, level: int) -> Path:
        assert self._folder is not None
        return self._folder / file.key[:2] / file.key / f"{level}.npy"

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


def _present(file: PictureFile) -> Path:
    if not file.path.is_file():
        raise MissingPicture(
            [
                Fault(
                    "picture.missing",
                    file.path.name,
                    f"The file {file.path.name} is missing. Put it back, replace it on the contact sheet, or remove it from the project.",
                )
            ]
        )
    return file.path


def _original(file: PictureFile) -> NDArray[np.uint8]:
    return _checked_size(read_picture(_present(file)), file)


def _checked_size(pixels: NDArray[np.uint8], file: PictureFile) -> NDArray[np.uint8]:
    if pixels.shape[:2] != (file.height, file.width):
        raise MissingPicture(
            [
                Fault(
                    "picture.changed",
                    file.path.name,
                    f"The picture file {file.path.name} is not the one the document speaks of: it is {pixels.shape[1]} x {pixels.shape[0]} pixels, not {file.width} x {file.height}.",
                )
            ]
        )
    return pixels
