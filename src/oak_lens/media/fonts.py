"""A font that somebody brings, checked: in a process of its own, under limits. Run as a program, it looks at a checked file and says what it is."""

import json
import resource
import subprocess
import sys
from dataclasses import dataclass
from pathlib import Path

import ots

from ..core.errors import Fault, InvalidFont

LARGEST_BYTES = 25 << 20
MEMORY_BYTES = 3 << 29
SECONDS = 10
MOST_SEGMENTS = 50_000
LOOKED_AT = 400
"""Glyphs whose outlines are tried."""

NOT_A_FONT = "This file is no font that can be used (TTF, OTF or WOFF2), or it is broken. Choose another file."
TOO_DEAR = "This font takes too long to read. Choose another file."
LOCKED = "This font says that it may not be embedded, so it cannot travel with a film. Choose another one."

MAY_NOT_EMBED = 0x0002
"""fsType of OS/2: restricted (OpenType 1.9)."""


@dataclass(frozen=True, slots=True)
class FontInfo:
    """What a font says of itself."""

    name: str
    family: str
    weight: float
    italic: bool
    glyphs: int


def _limited() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


def _told(command: list[str]) -> str:
    """What a program says that is run under limits. Raises InvalidFont."""
    try:
        done = subprocess.run(
            command, stdin=subprocess.DEVNULL, capture_output=True, timeout=SECONDS * 3, check=False, preexec_fn=_limited, text=True, errors="replace"
        )
    except subprocess.TimeoutExpired:
        raise InvalidFont([Fault("font.dear", "", TOO_DEAR)]) from None
    if done.returncode:
        raise InvalidFont([Fault("font.unreadable", "", NOT_A_FONT)])
    return done.stdout


def checked_font(source: Path, target: Path) -> FontInfo:
    """The font of `source`, cleaned and unpacked into `target`; what it says of itself. Raises InvalidFont."""
    if source.stat().st_size > LARGEST_BYTES:
        raise InvalidFont([Fault("font.bytes", "", f"The font is larger than {LARGEST_BYTES >> 20} MB.")])
    _told([ots.OTS_SANITIZE, str(source), str(target)])
    if not target.exists() or not target.stat().st_size:
        raise InvalidFont([Fault("font.unreadable", "", NOT_A_FONT)])
    found = json.loads(_told([sys.executable, "-m", __name__, str(target)]))
    if found.pop("locked"):
        raise InvalidFont([Fault("font.locked", "", LOCKED)])
    return FontInfo(**found)


def _look(path: Path) -> dict[str, object]:
    """What a checked font is; it is shaped and outlined on the way, so that what cannot be is known here."""
    import uharfbuzz as hb
    from fontTools.pens.recordingPen import RecordingPen
    from fontTools.ttLib import TTFont

    with TTFont(path, lazy=True) as tables:
        names, style = tables["name"], tables["OS/2"]
        weight, locked = float(min(max(style.usWeightClass, 100), 900)), (style.fsType & 0xF) == MAY_NOT_EMBED
        italic = bool(style.fsSelection & 1)
        family = names.getBestFamilyName() or path.stem
        name = names.getBestFullName() or family
    face = hb.Face(path.read_bytes())
    font = hb.Font(face)
    buffer = hb.Buffer()
    buffer.add_str("Handgloves 0123456789 — fi ffl")
    buffer.guess_segment_properties()
    hb.shape(font, buffer)
    step = max(face.glyph_count // LOOKED_AT, 1)
    for glyph in range(0, face.glyph_count, step):
        outline = RecordingPen()
        font.draw_glyph_with_pen(glyph, outline)
        if len(outline.value) > MOST_SEGMENTS:
            raise ValueError("a glyph has too many segments")

    def clean(text: str) -> str:
        return "".join(c for c in str(text) if c.isprintable())[:120] or "Font"

    return {"name": clean(name), "family": clean(family), "weight": weight, "italic": italic, "glyphs": face.glyph_count, "locked": locked}


if __name__ == "__main__":
    print(json.dumps(_look(Path(sys.argv[1]))))
