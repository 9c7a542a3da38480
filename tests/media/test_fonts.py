"""Fonts of one's own: checked before they are let in, in a process of their own; hostile ones are refused and nothing is kept."""

import io
from pathlib import Path

import numpy as np
import pytest
from fontTools.ttLib import TTFont

from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidFont, LimitReached
from oak_lens.core.evaluate import text_block
from oak_lens.core.letters import bring_faces, faces, forget_fonts, lay_out
from oak_lens.media.blobs import FolderBlobs
from oak_lens.media.faces import PACKAGES
from oak_lens.media.fonts import checked_font
from oak_lens.services.faces import Fonts, KeptFaces, sample

GOOD = PACKAGES / "@fontsource" / "patrick-hand" / "files" / "patrick-hand-latin-400-normal.woff2"


def test_a_font_is_let_in_travels_and_is_set_in(tmp_path: Path) -> None:
    blobs = FolderBlobs(tmp_path)
    taken = Fonts(blobs).take_in(Document(), io.BytesIO(GOOD.read_bytes()))
    assert (taken.info.family, taken.info.weight, taken.info.italic) == ("Patrick Hand", 400.0, False)
    again = Fonts(blobs).take_in(Document(), io.BytesIO(GOOD.read_bytes()))
    assert again.sha256 == taken.sha256
    kept = faces()
    try:
        bring_faces(KeptFaces(blobs))
        document = apply_edits(Document(), parse_edits([{"edit": "add_fonts", "fonts": [{"id": "mine", **taken.record}]}]))
        own, shipped = (sample(document, family, "Ridge", 400, False, "102030", 44) for family in ("mine", "patrick-hand"))
        assert own == shipped != sample(document, "inter", "Ridge", 400, False, "102030", 44)
        # A font that is gone is stood in for, and nothing stops.
        gone = apply_edits(document, parse_edits([{"edit": "remove_font", "id": "mine"}]))
        assert sample(gone, "mine", "Ridge", 400, False, "102030", 44) == sample(gone, "inter", "Ridge", 400, False, "102030", 44)
    finally:
        bring_faces(kept)
        forget_fonts()


def cut(data: bytes) -> bytes:
    return data[: len(data) // 2]


def locked(data: bytes) -> bytes:
    font = TTFont(io.BytesIO(data))
    font["OS/2"].fsType = 2
    font.flavor = None
    out = io.BytesIO()
    font.save(out)
    return out.getvalue()


def without_letters(data: bytes) -> bytes:
    font = TTFont(io.BytesIO(data))
    del font["cmap"]
    font.flavor = None
    out = io.BytesIO()
    font.save(out)
    return out.getvalue()


@pytest.mark.parametrize(
    ("spoilt", "code"),
    [(cut, "font.unreadable"), (lambda _: b"This is no font." * 99, "font.unreadable"), (lambda _: b"", "font.unreadable"), (locked, "font.locked"), (without_letters, "font.unreadable")],
    ids=["cut", "no font", "empty", "locked", "no letters"],
)
def test_what_is_no_usable_font_is_refused_and_not_kept(tmp_path: Path, spoilt: object, code: str) -> None:
    data = faces().data(faces().files("patrick-hand", 400, False)[0].key)
    with pytest.raises(InvalidFont) as refused:
        Fonts(FolderBlobs(tmp_path)).take_in(Document(), io.BytesIO(spoilt(data)))  # type: ignore[operator]
    assert refused.value.code == code
    assert not [p for p in tmp_path.rglob("*") if p.is_file()]


def test_a_font_too_large_is_refused_before_it_is_read(tmp_path: Path) -> None:
    with pytest.raises(LimitReached):
        Fonts(FolderBlobs(tmp_path)).take_in(Document(), io.BytesIO(b"\0" * (26 << 20)))


def test_broken_tables_are_refused_or_harmless(tmp_path: Path) -> None:
    data, chance = bytearray(faces().data(faces().files("patrick-hand", 400, False)[0].key)), np.random.default_rng(5)
    block, _ = text_block_of()
    for number in range(6):
        broken = bytearray(data)
        for at in chance.integers(300, len(broken), 60):
            broken[at] = int(chance.integers(256))
        source, target = tmp_path / f"{number}", tmp_path / f"{number}.ttf"
        source.write_bytes(broken)
        try:
            info = checked_font(source, target)
        except InvalidFont:
            continue
        assert info.glyphs > 0 and lay_out(block).lines


def text_block_of() -> tuple[object, float]:
    media = {"id": "m", "name": "m", "file": "m.jpg", "sha256": "a" * 64, "width": 160, "height": 90}
    edits = [
        {"edit": "add_pictures", "pictures": [media]}, {"edit": "add_scenes", "scenes": [{"id": "s", "media": "m"}]},
        {"edit": "add_text", "scene": "s", "id": "t", "text": "Ridge"},
    ]  # fmt: skip
    document = apply_edits(Document(), parse_edits(edits))
    return text_block(document, document.scenes["s"].layers["t"])  # type: ignore[arg-type]
