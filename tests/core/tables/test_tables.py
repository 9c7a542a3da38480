"""Tables: read however people save them, their columns matched by name, a film a row, and what is wrong with a row said before anything is made."""

import csv
import io
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.document import Document, photos_of
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidTable
from oak_lens.core.tables import Films, faulty_rows, matched, read_table, targets_of
from oak_lens.core.templates import film_dials, film_zones
from oak_lens.core.treatments import BUILTIN
from tests.conftest import SHAPES, made_document

TITLED = next(s for s in BUILTIN if s.id == "wall-text")
BODY = next(s for s in BUILTIN if s.id == "dealt-prints")


def film() -> Document:
    """A title and prints, the pictures on the contact sheet; three of them in zones."""
    document = made_document()
    edits: list[dict[str, Any]] = [
        {"edit": "remove_scenes", "ids": list(document.scenes)},
        {"edit": "compose_film", "keys": [TITLED.content.key, BODY.content.key], "id": "f", "pictures": list(SHAPES)[:3]},
    ]
    return apply_edits(document, parse_edits(edits))


cells = st.text(st.characters(codec="cp1252", exclude_characters="\0\r\x1a", exclude_categories=["Cs", "Cc"]) | st.sampled_from('\n",;\t|'), max_size=12).map(str.strip)
rows = st.integers(2, 4).flatmap(lambda wide: st.lists(st.lists(cells.filter(bool), min_size=wide, max_size=wide), min_size=2, max_size=5))


@given(rows, st.sampled_from(",;\t|"), st.sampled_from(["utf-8", "utf-8-sig", "utf-16", "cp1252"]), st.sampled_from(["\n", "\r\n"]))
def test_a_table_is_read_as_it_was_written(written: list[list[str]], separator: str, encoding: str, newline: str) -> None:
    written = [["Name", "Words", "Place", "Time"][: len(written[0])], *written]
    out = io.StringIO(newline="")
    csv.writer(out, delimiter=separator, lineterminator=newline, quoting=csv.QUOTE_ALL).writerows(written)
    table = read_table(out.getvalue().encode(encoding))
    assert [list(table.columns), *(list(r.cells) for r in table.rows)] == written and not any(r.odd for r in table.rows)


def test_tables_that_are_none_and_rows_that_are_odd_are_told() -> None:
    for data, said in (
        (b"PK\x03\x04....", "CSV"), (b"Name\n", "no such row"), (b'Name;Words\n"one;two\n', "quotation mark"), (b"a,b\n" + b"1,2\n" * 5001, "5000 rows"),
        (b"a\0b,c\n1,2\n", "no text"), (("x," * 201 + "\n" + "1," * 201).encode(), "columns"), (b"\xff\xfea", "cut off"),
    ):  # fmt: skip
        with pytest.raises(InvalidTable, match=said):
            read_table(data)
    table = read_table("Name,Name,\nÉva,2,3\n,,\nAda,1,2,3\n".encode("cp1252"))
    assert table.columns == ("Name", "Name (2)") and [(r.line, bool(r.odd)) for r in table.rows] == [(2, True), (4, True)]
    assert table.rows[0].cells[0] == "Éva" and "UTF-8" in table.notes[0]
    assert read_table(b"a,b\n1\n").rows[0].cells == ("1", ""), "cells that are missing at the end are empty"


def test_columns_find_what_they_are_for_by_name_and_what_a_person_said_stays() -> None:
    targets = targets_of(film())
    by_label = {t.label: t.id for t in targets}
    found = matched(["TITLE", "pictures", "author", "Shoe size"], targets)
    assert found == {"TITLE": by_label["Title"], "pictures": "pictures", "author": "detail:author", "Shoe size": ""}
    assert matched(["TITLE", "author"], targets, {"TITLE": "title", "gone": "pictures"}) == {"TITLE": "title", "author": "detail:author"}
    assert len({t.id for t in targets}) == len(targets)


def test_each_row_is_its_own_film() -> None:
    document = film()
    dial = next(d for d in film_dials(document) if d.kind == "colour")
    amount = next(d for d in film_dials(document) if d.kind == "amount")
    shown = amount.dial.maximum / amount.dial.scale
    text = f"Title;Pictures;{dial.name};{amount.name}\nAt dawn;wide|tall.png;#123;{shown:g} {amount.dial.unit}\nAt dusk;small | SQUARE | tall | wide;;\n".replace(".", ",").replace("tall,png", "tall.png")
    table = read_table(text.encode())
    films = Films(document, table, matched(table.columns, targets_of(document)))
    assert not faulty_rows(films)
    (dawn, first), (dusk, second) = films.film(0), films.film(1)
    assert not first.faults and not second.faults
    assert [[z.held for z in film_zones(d) if z.pictured and z.held] for d in (dawn, dusk)] == [["wide", "tall"], ["small", "square", "tall", "wide"]]
    assert [z.held for d in (dawn, dusk) for z in film_zones(d) if z.zone.takes == "text"][::1][:1] == ["At dawn"]
    stands = {(d.name, d.kind): d.value for d in film_dials(dawn)}
    assert stands[dial.name, "colour"] == "#112233" and stands[amount.name, "amount"] == pytest.approx(amount.dial.maximum)
    assert [len(d.scenes) for d in (dawn, dusk)] == [2, 3], "as many scenes as pictures ask for"
    one = read_table(b"Title,Pictures\nx,wide\n")
    alone, told = Films(document, one, matched(one.columns, targets_of(document))).film(0)
    assert len(alone.scenes) == 1 and not told.notes, "and none that would be empty"
    assert films.names("{Title} {number}") == ["At dawn 1", "At dusk 2"] and films.names("film") == ["film", "film (2)"]
    assert Films(document, table, {}).film(0)[0] == document


def test_a_row_of_fewer_pictures_makes_a_film_without_gaps_and_one_of_more_closes_with_the_last() -> None:
    names = list(SHAPES)
    document = made_document()
    edits: list[dict[str, Any]] = [
        {"edit": "remove_scenes", "ids": list(document.scenes)},
        {"edit": "compose_film", "keys": [next(s for s in BUILTIN if s.id == "evening-table").content.key], "id": "f", "pictures": names},
    ]
    document = apply_edits(document, parse_edits(edits))
    cells = [names[:3], names[:2], [*names, *names[:4]]]
    table = read_table("\n".join(["Pictures,Who", *("|".join(c) + ",x" for c in cells)]).encode())
    films = Films(document, table, {"Pictures": "pictures"})
    for number, wanted in enumerate(cells):
        film, row = films.film(number)
        zones = [z for z in film_zones(film) if z.pictured and not z.by_hand]
        assert not row.faults and not row.notes and [z.held for z in zones if z.held] == wanted
        assert zones[0].held == wanted[0] and zones[-1].held == wanted[-1]
        shown = [p for s in film.scenes.values() for _, p in photos_of(s) if not p.hidden]
        assert not any(film.media[p.media].placeholder for p in shown), "no number stands where a picture could"


@pytest.mark.parametrize(
    "column, cell, said",
    [
        ("Title", "=A1&B1", "formula"), ("Title", "#N/A", "spreadsheet"), ("Title", "", "needs something"), ("Pictures", "nowhere.jpg", "no picture"), ("Pictures", "", "No picture"),
        ("Pictures", "twice", "different names"), ("colour", "reddish", "no colour"), ("amount", "much", "no number"), ("amount", "1e99", "no number"), ("amount", "99999", "none of what"),
    ],
)  # fmt: skip
def test_what_is_wrong_with_a_row_is_said_and_nothing_is_made_of_it(column: str, cell: str, said: str) -> None:
    document = film()
    media = {k: m.model_copy(update={"name": "twice"} if k in ("wide", "tall") else {}) for k, m in document.media.items()}
    document = document.model_copy(update={"media": media})
    name = next((d.name for d in film_dials(document) if d.kind == column), column)
    table = read_table(f'{name},Other\n"{cell}",-\n"{cell}",x\n'.encode())
    faults = faulty_rows(Films(document, table, matched(table.columns, targets_of(document))))
    assert len(faults) == 2 and faults[0][1].faults[0].column == name and said in faults[0][1].faults[0].sentence


def test_five_thousand_rows_are_looked_through_before_anything_is_made() -> None:
    document = film()
    text = "Title;Pictures\n" + "".join(f"Guest {n};{'nobody' if n % 1000 == 999 else 'wide|tall'}\n" for n in range(5000))
    table = read_table(text.encode())
    films = Films(document, table, matched(table.columns, targets_of(document)))
    assert [n for n, _ in faulty_rows(films)] == [999, 1999, 2999, 3999, 4999] and len(set(films.names("{Title}"))) == 5000
