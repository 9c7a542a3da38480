"""Exports in the database, their films and coded segments in folders."""

import os
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from sqlalchemy import Engine, text
from sqlmodel import Session, col, select

from ..core.document import Document, dump_document, parse_document
from ..core.errors import Fault, NotFound
from ..services.ports import ExportRecord
from .projects import new_id
from .queue import JOIN, RENDER, SEGMENT, defer
from .tables import ExportRow, SegmentRow, now

OVER = ("done", "failed", "cancelled")


def _in_use(path: Path) -> bool:
    """Whether a segment is there; it counts as used now, so that it is not pruned for a while."""
    try:
        os.utime(path)
    except FileNotFoundError:
        return False
    return True


class PostgresExports:
    """The `ExportStore` port."""

    def __init__(self, engine: Engine, folder: Path):
        self._engine, self._folder = engine, folder

    def create(
        self,
        project: str,
        owner: str,
        document: Document,
        settings: dict[str, Any],
        file_name: str,
        segments: Sequence[tuple[int, int, str]],
    ) -> ExportRecord:
        with Session(self._engine) as session:
            row = ExportRow(
                id=new_id(),
                project=project,
                owner=owner,
                file_name=file_name,
                state="waiting",
                settings=settings,
                document=dump_document(document),
                segments=[list(s) for s in segments],
            )
            session.add(row)
            session.flush()
            # What an earlier export coded alike is there already: no worker need look at it.
            ready = [_in_use(self.segment_path(key)) for _, _, key in segments]
            session.add_all(
                SegmentRow(export=row.id, index=i, done=is_ready, frames=last - first if is_ready else 0)
                for i, ((first, last, _), is_ready) in enumerate(zip(segments, ready, strict=True))
            )
            row.done_segments = sum(ready)
            waiting = [{"export": row.id, "index": i} for i, is_ready in enumerate(ready) if not is_ready]
            if waiting:
                defer(session, SEGMENT, RENDER, waiting)
            else:
                row.state = "joining"
                defer(session, JOIN, RENDER, [{"export": row.id}], lock=f"join-{row.id}", priority=5)
            session.commit()
            return self._record(session, row.id)

    def listed(self, project: str) -> list[ExportRecord]:
        with Session(self._engine) as session:
            ids = session.exec(select(ExportRow.id).where(ExportRow.project == project).order_by(col(ExportRow.created).desc())).all()
            return [self._record(session, export) for export in ids]

    def read(self, export: str) -> ExportRecord:
        with Session(self._engine) as session:
            return self._record(session, export)

    def document(self, export: str) -> Document:
        with Session(self._engine) as session:
            return parse_document(self._row(session, export).document)

    def segments(self, export: str) -> list[tuple[int, int, str]]:
        with Session(self._engine) as session:
            return [(int(a), int(b), str(key)) for a, b, key in self._row(session, export).segments]

    def segment_path(self, key: str) -> Path:
        return self._folder / "segments" / key[:2] / key

    def film_path(self, export: str) -> Path:
        with Session(self._engine) as session:
            ending = Path(self._row(session, export).file_name).suffix
        return self._folder / "films" / f"{export}{ending}"

    def prune_segments(self, most_bytes: int) -> None:
        with Session(self._engine) as session:
            live = session.exec(select(ExportRow.segments).where(col(ExportRow.state).notin_(OVER))).all()
        needed = {str(key) for segments in live for _, _, key in segments}
        files = [(p.stat(), p) for p in (self._folder / "segments").glob("*/*") if not p.name.startswith(".")]
        size = sum(stat.st_size for stat, _ in files)
        for stat, path in sorted(files, key=lambda f: f[0].st_mtime):
            if size <= most_bytes:
                break
            if path.name not in needed:
                path.unlink(missing_ok=True)
                size -= stat.st_size

    def begin(self, export: str) -> bool:
        with Session(self._engine) as session:
            row = session.get(ExportRow, export)
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
            session.execute(
                text('update segment set frames = :n where export = :e and "index" = :i'), {"n": frames, "e": export, "i": index}
            )
            session.commit()

    def finish_segment(self, export: str, index: int) -> None:
        with Session(self._engine) as session:
            row = session.exec(select(ExportRow).where(ExportRow.id == export).with_for_update()).first()
            if row is None or row.state in OVER:
                return
            segment = session.get(SegmentRow, (export, index))
            if segment is not None and not segment.done:
                first, last, _ = row.segments[index]
                segment.done, segment.frames = True, last - first
                row.done_segments += 1
                # The row's lock lets exactly one worker see the last one done.
                if row.done_segments == len(row.segments):
                    row.state = "joining"
                    defer(session, JOIN, RENDER, [{"export": export}], lock=f"join-{export}", priority=5)
            session.commit()

    def set_state(self, export: str, state: str, message: str = "", size: int = 0) -> None:
        with Session(self._engine) as session:
            row = session.exec(select(ExportRow).where(ExportRow.id == export).with_for_update()).first()
            if row is None or row.state in OVER:
                return
            row.state, row.message, row.bytes = state, message, size
            if state in OVER:
                row.finished = now()
            session.commit()

    def forget(self, export: str) -> None:
        with Session(self._engine) as session:
            row = session.get(ExportRow, export)
            if row is not None:
                session.delete(row)
                session.commit()

    def _row(self, session: Session, export: str) -> ExportRow:
        row = session.get(ExportRow, export)
        if row is None:
            raise NotFound([Fault("export.not_found", "", "There is no such export.")])
        return row

    def _record(self, session: Session, export: str) -> ExportRecord:
        row = self._row(session, export)
        done = session.execute(text("select coalesce(sum(frames), 0) from segment where export = :e"), {"e": export}).scalar_one()
        frames = sum(last - first for first, last, _ in row.segments)
        return ExportRecord(
            row.id,
            row.project,
            row.owner,
            row.file_name,
            row.state,
            row.settings,
            frames,
            int(done),
            row.message,
            row.bytes,
            row.created,
            row.started,
            row.finished,
        )
