"""Packages: one file that holds a template or project. A strict reader of ZIP that streams: nothing is believed that was not counted and hashed.

`manifest.json` says what the package is, and path, length, SHA-256 and licence line of each of the other entries; `document.json` is the document;
`media/` and `fonts/` hold files named by their content. Format: `docs/template-format.md`; of ZIP, .ZIP File Format Specification 6.3.3.
"""

import hashlib
import re
import stat
import struct
import zipfile
import zlib
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ..core.errors import Fault, InvalidPackage

CHUNK = 1 << 20
CENTRAL, LOCAL = struct.Struct("<4s6H3I5H2I"), struct.Struct("<4s5H3I2H")
END = struct.Struct("<4s4H2IH")
ENDINGS = "jpg|jpeg|png|webp|tif|tiff|heic|avif|mp4|mov|webm|mkv|mp3|wav|flac|m4a|ogg|opus|ttf|bin"
NAME = re.compile(rf"manifest\.json|document\.json|notes\.md|poster\.jpg|preview\.mp4|(media|fonts)/[0-9a-f]{{64}}\.({ENDINGS})")
"""Every name there can be: none needs folding, escaping or a look at what a system makes of it, and none becomes a path outside."""

PACKAGE_VERSION = 1
WRITTEN = (2020, 1, 1, 0, 0, 0)
"""When every entry was written, as it says: what is the same is the same byte for byte."""


@dataclass(frozen=True, slots=True)
class Limits:
    """Bytes of a package, of one entry, of all unpacked, of one of JSON; how many entries; how often its size one may unpack to."""

    file: int = 512 << 20
    entry: int = 256 << 20
    total: int = 1 << 30
    json: int = 32 << 20
    entries: int = 600
    ratio: int = 200


class PackedPart(BaseModel):
    """An entry: where, how long, SHA-256 of its bytes, by whose leave."""

    model_config = ConfigDict(frozen=True)

    path: str
    bytes: int = Field(ge=0)
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    licence: Annotated[str, Field(max_length=500)] = ""


class Manifest(BaseModel):
    """What a package is. `faces`: families of faces that ship with Oak Lens and that it needs. Fields of later versions are passed over."""

    model_config = ConfigDict(frozen=True)

    package: Annotated[int, Field(ge=1, le=1000)] = PACKAGE_VERSION
    holds: Literal["template"] = "template"
    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")]
    version: Annotated[str, Field(pattern=r"^\d{1,4}\.\d{1,4}\.\d{1,4}$")] = "1.0.0"
    name: Annotated[str, Field(max_length=300)] = ""
    author: Annotated[str, Field(max_length=300)] = ""
    licence: Annotated[str, Field(max_length=500)] = ""
    faces: tuple[str, ...] = ()
    parts: tuple[PackedPart, ...] = ()


@dataclass(frozen=True, slots=True)
class Packed:
    """A part to be written: `content` as bytes, or a file that is read as it is written."""

    path: str
    content: bytes | Path
    licence: str = ""


def write_package(out: IO[bytes], manifest: Manifest, parts: Iterable[Packed]) -> Manifest:
    """Writes a package; the same parts give the same bytes. Gives the manifest as it was written, with what is in it."""
    listed = list(parts)
    packed = tuple(PackedPart(path=p.path, bytes=_size(p), sha256=_sha256(p), licence=p.licence) for p in listed)
    manifest = manifest.model_copy(update={"parts": packed})
    with zipfile.ZipFile(out, "w") as archive:
        with archive.open(_info("manifest.json"), "w") as entry:
            entry.write(manifest.model_dump_json(indent=1).encode())
        for part in listed:
            with archive.open(_info(part.path), "w") as entry:
                for chunk in _chunks(part):
                    entry.write(chunk)
    return manifest


def _info(path: str) -> zipfile.ZipInfo:
    info = zipfile.ZipInfo(path, WRITTEN)
    info.compress_type = zipfile.ZIP_DEFLATED if path.endswith((".json", ".md")) else zipfile.ZIP_STORED
    info.create_system = 3
    info.external_attr = 0o100644 << 16
    return info


def _chunks(part: Packed) -> Iterator[bytes]:
    if isinstance(part.content, bytes):
        yield part.content
        return
    with part.content.open("rb") as file:
        while chunk := file.read(CHUNK):
            yield chunk


def _size(part: Packed) -> int:
    return len(part.content) if isinstance(part.content, bytes) else part.content.stat().st_size


def _sha256(part: Packed) -> str:
    digest = hashlib.sha256()
    for chunk in _chunks(part):
        digest.update(chunk)
    return digest.hexdigest()


def bad(message: str, code: str = "package.damaged") -> InvalidPackage:
    """Why a package is not let in."""
    return InvalidPackage([Fault(code, "", f"This file cannot be opened: {message}. Nothing was kept.")])


def _need(so: bool, otherwise: str) -> None:
    if not so:
        raise bad(otherwise)


@dataclass(frozen=True, slots=True)
class _Entry:
    method: int
    crc: int
    packed: int
    size: int
    start: int


class Package:
    """A package that is read. All of its directory is checked before any entry is unpacked; then the manifest must list exactly the others, each
    once and of its size. Raises InvalidPackage."""

    def __init__(self, file: IO[bytes], limits: Limits | None = None):
        self._file, self._limits = file, limits or Limits()
        self._entries = self._directory()
        _need("manifest.json" in self._entries and "document.json" in self._entries, "its manifest or document is missing")
        self.manifest = self._manifest()

    def _manifest(self) -> Manifest:
        try:
            manifest = Manifest.model_validate_json(self.read("manifest.json"))
        except ValidationError as error:
            first = error.errors()[0]
            raise bad(f"its manifest is not one ({'.'.join(str(p) for p in first['loc'])}: {first['msg'].lower()})") from None
        if manifest.package > PACKAGE_VERSION:
            raise bad("it was packed by a newer Oak Lens; update Oak Lens to open it", "package.newer")
        listed = {p.path: p for p in manifest.parts}
        _need(len(listed) == len(manifest.parts) and listed.keys() == self._entries.keys() - {"manifest.json"}, "its manifest lists other files than it holds")
        for path, part in listed.items():
            _need(part.bytes == self._entries[path].size, f"{path} is not as long as its manifest says")
            _need("/" not in path or path.split("/")[1].split(".")[0] == part.sha256, f"{path} is named by another content")
        return manifest

    def _end(self) -> tuple[int, int, int]:
        """(entries, bytes of the directory, where it begins)."""
        length = self._file.seek(0, 2)
        _need(length <= self._limits.file, "it is too large")
        tail = self._at(max(0, length - END.size), END.size)
        _need(len(tail) == END.size and tail[:4] == b"PK\5\6", "it is cut off, or no package")
        _, disk, other, here, count, size, at, comment = END.unpack(tail)
        _need(not (disk or other or comment) and here == count and at + size == length - END.size, "its end is damaged")
        _need(0 < count <= self._limits.entries and size <= count * 300, "it holds too many files")
        return count, size, at

    def _directory(self) -> dict[str, _Entry]:
        count, size, at = self._end()
        left, found, spans, total = self._at(at, size), dict[str, _Entry](), list[tuple[int, int]](), 0
        for _ in range(count):
            _need(len(left) >= CENTRAL.size and left[:4] == b"PK\1\2", "its directory is damaged")
            _, made, _, flags, method, _, _, crc, packed, unpacked, n, x, c, disk, _, mode, offset = CENTRAL.unpack(left[: CENTRAL.size])
            raw, left = left[CENTRAL.size : CENTRAL.size + n], left[CENTRAL.size + n + x + c :]
            name, kind = raw.decode("ascii", "replace"), stat.S_IFMT(mode >> 16) if made >> 8 == 3 else 0
            _need(NAME.fullmatch(name) is not None, f"a file in it is called {name[:60]!r}, which no part of a package is")
            _need(name not in found and offset < at, f"{name} is there twice, or its place is damaged")
            # Bit 3: sizes stand behind the data, too. Bit 11: names are UTF-8.
            _need(not (flags & ~0x808 or c or disk) and method in (0, 8) and kind in (0, stat.S_IFREG), f"{name} is no plain file")
            _need(unpacked <= (self._limits.json if name.endswith(".json") else self._limits.entry), f"{name} is too large")
            _need(unpacked <= max(CHUNK, packed * self._limits.ratio) and (method == 8 or packed == unpacked), f"{name} unpacks to too much")
            total += unpacked
            _need(total <= self._limits.total, "it unpacks to too much")
            header = self._at(offset, LOCAL.size + n)
            _need(len(header) == LOCAL.size + n and header[:4] == b"PK\3\4" and header[LOCAL.size :] == raw, f"{name} has two names")
            start = offset + LOCAL.size + sum(LOCAL.unpack(header[: LOCAL.size])[-2:])
            found[name] = _Entry(method, crc, packed, unpacked, start)
            spans.append((offset, start + packed))
        spans.sort()
        _need(not left and spans[0][0] == 0, "something is hidden in it")
        _need(all(0 <= after[0] - before[1] <= 24 for before, after in zip(spans, [*spans[1:], (at, at)], strict=True)), "its files overlap, or hide something")
        return found

    def _at(self, place: int, size: int) -> bytes:
        self._file.seek(place)
        return self._file.read(size)

    def chunks(self, name: str) -> Iterator[bytes]:
        """An entry's bytes, at most a megabyte at a time, never more than its size. Raises InvalidPackage."""
        entry = self._entries[name]
        inflate, out, crc, left = (zlib.decompressobj(-15) if entry.method else None), 0, 0, entry.packed
        place = entry.start
        try:
            while left and (raw := self._at(place, min(CHUNK, left))):
                left, place = left - len(raw), place + len(raw)
                while raw:
                    data, raw = (inflate.decompress(raw, CHUNK), inflate.unconsumed_tail) if inflate else (raw, b"")
                    out, crc = out + len(data), zlib.crc32(data, crc)
                    _need(out <= entry.size, f"{name} is longer than it says")
                    yield data
        except zlib.error:
            raise bad(f"{name} is damaged") from None
        _need(not left and out == entry.size and crc == entry.crc and not (inflate and not inflate.eof), f"{name} is damaged")

    def read(self, name: str) -> bytes:
        """An entry of JSON or text, whole."""
        return b"".join(self.chunks(name))

    def copy(self, part: PackedPart, out: IO[bytes]) -> None:
        """A part's bytes, hashed on the way, also where the content is known already: else a bare hash in a manifest would hand out another
        person's file. Raises InvalidPackage."""
        digest = hashlib.sha256()
        for data in self.chunks(part.path):
            digest.update(data)
            out.write(data)
        _need(digest.hexdigest() == part.sha256, f"{part.path} was changed after it was packed")

    def part(self, path: str) -> PackedPart | None:
        """What the manifest says of a part."""
        return next((p for p in self.manifest.parts if p.path == path), None)
