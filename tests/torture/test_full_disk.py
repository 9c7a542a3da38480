"""A disk that is full: everything says so, nothing is half there, and all goes on when there is room."""

import contextlib
import io
import os
import subprocess
import threading
import time
import urllib.error
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from sqlalchemy import Engine

from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edit
from oak_lens.core.edits.pictures import AddPictures, PictureRecord
from oak_lens.core.errors import StorageFull
from oak_lens.media.blobs import FolderBlobs
from oak_lens.services.pictures import Pictures
from oak_lens.stack.start import ROOT, Stack
from oak_lens.storage.media import PostgresMedia

from .torture import Browser


@pytest.fixture
def small(request: pytest.FixtureRequest) -> Iterator[Path]:
    """A file system of so many megabytes."""
    path = ROOT / ".run" / f"small-{os.getpid()}"
    path.mkdir(parents=True)
    mounted = subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={request.param}m,mode=755", "tmpfs", str(path)], capture_output=True, check=False)
    if mounted.returncode:
        path.rmdir()
        pytest.skip("mounting is not allowed here, so no disk can be filled")
    yield path
    subprocess.run(["umount", "-l", str(path)], check=True)
    path.rmdir()


def fill(folder: Path) -> Path:
    """A file that takes all the room there is."""
    filler = folder / "filler"
    with contextlib.suppress(OSError), filler.open("wb", buffering=0) as file:
        while True:
            file.write(bytes(4096))
    return filler


def photo(seed: int) -> io.BytesIO:
    made = io.BytesIO()
    noise = np.random.default_rng(seed).integers(0, 255, (300, 400, 3), np.uint8)
    Image.fromarray(noise).resize((1600, 1200)).save(made, "PNG", compress_level=1)
    made.seek(0)
    return made


@pytest.mark.parametrize("small", [24], indirect=True)
def test_pictures_are_refused_or_wait_for_room_and_nothing_is_half_there(engine: Engine, small: Path) -> None:
    media = PostgresMedia(engine, FolderBlobs(small))
    pictures = Pictures(media)
    record = pictures.take_in(Document(), "one.png", photo(1))
    document = apply_edit(Document(), AddPictures(pictures=[PictureRecord(id="p", **record)]))
    filler = fill(small)
    with pytest.raises(StorageFull, match="disk is full"):
        pictures.take_in(Document(), "two.png", photo(2))
    assert not list((small / "media" / "incoming").iterdir())
    with pytest.raises(StorageFull):
        pictures.prepare(record["sha256"])
    (state,) = pictures.states(document)
    assert state.state == "waiting" and "goes on by itself" in state.message
    filler.unlink()
    pictures.prepare(record["sha256"])
    assert [s.state for s in pictures.states(document)] == ["ready"]
    assert pictures.take_in(Document(), "two.png", photo(2))["sha256"]


@pytest.mark.parametrize("small", [300], indirect=True)
def test_edits_wait_for_room_and_are_kept_once_there_is_some(small: Path) -> None:
    stack, over = Stack(small / "home", None), threading.Event()
    stack.start(demo=False)
    watcher = threading.Thread(target=stack.watch, args=(over.is_set,), daemon=True)
    watcher.start()
    try:
        browser = Browser(stack, over)
        project = browser.ask("POST", "/api/projects", {"title": "Start"})["id"]
        filler = fill(small)
        codes: set[int] = set()
        deadline, revision = time.monotonic() + 25, 1
        for step in range(10_000):
            # Until what the database had put by for itself is full, too.
            pictures = [{"id": f"p{step}-{n}", "name": "n" * 290, "file": "f", "sha256": "a" * 64, "width": 9, "height": 9} for n in range(400)]
            edits = [{"edit": "add_pictures", "pictures": pictures}]
            try:
                revision = browser.once("POST", f"/api/projects/{project}/edits", {"base": revision, "edits": edits})["revision"]
            except urllib.error.HTTPError as error:
                codes.add(error.code)
                break
            if time.monotonic() > deadline:
                break
        assert codes <= {503, 507} and codes, "what was refused says that it may be asked again"
        filler.unlink()
        answer = browser.ask("POST", f"/api/projects/{project}/edits", {"base": revision, "edits": [{"edit": "set_title", "title": "There is room"}]})
        assert answer["title"] == "There is room"
        assert browser.ask("GET", f"/api/projects/{project}")["document"]["title"] == "There is room"
    finally:
        over.set()
        watcher.join()
        stack.stop()

