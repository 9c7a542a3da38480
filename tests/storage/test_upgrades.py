"""Projects stored by every earlier version, with their history: read, edited, undone and redone after an upgrade."""

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import psycopg
import pytest
from alembic import command
from sqlalchemy import Engine, text

from oak_lens.core.document import SCHEMA_VERSION, dump_document, parse_document
from oak_lens.core.errors import InvalidDocument
from oak_lens.media.blobs import FolderBlobs
from oak_lens.services.projects import Projects
from oak_lens.storage.database import NewerDatabase, alembic_config, engine_for, ensure_account, migrate
from oak_lens.storage.exports import PostgresExports
from oak_lens.storage.projects import PostgresProjects

STORED = Path(__file__).parent / "stored"
VERSIONS = range(1, SCHEMA_VERSION)


@pytest.fixture(scope="module")
def upgraded(database_url: str) -> Iterator[Engine]:
    """A database as the first tables were, with one project of every schema in it, brought to today's tables."""
    with psycopg.connect(database_url, autocommit=True) as connection:
        connection.execute("create database upgraded")
    engine = engine_for(database_url.rsplit("/", 1)[0] + "/upgraded")
    config = alembic_config()
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0001")
    ensure_account(engine, "local", "You")
    for version in VERSIONS:
        _store(engine, json.loads((STORED / f"schema-{version}.json").read_text()))
    migrate(engine)
    yield engine
    engine.dispose()


def _store(engine: Engine, stored: dict[str, Any]) -> None:
    project = f"p{stored['schema']}"
    with engine.begin() as connection:

        def insert(statement: str, **values: Any) -> None:
            connection.execute(text(statement), {k: json.dumps(v) if isinstance(v, dict) else v for k, v in values.items()})

        insert(
            "insert into project (id, owner, title, revision, head, created, updated) values (:id, 'local', :title, :r, :head, now(), now())",
            id=project, title=stored["head"]["title"], r=len(stored["steps"]) + 1, head=stored["head"],
        )  # fmt: skip
        for table, records in (("scene", stored["scenes"]), ("media", stored["media"])):
            for key, body in records.items():
                insert(f"insert into {table} (project, id, body) values (:p, :id, :body)", p=project, id=key, body=body)
        for number, step in enumerate(stored["steps"]):
            insert(
                """insert into edit (project, label, author, at, revision, undone, forward, inverse)
                values (:p, :label, 'local', now(), :r, :undone, :forward, :inverse)""",
                p=project, r=number + 2, **step,
            )  # fmt: skip
        insert(
            """insert into export (id, project, owner, file_name, state, settings, document, segments, done_segments, message, bytes, created)
            values (:id, :p, 'local', 'film.mp4', 'done', '{}', :document, '[]', 0, '', 0, now())""",
            id=f"e{stored['schema']}", p=project, document=documents_of(stored)[0],
        )  # fmt: skip


def documents_of(stored: dict[str, Any]) -> list[dict[str, Any]]:
    """The document after each number of steps, from none to all, as its own version had it."""
    whole = {**stored["head"], "schema": stored["schema"], "scenes": stored["scenes"], "media": stored["media"]}

    def with_change(document: dict[str, Any], change: dict[str, Any]) -> dict[str, Any]:
        after = {**document, **{k: v for k, v in change.items() if k not in ("scenes", "media") and v is not None}}
        for name in ("scenes", "media"):
            after[name] = {k: v for k, v in {**document[name], **(change.get(name) or {})}.items() if v is not None}
        return after

    made = [whole]
    for step in reversed(stored["steps"][:-1]):
        made.insert(0, with_change(made[0], step["inverse"]))
    return [*made, with_change(whole, stored["steps"][-1]["forward"])]


@pytest.mark.parametrize("version", VERSIONS)
def test_a_project_of_an_older_version_is_edited_at_its_head_read_undone_and_redone(upgraded: Engine, version: int) -> None:
    stored = json.loads((STORED / f"schema-{version}.json").read_text())
    wanted = [dump_document(parse_document(data)) for data in documents_of(stored)]
    here = lambda: Projects(PostgresProjects(upgraded))  # noqa: E731  (as another process: nothing is remembered)
    project, steps = f"p{version}", len(stored["steps"])
    assert {**dump_document(here().read("local", project)[1])} == wanted[steps - 1]
    # Undo and redo before anything else is changed: what was undone by the older version is done by this one.
    assert dump_document(here().redo("local", project).document) == wanted[steps]
    for done in range(steps - 1, -1, -1):
        assert dump_document(here().undo("local", project).document) == wanted[done]
    for done in range(1, steps):
        assert dump_document(here().redo("local", project).document) == wanted[done]
    head = here().read("local", project)[0]
    here().edit("local", project, head.revision, [{"edit": "set_title", "title": "Edited at the head"}])
    read = here().read("local", project)[1]
    assert read.title == "Edited at the head" and dump_document(read)["scenes"] == wanted[steps - 1]["scenes"]
    with upgraded.connect() as connection:
        for table in ("project where id = :p", "scene where project = :p", "media where project = :p"):
            versions = connection.execute(text(f"select distinct schema_version from {table}"), {"p": project}).scalars().all()
            assert set(versions) <= {SCHEMA_VERSION}
    assert dump_document(here().undo("local", project).document) == wanted[steps - 1]
    assert dump_document(here().undo("local", project).document) == wanted[steps - 2]


@pytest.mark.parametrize("version", VERSIONS)
def test_what_an_older_version_exported_can_be_rendered_again(upgraded: Engine, version: int, tmp_path: Path) -> None:
    document = PostgresExports(upgraded, FolderBlobs(tmp_path)).document(f"e{version}")
    stored = json.loads((STORED / f"schema-{version}.json").read_text())
    assert dump_document(document) == dump_document(parse_document(documents_of(stored)[0]))


def test_a_head_edited_by_the_version_before_hides_no_older_scene(upgraded: Engine) -> None:
    """What that version left behind: a head marked as the newest above scenes of schema 3."""
    stored = json.loads((STORED / "schema-3.json").read_text())
    _, *rest = stored["steps"]
    with upgraded.begin() as connection:
        connection.execute(text("insert into project select 'half', owner, title, revision, :h, created, updated, deleted, 1, 0, 0, '', 0, 0, '', null from project where id = 'p3'"),
                           {"h": json.dumps({**stored["head"], "schema": 4})})  # fmt: skip
        pushed = rest[0]["forward"]["scenes"]["s2"]
        connection.execute(text("insert into scene values ('half', 's2', :b, 1)"), {"b": json.dumps(pushed)})
        for key, body in stored["media"].items():
            connection.execute(text("insert into media values ('half', :k, :b, 1)"), {"k": key, "b": json.dumps(body)})
    projects = Projects(PostgresProjects(upgraded))
    join = projects.read("local", "half")[1].scenes["s2"].join
    assert join is not None and (join.kind, join.direction) == ("push", "left")


def test_photos_that_a_change_of_frame_had_made_smaller_fill_it_again(upgraded: Engine) -> None:
    stored = json.loads((STORED / "schema-4.json").read_text())
    assert stored["scenes"]["s1"]["layers"]["photo"]["placement"]["size"] < 0.6
    photo = parse_document(documents_of(stored)[-2]).scenes["s1"].layers["photo"]
    assert (photo.placement.size, photo.placement.x, photo.placement.y) == (1.0, 0.0, 0.0)
    # A size that somebody chose is left as it is.
    stored["scenes"]["s1"]["layers"]["photo"]["placement"]["size"] = 0.57
    assert parse_document(documents_of(stored)[-2]).scenes["s1"].layers["photo"].placement.size == 0.57


def test_a_project_that_cannot_be_read_is_shown_as_such_and_hurts_no_other(upgraded: Engine) -> None:
    store = PostgresProjects(upgraded)
    projects = Projects(store)
    documents = [parse_document(documents_of(json.loads((STORED / f"schema-{v}.json").read_text()))[0]) for v in (3, 4)]
    whole, broken, newer = (store.create("local", d).id for d in (*documents, documents[0]))
    with upgraded.begin() as connection:
        connection.execute(text("update scene set body = '{\"order\": 7}' where project = :p and id = 's1'"), {"p": broken})
        connection.execute(text("update project set revision = 9, schema_version = 99, length = null where id = :p"), {"p": newer})
    with pytest.raises(InvalidDocument):
        Projects(PostgresProjects(upgraded)).read("local", broken)
    heads = {head.id: head for head in Projects(PostgresProjects(upgraded)).listed("local")}
    assert heads[whole].fault == "" and heads[broken].fault and "newer" in heads[newer].fault
    assert (heads[whole].width, heads[whole].scenes, heads[whole].pictures) == (1920, 2, 2) and heads[whole].length > 0
    # What could not be read is tried again: it may have been mended, or be readable to a newer version.
    with upgraded.begin() as connection:
        sound = json.dumps(dump_document(documents[1])["scenes"]["s1"])
        connection.execute(text("update scene set body = :b where project = :p and id = 's1'"), {"b": sound, "p": broken})
    assert {head.id: head.fault for head in Projects(PostgresProjects(upgraded)).listed("local")}[broken] == ""
    projects.delete("local", broken)
    assert broken not in {head.id for head in projects.listed("local")}


def test_a_database_of_a_newer_version_is_refused_with_a_sentence(upgraded: Engine) -> None:
    with upgraded.begin() as connection:
        connection.execute(text("update alembic_version set version_num = '9999'"))
    with pytest.raises(NewerDatabase, match="newer Oak Lens"):
        migrate(upgraded)
