"""Files that appear whole or not at all."""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import av

from ..core.errors import ExportFailed, Fault


@contextmanager
def published(path: Path) -> Iterator[Path]:
    """A file beside `path` to write into, which takes its place when all went well; else nothing is left.

    Raises ExportFailed if the disk is full or the coder fails.
    """
    part = path.with_name(f".{path.name}.{os.getpid()}")
    path.parent.mkdir(parents=True, exist_ok=True)
    try:
        yield part
        part.replace(path)
    except (OSError, av.FFmpegError) as error:
        message = f"The film could not be written: {error}. What is done is kept; free some space and start the export again."
        raise ExportFailed([Fault("export.write", "", message)]) from error
    finally:
        part.unlink(missing_ok=True)
