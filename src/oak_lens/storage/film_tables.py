"""Tables of projects in the database, and the films that were asked for of them."""

from collections.abc import Callable, Sequence
from typing import Any

from sqlalchemy import Engine, delete, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlmodel import Session, col, select

from ..core.document import Document, parse_document
from ..core.errors import Fault, NotFound
from ..core.tables import Row, Table
from ..services.ports import ExportRecord, FilmBatch, KeptTable
from .exports import RECORD
from .projects import new_id
from .queue import FILMS, RENDER, defer
from .tables import FilmBatchRow, FilmTableRow, now

BATCH = ("id", "project", "owner", "settings", "numbers", "made", "state", "message", "created")


class PostgresFilmTables:
    """The `TableStore` port."""

    def __init__(self, engine: Engine):
        self._engine = engine

    def read(self, project: str) -> KeptTable | None:
        with Session(self._engine) as session:
            row = session.get(FilmTableRow, project)
            return None if row is None else _kept(row)

    def keep(self, project: str, made: Callable[[KeptTable | None], KeptTable]) -> KeptTable:
        with Session(self._engine) as session:
            row = session.exec(select(FilmTableRow).where(FilmTableRow.project == project).with_for_update()).first()
            table = made(None if row is None else _kept(row))
            values = {"name": table.name, "content": _content(table.table), "mapping": table.mapping, "pattern": table.pattern, "updated": now()}
            session.execute(insert(FilmTableRow).values(project=project, **values).on_conflict_do_update(index_elements=["project"], set_=values))
            session.commit()
            return table

    def change(self, project: str, mapping: dict[str, str] | None, pattern: str | None) -> None:
        values = {name: value for name, value in (("mapping", mapping), ("pattern", pattern)) if value is not None}
        if values:
            with Session(self._engine) as session:
                session.execute(update(FilmTableRow).where(col(FilmTableRow.project) == project).values(**values, updated=now()))
                session.commit()

    def forget(self, project: str) -> None:
        with Session(self._engine) as session:
            session.execute(delete(FilmTableRow).where(col(FilmTableRow.project) == project))
            session.commit()

    def begin(self, project: str, owner: str, document: Document, table: KeptTable, settings: dict[str, Any], numbers: Sequence[int]) -> FilmBatch:
        with Session(self._engine) as session:
            row = FilmBatchRow(
                id=new_id(), project=project, owner=owner, settings=settings, document=document.model_dump(mode="json", by_alias=True), content=_content(table.table),
                mapping=table.mapping, pattern=table.pattern, numbers=list(numbers), state="making",
            )  # fmt: skip
            session.add(row)
            session.flush()
            defer(session, FILMS, RENDER, [{"batch": row.id}], priority=6)
            session.commit()
            return _batch(row)

    def batch(self, id: str) -> FilmBatch:
        with Session(self._engine) as session:
            # Without the document and the table, which may be megabytes.
            row = session.execute(select(*[getattr(FilmBatchRow, name) for name in BATCH]).where(FilmBatchRow.id == id)).one_or_none()  # type: ignore[call-overload]
            if row is None:
                raise NotFound([Fault("table.no_batch", "", "These films are not there any more.")])
            return _batch(row)

    def made_of(self, id: str) -> tuple[Document, KeptTable]:
        with Session(self._engine) as session:
            row = session.get_one(FilmBatchRow, id)
            return parse_document(row.document), KeptTable("", _table(row.content), dict(row.mapping), row.pattern)

    def batches(self, project: str) -> list[FilmBatch]:
        with Session(self._engine) as session:
            columns = select(*[getattr(FilmBatchRow, name) for name in BATCH])  # type: ignore[call-overload]
            return [_batch(row) for row in session.execute(columns.where(FilmBatchRow.project == project).order_by(col(FilmBatchRow.created).desc()))]

    def count(self, id: str, made: int) -> None:
        with Session(self._engine) as session:
            session.execute(text("update film_batch set made = :made where id = :id"), {"made": made, "id": id})
            session.commit()

    def set_state(self, id: str, state: str, message: str = "") -> None:
        with Session(self._engine) as session:
            session.execute(text("update film_batch set state = :state, message = :message where id = :id and state = 'making'"), {"state": state, "message": message, "id": id})
            session.commit()

    def remove(self, id: str) -> None:
        with Session(self._engine) as session:
            session.execute(delete(FilmBatchRow).where(col(FilmBatchRow.id) == id))
            session.commit()

    def films(self, id: str) -> list[tuple[int, ExportRecord]]:
        with Session(self._engine) as session:
            rows = session.execute(text(f"select batch_row, {RECORD} from export where batch = :b order by batch_row"), {"b": id})
            return [(int(number), ExportRecord(*record)) for number, *record in rows]


def _kept(row: FilmTableRow) -> KeptTable:
    return KeptTable(row.name, _table(row.content), dict(row.mapping), row.pattern)


def _batch(row: Any) -> FilmBatch:
    values = {name: getattr(row, name) for name in BATCH}
    return FilmBatch(**{**values, "numbers": tuple(values["numbers"])})


def _content(table: Table) -> dict[str, Any]:
    return {"columns": list(table.columns), "rows": [[row.line, list(row.cells), row.odd] for row in table.rows], "notes": list(table.notes)}


def _table(content: dict[str, Any]) -> Table:
    rows = tuple(Row(line, tuple(cells), odd) for line, cells, odd in content["rows"])
    return Table(tuple(content["columns"]), rows, tuple(content["notes"]))
