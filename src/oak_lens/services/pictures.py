"""Pictures taken in: checked, kept by content, prepared by a worker."""

import hashlib
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import IO, Any

import numpy as np
from numpy.typing import NDArray

from ..core.document import Area, Document
from ..core.draw import Picture
from ..core.errors import Fault, InvalidPicture, LimitReached, StorageFull, is_full
from ..core.evaluate import picture_at
from ..core.framing import borders_in, turned_area
from ..core.looks import Histogram, histogram, suggested_correction
from ..core.paint import ByteCache, coarsest_level, developed_pixels, level_size
from ..media.intake import media_facts, subject_of
from ..media.intake import thumbnail as make_thumbnail
from ..media.jpegs import jpeg
from ..media.pictures import LARGEST_BYTES, picture_facts
from ..media.pyramids import BlobLevels, Pyramids
from . import keys
from .ports import MediaState, MediaStore


def pyramids_of(store: MediaStore, memory: ByteCache | None = None) -> Pyramids:
    """All pictures that are kept, for painting."""
    return Pyramids(lambda sha256: store.blobs.local(keys.original(sha256)), BlobLevels(store.blobs, keys.level), memory)


MOST_PICTURES = 2000
NO_ROOM = "The disk is full. Free some space: preparing goes on by itself."
THUMBNAIL_PX = 480
ANALYSED_PX = 600


class Pictures:
    """What people do with picture files."""

    def __init__(self, store: MediaStore, memory: ByteCache | None = None):
        self._store, self._blobs = store, store.blobs
        self.source = pyramids_of(store, memory)
        """All pictures, for painting."""

    def take_in(self, document: Document, name: str, stream: IO[bytes]) -> dict[str, Any]:
        """The record of one file for `add_pictures` (without id); the file is kept and a thumbnail made before this returns.

        Raises InvalidPicture, LimitReached; then nothing is kept.
        """
        if len(document.media) >= MOST_PICTURES:
            raise LimitReached([Fault("picture.count", "", f"A project holds at most {MOST_PICTURES} pictures.")])
        received = self._blobs.receive(stream, LARGEST_BYTES)
        try:
            facts = media_facts(received)
            with received.open("rb") as file:
                sha256 = hashlib.file_digest(file, "sha256").hexdigest()
            if not self._blobs.has(keys.thumbnail(sha256)):
                # Decoding the whole file here is what finds a truncated one before it is let in.
                _with_room(lambda: self._make_thumbnail(received, sha256, facts["kind"]))
            subject = subject_of(self._blobs.local(keys.thumbnail(sha256)))
            _with_room(lambda: self._blobs.keep(received, keys.original(sha256)))
        finally:
            received.unlink(missing_ok=True)
        if facts["kind"] == "clip":
            # Clips are read frame by frame when they are shown: nothing is prepared.
            self._store.set_state("prepare", MediaState(sha256, "ready"))
        else:
            self._store.request_preparation(sha256)
        plain_name = Path(name.replace("\\", "/")).name[:300] or "picture"
        return {"name": Path(plain_name).stem[:300] or plain_name, "file": plain_name, "sha256": sha256, "subject": subject, **facts}

    def thumbnail(self, document: Document, media: str) -> bytes:
        """JPEG of the picture as it is turned, cropped and corrected. Raises MissingPicture or InvalidPicture."""
        record = document.media[media]
        if not record.is_whole or record.correction is not None or (record.clip is not None and record.clip.poster):
            return self.developed(document, media, THUMBNAIL_PX)
        if not self._blobs.has(keys.thumbnail(record.sha256)):
            self._make_thumbnail(self._original(record.sha256), record.sha256, record.kind)
        return self._blobs.local(keys.thumbnail(record.sha256)).read_bytes()

    def _make_thumbnail(self, original: Path, sha256: str, kind: str) -> None:
        with self._blobs.writing(keys.thumbnail(sha256), durable=False) as path:
            make_thumbnail(original, path, kind)

    def _original(self, sha256: str) -> Path:
        try:
            return self._blobs.local(keys.original(sha256))
        except FileNotFoundError:
            sentence = "The picture's file is missing. Replace it, or remove the picture from the project."
            raise InvalidPicture([Fault("picture.missing", "", sentence)]) from None

    def developed(self, document: Document, media: str, longest_px: int, uncropped: bool = False) -> bytes:
        """JPEG of the picture as it is shown, at most `longest_px` on a side. `uncropped` shows all of it, turned and corrected."""
        return jpeg(developed_pixels(document.media[media], self.source, longest_px, uncropped), quality=88)

    def histogram(self, document: Document, media: str) -> Histogram:
        """Of the picture as it is shown, cropped and corrected. Raises InvalidPicture."""
        return histogram(developed_pixels(document.media[media], self.source, ANALYSED_PX, False)[..., :3])

    def states(self, document: Document) -> list[MediaState]:
        hashes = sorted({m.sha256 for m in document.media.values()})
        gone = {h for h in hashes if not self._blobs.has(keys.original(h))}
        message = "The file is missing on this machine's disk. Replace it, or remove the picture."
        return [MediaState(s.sha256, "missing", message) if s.sha256 in gone else s for s in self._store.state_of("prepare", hashes)]

    def suggestion(self, document: Document, media: str) -> dict[str, float]:
        """A correction worked out from the picture's own histogram. Raises MissingPicture."""
        return suggested_correction(self._small(document, media)[..., :3])

    def borders(self, document: Document, ids: Iterable[str]) -> dict[str, Area | None]:
        """Crops that leave out the borders of scans, in fractions of the turned picture; None where there are none."""
        found: dict[str, Area | None] = {}
        for media in ids:
            area = borders_in(self._small(document, media)[..., :3])
            found[media] = None if area is None else turned_area(document.media[media], area)
        return found

    def _small(self, document: Document, media: str) -> NDArray[np.uint8]:
        """The file's picture, about `ANALYSED_PX` on a side."""
        record = document.media[media]
        width, height = record.width, record.height
        level = coarsest_level(width, height)
        while level > 0 and max(level_size(width, height, level)) < ANALYSED_PX:
            level -= 1
        return np.asarray(self.source.level(picture_at(record, 0), level))

    def path_of(self, document: Document) -> Callable[[str], Path]:
        """The originals of pictures and clips, by media id. They raise InvalidPicture."""
        return lambda media: self._original(document.media[media].sha256)

    def prepare(self, sha256: str) -> None:
        """A worker's part: make the levels for watching. Failure is recorded, not raised, but for StorageFull: then it is done again."""
        try:
            facts = picture_facts(self._blobs.local(keys.original(sha256)))
            pyramids_of(self._store, ByteCache(0)).prepare(Picture(sha256, facts.width, facts.height))
            self._store.set_state("prepare", MediaState(sha256, "ready"))
        except InvalidPicture as error:
            self._store.set_state("prepare", MediaState(sha256, "failed", error.faults[0].message))
        except FileNotFoundError:
            self._store.set_state("prepare", MediaState(sha256, "failed", "The picture's file is missing."))
        except OSError as error:
            if is_full(error):
                self._store.set_state("prepare", MediaState(sha256, "waiting", NO_ROOM))
                raise StorageFull([Fault("storage.full", "", NO_ROOM)]) from error
            self._store.set_state("prepare", MediaState(sha256, "failed", f"The picture could not be prepared: {error.strerror or type(error).__name__}."))


def _with_room(write: Callable[[], object]) -> None:
    """Writes something; raises StorageFull if the disk is full."""
    try:
        write()
    except OSError as error:
        if not is_full(error):
            raise
        sentence = "The disk is full, so the file could not be kept. Free some space and try again."
        raise StorageFull([Fault("storage.full", "", sentence)]) from error
