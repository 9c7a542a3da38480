"""Files that appear whole or not at all."""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import av

from ..core.errors import ExportFailed, Fault, StorageFull, is_full


def settle(part: Path, path: Path) -> None:
    """A written file takes its place for good: its bytes and its name are on the disk when this returns, whatever dies after."""
    with part.open("rb") as file:
        os.fsync(file.fileno())
    part.replace(path)
    folder = os.open(path.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)


@contextmanager
def published(path: Path) -> Iterator[Path]:
    """A file beside `path` to write into, which takes its place when all went well; else nothing is left.

    Raises StorageFull if the disk is full, ExportFailed if the coder fails.
    """
    part = path.with_name(f".{path.name[:80]}.{os.getpid()}")
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        yield part
        settle(part, path)
    except (OSError, av.FFmpegError) as error:
        if is_full(error):
            sentence = "The disk is full. What is done is kept; free some space and start the export again."
            raise StorageFull([Fault("storage.full", "", sentence)]) from error
        reason = getattr(error, "strerror", None) or type(error).__name__
        raise ExportFailed([Fault("export.write", "", f"The film could not be written: {reason}. What is done is kept.")]) from error
    finally:
        part.unlink(missing_ok=True)
