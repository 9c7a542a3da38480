"""Projects in the database."""

import secrets
import threading
from collections import OrderedDict
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from datetime import datetime
from functools import cached_property
from types import MappingProxyType
from typing import Any

from pydantic import ValidationError
from sqlalchemy import Engine, delete, or_, text
from sqlalchemy.dialects.postgresql import insert
from sqlmodel import Session, col, select

from ..core.document import SCHEMA_VERSION, Document, dump_document, faults_from, parse_document
from ..core.document.migrations import Around, migrated_change, migrated_head, migrated_media, migrated_scene
from ..core.edits import HEAD_FIELDS, Change, changed_parts, parse_change
from ..core.errors import Fault, InvalidDocument, NotFound, OakError
from ..core.evaluate import timeline_of
from ..services.ports import EditEntry, ProjectHead, TemplateUsed, VersionHead
from .tables import EditRow, MediaRow, Project, RevisionRow, SceneRow, VersionRow, now

REMEMBERED = 8


def new_id() -> str:
    return secrets.token_hex(8)


class DocumentMemory:
    """The last documents read, by project and revision: an edit need not read five hundred scenes again."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, tuple[int, Document, bool]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, project: str, revision: int) -> tuple[Document, bool] | None:
        with self._lock:
            known = self._known.get(project)
            return known[1:] if known and known[0] == revision else None

    def put(self, project: str, revision: int, document: Document, old: bool = False) -> None:
        """`old`: whether some of its records are stored in an older schema."""
        with self._lock:
            self._known[project] = (revision, document, old)
            self._known.move_to_end(project)
            while len(self._known) > REMEMBERED:
                self._known.popitem(last=False)


class PostgresProjects:
    """The `ProjectStore` port."""

    def __init__(self, engine: Engine):
        self._engine = engine
        self._memory = DocumentMemory()

    def templates_used(self, owner: str) -> list[TemplateUsed]:
        listed = select(Project.id, Project.title, Project.head["templates"]).where(Project.owner == owner, col(Project.deleted).is_(None))  # type: ignore[call-overload]
        with Session(self._engine) as session:
            rows = session.exec(listed.order_by(col(Project.updated).desc(), col(Project.id))).all()
        origins = [(project, title, k, t["origin"]) for project, title, templates in rows for k, t in sorted((templates or {}).items()) if t.get("origin")]
        return [TemplateUsed(project, title, record, origin["id"], origin["version"], origin["key"]) for project, title, record, origin in origins]

    def heads(self, owner: str) -> list[ProjectHead]:
        listed = select(Project).where(Project.owner == owner, col(Project.deleted).is_(None)).order_by(col(Project.updated).desc())
        with Session(self._engine) as session:
            unknown = session.exec(
                select(Project.id).where(
                    Project.owner == owner, col(Project.deleted).is_(None), or_(col(Project.length).is_(None), col(Project.fault) != "")
                )
            ).all()
        for project in unknown:
            # Stored before the list had columns of its own: read once. What could not be read may be readable now.
            try:
                self.read(project)
            except OakError:
                continue
        with Session(self._engine) as session:
            return [_head(row) for row in session.exec(listed).all()]

    def create(self, owner: str, document: Document) -> ProjectHead:
        with Session(self._engine) as session:
            row = Project(
                id=new_id(), owner=owner, title=document.title, revision=1, head=_head_body(document), schema_version=SCHEMA_VERSION
            )
            _summarise(row, document)
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
            head, told = _head(row), (row.length, row.fault)
            try:
                document, _ = self._document(session, row)
            except InvalidDocument as error:
                self._note(project, head.revision, None, _fault_of(error))
                raise
        if told[0] is None or told[1]:
            self._note(project, head.revision, document, "")
        return head, document

    def _note(self, project: str, revision: int, document: Document | None, fault: str) -> None:
        """What the list shows of a project that has been read, or could not be."""
        with Session(self._engine) as session:
            row = session.exec(select(Project).where(Project.id == project, Project.revision == revision).with_for_update()).first()
            if row is not None and (document is not None or row.fault != fault):
                row.fault = fault
                if document is not None:
                    _summarise(row, document)
                session.add(row)
                session.commit()

    @contextmanager
    def hold(self, project: str) -> Iterator["HeldProject"]:
        with Session(self._engine, expire_on_commit=False) as session:
            row = _row(session, project, lock=True)
            held = HeldProject(session, row, lambda: self._document(session, row))
            yield held
            session.commit()
            if held.stored is not None:
                self._memory.put(project, row.revision, held.stored)

    def _document(self, session: Session, row: Project) -> tuple[Document, bool]:
        """The document, and whether some of its records are stored in an older schema."""
        known = self._memory.get(row.id, row.revision)
        if known is not None:
            return known
        scenes = session.execute(select(SceneRow.id, SceneRow.body, SceneRow.schema_version).where(SceneRow.project == row.id)).all()
        media = session.execute(select(MediaRow.id, MediaRow.body, MediaRow.schema_version).where(MediaRow.project == row.id)).all()
        old = any(version < SCHEMA_VERSION for version in (row.schema_version, *(r[2] for r in (*scenes, *media))))
        around = Around.of(row.head, {key: body for key, body, _ in media} if old else {})
        document = parse_document(
            {
                **migrated_head(row.head, row.schema_version, around),
                "scenes": {key: migrated_scene(body, version, around) for key, body, version in scenes},
                "media": {key: migrated_media(body, version, around) for key, body, version in media},
            }
        )
        self._memory.put(row.id, row.revision, document, old)
        return document, old


class HeldProject:
    """The `OpenProject` port: one locked project inside one transaction."""

    def __init__(self, session: Session, row: Project, read: Callable[[], tuple[Document, bool]]):
        self._session, self._row, self._read = session, row, read
        self.head = _head(row)
        self.stored: Document | None = None

    @cached_property
    def _found_as(self) -> tuple[Document, bool]:
        return self._read()

    @property
    def document(self) -> Document:
        """As it was when it was opened; read when it is first asked for. Raises InvalidDocument."""
        return self._found_as[0]

    def record(self, entry: EditEntry, author: str, document: Document, request: str | None = None) -> int:
        self._session.execute(delete(EditRow).where(col(EditRow.project) == self._row.id, col(EditRow.undone)))
        forward = entry.forward.model_dump(mode="json", by_alias=True)
        revision = self._store(entry.forward, document, request, forward)
        self._session.add(
            EditRow(
                project=self._row.id,
                label=entry.label,
                author=author,
                revision=revision,
                schema_version=SCHEMA_VERSION,
                forward=forward,
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

    def parts_of_request(self, request: str) -> frozenset[str] | None:
        parts = self._session.exec(
            select(RevisionRow.parts).where(RevisionRow.project == self._row.id, RevisionRow.request == request)
        ).first()
        return None if parts is None else frozenset(parts)

    def undoable(self) -> tuple[int, EditEntry] | None:
        return self._found(undone=False)

    def redoable(self) -> tuple[int, EditEntry] | None:
        return self._found(undone=True)

    def _found(self, undone: bool) -> tuple[int, EditEntry] | None:
        row = self._session.exec(self._history(undone)).first()
        if row is None or row.sequence is None:
            return None
        forward, inverse = (self._change(data, row.schema_version) for data in (row.forward, row.inverse))
        return row.sequence, EditEntry(row.label, forward, inverse)

    def _change(self, data: dict[str, Any], version: int) -> Change:
        """A stored change as it is written today. Raises InvalidDocument."""
        try:
            if version < SCHEMA_VERSION:
                present = dump_document(self.document)
                data = migrated_change(data, version, Around.of(present, {**present["media"], **(data.get("media") or {})}))
            return parse_change(data)
        except ValidationError as error:
            raise InvalidDocument(faults_from(error, "document.history")) from None

    def _history(self, undone: bool, what: Any = EditRow) -> Any:
        order = col(EditRow.sequence)
        return (
            select(what)
            .where(EditRow.project == self._row.id, col(EditRow.undone).is_(undone))
            .order_by(order.asc() if undone else order.desc())
            .limit(1)
        )

    def step(self, sequence: int, undone: bool, change: Change, document: Document, request: str | None = None) -> int:
        revision = self._store(change, document, request)
        row = self._session.get_one(EditRow, sequence)
        row.undone, row.revision = undone, revision
        return revision

    def labels(self) -> tuple[str | None, str | None]:
        self._session.flush()
        # The labels alone: what a step changed may be most of the film.
        undo, redo = (self._session.exec(self._history(undone, EditRow.label)).first() for undone in (False, True))
        return undo, redo

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

    def _store(self, change: Change, document: Document, request: str | None, bodies: dict[str, Any] | None = None) -> int:
        """`bodies`: the change as it is written, if it was already."""
        row = self._row
        row.revision += 1
        row.title, row.updated = document.title, now()
        _summarise(row, document)
        _, old = self._found_as
        if old or any(getattr(change, name) is not None for name in HEAD_FIELDS):
            row.head, row.schema_version = _head_body(document), SCHEMA_VERSION
        self._session.add(row)
        # The first change after an upgrade writes every record anew: what is read later does not depend on how it was migrated then.
        written = change
        if old:
            written = Change.model_construct(media={**change.media, **document.media}, scenes={**change.scenes, **document.scenes})
        _write_records(self._session, row.id, written, bodies or {})
        self._session.add(RevisionRow(project=row.id, revision=row.revision, parts=sorted(changed_parts(change)), request=request))
        self.stored = document
        return row.revision


def _row(session: Session, project: str, lock: bool) -> Project:
    query = select(Project).where(Project.id == project)
    row = session.exec(query.with_for_update() if lock else query).first()
    if row is None:
        raise NotFound([Fault("project.not_found", "", "There is no such project.")])
    return row


def _head(row: Project) -> ProjectHead:
    fault = row.fault
    if row.schema_version > SCHEMA_VERSION:
        fault = "It was written by a newer Oak Lens. Update Oak Lens to open it."
    return ProjectHead(
        row.id,
        row.owner,
        row.title,
        row.revision,
        row.created,
        row.updated,
        row.deleted,
        row.width,
        row.height,
        row.rate,
        row.scenes,
        row.pictures,
        row.length or 0,
        fault,
    )


def _fault_of(error: InvalidDocument) -> str:
    first = error.faults[0]
    return first.message if first.code == "document.newer" else f"A part of it cannot be read ({first.path}): {first.message}"


def _summarise(row: Project, document: Document) -> None:
    """What the list of projects shows, beside the document."""
    row.width, row.height, row.rate = document.frame.width, document.frame.height, document.frame.rate
    row.scenes, row.pictures, row.length = len(document.scenes), sum(not m.placeholder for m in document.media.values()), timeline_of(document).length


def _head_body(document: Document) -> dict[str, Any]:
    return document.model_dump(mode="json", by_alias=True, exclude={"media", "scenes"})


def _write_records(session: Session, project: str, change: Change, bodies: Mapping[str, Any] = MappingProxyType({})) -> None:
    for table, records, written in ((MediaRow, change.media, bodies.get("media", {})), (SceneRow, change.scenes, bodies.get("scenes", {}))):
        gone = [key for key, record in records.items() if record is None]
        if gone:
            session.execute(delete(table).where(col(table.project) == project, col(table.id).in_(gone)))
        kept = [
            {"project": project, "id": k, "body": written.get(k) or r.model_dump(mode="json", by_alias=True), "schema_version": SCHEMA_VERSION}
            for k, r in records.items()
            if r is not None
        ]
        if kept:
            statement = insert(table).values(kept)
            update = {"body": statement.excluded.body, "schema_version": statement.excluded.schema_version}
            session.execute(statement.on_conflict_do_update(index_elements=["project", "id"], set_=update))


def purge_deleted(engine: Engine, before: datetime) -> int:
    """Remove for good what was deleted before a moment; gives how many projects went."""
    with engine.begin() as connection:
        return connection.execute(text("delete from project where deleted < :before"), {"before": before}).rowcount
