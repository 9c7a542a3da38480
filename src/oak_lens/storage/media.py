"""Original files by content, in a folder; the states of their preparation in the database.

originals/ab/cd/<sha256>    as received        thumbs/ab/<sha256>.jpg        pyramids/ab/<sha256>/<level>.npy
"""

import os
import tempfile
from collections.abc import Sequence
from pathlib import Path
from typing import IO

from sqlalchemy import Engine
from sqlalchemy.dialects.postgresql import insert
from sqlmodel import Session, col, select

from ..core.errors import Fault, LimitReached, StorageFull, is_full
from ..services.ports import MediaState, listening_key
from .queue import LISTEN, PICTURES, PREPARE, defer
from .tables import MediaFile, now

CHUNK = 1 << 20


class FolderMedia:
    """The `MediaStore` port."""

    def __init__(self, engine: Engine, folder: Path):
        self._engine, self._folder = engine, folder
        (folder / "incoming").mkdir(parents=True, exist_ok=True)

    @property
    def pyramids(self) -> Path:
        return self._folder / "pyramids"

    def receive(self, stream: IO[bytes], limit: int) -> Path:
        try:
            handle, name = tempfile.mkstemp(dir=self._folder / "incoming")
        except OSError as error:
            raise StorageFull([Fault("storage.full", "", "The disk is full, so the file could not be kept. Free some space.")]) from error
        path = Path(name)
        try:
            with os.fdopen(handle, "wb") as file:
                size = 0
                while chunk := stream.read(CHUNK):
                    size += len(chunk)
                    if size > limit:
                        raise LimitReached([Fault("picture.bytes", "", f"The file is larger than {limit >> 20} MB.")])
                    file.write(chunk)
                file.flush()
                os.fsync(file.fileno())
        except OSError as error:
            path.unlink(missing_ok=True)
            if is_full(error):
                sentence = "The disk is full, so the file could not be kept. Free some space and try again."
                raise StorageFull([Fault("storage.full", "", sentence)]) from error
            raise LimitReached(
                [Fault("storage.write", "", f"The file could not be kept: {error.strerror or type(error).__name__}. Try again.")]
            ) from error
        except LimitReached:
            path.unlink(missing_ok=True)
            raise
        return path

    def keep(self, received: Path, sha256: str) -> Path:
        path = self.original(sha256)
        path.parent.mkdir(parents=True, exist_ok=True)
        if path.exists():
            received.unlink()
        else:
            received.replace(path)
            folder = os.open(path.parent, os.O_RDONLY)
            try:
                os.fsync(folder)
            finally:
                os.close(folder)
        return path

    def original(self, sha256: str) -> Path:
        return self._folder / "originals" / sha256[:2] / sha256[2:4] / sha256

    def thumbnail(self, sha256: str) -> Path:
        return self._folder / "thumbs" / sha256[:2] / f"{sha256}.jpg"

    def samples(self, sha256: str) -> Path:
        return self._folder / "sounds" / sha256[:2] / f"{sha256}.s16"

    def peaks(self, sha256: str) -> Path:
        return self._folder / "sounds" / sha256[:2] / f"{sha256}.npy"

    def heard(self, sha256: str) -> Path:
        return self._folder / "sounds" / sha256[:2] / f"{sha256}.json"

    def state_of(self, hashes: Sequence[str]) -> list[MediaState]:
        with Session(self._engine) as session:
            rows = session.exec(select(MediaFile).where(col(MediaFile.sha256).in_(hashes))).all()
            return [MediaState(row.sha256, row.state, row.message) for row in rows]

    def request_preparation(self, sha256: str) -> None:
        self._request(sha256, PREPARE, sha256, ("failed",))

    def request_listening(self, sha256: str) -> None:
        # Asked for again although it was ready: what was heard is gone.
        self._request(listening_key(sha256), LISTEN, sha256, ("failed", "ready"))

    def _request(self, key: str, task: str, sha256: str, again: tuple[str, ...]) -> None:
        with Session(self._engine) as session:
            statement = insert(MediaFile).values(sha256=key, state="waiting", message="", updated=now())
            fresh = session.execute(
                statement.on_conflict_do_update(
                    index_elements=["sha256"],
                    set_={"state": "waiting", "message": "", "updated": now()},
                    where=col(MediaFile.state).in_(again),
                ).returning(col(MediaFile.sha256))
            ).first()
            if fresh:
                # Before renders: somebody is waiting to see it.
                defer(session, task, PICTURES, [{"sha256": sha256}], priority=10)
            session.commit()

    def set_state(self, sha256: str, state: str, message: str = "") -> None:
        with Session(self._engine) as session:
            values = {"state": state, "message": message, "updated": now()}
            session.execute(insert(MediaFile).values(sha256=sha256, **values).on_conflict_do_update(index_elements=["sha256"], set_=values))
            session.commit()
