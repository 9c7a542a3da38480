"""Import: what one large photo costs until it is seen, usable and done, against a bare decode."""

import threading
import time
from collections.abc import Sequence
from pathlib import Path
from typing import IO

from PIL import Image

from oak_lens.core.document import Document
from oak_lens.services.pictures import Pictures
from oak_lens.services.ports import MediaState

from .films import big_photos
from .rows import Row, median

COUNT = 12


class FolderStore:
    """The `MediaStore` port over a folder, without a database or a queue."""

    def __init__(self, folder: Path):
        self._folder = folder
        self.asked: list[str] = []

    @property
    def pyramids(self) -> Path:
        return self._folder / "pyramids"

    def receive(self, stream: IO[bytes], limit: int) -> Path:
        path = self._folder / f"in-{threading.get_ident()}-{time.monotonic_ns()}"
        path.write_bytes(stream.read())
        return path

    def keep(self, received: Path, sha256: str) -> Path:
        return received.replace(self.original(sha256))

    def original(self, sha256: str) -> Path:
        return self._folder / sha256

    def thumbnail(self, sha256: str) -> Path:
        return self._folder / f"{sha256}.jpg"

    def state_of(self, hashes: Sequence[str]) -> list[MediaState]:
        return []

    def request_preparation(self, sha256: str) -> None:
        self.asked.append(sha256)

    def set_state(self, sha256: str, state: str, message: str = "") -> None:
        assert state == "ready", message


def import_photos(scratch: Path) -> list[Row]:
    paths = big_photos(scratch / "big", COUNT)
    store = FolderStore(scratch)
    pictures = Pictures(store)
    decode, seen, done = [], [], []
    for path in paths:
        started = time.perf_counter()
        with Image.open(path) as image:
            image.load()
        decode.append(time.perf_counter() - started)
        started = time.perf_counter()
        with path.open("rb") as stream:
            record = pictures.take_in(Document(), path.name, stream)
        seen.append(time.perf_counter() - started)
        pictures.prepare(str(record["sha256"]))
        done.append(time.perf_counter() - started)
    note = f"bare decode {1000 * median(decode):.0f} ms, one process"
    return [
        Row("24-megapixel photo, taken in with its thumbnail", median(seen), "s", 1.0, 1.0, "less", note),
        Row("24-megapixel photo, all done, times a bare decode", median(done) / median(decode), "x", 3.0, 1.5, "less", note),
    ]
