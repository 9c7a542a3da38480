"""Tables as people have them: text with a separator, quotes and some encoding, made into rows of cells."""

import csv
import re
from codecs import BOM_UTF8, BOM_UTF16_BE, BOM_UTF16_LE
from collections.abc import Sequence
from dataclasses import dataclass, field

from ..errors import Fault, InvalidTable

MOST_ROWS = 5000
MOST_COLUMNS = 200
MOST_CHARACTERS = 10_000
MOST_BYTES = 16 << 20
SEPARATORS = (",", ";", "\t", "|")
LOOKED_AT = 50
"""Rows by which the separator is found."""

_SPREADSHEET = (b"PK\x03\x04", b"\xd0\xcf\x11\xe0")


@dataclass(frozen=True, slots=True)
class Row:
    """One row. `line`: of the text, from 1, where it begins; `odd`: a sentence on what is wrong with it as a row, else empty."""

    line: int
    cells: tuple[str, ...]
    odd: str = ""


@dataclass(frozen=True, slots=True)
class Table:
    """Columns by name, each name once, and rows of as many cells. `notes`: sentences on how it was read, where that is not plain."""

    columns: tuple[str, ...]
    rows: tuple[Row, ...]
    notes: tuple[str, ...] = field(default=())

    def cell(self, row: int, column: str) -> str:
        return self.rows[row].cells[self.columns.index(column)]


def read_table(data: bytes) -> Table:
    """The table in a file or in what was pasted; its first row names the columns. Raises InvalidTable."""
    if len(data) > MOST_BYTES:
        raise _large(f"A table may hold {MOST_BYTES >> 20} MB; this one holds more. Leave out columns that the film does not need.")
    text, notes = _decoded(data)
    separator = _separator(text)
    found = _rows(text, separator)
    if len(found) < 2:
        raise _bad("A table has a row that names its columns and below it a row for each film; here is no such row. Check what was copied.")
    if len(found) > MOST_ROWS + 1:
        raise _large(f"A table may have {MOST_ROWS} rows; this one has {len(found) - 1}. Split it into several.")
    columns = _columns(found[0][1])
    rows = tuple(_row(line, cells, len(columns)) for line, cells in found[1:])
    return Table(columns, rows, notes)


def _decoded(data: bytes) -> tuple[str, tuple[str, ...]]:
    if data.startswith(_SPREADSHEET):
        raise _bad("This is a spreadsheet program’s own file. Save the table as CSV there, or copy its cells and paste them here.")
    if data.startswith((BOM_UTF16_LE, BOM_UTF16_BE)):
        try:
            return data.decode("utf-16"), ()
        except UnicodeDecodeError:
            raise _bad("The file is cut off in the middle of a letter. Save it once more.") from None
    try:
        text = data.removeprefix(BOM_UTF8).decode()
        notes: tuple[str, ...] = ()
    except UnicodeDecodeError:
        text = data.decode("cp1252", errors="replace")
        notes = ("Its letters are not written as UTF-8: they were read as Western European. Look whether accents came out right; if not, save it as UTF-8.",)
    if "\0" in text:
        raise _bad("This file is no text. Save the table as CSV, or copy its cells and paste them here.")
    return text, notes


def _lines(text: str) -> list[str]:
    return [line + "\n" for line in text.replace("\r\n", "\n").replace("\r", "\n").split("\n")]


def _separator(text: str) -> str:
    """The separator by which most of the first rows come to as many cells as the first, of those the one of the most cells."""
    lines = _lines(text)[: LOOKED_AT * 4]

    def suits(separator: str) -> tuple[int, int]:
        rows = []
        try:
            for cells in csv.reader(lines, delimiter=separator):
                rows.append(len(cells))
                if len(rows) >= LOOKED_AT:
                    break
        except csv.Error:
            pass
        wide = rows[0] if rows else 0
        return (sum(n == wide for n in rows if n) if wide > 1 else 0, wide)

    return max(SEPARATORS, key=suits)


def _rows(text: str, separator: str) -> list[tuple[int, list[str]]]:
    """(line it begins in, cells) of each row that is not empty."""
    reader = csv.reader(_lines(text), delimiter=separator, strict=True)
    found, begins = list[tuple[int, list[str]]](), 1
    csv.field_size_limit(MOST_BYTES)
    while True:
        try:
            cells = next(reader)
        except StopIteration:
            return found
        except csv.Error:
            raise _bad(f"A quotation mark that opens in line {begins} is not closed properly. Quotation marks within a cell are written twice.") from None
        if any(cell.strip() for cell in cells):
            found.append((begins, [cell.strip() for cell in cells]))
        begins = reader.line_num + 1


def _columns(names: Sequence[str]) -> tuple[str, ...]:
    """Names of the columns, each once; those without one are numbered."""
    while names and not names[-1]:
        names = names[:-1]
    if len(names) > MOST_COLUMNS:
        raise _large(f"A table may have {MOST_COLUMNS} columns; this one has {len(names)}. Leave out those that the film does not need.")
    found: list[str] = []
    for number, name in enumerate(names, 1):
        plain = re.sub(r"\s+", " ", name)[:100] or f"Column {number}"
        alike = sum(f == plain or f.startswith(f"{plain} (") for f in found)
        found.append(f"{plain} ({alike + 1})" if alike else plain)
    return tuple(found)


def _row(line: int, cells: Sequence[str], columns: int) -> Row:
    odd = ""
    if any(cells[columns:]):
        odd = f"It has {len(cells)} cells where the first row names {columns} columns."
    elif any(len(cell) > MOST_CHARACTERS for cell in cells):
        odd = f"A cell holds more than {MOST_CHARACTERS} characters."
    return Row(line, (*cells[:columns], *[""] * (columns - len(cells))), odd)


def _bad(sentence: str) -> InvalidTable:
    return InvalidTable([Fault("table.unreadable", "", sentence)])


def _large(sentence: str) -> InvalidTable:
    return InvalidTable([Fault("table.size", "", sentence)])
