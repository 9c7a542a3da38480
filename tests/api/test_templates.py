"""The library over HTTP: saved, listed, downloaded, opened elsewhere, refused when damaged, removed; films that use one stay as they are."""

import io
import secrets
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import av
import pytest
from PIL import Image
from sqlalchemy import Engine, text

from oak_lens.api.application import create_app
from oak_lens.core.templates import bring_templates
from oak_lens.core.treatments import BUILTIN, SHELF
from oak_lens.storage.database import engine_for, ensure_account, migrate

from .conftest import Signed


@pytest.fixture(autouse=True)
def _as_before():  # type: ignore[no-untyped-def]
    yield
    bring_templates(SHELF)


def made(signed: Signed, picture_folder: Path) -> str:
    """A project with a template of one photo on a sheet of paper that travels with it."""
    project = signed.project()
    paper = signed.picture(project, picture_folder / "square.png").json["record"]
    photo = signed.picture(project, picture_folder / "small.png").json["record"]
    signed.edit(
        project,
        {"edit": "add_pictures", "pictures": [{**paper, "id": "paper"}, {**photo, "id": "p"}]},
        {"edit": "add_scenes", "scenes": [{"id": "s", "media": "p"}]},
        {"edit": "set_scenes", "ids": ["s"], "backdrop": {"kind": "picture", "media": "paper"}},
        {"edit": "make_template", "id": "mine", "name": "Ours", "scenes": ["s"]},
    )
    return project


@pytest.fixture
def fresh_database(engine: Engine, database_url: str) -> Iterator[str]:
    """Another database of the same server, as a new installation has it."""
    name = f"fresh_{secrets.token_hex(4)}"
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        connection.execute(text(f"CREATE DATABASE {name}"))
    url = database_url.rsplit("/", 1)[0] + f"/{name}"
    own_engine = engine_for(url)
    migrate(own_engine)
    ensure_account(own_engine, "local", "You")
    own_engine.dispose()
    yield url
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        connection.execute(text(f"DROP DATABASE {name} WITH (FORCE)"))


def twelve(signed: Signed, key: str, folder: Path) -> tuple[str, list[bytes]]:
    """A project in which a template is put on twelve photos and its dial turned, and the frames of its scenes."""
    film = signed.project("Twelve")
    records = [signed.picture(film, folder / f"{name}.png").json["record"] for name in ("wide", "tall", "small", "panorama")]
    photos = [{**records[n % 4], "id": f"own-{n}", "name": f"Photo {n}"} for n in range(12)]
    put = {"edit": "put_on", "key": key, "id": "u", "pictures": [p["id"] for p in photos]}
    assert signed.edit(film, {"edit": "add_pictures", "pictures": photos}, put).status_code == 200
    assert signed.edit(film, {"edit": "turn_dials", "scenes": ["u-1"], "dials": {"d": 0.2}}).status_code == 200
    frames = []
    for n in range(12):
        with signed.client.get(f"/api/projects/{film}/scenes/u-{n + 1}/frame?which=closing&width=160") as answer:
            frames.append(answer.data)
    return film, frames


def own(signed: Signed) -> list[dict[str, Any]]:
    return [t for t in signed.client.get("/api/templates").json["templates"] if t["source"] != "shipped"]  # type: ignore[index]


def test_a_template_is_saved_travels_as_a_file_and_is_put_on_elsewhere(signed: Signed, picture_folder: Path, fresh_database: str, tmp_path: Path) -> None:
    assert len(signed.client.get("/api/templates").json["templates"]) == len(BUILTIN)  # type: ignore[index]
    project = made(signed, picture_folder)
    saved = signed.send("POST", f"/api/projects/{project}/templates", {"template": "mine"}).json
    assert (saved["name"], saved["version"], saved["pictures"], saved["source"]) == ("Ours", "1.0.0", 1, "made")
    # Saved again as it is, it is the same; changed, it is the next version, and that one is listed.
    assert signed.send("POST", f"/api/projects/{project}/templates", {"template": "mine"}).json["kept"] == saved["kept"]
    signed.edit(project, {"edit": "set_zone", "template": "mine", "zone": "z1", "name": "Portrait"})
    assert signed.send("POST", f"/api/projects/{project}/templates", {"template": "mine"}).json["version"] == "1.0.1"
    signed.edit(project, {"edit": "make_dial", "template": "mine", "id": "d", "values": [{"scene": "s", "property": "backdrop.blur"}]})
    newest = signed.send("POST", f"/api/projects/{project}/templates", {"template": "mine"}).json
    assert newest["version"] == "1.1.0" and [t["version"] for t in own(signed)] == ["1.1.0"]
    signed.send("PUT", f"/api/templates/favourites/{newest['id']}", {"on": True})
    assert own(signed)[0]["favourite"]
    with signed.client.get(f"/api/templates/{newest['kept']}/file") as answer:
        file = answer.data
        with zipfile.ZipFile(io.BytesIO(file)) as parts:
            with av.open(io.BytesIO(parts.read("preview.mp4"))) as preview:
                assert sum(1 for _ in preview.decode(video=0)) == round(newest["length"] * 24)
            assert "1. Portrait: picture" in parts.read("notes.md").decode()
        assert "Ours 1.1.0.oaktemplate" in answer.headers["Content-Disposition"]

    _, here = twelve(signed, newest["key"], picture_folder)

    # Another installation, with nothing of it: the file is opened, and its template put on.
    signed.send("DELETE", f"/api/templates/{newest['kept']}")
    other = create_app(fresh_database, tmp_path / "other", "another secret", "key", None)
    with other.test_client() as client:
        elsewhere = Signed(client)
        opened = elsewhere.send("POST", "/api/templates", data=file)
        assert opened.status_code == 200 and opened.json["key"] == newest["key"] and opened.json["source"] == "opened"
        assert elsewhere.send("POST", "/api/templates", data=file).json["kept"] == opened.json["kept"], "opened twice it is there once"
        # Its file lost, it comes back by being opened once more.
        (next((tmp_path / "other" / "templates").rglob("*.oaktemplate"))).unlink()
        assert elsewhere.send("POST", "/api/templates", data=file).json["kept"] == opened.json["kept"]
        # Put on twelve photos there and here, its dial turned: the same frames.
        film, there = twelve(elsewhere, newest["key"], picture_folder)
        assert there == here and len({*there}) == 4 and Image.open(io.BytesIO(there[0])).size == (160, 90)
        # Out of the library, the film stays as it is; it can be edited, undone and redone.
        assert elsewhere.send("DELETE", f"/api/templates/{opened.json['kept']}").status_code == 204
        assert elsewhere.send("POST", f"/api/projects/{film}/undo").status_code == 200 and elsewhere.send("POST", f"/api/projects/{film}/redo").status_code == 200
        assert "u-1" in elsewhere.client.get(f"/api/projects/{film}").json["document"]["scenes"]  # type: ignore[index]
    other.extensions["oak"].engine.dispose()


def test_newer_versions_are_offered_and_taken_over_in_one_film_or_in_all(signed: Signed, picture_folder: Path) -> None:
    project = made(signed, picture_folder)
    first = signed.send("POST", f"/api/projects/{project}/templates", {"template": "mine"}).json
    films = []
    for title in ("One", "Two", "Three"):
        film = signed.project(title)
        photo = signed.picture(film, picture_folder / "wide.png").json["record"]
        signed.edit(film, {"edit": "add_pictures", "pictures": [{**photo, "id": "own"}]}, {"edit": "put_on", "key": first["key"], "id": "u", "pictures": ["own"]})
        films.append(film)
    offers = lambda film: signed.client.get(f"/api/projects/{film}/templates/offers").json["offers"]  # type: ignore[index]  # noqa: E731
    used = lambda: {(u["title"], u["version"]) for u in signed.client.get("/api/templates/used").json["used"] if u["project"] in films}  # type: ignore[index]  # noqa: E731
    assert offers(films[0]) == [] and used() == {(t, "1.0.0") for t in ("One", "Two", "Three")}
    signed.edit(project, {"edit": "set_layers", "layers": [{"scene": "s", "layer": "photo"}], "mount": {"border": 0.05}})
    second = signed.send("POST", f"/api/projects/{project}/templates", {"template": "mine"}).json
    (offer,) = offers(films[0])
    assert (offer["version"], offer["newest"], offer["key"]) == ("1.0.0", "1.0.1", second["key"])
    signed.edit(films[0], {"edit": "take_version", "template": offer["record"], "key": offer["key"]})
    signed.send("DELETE", f"/api/projects/{films[2]}")
    assert signed.send("POST", f"/api/templates/{second['id']}/everywhere").json["films"] == 1
    assert used() == {("One", "1.0.1"), ("Two", "1.0.1")} and offers(films[1]) == []
    border = lambda film: signed.client.get(f"/api/projects/{film}").json["document"]["scenes"]["u-1"]["layers"]["photo"]["mount"]["border"]  # type: ignore[index]  # noqa: E731
    assert border(films[1]) == 0.05
    assert signed.send("POST", f"/api/projects/{films[1]}/undo").status_code == 200 and border(films[1]) != 0.05
    assert signed.send("POST", "/api/templates/nothing/everywhere").status_code == 404


def test_a_film_is_begun_from_a_template_and_what_it_looks_like_is_seen_before(signed: Signed, picture_folder: Path) -> None:
    film = next(t for t in signed.client.get("/api/templates").json["templates"] if t["id"] == "what-changed")  # type: ignore[index]
    poster = signed.image(f"/api/templates/{film['key']}/poster")
    assert poster.size == (960, 540) and signed.client.get(f"/api/templates/{'0' * 64}/poster").status_code == 404
    project = signed.send("POST", "/api/projects", {"title": "Begun", "edits": [{"edit": "put_on", "key": film["key"], "id": "u"}]}).json["id"]
    photo = signed.picture(project, picture_folder / "wide.png").json["record"]
    assert signed.edit(project, {"edit": "add_pictures", "pictures": [{**photo, "id": "p"}]}, {"edit": "pour_pictures", "pictures": ["p"], "id": "more"}).status_code == 200
    document = signed.client.get(f"/api/projects/{project}").json["document"]  # type: ignore[index]
    opening = min(document["scenes"], key=lambda k: document["scenes"][k]["order"])
    outlines = signed.client.get(f"/api/projects/{project}/scenes/{opening}/outlines?share=0.7").json["outlines"]  # type: ignore[index]
    assert {o["layer"] for o in outlines} >= {"a", "title", "line"} and all(len(o["corners"]) == 4 for o in outlines)
    assert document["scenes"][opening]["layers"]["a"]["media"] == "p"
    assert signed.client.get(f"/api/projects/{project}/scenes/none/outlines").status_code == 409


def test_a_damaged_file_is_refused_with_a_sentence_and_nothing_of_it_is_kept(signed: Signed, picture_folder: Path, tmp_path: Path) -> None:
    project = made(signed, picture_folder)
    saved = signed.send("POST", f"/api/projects/{project}/templates", {"template": "mine"}).json
    with signed.client.get(f"/api/templates/{saved['kept']}/file") as answer:
        file = answer.data
    signed.send("DELETE", f"/api/templates/{saved['kept']}")
    before = own(signed)
    for data in (file[: len(file) // 2], b"no package", file[:-9000] + bytes([file[-9000] ^ 1]) + file[-8999:]):
        refused = signed.send("POST", "/api/templates", data=data)
        assert refused.status_code == 422 and refused.json["faults"][0]["message"].endswith("Nothing was kept.")
    assert own(signed) == before and not list((tmp_path / "home" / "media" / "incoming").iterdir())
    assert signed.send("POST", f"/api/projects/{project}/templates", {"template": "gone"}).status_code == 404
    # One whose file is lost is told so, and saved again it is another version.
    again = signed.send("POST", f"/api/projects/{project}/templates", {"template": "mine"}).json
    for lost in (tmp_path / "home" / "templates").rglob(f"{again['key']}.oaktemplate"):
        lost.unlink()
    missing = signed.client.get(f"/api/templates/{again['key']}/poster")
    assert missing.status_code == 409 and "missing on this machine" in missing.json["faults"][0]["message"]  # type: ignore[index]
    assert signed.send("POST", f"/api/projects/{project}/templates", {"template": "mine"}).json["version"] == "2.0.0"
    assert signed.client.get("/api/templates/gone/file").status_code == 404 and signed.send("DELETE", "/api/templates/gone").status_code == 404
