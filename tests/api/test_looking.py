"""Pictures looked at, corrected and analysed over the API; frames and changes tried before they are made."""

import io
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from tests.api.conftest import Signed


@pytest.fixture
def project(signed: Signed, picture_folder: Path) -> str:
    """A project with a wide and a tall picture, each in a scene."""
    made = signed.project()
    records = [{**signed.picture(made, picture_folder / f"{n}.png").json["record"], "id": n} for n in ("wide", "tall")]
    signed.edit(
        made,
        {"edit": "add_pictures", "pictures": records},
        {"edit": "add_scenes", "scenes": [{"id": "a", "media": "wide"}, {"id": "b", "media": "tall"}]},
    )
    return made


def posted(signed: Signed, path: str, body: dict[str, Any]) -> Image.Image:
    answer = signed.send("POST", path, body)
    assert answer.status_code == 200, answer.json
    return Image.open(io.BytesIO(answer.data)).convert("RGB")


def mean(image: Image.Image) -> float:
    return float(np.asarray(image.convert("L")).mean())


def test_an_import_finds_a_subject(signed: Signed, tmp_path: Path) -> None:
    pixels = np.full((200, 300, 3), (60, 90, 120), np.uint8)
    pixels[110:160, 190:240] = (240, 200, 60)
    Image.fromarray(pixels).save(tmp_path / "one.png")
    subject = signed.picture(signed.project(), tmp_path / "one.png").json["record"]["subject"]
    assert subject["x"] < 215 / 300 < subject["x"] + subject["width"] and subject["y"] < 135 / 200 < subject["y"] + subject["height"]


def test_thumbnails_follow_turns_crops_and_corrections(signed: Signed, project: str) -> None:
    path = f"/api/projects/{project}/pictures/wide/thumbnail"
    before = signed.image(path)
    assert before.size == (480, 320)
    signed.edit(project, {"edit": "turn_pictures", "ids": ["wide"], "quarters": 1})
    assert signed.image(path).size == (320, 480)
    signed.edit(
        project,
        {"edit": "set_pictures", "ids": ["wide"], "crop": {"x": 0, "y": 0, "width": 1, "height": 0.5}, "correction": {"exposure": -2}},
    )
    after = signed.image(path)
    assert after.size == (480, 360) and mean(after) < mean(before) * 0.75


def test_a_picture_is_developed_with_edits_that_are_only_tried(signed: Signed, project: str) -> None:
    path = f"/api/projects/{project}/pictures/tall/developed"
    plain = posted(signed, path, {"width": 300})
    brighter = posted(signed, path, {"width": 300, "edits": [{"edit": "set_pictures", "ids": ["tall"], "correction": {"exposure": 1}}]})
    assert plain.size == brighter.size == (200, 300) and mean(brighter) > mean(plain) + 20
    assert signed.send("GET", f"/api/projects/{project}").json["document"]["media"]["tall"]["correction"] is None
    signed.edit(project, {"edit": "set_pictures", "ids": ["tall"], "crop": {"x": 0.25, "y": 0.25, "width": 0.5, "height": 0.25}})
    assert posted(signed, path, {"width": 300}).size == (300, 225)
    assert posted(signed, path, {"width": 300, "uncropped": True}).size == (200, 300)


@pytest.mark.parametrize(
    ("path", "body", "status", "code"),
    [
        ("pictures/gone/developed", {}, 404, "picture.missing"),
        ("pictures/wide/developed", {"edits": [{"edit": "fly"}]}, 422, "edit.unknown"),
        ("pictures/wide/developed", {"width": 99999}, 422, "request.value"),
        ("tried-frame", {"scene": "gone"}, 409, "edit.no_scene"),
        (
            "tried-frame",
            {"scene": "a", "edits": [{"edit": "use_look", "look": "gone", "photos": [{"scene": "a", "layer": "photo"}]}]},
            409,
            "edit.no_look",
        ),
        (
            "tried-frame",
            {"scene": "a", "edits": [{"edit": "set_layers", "layers": [{"scene": "a", "layer": "photo"}], "mount": {"radius": 7}}]},
            422,
            "edit.value",
        ),
        ("changes", {"edits": [{"edit": "set_scenes", "ids": ["a"], "backdrop": {"blur": 99}}]}, 422, "edit.value"),
        ("changes", {"edits": [{"edit": "set_scenes", "ids": ["a"], "backdrop": {"kind": "picture", "media": "gone"}}]}, 409, "edit.link"),
        ("borders", {"ids": []}, 422, "request.value"),
    ],
)
def test_what_cannot_be_tried_says_why(signed: Signed, project: str, path: str, body: dict[str, Any], status: int, code: str) -> None:
    answer = signed.send("POST", f"/api/projects/{project}/{path}", body)
    assert answer.status_code == status and answer.json["faults"][0]["code"] == code and answer.json["faults"][0]["message"].endswith(".")
    assert signed.send("GET", f"/api/projects/{project}").json["revision"] == 2


def test_a_suggestion_and_borders_come_from_the_picture_itself(signed: Signed, project: str, tmp_path: Path) -> None:
    rng = np.random.default_rng(5)
    dark = np.clip(rng.normal(30, 14, (200, 300, 3)), 0, 255).astype(np.uint8)
    Image.fromarray(dark).save(tmp_path / "dark.png")
    scan = np.full((300, 400, 3), 2, np.uint8)
    scan[60:260, 80:360] = np.clip(rng.normal(130, 40, (200, 280, 3)), 60, 255)
    Image.fromarray(scan).save(tmp_path / "scan.png")
    records = [{**signed.picture(project, tmp_path / f"{n}.png").json["record"], "id": n} for n in ("dark", "scan")]
    signed.edit(project, {"edit": "add_pictures", "pictures": records})
    assert signed.client.get(f"/api/projects/{project}/pictures/dark/suggestion").json["correction"]["exposure"] > 0.5
    found = {
        f["id"]: f["crop"] for f in signed.send("POST", f"/api/projects/{project}/borders", {"ids": ["dark", "scan", "gone"]}).json["found"]
    }
    assert set(found) == {"dark", "scan"} and found["dark"] is None
    assert found["scan"]["x"] == pytest.approx(0.2, abs=0.02) and found["scan"]["height"] == pytest.approx(200 / 300, abs=0.03)


def test_a_frame_is_tried_and_nothing_is_kept(signed: Signed, project: str) -> None:
    path = f"/api/projects/{project}/tried-frame"
    plain = posted(signed, path, {"scene": "b", "width": 320})
    look = [{"edit": "use_look", "look": "gallery", "photos": [{"scene": "b", "layer": "photo"}]}]
    framed = posted(signed, path, {"scene": "b", "width": 320, "edits": look})
    assert plain.size == framed.size == (320, 180)
    assert np.abs(np.asarray(plain).astype(int) - np.asarray(framed)).mean() > 5
    tall = posted(
        signed, path, {"scene": "b", "width": 90, "which": "closing", "edits": [{"edit": "set_frame", "width": 1080, "height": 1920}]}
    )
    assert tall.size == (90, 160)
    assert signed.send("GET", f"/api/projects/{project}").json["document"]["looks"] == {}


def test_changes_are_told_before_they_are_made(signed: Signed, project: str) -> None:
    source = {"scene": "a", "layer": "photo"}
    signed.edit(
        project,
        {"edit": "set_layers", "layers": [source], "mount": {"border": 0.09}},
        {"edit": "set_scenes", "ids": ["a"], "hold": 705_600_000},
    )
    body = {"edits": [{"edit": "carry", "source": source, "what": ["mount", "hold"], "to": ["b"]}]}
    changes = signed.send("POST", f"/api/projects/{project}/changes", body).json["changes"]
    assert changes == [{"scene": "b", "what": ["hold 3.0 → 1.0 s", "mount"]}]
    nothing = {"edits": [{"edit": "set_title", "title": "Another"}]}
    assert signed.send("POST", f"/api/projects/{project}/changes", nothing).json["changes"] == []


def test_answers_carry_what_scenes_follow(signed: Signed, project: str) -> None:
    refs = [{"scene": "a", "layer": "photo"}]
    used = signed.edit(project, {"edit": "use_look", "look": "slate", "photos": refs}).json
    assert set(used["looks"]) == {"slate"} and used["groups"] is None and set(used["marks"]) == {"a"}
    before = signed.send("GET", f"/api/projects/{project}").json["marks"]
    changed = signed.edit(project, {"edit": "set_look", "id": "slate", "mount": {"border": 0.1}}).json
    assert set(changed["marks"]) == {"a"} and changed["marks"]["a"] != before["a"]
    # A corrected picture changes the scenes that show it.
    corrected = signed.edit(project, {"edit": "set_pictures", "ids": ["tall"], "correction": {"exposure": 1}}).json
    assert set(corrected["marks"]) == {"b"} and corrected["marks"]["b"] != before["b"]
    found = signed.send("POST", f"/api/projects/{project}/findings", {"scenes": ["b", "gone"]}).json["findings"]
    assert [(f["scene"], f["mark"]) for f in found] == [("b", corrected["marks"]["b"])] and found[0]["photos"][0]["largest_use"] > 0
    guides = signed.edit(project, {"edit": "set_guides", "guides": [{"axis": "x", "at": 0.25}]}).json
    assert guides["guides"] == [{"axis": "x", "at": 0.25}]


def test_looks_groups_and_guides_are_kept_and_undone(signed: Signed, project: str) -> None:
    first = signed.send("GET", f"/api/projects/{project}").json["document"]
    signed.edit(project, {"edit": "add_photos", "scene": "a", "photos": [{"id": "x", "media": "tall"}]})
    signed.edit(project, {"edit": "group_layers", "id": "g", "layers": [{"scene": "a", "layer": "x"}]})
    signed.edit(project, {"edit": "share_group", "scene": "a", "layer": "g", "id": "shared"})
    signed.edit(project, {"edit": "default_look", "look": "deckle"})
    kept = signed.send("GET", f"/api/projects/{project}").json["document"]
    assert set(kept["groups"]) == {"shared"} and set(kept["looks"]) == {"deckle"} and kept["defaults"]["look"] == "deckle"
    for _ in range(4):
        signed.send("POST", f"/api/projects/{project}/undo")
    assert signed.send("GET", f"/api/projects/{project}").json["document"] == first
    for _ in range(4):
        signed.send("POST", f"/api/projects/{project}/redo")
    assert signed.send("GET", f"/api/projects/{project}").json["document"] == kept


def test_another_file_behind_a_picture_is_seen_at_once(signed: Signed, project: str, tmp_path: Path) -> None:
    path = f"/api/projects/{project}/tried-frame"
    before = posted(signed, path, {"scene": "a", "width": 160})
    Image.new("RGB", (900, 600), (200, 30, 30)).save(tmp_path / "red.png")
    record = {**signed.picture(project, tmp_path / "red.png").json["record"], "id": "wide"}
    signed.edit(project, {"edit": "replace_file", "id": "wide", "picture": record})
    after = np.asarray(posted(signed, path, {"scene": "a", "width": 160})).astype(int)
    assert np.abs(after[90 // 2, 80] - (200, 30, 30)).max() < 12 and np.abs(after - np.asarray(before)).mean() > 30
