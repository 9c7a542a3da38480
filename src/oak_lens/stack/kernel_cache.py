"""Where compiled kernels are kept: by the contents of all of them.

The compiler's own cache goes by the time and length of the one file a kernel stands in: a copy of the project would compile all anew, and a
kernel that calls one in another file would keep the old one of it.
"""

import hashlib
import os
import shutil
import sys
import time
from functools import cache
from pathlib import Path
from typing import Any, Self

from numba.core.caching import _CacheLocator

PACKAGE = Path(__file__).resolve().parents[1]
KEPT_VERSIONS = 4
COMPILED = "compiled"


@cache
def version() -> str:
    """What all compiled kernels depend on that is ours."""
    digest = hashlib.sha256()
    for path in sorted((PACKAGE / "core").rglob("*.py")):
        text = path.read_bytes()
        if b"compiled" in text or b"numba" in text:
            digest.update(str(path.relative_to(PACKAGE)).encode() + b"\0" + text)
    return digest.hexdigest()[:16]


def folder() -> Path:
    """Of the kernels as they are now, in NUMBA_CACHE_DIR."""
    return Path(os.environ["NUMBA_CACHE_DIR"]) / version()


class ByContents(_CacheLocator):  # type: ignore[misc]
    """The compiler asks this where to look (NUMBA_CACHE_LOCATOR_CLASSES)."""

    def __init__(self, module: str):
        self._module = module

    @classmethod
    def from_function(cls, py_func: Any, py_file: str) -> Self | None:
        path = Path(py_file).resolve()
        return cls(".".join(path.relative_to(PACKAGE).with_suffix("").parts)) if path.is_relative_to(PACKAGE) else None

    def get_cache_path(self) -> str:
        return str(folder() / self._module)

    def get_source_stamp(self) -> str:
        return version()

    def get_disambiguator(self) -> str:
        return self._module


def main() -> None:
    """Compiles what is not compiled yet, and takes away what versions long past have left."""
    mark = folder() / COMPILED
    if mark.exists():
        return
    print("Compiling the painter for this machine: once for each version, up to half a minute.", file=sys.stderr, flush=True)
    began = time.monotonic()
    from ..core.paint.warming import warm_up

    warm_up()
    mark.parent.mkdir(parents=True, exist_ok=True)
    mark.touch()
    versions = sorted((p for p in mark.parent.parent.iterdir() if p.is_dir()), key=lambda p: p.stat().st_mtime, reverse=True)
    for old in versions[KEPT_VERSIONS:]:
        shutil.rmtree(old, ignore_errors=True)
    print(f"Compiled in {time.monotonic() - began:.0f} s.", file=sys.stderr, flush=True)


if __name__ == "__main__":
    main()
