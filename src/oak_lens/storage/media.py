"""How far the preparation of files is; the files themselves are blobs."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy import Engine
from sqlalchemy.dialects.postgresql import insert
from sqlmodel import Session, col, select

from ..services.ports import Blobs, MediaState, Work
from .queue import LISTEN, PICTURES, PREPARE, defer
from .tables import MediaFile, now


class PostgresMedia:
    """The `MediaStore` port."""

    def __init__(self, engine: Engine, blobs: Blobs):
        self._engine, self.blobs = engine, blobs

    def state_of(self, work: Work, hashes: Sequence[str]) -> list[MediaState]:
        with Session(self._engine) as session:
            rows = session.exec(select(MediaFile).where(col(MediaFile.work) == work, col(MediaFile.sha256).in_(hashes))).all()
            return [MediaState(row.sha256, row.state, row.message, row.share, row.code) for row in rows]

    def request_preparation(self, sha256: str) -> None:
        self._request(sha256, "prepare", PREPARE, ("failed",))

    def request_listening(self, sha256: str) -> None:
        # Asked for again although it was ready: what was heard is gone.
        self._request(sha256, "listen", LISTEN, ("failed", "ready"))

    def _request(self, sha256: str, work: Work, task: str, again: tuple[str, ...]) -> None:
        with Session(self._engine) as session:
            waiting = _values(MediaState(sha256, "waiting"))
            statement = insert(MediaFile).values(sha256=sha256, work=work, **waiting)
            fresh = session.execute(
                statement.on_conflict_do_update(
                    index_elements=["sha256", "work"], set_=waiting, where=col(MediaFile.state).in_(again)
                ).returning(col(MediaFile.sha256))
            ).first()
            if fresh:
                # Before renders: somebody is waiting to see it.
                defer(session, task, PICTURES, [{"sha256": sha256}], priority=10)
            session.commit()

    def set_state(self, work: Work, state: MediaState) -> None:
        with Session(self._engine) as session:
            statement = insert(MediaFile).values(sha256=state.sha256, work=work, **_values(state))
            session.execute(statement.on_conflict_do_update(index_elements=["sha256", "work"], set_=_values(state)))
            session.commit()


def _values(state: MediaState) -> dict[str, Any]:
    return {"state": state.state, "share": state.share, "code": state.code, "message": state.message, "updated": now()}
