"""Import: what one large photo costs until it is seen, usable and done, against a bare decode."""

import time
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

from PIL import Image

from oak_lens.core.document import Document
from oak_lens.media.blobs import FolderBlobs
from oak_lens.services.pictures import Pictures
from oak_lens.services.ports import MediaState, Work

from .films import big_photos
from .rows import Row, median

COUNT = 18
MEGAPIXELS = 24
WORKERS = 2


class FolderStore:
    """The `MediaStore` port over a folder, without a database or a queue."""

    def __init__(self, folder: Path):
        self.blobs = FolderBlobs(folder)
        self.asked: list[str] = []

    def state_of(self, work: Work, hashes: Sequence[str]) -> list[MediaState]:
        return []

    def request_preparation(self, sha256: str) -> None:
        self.asked.append(sha256)

    def request_listening(self, sha256: str) -> None:
        raise NotImplementedError

    def set_state(self, work: Work, state: MediaState) -> None:
        assert state.state == "ready", state.message


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
    made = [p for folder in ("levels", "thumbs") for p in (scratch / "media" / folder).rglob("*") if p.is_file()]
    beside = sum(p.stat().st_size for p in made) / 1e6
    note = f"bare decode {1000 * median(decode):.0f} ms, {WORKERS} workers"
    return [
        Row("24-megapixel photos, thumbnail of one seen after", median(seen), "s", 0.3, 0.15, "less", note),
        Row("24-megapixel photos, all done, each in bare decodes", each / median(decode), "x", 2.6, 1.0, "less", note),
        Row("disk that a photo takes beside its original, a megapixel", beside / COUNT / MEGAPIXELS, "MB", 1.0, 0.5, "less"),
    ]
