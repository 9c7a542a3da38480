"""Watching: several documents of one project are painted at once, each with its own pictures."""

import io
import threading
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image
from sqlalchemy import Engine

from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import film_at, timeline_of
from oak_lens.media.blobs import FolderBlobs
from oak_lens.media.clips import ClipReader
from oak_lens.services import keys
from oak_lens.services.pictures import Pictures
from oak_lens.services.watching import Watching
from oak_lens.storage.media import PostgresMedia
from tests.media.test_clips import EVEN, make_clip


def _document(folder: Path, media: PostgresMedia, colours: dict[str, tuple[int, int, int]]) -> Document:
    records = []
    for name, colour in colours.items():
        path = folder / f"{name}-{colour[0]}-{colour[2]}.png"
        Image.fromarray(np.full((60, 80, 3), colour, np.uint8)).save(path)
        with path.open("rb") as stream:
            records.append({"id": name, **Pictures(media).take_in(Document(), path.name, stream)})
    scenes = {"edit": "add_scenes", "scenes": [{"id": f"s-{name}", "media": name} for name in reversed(colours)]}
    return apply_edits(Document(), parse_edits([{"edit": "add_pictures", "pictures": records}, scenes]))


def test_an_old_version_and_the_newest_are_painted_at_once(engine: Engine, tmp_path: Path) -> None:
    media = PostgresMedia(engine, FolderBlobs(tmp_path))
    red, blue = (200, 20, 20), (20, 20, 200)
    documents = [_document(tmp_path, media, c) for c in ({"a": red}, {"a": red, "b": red}, {"a": blue, "b": blue}, {"a": blue, "b": red})]
    watching, faults = Watching(media), list[str]()

    def watch(document: Document, wanted: tuple[int, int, int]) -> None:
        timeline = timeline_of(document)
        for _ in range(25):
            try:
                shown = np.asarray(Image.open(io.BytesIO(watching.jpeg(document, film_at(document, timeline, timeline.length // 4), 64))))
                if np.abs(shown[18, 32].astype(int) - wanted).max() > 12:
                    faults.append(f"{shown[18, 32]} instead of {wanted}")
            except Exception as error:
                faults.append(repr(error))

    watchers: list[Any] = [threading.Thread(target=watch, args=pair) for pair in zip(documents, (red, red, blue, red), strict=True)]
    for watcher in watchers:
        watcher.start()
    for watcher in watchers:
        watcher.join()
    assert not faults, faults[:3]


def test_the_ends_of_scenes_are_painted_once_for_all_that_show_the_same(engine: Engine, tmp_path: Path) -> None:
    media = PostgresMedia(engine, FolderBlobs(tmp_path))
    document = _document(tmp_path, media, {"a": (20, 160, 20)})
    copied = apply_edits(document, parse_edits([{"edit": "set_title", "title": "A copy"}]))
    changed = apply_edits(document, parse_edits([{"edit": "set_scenes", "ids": ["s-a"], "backdrop": {"kind": "colour"}}]))
    watching = Watching(media)
    painted = list[str]()
    paint = watching.jpeg
    watching.jpeg = lambda *told: (painted.append("one"), paint(*told))[1]  # type: ignore[method-assign,func-returns-value]
    first = watching.end(document, timeline_of(document), "s-a", "opening", 96)
    assert watching.end(copied, timeline_of(copied), "s-a", "opening", 96) == first and len(painted) == 1
    for film, which in ((document, "closing"), (changed, "opening")):
        watching.end(film, timeline_of(film), "s-a", which, 96)  # type: ignore[arg-type]
    assert len(painted) == 3
    assert watching.poster(document, 96) == watching.poster(copied, 96) and len(painted) == 4
    # What was made longest ago makes room; what is gone is painted again.
    media.blobs.trim(keys.SEEN, 0)
    assert watching.end(document, timeline_of(document), "s-a", "opening", 96) == first and len(painted) == 5


def test_a_clip_is_let_go_of_only_when_nobody_reads_from_it(tmp_path: Path) -> None:
    reader, over, faults = ClipReader(make_clip(tmp_path / "a.mp4", EVEN)), threading.Event(), list[str]()

    def close() -> None:
        while not over.is_set():
            reader.close()

    closer = threading.Thread(target=close)
    closer.start()
    try:
        for index in [0, 3, 1, 5, 2] * 8:
            try:
                reader.frame(index)
            except Exception as error:
                faults.append(repr(error))
    finally:
        over.set()
        closer.join()
    assert not faults, faults[:3]


def test_scenes_are_prepared_once_and_those_that_were_left_are_prepared_the_next_time(engine: Engine, tmp_path: Path) -> None:
    media = PostgresMedia(engine, FolderBlobs(tmp_path))
    document = _document(tmp_path, media, {"a": (20, 160, 20), "b": (20, 20, 160), "c": (160, 20, 20)})
    watching = Watching(media)
    # Called away after the first of a scene's two pictures: the scene is not done.
    called_away = watching.cold(document, 0, 64)
    next(called_away)()
    called_away.close()
    steps = [prepare() for prepare in watching.cold(document, 0, 64)]
    assert len(steps) == 2 * len(document.scenes)
    assert not list(watching.cold(document, timeline_of(document).length, 64))
    # Of a film in which one scene is changed only that one is; at another size all are.
    changed = apply_edits(document, parse_edits([{"edit": "set_scenes", "ids": ["s-b"], "backdrop": {"kind": "colour"}}]))
    assert len(list(watching.cold(changed, 0, 64))) == 2 and len(list(watching.cold(document, 0, 96))) == 6
    # A picture whose file is gone is told to whoever asks for it, not here.
    gone = apply_edits(document, parse_edits([{"edit": "set_scenes", "ids": ["s-a"], "backdrop": {"kind": "none"}}]))
    for path in (tmp_path / "media").rglob("*"):
        if path.is_file():
            path.unlink()
    for prepare in Watching(media).cold(gone, 0, 64):
        prepare()
