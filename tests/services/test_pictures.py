"""Pictures taken in: kept once by content, prepared once, refused without a trace."""

import io
from pathlib import Path

import pytest
from PIL import Image
from sqlalchemy import Engine, text

from oak_lens.core.document import Document
from oak_lens.core.edits import PictureRecord, apply_edit
from oak_lens.core.edits.pictures import AddPictures
from oak_lens.core.errors import InvalidPicture, LimitReached
from oak_lens.media.blobs import FolderBlobs
from oak_lens.services import keys
from oak_lens.services import pictures as module
from oak_lens.services.pictures import Pictures
from oak_lens.storage.media import PostgresMedia
from tests.conftest import made_document, picture


def png(seed: int) -> io.BytesIO:
    stream = io.BytesIO()
    Image.fromarray(picture(300, 200, seed)[..., :3]).save(stream, "PNG")
    stream.seek(0)
    return stream


@pytest.fixture
def media(engine: Engine, tmp_path: Path) -> PostgresMedia:
    return PostgresMedia(engine, FolderBlobs(tmp_path))


def jobs(engine: Engine, sha256: str) -> int:
    with engine.connect() as connection:
        query = "select count(*) from procrastinate_jobs where task_name = 'prepare' and args->>'sha256' = :s"
        return int(connection.execute(text(query), {"s": sha256}).scalar_one())


def test_the_same_picture_twice_is_kept_and_prepared_once(engine: Engine, media: PostgresMedia, tmp_path: Path) -> None:
    pictures = Pictures(media)
    first, second = (pictures.take_in(Document(), name, png(41)) for name in ("one.png", "two.png"))
    assert first["sha256"] == second["sha256"] and first["name"] == "one" and second["name"] == "two"
    assert len([p for p in (tmp_path / "media" / "originals").rglob("*") if p.is_file()]) == 1
    assert jobs(engine, first["sha256"]) == 1 and not list((tmp_path / "media" / "incoming").iterdir())
    pictures.prepare(first["sha256"])
    assert [s.state for s in media.state_of("prepare", [first["sha256"]])] == ["ready"]
    assert list((tmp_path / "media" / "levels").rglob("*.npy"))


def test_a_picture_that_cannot_be_prepared_says_why_and_may_be_tried_again(engine: Engine, media: PostgresMedia) -> None:
    pictures = Pictures(media)
    record = pictures.take_in(Document(), "one.png", png(42))
    media.blobs.local(keys.original(record["sha256"])).write_bytes(b"gone bad")
    pictures.prepare(record["sha256"])
    state = media.state_of("prepare", [record["sha256"]])[0]
    assert state.state == "failed" and state.message.endswith(".")
    pictures.take_in(Document(), "one.png", png(42))
    assert jobs(engine, record["sha256"]) == 2 and media.state_of("prepare", [record["sha256"]])[0].state == "waiting"


def test_limits_of_bytes_and_count_are_said_and_nothing_is_left(
    media: PostgresMedia, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(module, "LARGEST_BYTES", 1000)
    with pytest.raises(LimitReached, match="larger than"):
        Pictures(media).take_in(Document(), "one.png", png(43))
    monkeypatch.setattr(module, "MOST_PICTURES", 5)
    with pytest.raises(LimitReached, match="at most 5"):
        Pictures(media).take_in(made_document(), "one.png", png(43))
    assert not [p for p in tmp_path.rglob("*") if p.is_file()]


def test_a_full_disk_is_said_and_nothing_is_left(media: PostgresMedia, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    import os

    def full(handle: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(LimitReached, match="disk is full"):
        Pictures(media).take_in(Document(), "one.png", png(44))
    assert not [p for p in tmp_path.rglob("*") if p.is_file()]


def test_thumbnails_are_made_again_and_missing_originals_are_said(media: PostgresMedia) -> None:
    pictures = Pictures(media)
    record = pictures.take_in(Document(), "one.png", png(45))
    media.blobs.forget(keys.thumbnail(record["sha256"]))
    document = apply_edit(Document(), AddPictures(pictures=[PictureRecord(id="p", **record)]))
    assert pictures.thumbnail(document, "p").startswith(b"\xff\xd8")
    media.blobs.forget(keys.thumbnail(record["sha256"]))
    media.blobs.forget(keys.original(record["sha256"]))
    with pytest.raises(InvalidPicture, match="missing"):
        pictures.thumbnail(document, "p")
    assert [s.state for s in pictures.states(document)] == ["missing"]
