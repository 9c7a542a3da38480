"""Files by key in a folder: taken in, whole or not there, durable."""

import os
import tempfile
import threading
import time
from collections.abc import Collection, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from ..core.errors import Fault, LimitReached, StorageFull, is_full
from .publishing import settle

CHUNK = 1 << 20
INCOMING = "media/incoming"
NO_ROOM = "The disk is full, so the file could not be kept. Free some space and try again."


class FolderBlobs:
    """The `Blobs` port over one folder: a key is a path in it."""

    def __init__(self, folder: Path):
        self._folder = folder

    def receive(self, stream: IO[bytes], limit: int) -> Path:
        """A temporary file with the stream's bytes. Raises LimitReached over `limit`, StorageFull."""
        incoming = self._folder / INCOMING
        path: Path | None = None
        try:
            incoming.mkdir(parents=True, exist_ok=True)
            handle, name = tempfile.mkstemp(dir=incoming)
            path = Path(name)
            with os.fdopen(handle, "wb") as file:
                size = 0
                while chunk := stream.read(CHUNK):
                    size += len(chunk)
                    if size > limit:
                        raise LimitReached([Fault("picture.bytes", "", f"The file is larger than {limit >> 20} MB.")])
                    file.write(chunk)
                file.flush()
                os.fsync(file.fileno())
        except (OSError, LimitReached) as error:
            if path is not None:
                path.unlink(missing_ok=True)
            if isinstance(error, OSError):
                raise not_kept(error) from error
            raise
        return path

    def keep(self, received: Path, key: str) -> None:
        """A received file becomes the blob, durably; one that is there already stays."""
        path = self._folder / key
        path.parent.mkdir(parents=True, exist_ok=True)
        if path.exists():
            received.unlink()
        else:
            settle(received, path)

    def has(self, key: str) -> bool:
        return (self._folder / key).is_file()

    def local(self, key: str) -> Path:
        """A file of this machine with the blob's bytes, to be read alone. Raises FileNotFoundError."""
        path = self._folder / key
        if not path.is_file():
            raise FileNotFoundError(key)
        return path

    @contextmanager
    def writing(self, key: str, durable: bool = True) -> Iterator[Path]:
        """A file to write, which becomes the blob when all went well; else nothing is left. `durable`: also if the machine dies right
        after; what is quickly made again need not be."""
        path = self._folder / key
        part = path.with_name(f".{path.name}.{os.getpid()}-{threading.get_ident()}")
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            yield part
            if durable:
                settle(part, path)
            else:
                part.replace(path)
        finally:
            part.unlink(missing_ok=True)

    def forget(self, key: str) -> None:
        """Of one that is not there, nothing happens."""
        (self._folder / key).unlink(missing_ok=True)

    def trim(self, prefix: str, most_bytes: int) -> None:
        """Forgets what lies under a prefix and was made longest ago, until the rest is no larger."""
        found = sorted((p.stat().st_mtime, p.stat().st_size, p) for p in (self._folder / prefix).rglob("*") if p.is_file())
        size = sum(length for _, length, _ in found)
        for _, length, path in found:
            if size <= most_bytes:
                break
            path.unlink(missing_ok=True)
            size -= length

    def sweep(self, prefix: str, known: Collection[str], older_seconds: float) -> None:
        """Forgets what lies under a prefix and is not among the known keys, once nobody can be writing it any more."""
        before = time.time() - older_seconds
        for path in (self._folder / prefix).rglob("*"):
            if path.is_file() and path.relative_to(self._folder).as_posix() not in known and path.stat().st_mtime < before:
                path.unlink(missing_ok=True)


def not_kept(error: OSError) -> StorageFull | LimitReached:
    """Why a file could not be kept, for people."""
    if is_full(error):
        return StorageFull([Fault("storage.full", "", NO_ROOM)])
    return LimitReached([Fault("storage.write", "", f"The file could not be kept: {error.strerror or type(error).__name__}. Try again.")])
