"""What files hold, by their content's hash: looked through once in a process, and again only when the file is another."""

import hashlib
import os
import threading
from collections import OrderedDict
from pathlib import Path

from .ports import KeptFile

REMEMBERED = 20_000

Mark = tuple[int, int, int, int]
"""What the file system tells of a file that changes with every writing: its number, length, and times of its content and of itself, in ns."""


class KeptFiles:
    """A film's segments are asked for at its planning and at its joining, again and again: hashing them took a tenth of a second export's time.

    Safe to share between threads.
    """

    def __init__(self) -> None:
        self._known: OrderedDict[Path, tuple[Mark, KeptFile]] = OrderedDict()
        self._lock = threading.Lock()

    def read(self, path: Path) -> KeptFile:
        """What a file holds. Raises OSError."""
        with path.open("rb") as file:
            mark = _mark(os.fstat(file.fileno()))
            with self._lock:
                known = self._known.get(path)
            if known is not None and known[0] == mark:
                return known[1]
            digest = hashlib.file_digest(file, "sha256").hexdigest()
            kept = KeptFile(file.tell(), digest)
        with self._lock:
            self._known[path] = (mark, kept)
            while len(self._known) > REMEMBERED:
                self._known.popitem(last=False)
        return kept


def _mark(told: os.stat_result) -> Mark:
    return told.st_ino, told.st_size, told.st_mtime_ns, told.st_ctime_ns
