"""What the verb fill does: a template and a table make films, without a server."""

import argparse
import hashlib
import json
import os
import sys
from pathlib import Path
from typing import Any

from ..core.delivery import ExportSettings, file_name
from ..core.document import Document, Media
from ..core.edits import apply_edits, parse_edits
from ..core.errors import Fault, InvalidPackage, InvalidTable, NotFound
from ..core.tables import MOST_BYTES, Films, faulty_rows, matched, read_table, targets_of
from ..core.templates import TemplateContent, bring_templates
from ..core.treatments import SHELF
from ..media.folders import pictures_in
from ..media.placeholders import placeholder_file
from ..media.rendering import single_threaded
from .files import write_document
from .rendering import render_film, segment_keys

KEPT = ".kept"
"""In the folder of the films: what is needed to go on, and to render nothing twice."""


def run_fill(arguments: argparse.Namespace) -> int:
    # What stands in empty zones is painted here, before the processes that render begin: threads do not outlive their beginning.
    single_threaded()
    arguments.out.mkdir(parents=True, exist_ok=True)
    work = arguments.out / KEPT
    work.mkdir(exist_ok=True)
    content, files = _template(arguments.template, work)
    with arguments.table.open("rb") as stream:
        table = read_table(stream.read(MOST_BYTES + 1))
    document = _with_pictures(Document(), arguments.pictures, work)
    empty = _composed(document, content, arguments.size, [])
    mapping = _matched(table.columns, empty, arguments.match)
    named = any(t.startswith("picture") for t in mapping.values())
    # A table that names no pictures has all of them in every film.
    base = empty if named else _composed(document, content, arguments.size, list(document.media))
    mapping = mapping if named else _matched(table.columns, base, arguments.match)
    films = Films(base, table, mapping)
    for note in table.notes:
        print(note, file=sys.stderr)
    for column, target in mapping.items():
        print(f"{column}: {next((t.label for t in targets_of(base) if t.id == target), 'not used')}", file=sys.stderr)
    faulty = dict(faulty_rows(films))
    for number, row in faulty.items():
        for fault in row.faults:
            print(f"Row {number + 1} (line {table.rows[number].line}){fault.column and ', ' + fault.column}: {fault.sentence}", file=sys.stderr)
    good = [n for n in range(len(table.rows)) if n not in faulty]
    if arguments.check or not good:
        print(f"{len(good)} of {len(table.rows)} rows can be made into films.")
        return 1 if faulty else 0
    names = films.names(arguments.name or f"{{{table.columns[0]}}}")
    made = 0
    for n in good:
        done, row = films.film(n)
        if row.faults:
            print(f"Row {n + 1}: {row.faults[0].sentence}", file=sys.stderr)
            continue
        for note in row.notes:
            print(f"Row {n + 1}: {note}", file=sys.stderr)
        _film(_placed(done, files, work), arguments.out / file_name(names[n], "mp4"), arguments, work)
        made += 1
    print(f"{arguments.out}: {made} films of {len(table.rows)} rows")
    return 1 if made < len(table.rows) else 0


def _template(named: str, work: Path) -> tuple[TemplateContent, dict[str, Path]]:
    """The template, on the shelf from now on, and its files by content. Raises NotFound, InvalidPackage."""
    shipped = next((c for c in SHELF.listed() if c.id == named), None)
    if shipped is not None:
        return shipped, {}
    path = Path(named)
    if not path.suffix:
        listed = ", ".join(c.id for c in SHELF.listed())
        raise NotFound([Fault("template.not_found", "TEMPLATE", f"No template that ships is called “{named}”. There are {listed}; or name a file X.oaktemplate.")])
    from ..media.packages import Package
    from ..media.template_files import opened_template

    files: dict[str, Path] = {}
    with path.open("rb") as file:
        package = Package(file)
        content = opened_template(package)
        for part in package.manifest.parts:
            if part.path.startswith("fonts/"):
                raise InvalidPackage([Fault("package.face", part.path, "This template brings a font of its own: fill it in the application, which can take that in.")])
            if "/" in part.path:
                files[part.sha256] = work / part.path.split("/")[1]
                with files[part.sha256].open("wb") as out:
                    package.copy(part, out)
    bring_templates(_Shelf(content))
    return content, files


class _Shelf:
    """The templates that ship, and one more."""

    def __init__(self, own: TemplateContent):
        self._own = own

    def content(self, key: str) -> TemplateContent | None:
        return self._own if key == self._own.key else SHELF.content(key)


def _with_pictures(document: Document, folder: Path | None, work: Path) -> Document:
    if folder is None:
        return document
    records, faults = pictures_in(folder, work)
    for fault in faults:
        print(fault, file=sys.stderr)
    return apply_edits(document, parse_edits([{"edit": "add_pictures", "pictures": records}])) if records else document


def _composed(document: Document, content: TemplateContent, size: tuple[int, int] | None, pictures: list[str]) -> Document:
    width, height = size or (content.document.frame.width, content.document.frame.height)
    edits: list[dict[str, Any]] = [
        {"edit": "set_frame", "width": width, "height": height, "rate": content.document.frame.rate},
        {"edit": "compose_film", "keys": [content.key], "id": "film", "pictures": pictures},
    ]
    return apply_edits(document, parse_edits(edits))


def _matched(columns: tuple[str, ...], document: Document, said: list[str]) -> dict[str, str]:
    """What each column is for: as was said, else by its name. Raises InvalidTable."""
    targets = targets_of(document)
    own: dict[str, str] = {}
    for pair in said:
        column, _, wanted = pair.partition("=")
        target = next((t.id for t in targets if wanted.strip().casefold() in (t.id.casefold(), t.label.casefold())), None)
        if column not in columns or target is None:
            listed = ", ".join(t.label for t in targets)
            raise InvalidTable([Fault("table.match", pair, f"Columns are {', '.join(columns)}; they may be for {listed}.")])
        own[column] = target
    return matched(columns, targets, own)


def _placed(document: Document, files: dict[str, Path], work: Path) -> Document:
    """The document with the files of all its pictures in reach of the folder that it is written into."""
    media: dict[str, Media] = {}
    for key, record in document.media.items():
        file = record.file
        if record.placeholder:
            file = f"{record.sha256}.jpg"
            if not (work / file).is_file():
                (work / file).write_bytes(placeholder_file(record))
        elif record.sha256 in files:
            file = os.path.relpath(files[record.sha256], work)
        media[key] = record.model_copy(update={"file": file})
    return document.model_copy(update={"media": media})


def _film(document: Document, out: Path, arguments: argparse.Namespace, work: Path) -> None:
    """One film; one that is there as it would be made now stays."""
    settings = ExportSettings(width=document.frame.width, height=document.frame.height, rate=document.frame.rate, quality=arguments.quality)
    keys = json.dumps([document.title, segment_keys(document, settings), document.model_dump_json(include={"songs", "sounds", "mix", "ends"})])
    of = hashlib.sha256(keys.encode()).hexdigest()
    note = work / "films" / f"{out.name}.made"
    if out.is_file() and note.is_file() and note.read_text() == f"{of} {out.stat().st_size}":
        print(f"{out}: as it is")
        return
    path = work / "film.json"
    write_document(path, document)
    frames, length = render_film(path, document, settings, out, work / "segments", arguments.processes)
    note.parent.mkdir(exist_ok=True)
    note.write_text(f"{of} {out.stat().st_size}")
    print(f"{out}: {frames} frames, {length:.2f} s")
