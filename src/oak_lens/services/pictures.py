"""Pictures taken in: checked, kept by content, prepared by a worker."""

import hashlib
import io
from collections.abc import Mapping
from pathlib import Path
from typing import IO, Any, BinaryIO

import numpy as np

from ..core.document import Document
from ..core.errors import Fault, InvalidPicture, LimitReached
from ..core.paint import ByteCache, coarsest_level, level_size
from ..media.jpegs import jpeg
from ..media.pictures import LARGEST_BYTES, picture_facts, write_thumbnail
from ..media.pyramids import PictureFile, Pyramids
from .ports import MediaState, MediaStore

MOST_PICTURES = 2000


class Pictures:
    """What people do with picture files."""

    def __init__(self, store: MediaStore, memory: ByteCache | None = None):
        self._store = store
        self._memory = memory

    def take_in(self, document: Document, name: str, stream: IO[bytes]) -> dict[str, Any]:
        """The record of one file for `add_pictures` (without id); the file is kept and a thumbnail made before this returns.

        Raises InvalidPicture, LimitReached; then nothing is kept.
        """
        if len(document.media) >= MOST_PICTURES:
            raise LimitReached([Fault("picture.count", "", f"A project holds at most {MOST_PICTURES} pictures.")])
        received = self._store.receive(stream, LARGEST_BYTES)
        try:
            facts = picture_facts(received)
            with received.open("rb") as file:
                sha256 = hashlib.file_digest(file, "sha256").hexdigest()
            thumbnail = self._store.thumbnail(sha256)
            if not thumbnail.exists():
                # Decoding the whole file here is what finds a truncated one before it is let in.
                write_thumbnail(received, thumbnail)
            self._store.keep(received, sha256)
        finally:
            received.unlink(missing_ok=True)
        self._store.request_preparation(sha256)
        plain_name = Path(name.replace("\\", "/")).name[:300] or "picture"
        return {
            "name": Path(plain_name).stem[:300] or plain_name,
            "file": plain_name,
            "sha256": sha256,
            "width": facts.width,
            "height": facts.height,
            "captured": facts.captured,
            "description": facts.description,
        }

    def thumbnail(self, sha256: str) -> Path:
        """The thumbnail's file, made again if it is gone. Raises MissingPicture or InvalidPicture."""
        path = self._store.thumbnail(sha256)
        if not path.exists():
            original = self._store.original(sha256)
            if not original.is_file():
                raise InvalidPicture([Fault("picture.missing", "", "The picture's file is missing.")])
            write_thumbnail(original, path)
        return path

    def large(self, document: Document, media: str, width: int) -> BinaryIO:
        """JPEG of the picture at the smallest level at least `width` pixels wide (or its largest)."""
        source = self.source(document)
        full_width, full_height = source.size(media)
        level = coarsest_level(full_width, full_height)
        while level > 0 and level_size(full_width, full_height, level)[0] < width:
            level -= 1
        pixels = np.ascontiguousarray(source.level(media, level))
        return io.BytesIO(jpeg(pixels, quality=88))

    def states(self, document: Document) -> list[MediaState]:
        return self._store.state_of(sorted({m.sha256 for m in document.media.values()}))

    def source(self, document: Document) -> Pyramids:
        """The document's pictures for painting."""
        return Pyramids(DocumentFiles(document, self._store), self._store.pyramids, self._memory)

    def prepare(self, sha256: str) -> None:
        """A worker's part: make the levels for watching. Failure is recorded, not raised."""
        path = self._store.original(sha256)
        try:
            facts = picture_facts(path)
            file = PictureFile(path, sha256, facts.width, facts.height)
            Pyramids({sha256: file}, self._store.pyramids, ByteCache(0)).prepare(sha256)
            self._store.set_state(sha256, "ready")
        except InvalidPicture as error:
            self._store.set_state(sha256, "failed", error.faults[0].message)
        except FileNotFoundError:
            self._store.set_state(sha256, "failed", "The picture's file is missing.")


class DocumentFiles(Mapping[str, PictureFile]):
    """The files of a document's pictures by media id."""

    def __init__(self, document: Document, store: MediaStore):
        self._document, self._store = document, store

    def __getitem__(self, media: str) -> PictureFile:
        record = self._document.media[media]
        return PictureFile(self._store.original(record.sha256), record.sha256, record.width, record.height)

    def __iter__(self) -> Any:
        return iter(self._document.media)

    def __len__(self) -> int:
        return len(self._document.media)
