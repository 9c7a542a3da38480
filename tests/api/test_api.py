"""The API: errors, guards, uploads, frames; its description and the client made from it are up to date."""

import hashlib
import io
import re
import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np
import psycopg
import pytest
from PIL import Image
from sqlalchemy import Engine, text
from sqlalchemy.exc import OperationalError

from oak_lens.api.application import create_app
from oak_lens.api.errors import STATUS
from oak_lens.core.delivery import KINDS
from oak_lens.core.joins import BUILTIN
from oak_lens.core.time import TICKS_PER_SECOND as TICKS
from oak_lens.storage.projects import PostgresProjects
from tests.conftest import ROOT

from .conftest import Signed


def test_the_descriptions_and_the_client_are_up_to_date() -> None:
    described = subprocess.run([sys.executable, "-m", "oak_lens.api.description"], check=True, capture_output=True, text=True).stdout
    assert (ROOT / "docs" / "openapi.json").read_text() == described, "run: python -m oak_lens.api.description > docs/openapi.json"
    # What it was made of stands at its end: making it anew takes longer than all other tests of the API.
    made_of = (ROOT / "web" / "src" / "api" / "schema.d.ts").read_text().rstrip().rpartition(" ")[2]
    assert made_of == hashlib.sha256(described.encode()).hexdigest(), "run: npm run client in web/"


def test_every_code_in_the_source_has_its_status() -> None:
    found = set()
    for path in (ROOT / "src").rglob("*.py"):
        found |= set(
            re.findall(r'"((?:document|edit|export|face|font|picture|project|request|package|session|sound|storage|table|template|version)\.[a-z_]+)"', path.read_text())
        )
    fields = {"export.settings", "document.value", "package.json"}
    assert found - fields <= set(STATUS), found - set(STATUS)
    assert not set(STATUS) - found, "codes that nothing raises"


def test_nobody_gets_in_without_the_key_or_from_elsewhere(app: Any) -> None:
    with app.test_client() as stranger:
        answer = stranger.get("/api/projects")
        assert answer.status_code == 401 and answer.json["faults"][0]["code"] == "session.none"
        wrong = stranger.get("/?key=wrong")
        assert wrong.status_code == 302 and "key" not in wrong.headers["Location"] and stranger.get("/api/session").status_code == 401
        assert stranger.get("/api/session", headers={"Host": "oak.example:80"}).status_code == 400


def test_browsers_stay_signed_in_over_a_restart_and_a_clock_set_back_until_they_are_ended(
    app: Any, signed: Signed, engine: Engine, database_url: str, tmp_path: Path
) -> None:
    with engine.begin() as connection:
        connection.execute(text("update sign_in set used = now() + interval '40 days', created = now() + interval '40 days'"))
    cookies = {c.key: c.value for c in signed.client._cookies.values()}  # type: ignore[attr-defined]
    restarted = create_app(database_url, tmp_path / "home", "secret", "another key", None)
    others = [restarted.test_client() for _ in range(2)]
    for client in others:
        for name, value in cookies.items():
            client.set_cookie(name, value)
    renewed = others[0].get("/api/session")
    assert renewed.status_code == 200 and "Max-Age" in renewed.headers["Set-Cookie"]
    # The key of an earlier start signs nobody in.
    stranger = restarted.test_client()
    stranger.get("/?key=key")
    assert stranger.get("/api/session").status_code == 401
    stranger.get("/?key=another key")
    assert stranger.get("/api/session").status_code == 200
    assert signed.send("POST", "/api/session/end", {"others": True}).status_code == 204
    assert signed.client.get("/api/session").status_code == 200
    assert signed.send("POST", "/api/session/end", {}).status_code == 204
    assert signed.client.get("/api/session").status_code == 401
    with engine.connect() as connection:
        assert connection.execute(text("select count(*) from sign_in where account = 'local'")).scalar() == 0
    restarted.extensions["oak"].engine.dispose()


def test_two_installations_on_one_machine_have_cookies_of_their_own(app: Any, database_url: str, tmp_path: Path) -> None:
    other = create_app(database_url, tmp_path / "other", "another secret", "key", None)
    names = set()
    for made in (app, other):
        with made.test_client() as client:
            names.add(client.get("/?key=key").headers["Set-Cookie"].partition("=")[0])
    assert len(names) == 2
    other.extensions["oak"].engine.dispose()


def test_while_the_database_is_away_answers_say_when_to_ask_again(signed: Signed, monkeypatch: pytest.MonkeyPatch) -> None:
    project = signed.project()
    for failure, status, code in (
        (OperationalError("select", {}, psycopg.errors.AdminShutdown()), 503, "storage.away"),
        (OperationalError("insert", {}, psycopg.errors.DiskFull()), 507, "storage.full"),
        (OSError(28, "No space left on device"), 507, "storage.full"),
    ):

        def failing(*_: Any, failure: Exception = failure) -> Any:
            raise failure

        monkeypatch.setattr(PostgresProjects, "read", failing)
        answer = signed.client.get(f"/api/projects/{project}")
        assert (answer.status_code, answer.json["faults"][0]["code"]) == (status, code)
        assert (answer.headers.get("Retry-After") == "1") is (status == 503)


def test_changes_need_the_sessions_token(signed: Signed) -> None:
    for headers in ({}, {"X-Oak-Token": "guess"}):
        answer = signed.client.post("/api/projects", json={"title": "x"}, headers=headers)
        assert answer.status_code == 403 and answer.json["faults"][0]["code"] == "request.token"


def test_pages_carry_a_strict_policy_with_a_fresh_nonce(signed: Signed) -> None:
    first, second = (signed.client.get("/projects/any") for _ in range(2))
    policy = first.headers["Content-Security-Policy"]
    assert "script-src 'self';" in policy and "unsafe" not in policy and first.data != second.data
    assert re.search(r"'nonce-([^']+)'", policy).group(1) in first.text  # type: ignore[union-attr]
    assert "'none'" in signed.client.get("/api/catalogue").headers["Content-Security-Policy"]


def test_a_projects_page_asks_ahead_for_its_document_and_its_scripts(signed: Signed) -> None:
    def asked(path: str) -> list[str]:
        return re.findall(r'<link rel="(?:modulepreload|preload)"[^>]* href="([^"]+)">', signed.client.get(path).text)

    document = "/api/projects/0a1b2c3d4e5f6071"
    assert asked("/projects/0a1b2c3d4e5f6071") == [document, "/assets/shell.js", "/assets/desk.js", "/assets/pieces.js"]
    assert asked("/projects/0a1b2c3d4e5f6071/fill") == [document] and asked("/") == []
    assert asked('/projects/0a"><script>') == []


@pytest.mark.parametrize(
    ("body", "status", "code"),
    [
        ({"base": 1, "edits": [{"edit": "fly"}]}, 422, "edit.unknown"),
        ({"base": 1, "edits": []}, 422, "request.value"),
        ({"base": -1, "edits": [{}]}, 422, "request.value"),
        ({"base": 1, "edits": [{"edit": "set_title", "title": "x"}], "more": 1}, 422, "request.value"),
        ({"base": 9, "edits": [{"edit": "set_title", "title": "x"}]}, 409, "edit.base"),
        ({"base": 1, "edits": [{"edit": "remove_scenes", "ids": ["gone"]}]}, 409, "edit.no_scene"),
        ("{", 422, "request.value"),
    ],
)
def test_bad_requests_are_answered_in_one_shape(signed: Signed, body: Any, status: int, code: str) -> None:
    answer = signed.send("POST", f"/api/projects/{signed.project()}/edits", body)
    assert (
        answer.status_code == status
        and answer.json["faults"][0]["code"] == code
        and set(answer.json["faults"][0]) == {"code", "path", "message"}
    )


def test_a_picture_goes_in_is_shown_and_makes_a_scene(signed: Signed, picture_folder: Path) -> None:
    project = signed.project()
    record = signed.picture(project, picture_folder / "wide.png").json["record"]
    assert (record["width"], record["height"], record["name"]) == (1500, 1000, "wide")
    answer = signed.edit(
        project,
        {"edit": "add_pictures", "pictures": [{"id": "p", **record}]},
        {"edit": "add_scenes", "scenes": [{"id": "s", "media": "p"}]},
    )
    assert answer.status_code == 200 and set(answer.json["marks"]) == {"s"} and answer.json["timeline"]["frames"] == 90
    thumb = signed.image(f"/api/projects/{project}/pictures/p/thumbnail")
    assert max(thumb.size) == 480
    frame = signed.client.get(f"/api/projects/{project}/scenes/s/frame?which=closing&width=320&key=a")
    assert Image.open(io.BytesIO(frame.data)).size == (320, 180) and "immutable" in frame.headers["Cache-Control"]
    large = np.asarray(signed.image(f"/api/projects/{project}/pictures/p/large?width=700"))
    assert large.shape[1] >= 700
    state = signed.client.get(f"/api/projects/{project}/state").json
    assert state["pictures"][0]["state"] == "waiting" and state["revision"] == 2
    poster = np.asarray(signed.image(f"/api/projects/{project}/poster?width=480"))
    assert poster.shape[:2] == (270, 480)
    # Another frame is chosen: the one that is shown there.
    assert signed.edit(project, {"edit": "set_views", "photos": [{"scene": "s", "layer": "photo"}], "closing": {"zoom": 3.0}}).status_code == 200
    assert signed.edit(project, {"edit": "set_poster", "at": answer.json["timeline"]["length"] - 1}).json["poster"]["scene"] == "s"
    chosen = np.asarray(signed.image(f"/api/projects/{project}/poster?width=480")).astype(int)
    assert np.abs(chosen - poster).mean() > 4


def test_bad_files_are_refused_one_by_one_and_leave_nothing(signed: Signed, tmp_path: Path) -> None:
    project = signed.project()
    for name, data, status in (("words.jpg", b"just words", 415), ("empty.png", b"", 422)):
        (tmp_path / name).write_bytes(data)
        answer = signed.picture(project, tmp_path / name)
        assert answer.status_code == status and answer.json["faults"][0]["message"]
    home = tmp_path / "home" / "media"
    assert not [p for p in home.rglob("*") if p.is_file()]


def test_hostile_names_stay_names(signed: Signed, picture_folder: Path) -> None:
    answer = signed.picture(signed.project(), picture_folder / "small.png", **{"X-File-Name": "..%2F..%2Fetc%2Fpass%00wd.png"})
    assert answer.status_code == 200 and "/" not in answer.json["record"]["file"]


def test_exports_are_estimated_refused_and_cancelled(signed: Signed, picture_folder: Path) -> None:
    project = signed.project("Ridge: one")
    settings = {"width": 320, "height": 180, "rate": "25", "quality": "draft"}
    assert signed.send("POST", f"/api/projects/{project}/exports", settings).json["faults"][0]["code"] == "export.empty"
    record = signed.picture(project, picture_folder / "small.png").json["record"]
    signed.edit(
        project,
        {"edit": "add_pictures", "pictures": [{"id": "p", **record}]},
        {"edit": "add_scenes", "scenes": [{"id": "s", "media": "p"}]},
    )
    estimate = signed.send("POST", f"/api/projects/{project}/exports/estimate", settings).json
    assert (estimate["frames"], estimate["file_name"]) == (75, "Ridge one.mp4") and estimate["bytes"] > 10_000
    for wrong in ({"width": 321}, {"rate": "13"}, {"quality": "finest"}, {"kind": "film"}, {"transparent": True}):
        answer = signed.send("POST", f"/api/projects/{project}/exports", {**settings, **wrong})
        assert answer.status_code == 422 and answer.json["faults"][0]["path"] == next(iter(wrong))
    job = signed.send("POST", f"/api/projects/{project}/exports", settings).json
    assert job["state"] == "waiting" and signed.client.get(f"/api/exports/{job['id']}/film").status_code == 404
    assert signed.send("POST", f"/api/exports/{job['id']}/cancel").status_code == 204
    assert signed.client.get(f"/api/projects/{project}/exports").json["exports"][0]["state"] == "cancelled"
    assert (
        signed.send("DELETE", f"/api/exports/{job['id']}").status_code == 204
        and not signed.client.get(f"/api/projects/{project}/exports").json["exports"]
    )


def test_what_is_not_there_is_said_to_be_not_there(signed: Signed) -> None:
    for path in ("/api/projects/none", "/api/nothing", "/api/exports/none/film"):
        answer = signed.client.get(path)
        assert answer.status_code == 404 and answer.json["faults"][0]["message"].endswith(".")


def test_undo_redo_versions_and_bringing_back_by_the_api(signed: Signed) -> None:
    project = signed.project("First")
    at = f"/api/projects/{project}"
    assert signed.send("POST", f"{at}/undo").json["faults"][0]["code"] == "edit.nothing"
    version = signed.send("POST", f"{at}/versions", {"name": "The beginning"}).json
    renamed = signed.edit(project, {"edit": "set_title", "title": "Second"}).json
    assert (renamed["title"], renamed["undo"], renamed["redo"]) == ("Second", "Rename the project", None)
    undone = signed.send("POST", f"{at}/undo").json
    assert (undone["title"], undone["undo"], undone["redo"]) == ("First", None, "Rename the project")
    assert signed.send("POST", f"{at}/redo").json["title"] == "Second"
    assert [v["name"] for v in signed.client.get(f"{at}/versions").json["versions"]] == ["The beginning"]
    assert signed.send("POST", f"{at}/versions/{version['id']}/return").json["title"] == "First"
    assert signed.send("POST", f"{at}/versions/none/return").status_code == 404
    assert signed.client.get(f"{at}/versions/{version['id']}/frame?scene=unknown").json["faults"][0]["code"] == "version.no_scene"
    assert signed.send("DELETE", at).status_code == 204 and signed.client.get(at).status_code == 404
    assert signed.send("POST", f"{at}/bring-back").status_code == 204 and signed.client.get(at).json["document"]["title"] == "First"


def test_an_edit_answers_with_what_changed_and_no_more(signed: Signed, picture_folder: Path) -> None:
    project = signed.project()
    record = signed.picture(project, picture_folder / "small.png").json["record"]
    pictures = {"edit": "add_pictures", "pictures": [{"id": f"p{i}", **record} for i in range(6)]}
    scenes = {"edit": "add_scenes", "scenes": [{"id": f"s{i}", "media": f"p{i}"} for i in range(6)]}
    assert signed.edit(project, pictures, scenes).status_code == 200
    answer = signed.edit(project, {"edit": "set_scenes", "ids": ["s3"], "name": "Fourth"}).json
    assert set(answer["scenes"]) == {"s3"} and not answer["media"] and answer["frame"] is None
    # A name is seen in no frame.
    assert answer["marks"] == {}
    cut = signed.edit(project, {"edit": "set_scenes", "ids": ["s3"], "join": {"kind": "cut"}}).json
    assert set(cut["marks"]) == {"s2", "s3"}
    everything = signed.edit(project, {"edit": "set_frame", "width": 1080, "height": 1080}).json
    assert len(everything["marks"]) == 6 and everything["frame"]["width"] == 1080
    # What was read, brought up to date by the answers, is what is read anew: scenes that are gone too.
    named = 'Quotes " and \\ and a flake \u2744'
    known = signed.client.get(f"/api/projects/{project}").json["document"]["scenes"]
    for step in ({"edit": "set_scenes", "ids": ["s0"], "name": named}, {"edit": "remove_scenes", "ids": ["s1"]}):
        known |= signed.edit(project, step).json["scenes"]
    assert known["s0"]["name"] == named and known.pop("s1") is None
    read = signed.client.get(f"/api/projects/{project}").json
    stored = PostgresProjects(signed.client.application.extensions["oak"].engine).read(project)[1]
    assert read["document"] == stored.model_dump(mode="json", by_alias=True) and read["document"]["scenes"] == known


def test_the_catalogue_lists_what_the_core_knows(signed: Signed) -> None:
    found = signed.client.get("/api/catalogue").json
    assert [j["id"] for j in found["joins"]] == [j.id for j in BUILTIN] and len(BUILTIN) >= 18 and len(found["rates"]) == 10
    assert [k["id"] for k in found["kinds"]] == [k.id for k in KINDS] and found["kinds"][0]["uses"] == ["quality"]
    assert {u for j in found["joins"] for u in j["uses"]} <= {p["id"] for p in found["join_settings"]}
    assert [p["id"] for p in found["look_parts"]] == ["mount", "shadow", "backdrop", "correction"] and [
        p["id"] for p in found["drawn_parts"]
    ] == ["form", "mask"]
    assert len(found["looks"]) >= 10 and len(found["layouts"]) >= 8 and len(found["blends"]) == 16
    assert set(found["edit_labels"]) >= {"add_pictures", "set_views", "drag_view", "move_scenes"}


def test_the_page_types_no_range_and_names_only_controls_there_are(signed: Signed) -> None:
    known = {c["id"]: c for c in signed.client.get("/api/catalogue").json["controls"]}
    sources = {p: p.read_text() for p in (ROOT / "web" / "src" / "features").rglob("*.tsx")}
    used = {name for source in sources.values() for name in re.findall(r"control\('([a-z_.]+)'\)", source)}
    families = {name for source in sources.values() for name in re.findall(r"control\(`([a-z]+)\.\$\{", source)}
    assert used <= set(known) and {name for name in known if name.split(".")[0] not in families} <= used, used ^ set(known)
    for path, source in sources.items():
        assert not re.search(r"(minimum|maximum|low|high|step)=\{-?[0-9]", source), f"{path.name} types a range"
    for control in known.values():
        low, high = control["usual"] or (control["minimum"], control["maximum"])
        assert control["minimum"] <= low < high <= control["maximum"], control["id"]


def test_answers_say_what_applies_where_something_is_inherited(signed: Signed, tmp_path: Path) -> None:
    """Put together from the answers of edits, it is what the whole project says."""
    project = signed.project()
    path = tmp_path / "card.png"
    Image.new("RGB", (60, 40), "#204060").save(path)
    record = signed.picture(project, path).json["record"]
    known: dict[str, Any] = {}

    def expanded(told: dict[str, Any]) -> dict[str, Any]:
        return {k: {n: told["values"][i] for n, i in found.items()} for k, found in (*told["scenes"].items(), *told["layers"].items())}

    ref = {"scene": "a", "layer": "photo"}
    for edits in (
        [{"edit": "add_pictures", "pictures": [{**record, "id": "p"}]}, {"edit": "add_scenes", "scenes": [{"id": i, "media": "p"} for i in "abc"]}],
        [{"edit": "set_scenes", "ids": ["b"], "hold": 7 * TICKS}],
        [{"edit": "set_defaults", "hold": 2 * TICKS, "mount": {"border": 0.07}, "shutter": 90}],
        [{"edit": "use_look", "look": "instant-card", "photos": [ref]}],
        [{"edit": "set_look", "id": "instant-card", "backdrop": {"kind": "colour"}, "shadow": {"opacity": 0.1}}],
        [{"edit": "set_layers", "layers": [ref], "fit": "whole", "shadow": {"opacity": 0.9}}],
        [{"edit": "group_layers", "layers": [ref], "id": "g"}, {"edit": "share_group", "scene": "a", "layer": "g", "id": "both"}],
        [{"edit": "default_look", "look": "gallery"}],
    ):
        answer = signed.edit(project, *edits)
        assert answer.status_code == 200, answer.json
        known |= expanded(answer.json["applied"])
        whole = expanded(signed.client.get(f"/api/projects/{project}").json["applied"])
        assert {k: known[k] for k in whole} == whole
    assert known["b"]["hold"] == 7 * TICKS and known["c"]["hold"] == 2 * TICKS and known["both/photo"]["shadow"]["opacity"] == 0.9
    assert known["both/photo"]["fit"] == "whole"
