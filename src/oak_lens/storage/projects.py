"""Projects in the database."""

import secrets
import threading
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from typing import Any

from sqlalchemy import Engine, delete, text
from sqlalchemy.dialects.postgresql import insert
from sqlmodel import Session, col, select

from ..core.document import Document, dump_document, parse_document
from ..core.edits import HEAD_FIELDS, Change, changed_parts, parse_change
from ..core.errors import Fault, NotFound
from ..services.ports import EditEntry, ProjectHead, VersionHead
from .tables import EditRow, MediaRow, Project, RevisionRow, SceneRow, VersionRow, now

REMEMBERED = 8

BEFORE_VERSIONS = 2
"""Schema of documents stored before heads said theirs."""


def new_id() -> str:
    return secrets.token_hex(8)


class DocumentMemory:
    """The last documents read, by project and revision: an edit need not read five hundred scenes again."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, tuple[int, Document]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, project: str, revision: int) -> Document | None:
        with self._lock:
            known = self._known.get(project)
            return known[1] if known and known[0] == revision else None

    def put(self, project: str, revision: int, document: Document) -> None:
        with self._lock:
            self._known[project] = (revision, document)
            self._known.move_to_end(project)
            while len(self._known) > REMEMBERED:
                self._known.popitem(last=False)


class PostgresProjects:
    """The `ProjectStore` port."""

    def __init__(self, engine: Engine):
        self._engine = engine
        self._memory = DocumentMemory()

    def heads(self, owner: str) -> list[ProjectHead]:
        with Session(self._engine) as session:
            rows = session.exec(
                select(Project).where(Project.owner == owner, col(Project.deleted).is_(None)).order_by(col(Project.updated).desc())
            ).all()
            return [_head(row) for row in rows]

    def create(self, owner: str, document: Document) -> ProjectHead:
        with Session(self._engine) as session:
            row = Project(id=new_id(), owner=owner, title=document.title, revision=1, head=_head_body(document))
            session.add(row)
            session.flush()
            _write_records(session, row.id, Change(media=dict(document.media), scenes=dict(document.scenes)))
            session.commit()
            session.refresh(row)
            return _head(row)

    def read(self, project: str) -> tuple[ProjectHead, Document]:
        with Session(self._engine) as session:
            # One snapshot for head, scenes and pictures: a commit in between must not mix two revisions.
            session.connection(execution_options={"isolation_level": "REPEATABLE READ"})
            row = _row(session, project, lock=False)
            return _head(row), self._document(session, row)

    @contextmanager
    def hold(self, project: str) -> Iterator["HeldProject"]:
        with Session(self._engine, expire_on_commit=False) as session:
            row = _row(session, project, lock=True)
            held = HeldProject(session, row, self._document(session, row))
            yield held
            session.commit()
            if held.stored is not None:
                self._memory.put(project, row.revision, held.stored)

    def _document(self, session: Session, row: Project) -> Document:
        known = self._memory.get(row.id, row.revision)
        if known is not None:
            return known
        scenes = session.execute(select(SceneRow.id, SceneRow.body).where(SceneRow.project == row.id)).all()
        media = session.execute(select(MediaRow.id, MediaRow.body).where(MediaRow.project == row.id)).all()
        document = parse_document(
            {
                "schema": BEFORE_VERSIONS,
                **row.head,
                "scenes": dict(tuple(row) for row in scenes),
                "media": dict(tuple(row) for row in media),
            }
        )
        self._memory.put(row.id, row.revision, document)
        return document


class HeldProject:
    """The `OpenProject` port: one locked project inside one transaction."""

    def __init__(self, session: Session, row: Project, document: Document):
        self._session, self._row = session, row
        self.head, self.document = _head(row), document
        self.stored: Document | None = None

    def record(self, entry: EditEntry, author: str, document: Document) -> int:
        self._session.execute(delete(EditRow).where(col(EditRow.project) == self._row.id, col(EditRow.undone)))
        revision = self._store(entry.forward, document)
        self._session.add(
            EditRow(
                project=self._row.id,
                label=entry.label,
                author=author,
                revision=revision,
                forward=entry.forward.model_dump(mode="json", by_alias=True),
                inverse=entry.inverse.model_dump(mode="json", by_alias=True),
            )
        )
        return revision

    def parts_changed_since(self, revision: int) -> frozenset[str] | None:
        rows = self._session.exec(
            select(RevisionRow).where(RevisionRow.project == self._row.id, col(RevisionRow.revision) > revision)
        ).all()
        if len(rows) != self._row.revision - revision:
            return None
        return frozenset(part for row in rows for part in row.parts)

    def undoable(self) -> tuple[int, EditEntry] | None:
        return self._found(undone=False)

    def redoable(self) -> tuple[int, EditEntry] | None:
        return self._found(undone=True)

    def _found(self, undone: bool) -> tuple[int, EditEntry] | None:
        row = self._session.exec(self._history(undone)).first()
        if row is None or row.sequence is None:
            return None
        return row.sequence, EditEntry(row.label, parse_change(row.forward), parse_change(row.inverse))

    def _history(self, undone: bool) -> Any:
        order = col(EditRow.sequence)
        return (
            select(EditRow)
            .where(EditRow.project == self._row.id, col(EditRow.undone).is_(undone))
            .order_by(order.asc() if undone else order.desc())
            .limit(1)
        )

    def step(self, sequence: int, undone: bool, change: Change, document: Document) -> int:
        revision = self._store(change, document)
        row = self._session.get_one(EditRow, sequence)
        row.undone, row.revision = undone, revision
        return revision

    def labels(self) -> tuple[str | None, str | None]:
        self._session.flush()
        undo, redo = (self._session.exec(self._history(undone)).first() for undone in (False, True))
        return (undo.label if undo else None), (redo.label if redo else None)

    def add_version(self, name: str) -> VersionHead:
        row = VersionRow(id=new_id(), project=self._row.id, name=name, revision=self._row.revision, document=dump_document(self.document))
        self._session.add(row)
        return VersionHead(row.id, row.name, row.revision, row.created)

    def versions(self) -> list[VersionHead]:
        rows = self._session.execute(
            select(VersionRow.id, VersionRow.name, VersionRow.revision, VersionRow.created)
            .where(VersionRow.project == self._row.id)
            .order_by(col(VersionRow.created).desc())
        ).all()
        return [VersionHead(*row) for row in rows]

    def version_document(self, version: str) -> Document:
        row = self._session.get(VersionRow, version)
        if row is None or row.project != self._row.id:
            raise NotFound([Fault("version.not_found", "", "There is no such version.")])
        return parse_document(row.document)

    def set_deleted(self, deleted: bool) -> None:
        self._row.deleted = now() if deleted else None
        self._session.add(self._row)

    def _store(self, change: Change, document: Document) -> int:
        row = self._row
        row.revision += 1
        row.title, row.updated = document.title, now()
        if any(getattr(change, name) is not None for name in HEAD_FIELDS):
            row.head = _head_body(document)
        self._session.add(row)
        _write_records(self._session, row.id, change)
        self._session.add(RevisionRow(project=row.id, revision=row.revision, parts=sorted(changed_parts(change))))
        self.stored = document
        return row.revision


def _row(session: Session, project: str, lock: bool) -> Project:
    query = select(Project).where(Project.id == project)
    row = session.exec(query.with_for_update() if lock else query).first()
    if row is None:
        raise NotFound([Fault("project.not_found", "", "There is no such project.")])
    return row


def _head(row: Project) -> ProjectHead:
    return ProjectHead(row.id, row.owner, row.title, row.revision, row.created, row.updated, row.deleted)


def _head_body(document: Document) -> dict[str, Any]:
    return document.model_dump(mode="json", by_alias=True, exclude={"media", "scenes"})


def _write_records(session: Session, project: str, change: Change) -> None:
    for table, records in ((MediaRow, change.media), (SceneRow, change.scenes)):
        gone = [key for key, record in records.items() if record is None]
        if gone:
            session.execute(delete(table).where(col(table.project) == project, col(table.id).in_(gone)))
        kept = [
            {"project": project, "id": k, "body": r.model_dump(mode="json", by_alias=True)} for k, r in records.items() if r is not None
        ]
        if kept:
            statement = insert(table).values(kept)
            session.execute(statement.on_conflict_do_update(index_elements=["project", "id"], set_={"body": statement.excluded.body}))


def purge_deleted(engine: Engine, before: datetime) -> int:
    """Remove for good what was deleted before a moment; gives how many projects went."""
    with engine.begin() as connection:
        return connection.execute(text("delete from project where deleted < :before"), {"before": before}).rowcount
