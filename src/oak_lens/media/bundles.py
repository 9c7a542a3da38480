"""Many files as one zip, written as it is sent: nothing of it is held."""

import zipfile
from collections.abc import Iterable, Iterator
from pathlib import Path

CHUNK = 1 << 20


class _Sent:
    """A file that is only written, and handed on piece by piece."""

    def __init__(self) -> None:
        self.pieces: list[bytes] = []

    def write(self, data: bytes) -> int:
        self.pieces.append(bytes(data))
        return len(data)

    def flush(self) -> None: ...

    def taken(self) -> Iterator[bytes]:
        pieces, self.pieces = self.pieces, []
        yield from pieces


def zipped(files: Iterable[tuple[Path, str]]) -> Iterator[bytes]:
    """The bytes of a zip of (file, name), uncompressed: films are. A name that was there is numbered."""
    sent, taken = _Sent(), dict[str, int]()
    with zipfile.ZipFile(sent, "w", zipfile.ZIP_STORED) as bundle:  # type: ignore[call-overload]
        for path, name in files:
            alike = taken[name.casefold()] = taken.get(name.casefold(), 0) + 1
            stem, dot, ending = name.rpartition(".")
            own = name if alike == 1 else f"{stem} ({alike}){dot}{ending}"
            with path.open("rb") as film, bundle.open(zipfile.ZipInfo(own), "w", force_zip64=True) as part:
                while data := film.read(CHUNK):
                    part.write(data)
                    yield from sent.taken()
    yield from sent.taken()
