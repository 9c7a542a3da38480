"""Projects in the database: nothing accepted is lost, undo outlives everything, two windows never overwrite each other."""

import threading
from typing import Any

import pytest
from sqlalchemy import Engine, text

from oak_lens.core.document import dump_document
from oak_lens.core.errors import Conflict, InvalidEdit, NotFound
from oak_lens.services.projects import Projects
from oak_lens.storage.projects import PostgresProjects
from tests.conftest import SHAPES, made_document

TITLES = [{"edit": "set_title", "title": f"Title {i}"} for i in range(3)]


def made(engine: Engine) -> tuple[Projects, str]:
    store = PostgresProjects(engine)
    return Projects(store), store.create("local", made_document()).id


def hold(scene: str, seconds: int) -> list[dict[str, Any]]:
    return [{"edit": "set_scenes", "ids": [scene], "hold": seconds * 705_600_000}]


def test_what_is_stored_is_what_is_read_by_another_process(engine: Engine) -> None:
    projects, project = made(engine)
    edited = projects.edit("local", project, 1, [*TITLES, {"edit": "remove_scenes", "ids": ["s-tall"]}, *hold("s-wide", 5)])
    _, fresh = PostgresProjects(engine).read(project)
    assert dump_document(fresh) == dump_document(edited.document) and edited.revision == 2 and len(fresh.scenes) == len(SHAPES) - 1


def test_undo_and_redo_outlive_a_restart(engine: Engine) -> None:
    projects, project = made(engine)
    states = [projects.read("local", project)[1]]
    for i, edit in enumerate(TITLES):
        states.append(projects.edit("local", project, i + 1, [edit]).document)
    for i in (2, 1, 0):
        assert Projects(PostgresProjects(engine)).undo("local", project).document == states[i]
    with pytest.raises(InvalidEdit):
        projects.undo("local", project)
    assert Projects(PostgresProjects(engine)).redo("local", project).document == states[1]
    branch = projects.edit("local", project, projects.read("local", project)[0].revision, hold("s-tall", 9))
    assert branch.redo is None and branch.undo == "Change scenes"
    with pytest.raises(InvalidEdit):
        projects.redo("local", project)


def test_two_windows_merge_what_differs_and_refuse_what_collides(engine: Engine) -> None:
    projects, project = made(engine)
    projects.edit("local", project, 1, hold("s-wide", 5))
    merged = projects.edit("local", project, 1, hold("s-tall", 6))
    assert {s: merged.document.scenes[s].hold for s in ("s-wide", "s-tall")} == {"s-wide": 5 * 705_600_000, "s-tall": 6 * 705_600_000}
    with pytest.raises(Conflict):
        projects.edit("local", project, 1, hold("s-wide", 7))
    assert projects.read("local", project)[0].revision == 3


def test_many_writers_at_once_lose_no_accepted_edit(engine: Engine) -> None:
    _, project = made(engine)
    accepted: list[str] = []

    def write(scene: str) -> None:
        projects = Projects(PostgresProjects(engine))
        for seconds in range(1, 6):
            projects.edit("local", project, 1, hold(scene, seconds)) if seconds == 1 else projects.edit(
                "local", project, projects.read("local", project)[0].revision, hold(scene, seconds)
            )
            accepted.append(scene)

    threads = [threading.Thread(target=write, args=(f"s-{name}",)) for name in SHAPES]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    head, document = PostgresProjects(engine).read(project)
    assert len(accepted) == 25 and head.revision == 26 and {s.hold for s in document.scenes.values()} == {5 * 705_600_000}


def test_what_is_asked_for_twice_is_done_once(engine: Engine) -> None:
    """No answer arrives, and the page asks again: as the same request it was."""
    projects, project = made(engine)
    again = Projects(PostgresProjects(engine))
    nudge = [{"edit": "nudge_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "by": [0.1, 0.0]}]
    first = projects.edit("local", project, 1, nudge, "one")
    for repeated in (projects, again):
        second = repeated.edit("local", project, 1, nudge, "one")
        assert (second.revision, second.document) == (first.revision, first.document)
        assert second.change.scenes == first.change.scenes and second.undo == first.undo
    projects.edit("local", project, 2, hold("s-tall", 9), "two")
    undone = projects.undo("local", project, "three")
    assert again.undo("local", project, "three").document == undone.document == first.document
    redone = again.redo("local", project, "four")
    assert projects.redo("local", project, "four").revision == redone.revision == 5
    # A scene that a step took away is told to be gone when it is asked for again.
    projects.edit("local", project, 5, [{"edit": "remove_scenes", "ids": ["s-small"]}], "five")
    assert again.edit("local", project, 5, [{"edit": "remove_scenes", "ids": ["s-small"]}], "five").change.scenes == {"s-small": None}


def test_a_refused_edit_leaves_nothing_behind(engine: Engine) -> None:
    projects, project = made(engine)
    with pytest.raises(InvalidEdit):
        projects.edit("local", project, 1, [*hold("s-wide", 5), {"edit": "remove_scenes", "ids": ["gone"]}])
    head, document = PostgresProjects(engine).read(project)
    assert head.revision == 1 and document == made_document()


def test_other_peoples_projects_do_not_exist(engine: Engine) -> None:
    projects, project = made(engine)
    for call in (
        lambda: projects.read("somebody", project),
        lambda: projects.edit("somebody", project, 1, TITLES),
        lambda: projects.undo("somebody", project),
        lambda: projects.delete("somebody", project),
        lambda: projects.copy("somebody", project),
        lambda: projects.versions("somebody", project),
    ):
        with pytest.raises(NotFound):
            call()
    assert project not in {h.id for h in projects.listed("somebody")}


def test_deleting_can_be_taken_back_and_copies_stand_alone(engine: Engine) -> None:
    projects, project = made(engine)
    copy = projects.copy("local", project)
    projects.delete("local", project)
    assert project not in {h.id for h in projects.listed("local")}
    with pytest.raises(NotFound):
        projects.read("local", project)
    projects.bring_back("local", project)
    assert (
        projects.read("local", copy.id)[1].title == "Untitled film (copy)" and projects.read("local", project)[1].title == "Untitled film"
    )


def test_returning_to_a_named_version_is_one_step(engine: Engine) -> None:
    projects, project = made(engine)
    version = projects.name_version("local", project, "Before")
    changed = projects.edit("local", project, 1, [{"edit": "remove_scenes", "ids": [f"s-{n}" for n in SHAPES]}]).document
    assert projects.return_to_version("local", project, version.id).document == made_document()
    assert projects.undo("local", project).document == changed


def test_migrations_make_what_the_tables_say(engine: Engine) -> None:
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext
    from sqlmodel import SQLModel

    with engine.connect() as connection:
        context = MigrationContext.configure(
            connection, opts={"include_name": lambda name, *_: not (name or "").startswith("procrastinate_")}
        )
        assert compare_metadata(context, SQLModel.metadata) == []
        assert connection.execute(text("select count(*) from procrastinate_jobs")).scalar() is not None
