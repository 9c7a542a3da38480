"""What is not there, too much, or gone from the disk is said by a code and a sentence, and nothing is lost."""

from pathlib import Path
from typing import Any

import pytest
from PIL import Image

from oak_lens.services import keys, pictures, sounds
from tests.media.test_clips import EVEN, make_clip

from .conftest import Signed
from .test_sounds import clicks, send, wav


def refused(answer: Any, status: int, code: str) -> None:
    assert answer.status_code == status, answer.data
    (fault,) = answer.json["faults"]
    assert fault["code"] == code and fault["message"].endswith(".") and len(fault["message"]) > 20


@pytest.fixture
def card(tmp_path: Path) -> Path:
    Image.new("RGB", (120, 80), (200, 40, 30)).save(tmp_path / "card.png")
    return tmp_path / "card.png"


def test_a_deleted_project_says_how_it_comes_back_and_an_unknown_one_that_it_is_none(signed: Signed) -> None:
    project = signed.project("Gone")
    signed.send("DELETE", f"/api/projects/{project}")
    refused(signed.client.get(f"/api/projects/{project}"), 404, "project.deleted")
    signed.send("POST", f"/api/projects/{project}/bring-back")
    assert signed.client.get(f"/api/projects/{project}").json["document"]["title"] == "Gone"
    refused(signed.client.get("/api/projects/never"), 404, "project.not_found")
    refused(signed.send("POST", f"/api/projects/{project}/versions/never/return"), 404, "version.not_found")


def test_an_export_without_a_film_and_no_export_are_told_apart(signed: Signed, card: Path) -> None:
    project = signed.project()
    record = signed.picture(project, card).json["record"]
    signed.edit(project, {"edit": "add_pictures", "pictures": [{"id": "p", **record}]}, {"edit": "add_scenes", "scenes": [{"id": "s", "media": "p"}]})
    export = signed.send("POST", f"/api/projects/{project}/exports", {"width": 320, "height": 180, "rate": "25", "quality": "draft"}).json
    refused(signed.client.get(f"/api/exports/{export['id']}/film"), 404, "export.no_film")
    refused(signed.client.get("/api/exports/never/film"), 404, "export.not_found")


def test_too_many_and_too_large_are_refused_and_leave_nothing(signed: Signed, card: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    project = signed.project()
    monkeypatch.setattr(pictures, "LARGEST_BYTES", 100)
    refused(signed.picture(project, card), 413, "picture.bytes")
    monkeypatch.setattr(pictures, "MOST_PICTURES", 0)
    refused(signed.picture(project, card), 409, "picture.count")
    monkeypatch.setattr(sounds, "MOST_SOUNDS", 0)
    refused(send(signed, project, wav(clicks(1))), 409, "sound.count")
    refused(signed.send("POST", f"/api/projects/{project}/pictures", data=b"x"), 422, "picture.no_file")
    refused(signed.send("POST", f"/api/projects/{project}/edits", {"base": 1, "edits": [{"edit": "x" * (17 << 20)}]}), 413, "document.size")
    document = signed.client.get(f"/api/projects/{project}").json["document"]
    assert not document["media"] and not document["sounds"]


def test_files_without_sound_or_of_endless_length_or_gone_from_the_disk(signed: Signed, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    project = signed.project()
    silent = make_clip(tmp_path / "silent.mp4", EVEN)
    refused(send(signed, project, silent.read_bytes(), "silent.mp4"), 415, "sound.none")
    monkeypatch.setattr("oak_lens.media.listening.LONGEST_SECONDS", 2)
    refused(send(signed, project, wav(clicks(3))), 413, "sound.long")
    monkeypatch.undo()
    refused(signed.client.get(f"/api/projects/{project}/sounds/never/peaks?start=0&end=9"), 404, "sound.not_found")
    record = send(signed, project, wav(clicks(3))).json["record"]
    signed.edit(project, {"edit": "add_sounds", "sounds": [{"id": "m", **record}]})
    home = Path(signed.client.application.extensions["oak"].blobs.local(keys.original(record["sha256"]))).parent
    for kept in home.parent.parent.parent.rglob(f"*{record['sha256'][:16]}*"):
        if kept.is_file():
            kept.unlink()
    refused(signed.client.get(f"/api/projects/{project}/sound?first=0&count=4800"), 404, "sound.missing")
    assert signed.client.get(f"/api/projects/{project}").json["document"]["songs"]["m"], "the song stays in the film"
