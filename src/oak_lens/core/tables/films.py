"""The film that each row of a table makes: its edits, what is wrong with it, its file's name."""

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from ..document import DialValue, Document, in_order, photos_of
from ..edits import apply_edits, parse_edits
from ..errors import OakError
from ..templates import FilmZone, empty_zones, film_zones, seats, spare_scenes, zone_fault
from .reading import Table
from .targets import Target, targets_of

SPOILT = re.compile(r"#(REF|N/A|VALUE|NAME|DIV/0|NUM|NULL)[!?]?$", re.IGNORECASE)
YES, NO = ("yes", "y", "true", "on", "1", "x"), ("no", "n", "false", "off", "0", "-", "")
SEVERAL = re.compile(r"\s*[;|\n]\s*")


@dataclass(frozen=True, slots=True)
class CellFault:
    """What is wrong with a row, in a sentence; `column` is empty where it is not one cell alone."""

    column: str
    sentence: str


@dataclass(frozen=True)
class RowFilm:
    """What a row comes to. `notes`: sentences on what one may want to look at, which keep no film from being made."""

    edits: tuple[dict[str, Any], ...]
    faults: tuple[CellFault, ...]
    notes: tuple[str, ...] = ()


class Films:
    """The films of a table, made of one document. `mapping`: which target (by id) each column is for, empty none; what a column says that is for
    something the film has not got any more is left out."""

    def __init__(self, document: Document, table: Table, mapping: Mapping[str, str]):
        self.document, self.table = document, table
        targets = {t.id: t for t in targets_of(document)}
        # Pictures that find their own places come when all that are named have theirs.
        said = [(c, targets[mapping[c]]) for c in table.columns if mapping.get(c, "") in targets]
        self._columns = sorted(said, key=lambda pair: pair[1].kind == "pictures")
        self._pictures = _by_name((k, m.name, m.file, m.sha256) for k, m in in_order(document.media) if not m.placeholder)
        self._sounds = _by_name((k, s.name, s.file, s.sha256) for k, s in document.sounds.items())

    def of_row(self, number: int) -> RowFilm:
        """What row `number`, from 0, comes to; nothing is made of it yet."""
        row = self.table.rows[number]
        edits, faults = list[dict[str, Any]](), list[CellFault]()
        if row.odd:
            faults.append(CellFault("", row.odd))
        for column, target in self._columns:
            cell = row.cells[self.table.columns.index(column)]
            try:
                edits += self._said(target, cell)
            except _NotSo as error:
                faults.append(CellFault(column, str(error)))
        return RowFilm(tuple(edits), tuple(faults), ())

    def film(self, number: int) -> tuple[Document, RowFilm]:
        """The document of a row's film, and what the row comes to: where that has faults, the document as far as it could be made."""
        made, document, faults = self.of_row(number), self.document, list[CellFault]()
        for edit in made.edits:
            try:
                document = apply_edits(document, parse_edits([edit]))
            except OakError as error:
                faults.append(CellFault("", error.faults[0].message))
        if any(target.kind == "pictures" for _, target in self._columns):
            document = _fewer(document)
        changed = {z for target in (t for _, t in self._columns) if (z := target.zone and (target.zone.use, target.zone.round, target.zone.id))}
        zones = film_zones(document)
        notes = [f"{z.zone.name or f'Zone {z.number}'}: {told}" for z in zones if (z.use, z.round, z.id) in changed and (told := zone_fault(document, z))]
        hidden = {(k, p.zone) for k, scene in document.scenes.items() for _, p in photos_of(scene) if p.hidden}
        empty = sum(z.zone.required and (z.scene, z.id) not in hidden for z in empty_zones(document))
        if empty:
            notes.append(f"{empty} drop zone{'s are' if empty > 1 else ' is'} empty.")
        return document, RowFilm(made.edits, (*made.faults, *faults), tuple(notes))

    def name(self, number: int, pattern: str) -> str:
        """What a row's film is called by a pattern: names of columns in braces, and {number}."""
        row = self.table.rows[number]
        known = {c.casefold(): cell for c, cell in zip(self.table.columns, row.cells, strict=True)}
        width = len(str(len(self.table.rows)))
        known |= {"number": f"{number + 1:0{width}d}", "title": known.get("title", self.document.title)}
        return re.sub(r"\{([^{}]*)\}", lambda m: known.get(m[1].strip().casefold(), m[0]), pattern).strip()[:200] or f"Film {number + 1}"

    def names(self, pattern: str) -> list[str]:
        """What all films are called; of those that would be called the same, all but the first are numbered."""
        found, taken = list[str](), dict[str, int]()
        for number in range(len(self.table.rows)):
            name = self.name(number, pattern)
            alike = taken[name.casefold()] = taken.get(name.casefold(), 0) + 1
            found.append(name if alike == 1 else f"{name} ({alike})")
        return found

    def _said(self, target: Target, cell: str) -> list[dict[str, Any]]:
        """The edits of a cell. Raises _NotSo."""
        if SPOILT.match(cell):
            raise _NotSo(f"“{cell}” is a fault of the spreadsheet’s. Mend its formula, and save the table again.")
        if cell.startswith("=") and len(cell) > 1:
            raise _NotSo("It holds a formula, not what that comes to. Save the table with values, or copy the cells as they are seen.")
        return SAID[target.kind](self, target, cell)

    def _title(self, _: Target, cell: str) -> list[dict[str, Any]]:
        if len(cell) > 200:
            raise _NotSo("A title has at most 200 characters.")
        return [{"edit": "set_title", "title": cell}] if cell else []

    def _detail(self, target: Target, cell: str) -> list[dict[str, Any]]:
        if len(cell) > 2000:
            raise _NotSo("It has more than 2000 characters.")
        _, name, *own = target.id.split(":", 2)
        if own:
            return [{"edit": "set_details", "own": {own[0]: {"name": target.label, "text": cell}}}]
        return [{"edit": "set_details", name: cell}]

    def _field(self, target: Target, cell: str) -> list[dict[str, Any]]:
        id = target.id.removeprefix("field:")
        value = self.document.fields[id].value
        return [{"edit": "set_field", "id": id, "value": _colour(cell) if isinstance(value, str) else _number(cell)}] if cell else []

    def _zone(self, target: Target, what: str | None) -> list[dict[str, Any]]:
        zone = target.zone
        assert zone is not None
        if what is None and zone.zone.required:
            raise _NotSo(f"It is empty, and “{target.label}” needs something.")
        return [{"edit": "fill_zones", "scene": zone.scene, "fills": {zone.id: what}}]

    def _text(self, target: Target, cell: str) -> list[dict[str, Any]]:
        return self._zone(target, cell or None)

    def _picture(self, target: Target, cell: str) -> list[dict[str, Any]]:
        return self._zone(target, self._named(cell, self._pictures, "picture") if cell else None)

    def _song(self, target: Target, cell: str) -> list[dict[str, Any]]:
        return self._zone(target, self._named(cell, self._sounds, "song") if cell else None)

    def _several(self, _: Target, cell: str) -> list[dict[str, Any]]:
        names = [name for name in SEVERAL.split(cell) if name]
        if not names:
            raise _NotSo("No picture is named.")
        pictures = [self._named(name, self._pictures, "picture") for name in names]
        zones = self._free
        taken = seats([z.round for z in zones], len(pictures))
        # What closes the film shows the last of them, whatever more is made before it.
        last = len(zones) - next((n for n, z in enumerate(reversed(zones)) if z.round > 0), len(zones))
        more = pictures[last : last + len(pictures) - len(taken)]
        given = dict(zip(taken, [*pictures[:last], *pictures[last + len(more) :]] if more else pictures, strict=True))
        fills: dict[str, dict[str, str | None]] = {}
        for number, zone in enumerate(zones):
            fills.setdefault(zone.scene, {})[zone.id] = given.get(number)
        edits: list[dict[str, Any]] = [{"edit": "fill_zones", "scene": k, "fills": own} for k, own in fills.items()]
        return [*edits, {"edit": "pour_pictures", "pictures": more, "id": "row"}] if more else edits

    @cached_property
    def _free(self) -> list[FilmZone]:
        """The zones that pictures go into which find their own places: those that other columns name are theirs."""
        named = {(t.zone.use, t.zone.round, t.zone.id) for _, t in self._columns if t.kind == "picture" and t.zone}
        return [z for z in film_zones(self.document) if z.pictured and not z.by_hand and (z.use, z.round, z.id) not in named]

    def _dial(self, target: Target, cell: str) -> list[dict[str, Any]]:
        dial = target.dial
        assert dial is not None
        if not cell and dial.kind != "text":
            return []
        value = DIALLED[dial.kind](self, target, cell)
        if not dial.dial.takes(value):
            raise _NotSo(f"“{cell}” is none of what “{target.label}” may be: {target.about}.")
        return [{"edit": "turn_film_dials", "turns": [{"name": dial.name, "kind": dial.kind, "value": value}]}]

    def _amount(self, target: Target, cell: str) -> DialValue:
        assert target.dial is not None
        return _number(cell, target.dial.dial.unit) * target.dial.dial.scale

    def _choice(self, target: Target, cell: str) -> DialValue:
        assert target.dial is not None
        return next((c.value for c in target.dial.dial.choices if cell.casefold() in (c.value.casefold(), c.label.casefold())), cell)

    def _named(self, name: str, among: Mapping[str, list[tuple[str, str]]], what: str) -> str:
        found = among.get(_bare(name)) or among.get(_stem(_bare(name))) or []
        if not found:
            raise _NotSo(f"There is no {what} called “{name[:80]}” in the project.")
        if len({sha256 for _, sha256 in found}) > 1:
            raise _NotSo(f"{len(found)} {what}s are called “{name[:80]}”. Give them different names.")
        return found[0][0]


def _fewer(document: Document) -> Document:
    """The film of a row that names fewer pictures than there is room for: without scenes that show none, and without what stands in for those that
    others would show beside them."""
    spare = spare_scenes(document)
    if 0 < len(spare) < len(document.scenes):
        document = apply_edits(document, parse_edits([{"edit": "remove_scenes", "ids": spare}]))
    empty = [
        {"scene": key, "layer": name}
        for key, scene in document.scenes.items()
        if scene.template is not None and scene.template.round > 0
        for name, photo in photos_of(scene)
        if photo.zone and not photo.hidden and document.media[photo.media].placeholder
    ]
    return apply_edits(document, parse_edits([{"edit": "set_layers", "layers": empty, "hidden": True}])) if empty else document


class _NotSo(Exception):
    """A cell does not say what its column is for; the sentence says why."""


SAID: dict[str, Callable[[Films, Target, str], list[dict[str, Any]]]] = {
    "title": Films._title, "detail": Films._detail, "field": Films._field, "text": Films._text, "picture": Films._picture, "pictures": Films._several,
    "song": Films._song, "dial": Films._dial,
}  # fmt: skip

DIALLED: dict[str, Callable[[Films, Target, str], DialValue]] = {
    "amount": Films._amount,
    "seed": lambda _, target, cell: _number(cell),
    "colour": lambda _, target, cell: _colour(cell),
    "switch": lambda _, target, cell: _switch(cell),
    "choice": Films._choice,
    "face": lambda _, target, cell: re.sub(r"[^a-z0-9]+", "-", cell.casefold()).strip("-"),
    "text": lambda _, target, cell: cell,
}


def _by_name(records: Iterable[tuple[str, str, str, str]]) -> dict[str, list[tuple[str, str]]]:
    """(id, content) of pictures or sounds by every name that they may be called: their own, their file's, with and without its ending."""
    found: dict[str, list[tuple[str, str]]] = {}
    for id, name, file, sha256 in records:
        for called in dict.fromkeys(_bare(n) for n in (name, file, _stem(name), _stem(file)) if n):
            found.setdefault(called, []).append((id, sha256))
    return found


def _bare(name: str) -> str:
    """A name without folders, however they are written, and without case."""
    return name.strip().replace("\\", "/").rpartition("/")[2].casefold()


def _stem(name: str) -> str:
    stem, dot, ending = name.rpartition(".")
    return stem if dot and stem and len(ending) <= 5 else name


def _number(cell: str, unit: str = "") -> float:
    """A number as people write it, with its unit or without, with a point or a comma."""
    plain = cell.removesuffix(unit).strip().replace("\N{MINUS SIGN}", "-").replace(",", ".")
    if not re.fullmatch(r"[-+]?\d+(\.\d+)?", plain):
        raise _NotSo(f"“{cell[:80]}” is no number.")
    return float(plain)


def _colour(cell: str) -> str:
    digits = cell.removeprefix("#").lower()
    if re.fullmatch(r"[0-9a-f]{3}", digits):
        digits = "".join(2 * d for d in digits)
    if not re.fullmatch(r"[0-9a-f]{6}", digits):
        raise _NotSo(f"“{cell[:80]}” is no colour as #rrggbb.")
    return f"#{digits}"


def _switch(cell: str) -> bool:
    if cell.casefold() in YES:
        return True
    if cell.casefold() in NO:
        return False
    raise _NotSo(f"“{cell[:80]}” is neither yes nor no.")


def faulty_rows(films: Films) -> list[tuple[int, RowFilm]]:
    """The rows of which no film can be made, by number from 0, with what is wrong."""
    found = [(number, films.of_row(number)) for number in range(len(films.table.rows))]
    return [(number, film) for number, film in found if film.faults]
