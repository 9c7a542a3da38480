"""Films from tables: a table of a project read and matched, its rows looked at, and the film of each exported."""

import logging
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ..core.delivery import ExportSettings
from ..core.document import Document, faults_from
from ..core.errors import Conflict, ExportFailed, Fault, NotFound, OakError
from ..core.tables import Films, RowFilm, matched, read_table, targets_of
from ..media.bundles import zipped
from .exports import Exports
from .ports import FilmBatch, KeptTable, TableStore

NO_TABLE = "There is no table here yet. Choose a CSV file, or paste the cells of a spreadsheet."
FAILED = "The films could not all be begun, over a fault of the program ({}). Those that are listed go on; ask for the others once more."


class FilmTables:
    """What people and workers do with tables. Every call of a person's comes after the project was read for them."""

    def __init__(self, store: TableStore, exports: Exports, bring: Callable[[Document], None]):
        """`bring`: brings what stands in empty zones of a document."""
        self._store, self._exports, self._bring = store, exports, bring

    def take(self, project: str, document: Document, name: str, data: bytes) -> KeptTable:
        """A table takes the place of the one before; what its columns were for stays where they are called the same. Raises InvalidTable."""
        table, targets = read_table(data), targets_of(document)

        def made(before: KeptTable | None) -> KeptTable:
            mapping = matched(table.columns, targets, before.mapping if before else None)
            pattern = before.pattern if before and all(c in table.columns for c in _named(before.pattern)) else f"{{{table.columns[0]}}}"
            return KeptTable(name[:200], table, mapping, pattern)

        return self._store.keep(project, made)

    def read(self, project: str) -> KeptTable:
        """Raises NotFound."""
        kept = self._store.read(project)
        if kept is None:
            raise NotFound([Fault("table.none", "", NO_TABLE)])
        return kept

    def change(self, project: str, mapping: dict[str, str] | None, pattern: str | None) -> KeptTable:
        """What columns are for, and what the films are called. A target goes to the column that asked for it last."""
        kept = self.read(project)
        new = dict(kept.mapping)
        if mapping:
            taken = {target for target in mapping.values() if target}
            new = {c: "" if t in taken else t for c, t in new.items()} | {c: t for c, t in mapping.items() if c in kept.table.columns}
        # The table itself stays: another may be on its way.
        self._store.change(project, new if mapping else None, (pattern or "").strip() or None)
        return self.read(project)

    def forget(self, project: str) -> None:
        self._store.forget(project)

    def film(self, project: str, document: Document, number: int) -> tuple[Document, RowFilm]:
        """The document of a row's film, and what the row comes to. Raises NotFound."""
        kept = self.read(project)
        if not 0 <= number < len(kept.table.rows):
            raise NotFound([Fault("table.no_row", "", "The table has no such row.")])
        made, row = Films(document, kept.table, kept.mapping).film(number)
        self._bring(made)
        return made, row

    def start(self, who: str, project: str, document: Document, settings: dict[str, Any], numbers: Sequence[int] | None = None) -> FilmBatch:
        """Asks for the films of some rows, or of all that nothing is wrong with. Raises Conflict, ExportFailed, NotFound."""
        kept = self.read(project)
        try:
            ExportSettings.model_validate(settings)
        except ValidationError as error:
            raise ExportFailed(faults_from(error, "export.settings")) from None
        films = Films(document, kept.table, kept.mapping)
        wanted = range(len(kept.table.rows)) if numbers is None else [n for n in dict.fromkeys(numbers) if 0 <= n < len(kept.table.rows)]
        good = [n for n in wanted if not films.of_row(n).faults]
        if not good:
            raise Conflict([Fault("table.no_films", "", "No row can be made into a film yet: mend what is listed, or match the columns otherwise.")])
        return self._store.begin(project, who, document, kept, settings, good)

    def batches(self, project: str) -> list[FilmBatch]:
        return self._store.batches(project)

    def films(self, who: str, batch: str) -> list[tuple[int, Any]]:
        self._owned(who, batch)
        return self._store.films(batch)

    def stop(self, who: str, batch: str) -> None:
        """No more films are begun, and those under way end; what is done stays."""
        self._owned(who, batch)
        self._store.set_state(batch, "stopped")
        for _, export in self._store.films(batch):
            self._exports.cancel(who, export.id)

    def remove(self, who: str, batch: str) -> None:
        """Off the list, with its films."""
        self.stop(who, batch)
        for _, export in self._store.films(batch):
            self._exports.forget(who, export.id)
        self._store.remove(batch)

    def bundle(self, who: str, batch: str) -> Iterator[bytes]:
        """The films that are done, as one zip. Raises NotFound."""
        self._owned(who, batch)
        return zipped(self._done(who, batch))

    def _done(self, who: str, batch: str) -> Iterator[tuple[Path, str]]:
        """(file, name) of the films that are done."""
        for _, export in self.films(who, batch):
            if export.state == "done":
                try:
                    path, name, _ = self._exports.film(who, export.id)
                except NotFound:
                    continue
                yield path, name

    def _owned(self, who: str, batch: str) -> FilmBatch:
        found = self._store.batch(batch)
        if found.owner != who:
            raise NotFound([Fault("table.no_batch", "", "These films are not there any more.")])
        return found

    def make(self, batch: str) -> None:
        """A worker's part: an export of each row. Doing it twice, or going on after it was stopped in the middle, has one effect."""
        found = self._store.batch(batch)
        if found.state != "making":
            return
        try:
            document, kept = self._store.made_of(batch)
            films = Films(document, kept.table, kept.mapping)
            names = films.names(kept.pattern)
            for index in range(found.made, len(found.numbers)):
                if self._store.batch(batch).state != "making":
                    return
                number = found.numbers[index]
                made, row = films.film(number)
                self._bring(made)
                export = self._exports.start(found.owner, found.project, made, found.settings, names[number], (batch, number))
                if row.faults:
                    self._exports.refuse(export.id, " ".join(f.sentence for f in row.faults))
                self._store.count(batch, index + 1)
            self._store.set_state(batch, "made")
        except self._exports.again:
            raise
        except OakError as error:
            self._store.set_state(batch, "failed", error.faults[0].message)
        except Exception as error:
            logging.exception("films %s", batch)
            self._store.set_state(batch, "failed", FAILED.format(type(error).__name__))

    def give_up(self, batch: str) -> None:
        """What makes them ended its worker again and again."""
        self._store.set_state(batch, "failed", FAILED.format("it ended its worker again and again"))


def _named(pattern: str) -> list[str]:
    """Names of columns in a pattern."""
    return [part.partition("}")[0] for part in pattern.split("{")[1:] if part.partition("}")[0] not in ("number", "title")]
