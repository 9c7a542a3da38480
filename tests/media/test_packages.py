"""Packages: what is packed comes back the same; whatever is wrong with a file, it is refused with a sentence, and fast."""

import hashlib
import io
import json
import random
import struct
import time
import warnings
import zipfile
import zlib
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from PIL import Image

from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidPackage
from oak_lens.core.templates import TemplateContent, extracted
from oak_lens.core.treatments import BUILTIN
from oak_lens.media.packages import Limits, Manifest, Package, Packed, write_package
from oak_lens.media.template_files import Looks, opened_template, pack_template
from tests.conftest import ROOT, made_document


@pytest.fixture(scope="module")
def content(tmp_path_factory: pytest.TempPathFactory) -> tuple[TemplateContent, Path]:
    """A template with a picture of its own (a sheet of paper behind all), and the folder of its files."""
    folder = tmp_path_factory.mktemp("files")
    Image.new("RGB", (60, 40), "#c8b48a").save(folder / "paper.png")
    sha256 = hashlib.sha256((folder / "paper.png").read_bytes()).hexdigest()
    (folder / "paper.png").rename(folder / sha256)
    paper = {"id": "paper", "name": "Paper", "file": "paper.png", "sha256": sha256, "width": 60, "height": 40}
    document = apply_edits(
        made_document(),
        parse_edits([
            {"edit": "add_pictures", "pictures": [paper]},
            {"edit": "set_scenes", "ids": ["s-wide"], "backdrop": {"kind": "picture", "media": "paper"}},
            {"edit": "add_text", "scene": "s-wide", "id": "t", "text": "Words", "style": "frontispiece"},
            {"edit": "make_template", "id": "mine", "name": "On paper", "scenes": ["s-wide"]},
            {"edit": "make_dial", "template": "mine", "id": "blur", "values": [{"scene": "s-wide", "property": "backdrop.blur"}]},
        ]),
    )  # fmt: skip
    return extracted(document, "mine", "on-paper", "1.2.0"), folder


@pytest.fixture(scope="module")
def packed(content: tuple[TemplateContent, Path]) -> bytes:
    return file_of(*content)


def file_of(content: TemplateContent, folder: Path) -> bytes:
    out = io.BytesIO()
    pack_template(out, content, lambda sha256: folder / sha256, lambda sha256: folder / sha256, Looks(b"\xff\xd8poster"), author="A. Designer", licence="Own work")
    return out.getvalue()


def read(data: bytes) -> TemplateContent:
    return opened_template(Package(io.BytesIO(data)))


def test_packed_checked_and_opened_it_is_the_same_and_so_are_its_bytes(content: tuple[TemplateContent, Path], packed: bytes) -> None:
    opened = read(packed)
    assert opened == content[0] and opened.key == content[0].key
    assert file_of(*content) == packed
    package = Package(io.BytesIO(packed))
    assert (package.manifest.name, package.manifest.version, package.manifest.faces) == ("On paper", "1.2.0", ("playfair-display",))
    (picture,) = [p for p in package.manifest.parts if p.path.startswith("media/")]
    out = io.BytesIO()
    package.copy(picture, out)
    assert out.getvalue() == (content[1] / picture.sha256).read_bytes() and picture.licence == "Own work"
    with zipfile.ZipFile(io.BytesIO(packed)) as archive:
        assert archive.testzip() is None and archive.namelist()[0] == "manifest.json", "any archiver opens it"


@pytest.mark.parametrize("shipped", BUILTIN, ids=lambda s: s.id)
def test_every_shipped_template_goes_into_a_file_and_comes_back(shipped: Any, tmp_path: Path) -> None:
    assert read(file_of(shipped.content, tmp_path)) == shipped.content


Rows = list[tuple[zipfile.ZipInfo, bytes]]


def rebuilt(packed: bytes, change: Callable[[Rows], Rows], honest: bool = True) -> bytes:
    """The package with its entries changed; `honest`: its manifest tells of them."""
    with zipfile.ZipFile(io.BytesIO(packed)) as archive:
        rows = change([(info, archive.read(info)) for info in archive.infolist()])
    manifest: dict[str, Any] = {}
    if honest:
        manifest = json.loads(next(data for info, data in rows if info.filename == "manifest.json"))
        manifest["parts"] = [
            {"path": i.filename, "bytes": len(d), "sha256": hashlib.sha256(d).hexdigest()} for i, d in rows if i.filename != "manifest.json"
        ]
    out = io.BytesIO()
    with warnings.catch_warnings(), zipfile.ZipFile(out, "w") as archive:
        warnings.simplefilter("ignore")
        for info, data in rows:
            archive.writestr(info, json.dumps(manifest) if info.filename == "manifest.json" and honest else data)
    return out.getvalue()


def entry(name: str, data: bytes = b"x", method: int = 0, mode: int = 0o100644) -> tuple[zipfile.ZipInfo, bytes]:
    info = zipfile.ZipInfo(name)
    info.compress_type, info.create_system, info.external_attr = method, 3, mode << 16
    return info, data


def replaced(name: str, data: bytes) -> Callable[[Rows], Rows]:
    return lambda rows: [(i, data if i.filename == name else d) for i, d in rows]


def changed_document(change: Callable[[dict[str, Any]], None]) -> Callable[[Rows], Rows]:
    def apply(rows: Rows) -> Rows:
        document = json.loads(next(d for i, d in rows if i.filename == "document.json"))
        change(document)
        return replaced("document.json", json.dumps(document).encode())(rows)

    return apply


def field_of(packed: bytes, offset: int, value: bytes) -> bytes:
    """The package with bytes of its end record overwritten."""
    at = len(packed) - 22 + offset
    return packed[:at] + value + packed[at + len(value) :]


SHA = "a" * 64
ATTACKS: dict[str, Callable[[bytes], bytes]] = {
    "cut short": lambda p: p[: len(p) // 2],
    "cut at its end": lambda p: p[:-1],
    "empty": lambda p: b"",
    "no archive": lambda p: b"GIF89a" + bytes(400),
    "something before it": lambda p: b"MZ" + p,
    "something behind it": lambda p: p + b"more",
    "a comment": lambda p: field_of(p, 20, struct.pack("<H", 4)) + b"word",
    "more entries than there are": lambda p: field_of(p, 8, struct.pack("<HH", 60000, 60000)),
    "fewer entries than there are": lambda p: field_of(p, 8, struct.pack("<HH", 2, 2)),
    "a directory elsewhere": lambda p: field_of(p, 16, struct.pack("<I", 5)),
    "on another disk": lambda p: field_of(p, 4, struct.pack("<H", 1)),
    "a path upward": lambda p: rebuilt(p, lambda r: [*r, entry("../../etc/cron.d/x")]),
    "an absolute path": lambda p: rebuilt(p, lambda r: [*r, entry("/etc/passwd")]),
    "a backslash": lambda p: rebuilt(p, lambda r: [*r, entry("media\\x.png")]),
    "a drive": lambda p: rebuilt(p, lambda r: [*r, entry("C:x.png")]),
    "a folder": lambda p: rebuilt(p, lambda r: [*r, entry("media/", b"")]),
    "other letters": lambda p: rebuilt(p, lambda r: [*r, entry("MANIFEST.JSON")]),
    "a program": lambda p: rebuilt(p, lambda r: [*r, entry(f"media/{SHA}.exe")]),
    "a page": lambda p: rebuilt(p, lambda r: [*r, entry(f"media/{SHA}.html")]),
    "a symlink": lambda p: rebuilt(p, lambda r: [*r, entry(f"media/{SHA}.png", b"/etc/passwd", mode=0o120777)]),
    "a pipe": lambda p: rebuilt(p, lambda r: [*r, entry(f"media/{SHA}.png", mode=0o010644)]),
    "one name twice": lambda p: rebuilt(p, lambda r: [*r, r[1]]),
    "a bomb": lambda p: rebuilt(p, lambda r: [*r, entry(f"media/{hashlib.sha256(bytes(50 << 20)).hexdigest()}.png", bytes(50 << 20), 8)]),
    "encrypted": lambda p: p.replace(b"PK\1\2" + p[p.index(b"PK\1\2") + 4 :][:4] + b"\0\0", b"PK\1\2" + p[p.index(b"PK\1\2") + 4 :][:4] + b"\1\0", 1),
    "another coder": lambda p: rebuilt(p, lambda r: [*r, entry(f"media/{hashlib.sha256(b'x' * 99).hexdigest()}.png", b"x" * 99, 12)]),
    "without a manifest": lambda p: _without(p, "manifest.json"),
    "without a document": lambda p: rebuilt(p, lambda r: [x for x in r if x[0].filename != "document.json"]),
    "a part not listed": lambda p: rebuilt(p, lambda r: [*r, entry("notes.md")], honest=False),
    "a part listed and gone": lambda p: rebuilt(p, lambda r: [x for x in r if x[0].filename != "poster.jpg"], honest=False),
    "another length than listed": lambda p: rebuilt(p, replaced("poster.jpg", b"longer than it was"), honest=False),
    "a manifest that is none": lambda p: rebuilt(p, replaced("manifest.json", b"[1, 2"), honest=False),
    "deep JSON": lambda p: rebuilt(p, replaced("document.json", b"[" * 100_000 + b"]" * 100_000)),
    "a deep manifest": lambda p: rebuilt(p, replaced("manifest.json", b'{"parts":' + b"[" * 100_000), honest=False),
    "a document that is none": lambda p: rebuilt(p, replaced("document.json", b'{"schema": 10, "scenes": 7}')),
    "a newer document": lambda p: rebuilt(p, changed_document(lambda d: d.update(schema=99))),
    "a newer package": lambda p: rebuilt(p, replaced("manifest.json", _manifest(p, package=7)), honest=False),
    "a picture missing": lambda p: rebuilt(p, lambda r: [x for x in r if not x[0].filename.startswith("media/")]),
    "a face missing": lambda p: rebuilt(p, replaced("manifest.json", _manifest(p, faces=["nobodys-face"])), honest=False),
    "a picture of another name": lambda p: rebuilt(p, lambda r: [(entry(f"media/{SHA}.png")[0], d) if i.filename.startswith("media/") else (i, d) for i, d in r]),
    "a dial that is gone": lambda p: rebuilt(p, changed_document(lambda d: d["templates"]["on-paper"]["dials"].clear())),
    "a zone that is gone": lambda p: rebuilt(p, changed_document(lambda d: d["templates"]["on-paper"]["zones"].clear())),
    "a group in itself": lambda p: rebuilt(p, changed_document(lambda d: d["scenes"]["s-wide"]["layers"].update(g={"kind": "group", "order": "V", "parent": "g"}))),
    "no template in it": lambda p: rebuilt(p, changed_document(lambda d: d["scenes"]["s-wide"].update(template=None))),
    "no scene in it": lambda p: rebuilt(p, changed_document(lambda d: d["scenes"].clear())),
}  # fmt: skip


def _manifest(packed: bytes, **changes: Any) -> bytes:
    return json.dumps({**json.loads(Package(io.BytesIO(packed)).read("manifest.json")), **changes}).encode()


def _without(packed: bytes, name: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(packed)) as archive, zipfile.ZipFile(out, "w") as made:
        for info in archive.infolist():
            if info.filename != name:
                made.writestr(info, archive.read(info))
    return out.getvalue()


@pytest.mark.parametrize("attack", ATTACKS)
def test_what_is_wrong_with_a_file_is_said_and_nothing_is_taken(packed: bytes, attack: str) -> None:
    data = ATTACKS[attack](packed)
    began = time.process_time()
    with pytest.raises(InvalidPackage) as caught:
        read(data)
    (fault,) = caught.value.faults
    assert fault.code.startswith("package.") and fault.message.endswith("Nothing was kept.") and "Traceback" not in fault.message
    assert time.process_time() - began < 2.0


def test_a_picture_that_was_changed_after_packing_is_found_when_it_is_copied(packed: bytes) -> None:
    """Its place in the file is overwritten, its checksum of the archive made right."""
    package = Package(io.BytesIO(packed))
    (picture,) = [p for p in package.manifest.parts if p.path.startswith("media/")]
    original = package.read(picture.path)
    other = original[:-1] + bytes([original[-1] ^ 1])
    data = packed.replace(original, other).replace(struct.pack("<I", zlib.crc32(original)), struct.pack("<I", zlib.crc32(other)))
    with pytest.raises(InvalidPackage, match="changed after it was packed"):
        Package(io.BytesIO(data)).copy(picture, io.BytesIO())


def test_fuzzed_files_are_refused_or_whole(packed: bytes) -> None:
    chance = random.Random(7)
    small = io.BytesIO()
    write_package(small, Manifest(id="x"), [Packed("document.json", b"{}"), Packed("notes.md", b"Notes " * 30)])
    for source, count in ((small.getvalue(), 4000), (packed, 300)):
        for _ in range(count):
            data = bytearray(source)
            for _ in range(chance.choice((1, 1, 2, 6))):
                place = chance.randrange(len(data)) if chance.random() < 0.4 else len(data) - 1 - chance.randrange(min(len(data), 320))
                data[place] = chance.choice((0, 1, 0xFF, chance.randrange(256)))
            try:
                package = Package(io.BytesIO(bytes(data)), Limits(file=1 << 20, entry=1 << 19, total=1 << 20))
                for part in package.manifest.parts:
                    package.copy(part, io.BytesIO())
            except InvalidPackage:
                continue


def test_the_published_schema_of_manifests_is_the_present_one(packed: bytes) -> None:
    assert json.loads((ROOT / "docs" / "template.schema.json").read_text()) == Manifest.model_json_schema()
    told = (ROOT / "docs" / "template-format.md").read_text()
    assert all(f"`{name}`" in told or f"**`{name}`**" in told for name in Manifest.model_fields if name not in ("name", "author", "licence", "holds", "parts"))
