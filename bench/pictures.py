"""Import: what one large photo costs until it is seen, usable and done, against a bare decode."""

import threading
import time
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path
from typing import IO

from PIL import Image

from oak_lens.core.document import Document
from oak_lens.services.pictures import Pictures
from oak_lens.services.ports import MediaState

from .films import big_photos
from .rows import Row, median

COUNT = 18
WORKERS = 2


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


def take_in(scratch: Path, path: Path) -> float:
    """One photo taken in and prepared, as the server and a worker do; seconds until its thumbnail stands."""
    pictures = Pictures(FolderStore(scratch))
    started = time.perf_counter()
    with path.open("rb") as stream:
        record = pictures.take_in(Document(), path.name, stream)
    seen = time.perf_counter() - started
    pictures.prepare(str(record["sha256"]))
    return seen


def import_photos(scratch: Path) -> list[Row]:
    paths = big_photos(scratch / "big", COUNT)
    decode = []
    for path in paths:
        started = time.perf_counter()
        with Image.open(path) as image:
            image.load()
        decode.append(time.perf_counter() - started)
    with ProcessPoolExecutor(WORKERS, get_context("spawn")) as pool:
        list(pool.map(take_in, [scratch] * WORKERS, paths[:WORKERS]))
        started = time.perf_counter()
        seen = list(pool.map(take_in, [scratch] * COUNT, paths[WORKERS:]))
        each = (time.perf_counter() - started) / (COUNT - WORKERS)
    note = f"bare decode {1000 * median(decode):.0f} ms, {WORKERS} workers"
    return [
        Row("24-megapixel photos, thumbnail of one seen after", median(seen), "s", 1.0, 1.0, "less", note),
        Row("24-megapixel photos, all done, each in bare decodes", each / median(decode), "x", 3.0, 1.5, "less", note),
    ]
