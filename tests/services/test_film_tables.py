"""Films from a table: each row an export, whatever stops in between; what is alike in them is rendered once."""

from pathlib import Path
from typing import Any

import pytest
from sqlalchemy import Engine

from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import Conflict, InvalidTable, NotFound
from oak_lens.core.templates import bring_templates
from oak_lens.core.treatments import BUILTIN, SHELF
from oak_lens.services.film_tables import FilmTables
from oak_lens.services.placeholders import Placeholders
from oak_lens.storage.film_tables import PostgresFilmTables

from .test_exports import SETTINGS, Shop

TITLED = next(s for s in BUILTIN if s.id == "half-and-half")
ROWS = b"Title;Picture\nFor Ada;card0\nFor Bo;card0\nFor Cy;nowhere\nFor Di;\n"


class Tables(Shop):
    """A shop with a film of a title beside a picture, and two cards after it."""

    def __init__(self, engine: Engine, home: Path):
        bring_templates(SHELF)
        super().__init__(engine, home)
        edits: list[dict[str, Any]] = [
            {"edit": "remove_scenes", "ids": ["s0"]},
            {"edit": "put_on", "key": TITLED.content.key, "id": "t", "pictures": ["p0"], "before": "s1"},
            {"edit": "set_scenes", "ids": ["t-1"], "hold": 705_600_000},
        ]
        self.document = apply_edits(self.document, parse_edits(edits))
        self.tables = FilmTables(PostgresFilmTables(engine), self.exports, Placeholders(self.media).bring)

    def made(self, batch: str) -> int:
        """All films of a batch to their end; gives how many segments were rendered for it."""
        self.tables.make(batch)
        before = len(self.files("segments"))
        for _, export in self.tables.films("local", batch):
            if export.state == "waiting":
                self.exports.plan(export.id)
                self.render(export.id)
                self.exports.join(export.id)
        return len(self.files("segments")) - before


@pytest.fixture
def shop(engine: Engine, tmp_path: Path) -> Tables:
    return Tables(engine, tmp_path)


def test_each_good_row_is_a_film_and_what_is_alike_is_rendered_once(shop: Tables) -> None:
    kept = shop.tables.take(shop.project, shop.document, "people.csv", ROWS)
    assert kept.mapping["Title"].startswith("text:") and kept.mapping["Picture"].startswith("picture") and kept.pattern == "{Title}"
    batch = shop.tables.start("local", shop.project, shop.document, SETTINGS)
    assert batch.numbers == (0, 1), "a picture that is not there, and none, are faults"
    rendered = shop.made(batch.id)
    films = shop.tables.films("local", batch.id)
    assert [(n, f.state, f.file_name) for n, f in films] == [(0, "done", "For Ada.mp4"), (1, "done", "For Bo.mp4")]
    # A title and the joins at its sides are other in the second film; the two cards after it are the first one's.
    apiece = len(shop.store.segments(films[0][1].id))
    assert apiece < rendered < 2 * apiece
    assert not shop.exports.listed(shop.project), "films of a table stand by their table"
    again = shop.tables.start("local", shop.project, shop.document, SETTINGS, [1, 0, 1, 99])
    assert shop.made(again.id) == 0 and {f.state for _, f in shop.tables.films("local", again.id)} == {"done"}
    assert len(b"".join(shop.tables.bundle("local", again.id))) > sum(f.bytes for _, f in films)
    shop.tables.remove("local", again.id)
    assert [b.id for b in shop.tables.batches(shop.project)] == [batch.id]


def test_films_begun_by_a_worker_that_dies_are_begun_once(shop: Tables, monkeypatch: pytest.MonkeyPatch) -> None:
    shop.tables.take(shop.project, shop.document, "people.csv", b"Title\nA\nB\nC\n")
    batch = shop.tables.start("local", shop.project, shop.document, SETTINGS)
    begin, begun = shop.exports.start, []

    def dying(*arguments: Any) -> Any:
        if len(begun) == 2:
            raise KeyboardInterrupt
        begun.append(arguments)
        return begin(*arguments)

    monkeypatch.setattr(shop.exports, "start", dying)
    with pytest.raises(KeyboardInterrupt):
        shop.tables.make(batch.id)
    monkeypatch.undo()
    # It died before it could say that the second was begun.
    PostgresFilmTables(shop.engine).count(batch.id, 1)
    shop.tables.make(batch.id)
    shop.tables.make(batch.id)
    assert [n for n, _ in shop.tables.films("local", batch.id)] == [0, 1, 2]
    assert shop.tables.batches(shop.project)[0].state == "made"


def test_stopped_films_are_begun_no_more_and_nobody_else_s_are_touched(shop: Tables) -> None:
    shop.tables.take(shop.project, shop.document, "people.csv", b"Title\nA\nB\n")
    batch = shop.tables.start("local", shop.project, shop.document, SETTINGS)
    for deed in (shop.tables.stop, shop.tables.remove, shop.tables.films, shop.tables.bundle):
        with pytest.raises(NotFound):
            deed("somebody", batch.id)
    shop.tables.stop("local", batch.id)
    shop.tables.make(batch.id)
    assert not shop.tables.films("local", batch.id)


def test_a_table_keeps_what_was_said_of_it_and_refuses_what_is_none(shop: Tables) -> None:
    with pytest.raises(NotFound):
        shop.tables.read(shop.project)
    shop.tables.take(shop.project, shop.document, "people.csv", b"Who,Title\nAda,x\n")
    title = shop.tables.read(shop.project).mapping["Title"]
    shop.tables.change(shop.project, {"Who": title}, "{Who} {number}")
    taken = shop.tables.take(shop.project, shop.document, "more.csv", b"Title,Who,New\nx,Bo,1\n")
    assert taken.mapping == {"Who": title, "Title": "", "New": ""} and taken.pattern == "{Who} {number}"
    with pytest.raises(InvalidTable):
        shop.tables.take(shop.project, shop.document, "photo.jpg", b"\xff\xd8\x00\x00")
    assert shop.tables.read(shop.project).name == "more.csv", "the one before is still there"
    shop.tables.change(shop.project, {"Who": ""}, None)
    picture = next(t for t in ("picture:t:0:a",))
    shop.tables.change(shop.project, {"Who": picture}, None)
    with pytest.raises(Conflict):
        shop.tables.start("local", shop.project, shop.document, SETTINGS)
