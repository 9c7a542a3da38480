"""Exports in the database; their films and coded segments are blobs."""

import json
import zlib
from collections.abc import Collection, Sequence
from typing import Any

import orjson
from sqlalchemy import Engine, delete, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import defer as without
from sqlmodel import Session, col, select

from ..core.document import Document, parse_document
from ..core.errors import Fault, NotFound
from ..services import keys
from ..services.ports import BatchPlace, Blobs, ExportRecord, KeptFile
from .projects import new_id
from .queue import JOIN, PLAN, RENDER, SEGMENT, defer
from .tables import ExportRow, KeptSegment, SegmentRow, now

OVER = ("done", "failed", "cancelled")

RECORD = """id, project, owner, file_name, state, settings, frames,
    (select cast(coalesce(sum(frames), 0) as int) from segment where segment.export = export.id), message, bytes, created, started, finished"""
"""Columns of an `ExportRecord`: without the document, which may be megabytes."""

KNOWN_FROM = 3
"""So many exports of a project before one tell it keys."""

PACKED = 1
"""How hard documents are packed: hardly, for a quarter of their length in a hundredth of a second a megabyte."""

STRAY_SECONDS = 6 * 3600
ABANDONED_SECONDS = 10


class PostgresExports:
    """The `ExportStore` port."""

    def __init__(self, engine: Engine, blobs: Blobs):
        self._engine, self.blobs = engine, blobs

    def create(
        self, project: str, owner: str, document: Document, settings: dict[str, Any], file_name: str, frames: int, of: BatchPlace | None = None
    ) -> ExportRecord:
        export = new_id()
        with Session(self._engine) as session:
            if of is not None:
                known = session.exec(select(ExportRow.id).where(ExportRow.batch == of[0], ExportRow.batch_row == of[1])).first()
                if known is not None:
                    return self._record(session, known)
            # Packed here: the database would take five times as long to pack what it had to take apart first.
            session.execute(
                text(
                    """insert into export (id, project, owner, file_name, state, settings, document, segments, frames, done_segments, message,
                    bytes, created, batch, batch_row) values (:id, :project, :owner, :name, 'waiting', cast(:settings as jsonb),
                    :document, null, :frames, 0, '', 0, :created, :batch, :batch_row)"""
                ),
                {
                    "id": export,
                    "project": project,
                    "owner": owner,
                    "name": file_name,
                    "settings": json.dumps(settings),
                    "document": zlib.compress(document.model_dump_json(by_alias=True).encode(), PACKED),
                    "frames": frames,
                    "created": now(),
                    "batch": of and of[0],
                    "batch_row": of and of[1],
                },
            )
            defer(session, PLAN, RENDER, [{"export": export}], priority=4)
            session.commit()
            return self._record(session, export)

    def known_keys(self, export: str) -> dict[str, str]:
        with Session(self._engine) as session:
            project = select(ExportRow.project).where(ExportRow.id == export).scalar_subquery()
            planned = select(ExportRow.segments).where(ExportRow.project == project, col(ExportRow.segments).is_not(None))
            rows = session.exec(planned.order_by(col(ExportRow.created).desc()).limit(KNOWN_FROM)).all()
        # Older ones do not say of what they come.
        return {source: key for segments in reversed(rows) for _, _, key, source in (s for s in segments or () if len(s) == 4) if source}

    def plan(self, export: str, segments: Sequence[tuple[int, int, str, str]], ready: Collection[str]) -> None:
        with Session(self._engine) as session:
            row = _locked(session, export)
            if row is None or row.state in OVER or row.segments is not None:
                return
            row.segments = [list(s) for s in segments]
            session.add_all(
                SegmentRow(export=row.id, index=i, done=key in ready, frames=last - first if key in ready else 0)
                for i, (first, last, key, _) in enumerate(segments)
            )
            row.done_segments = sum(key in ready for _, _, key, _ in segments)
            waiting = [{"export": row.id, "index": i} for i, (_, _, key, _) in enumerate(segments) if key not in ready]
            if waiting:
                defer(session, SEGMENT, RENDER, waiting)
            else:
                self._to_be_joined(session, row)
            session.commit()

    @staticmethod
    def _to_be_joined(session: Session, row: ExportRow) -> None:
        row.state = "joining"
        defer(session, JOIN, RENDER, [{"export": row.id}], priority=5)

    def listed(self, project: str) -> list[ExportRecord]:
        with Session(self._engine) as session:
            mine = select(ExportRow.id).where(ExportRow.project == project, col(ExportRow.batch).is_(None))
            return [self._record(session, export) for export in session.exec(mine.order_by(col(ExportRow.created).desc())).all()]

    def read(self, export: str) -> ExportRecord:
        with Session(self._engine) as session:
            return self._record(session, export)

    def document(self, export: str) -> Document:
        with Session(self._engine) as session:
            packed = session.exec(select(ExportRow.document).where(ExportRow.id == export)).one_or_none()
        if packed is None:
            raise _not_found()
        return parse_document(orjson.loads(zlib.decompress(packed)))

    def segments(self, export: str) -> list[tuple[int, int, str]]:
        with Session(self._engine) as session:
            found = session.execute(select(ExportRow.segments).where(ExportRow.id == export)).one_or_none()
        if found is None:
            raise _not_found()
        return [(int(a), int(b), str(key)) for a, b, key, *_ in found[0] or ()]

    def kept(self, keys: Collection[str]) -> dict[str, KeptFile]:
        asked = update(KeptSegment).where(col(KeptSegment.key).in_(keys)).values(used=now())
        with Session(self._engine) as session:
            rows = session.execute(asked.returning(col(KeptSegment.key), col(KeptSegment.bytes), col(KeptSegment.sha256))).all()
            session.commit()
            return {key: KeptFile(length, sha256) for key, length, sha256 in rows}

    def forget_segment(self, key: str) -> None:
        self.blobs.forget(keys.segment(key))
        with Session(self._engine) as session:
            session.execute(delete(KeptSegment).where(col(KeptSegment.key) == key))
            session.commit()

    def prune_segments(self, most_bytes: int) -> None:
        with Session(self._engine) as session:
            live = session.exec(select(ExportRow.segments).where(col(ExportRow.state).notin_(OVER))).all()
            needed = {str(key) for segments in live for _, _, key, *_ in segments or ()}
            rows = session.execute(select(KeptSegment.key, KeptSegment.bytes).order_by(col(KeptSegment.used))).all()
        size = sum(length for _, length in rows)
        for key, length in rows:
            if size <= most_bytes:
                break
            if key not in needed:
                self.forget_segment(key)
                size -= length
        # What nothing knows of, such as a killed worker's file.
        self.blobs.sweep(keys.SEGMENTS, {keys.segment(key) for key in {key for key, _ in rows} | needed}, STRAY_SECONDS)

    def begin(self, export: str) -> bool:
        with Session(self._engine) as session:
            row = _locked(session, export)
            if row is None or row.state in OVER:
                return False
            if row.state == "waiting":
                row.state, row.started = "rendering", now()
                session.commit()
            return True

    def is_over(self, export: str) -> bool:
        with Session(self._engine) as session:
            state = session.exec(select(ExportRow.state).where(ExportRow.id == export)).first()
            return state is None or state in OVER

    def progress(self, export: str, index: int, frames: int) -> None:
        with Session(self._engine) as session:
            # Nobody misses what a crash takes of it, and nobody waits for a disk.
            session.execute(text("set local synchronous_commit = off"))
            session.execute(
                text('update segment set frames = :n where export = :e and "index" = :i'), {"n": frames, "e": export, "i": index}
            )
            session.commit()

    def finish_segment(self, export: str, index: int, key: str, file: KeptFile) -> None:
        with Session(self._engine) as session:
            values = {"bytes": file.bytes, "sha256": file.sha256, "used": now()}
            made = insert(KeptSegment).values(key=key, made=now(), **values)
            session.execute(made.on_conflict_do_update(index_elements=["key"], set_=values))
            row = _locked(session, export)
            segment = session.get(SegmentRow, (export, index))
            if row is not None and row.segments is not None and row.state not in OVER and segment is not None and not segment.done:
                first, last, *_ = row.segments[index]
                segment.done, segment.frames = True, last - first
                row.done_segments += 1
                # The row's lock lets exactly one worker see the last one done.
                if row.done_segments == len(row.segments):
                    self._to_be_joined(session, row)
            session.commit()

    def render_again(self, export: str, indexes: Sequence[int]) -> None:
        with Session(self._engine) as session:
            row = _locked(session, export)
            if row is None or row.state in OVER:
                return
            for index in indexes:
                segment = session.get_one(SegmentRow, (export, index))
                if segment.done:
                    segment.done, segment.frames = False, 0
                    row.done_segments -= 1
            row.state = "rendering"
            defer(session, SEGMENT, RENDER, [{"export": export, "index": index} for index in indexes])
            session.commit()

    def fail_abandoned(self, message: str) -> int:
        """Fails the exports under way that no worker will do anything for any more; gives how many."""
        with Session(self._engine) as session:
            found = session.execute(
                text(
                    """update export set state = 'failed', message = :message, finished = now()
                    where state not in ('done', 'failed', 'cancelled') and created < now() - make_interval(secs => :age) and not exists (
                        select from procrastinate_jobs job where job.status in ('todo', 'doing') and job.queue_name = :queue
                        and job.args ->> 'export' = export.id)"""
                ),
                {"message": message, "age": ABANDONED_SECONDS, "queue": RENDER},
            )
            session.commit()
            return int(found.rowcount)  # type: ignore[attr-defined]

    def set_state(self, export: str, state: str, message: str = "", size: int = 0) -> None:
        with Session(self._engine) as session:
            row = _locked(session, export)
            if row is None or row.state in OVER:
                return
            row.state, row.message, row.bytes = state, message, size
            if state in OVER:
                row.finished = now()
            session.commit()

    def forget(self, export: str) -> None:
        with Session(self._engine) as session:
            row = _locked(session, export)
            if row is not None:
                session.delete(row)
                session.commit()

    def _record(self, session: Session, export: str) -> ExportRecord:
        row = session.execute(text(f"select {RECORD} from export where id = :e"), {"e": export}).one_or_none()
        if row is None:
            raise _not_found()
        return ExportRecord(*row)


def _locked(session: Session, export: str) -> ExportRow | None:
    """An export, for this session alone; without its document, which may be megabytes."""
    return session.exec(select(ExportRow).options(without(ExportRow.document)).where(ExportRow.id == export).with_for_update()).first()  # type: ignore[arg-type]


def _not_found() -> NotFound:
    return NotFound([Fault("export.not_found", "", "There is no such export.")])
