"""Fonts opened at a weight, ready to shape and to outline; which of them has a letter."""

from dataclasses import dataclass
from functools import lru_cache
from unicodedata import normalize

import regex
import uharfbuzz as hb

from ..errors import MissingFace, OakError
from .faces import DEFAULT_FAMILY, FAMILIES, FontFile, faces

IGNORED = frozenset((0x200C, 0x200D, 0x2060, *range(0x200B, 0x2010), *range(0x2066, 0x206A), *range(0xFE00, 0xFE10), *range(0xE0000, 0xE0080)))
"""Code points that say how others are joined or drawn, and need no letter of their own."""

_EMOJI = regex.compile(r"\p{Emoji_Presentation}|\p{RI}")
EMOJI_FAMILY = "noto-color-emoji"


class Font:
    """A font file at a weight. Axes that are not named keep the font's own place but for the weight, which every variable font is told.

    `heights`: (above, below) the base line, in ems. `colour`: whether its letters have colours of their own.
    """

    def __init__(self, file: FontFile, face: hb.Face, weight: float):
        self.key, self.weight, self.italic = file.key, weight, file.italic
        self.face, self.font, self.upem = face, hb.Font(face), face.upem
        axes = {axis.tag: (axis.min_value, axis.max_value) for axis in face.axis_infos}
        if "wght" in axes:
            low, high = axes["wght"]
            self.font.set_variations({"wght": min(max(weight, low), high)})
        extents = self.font.get_font_extents("ltr")
        self.heights = extents.ascender / self.upem, -extents.descender / self.upem
        self.colour = bool(face.has_color_paint)
        line = _underline(face)
        self.underline = (-line[0] / self.upem, line[1] / self.upem)


def _underline(face: hb.Face) -> tuple[int, int]:
    """(position above the base line, thickness) in font units, of the `post` table (OpenType 1.9); usual ones where it says nothing."""
    table = face.reference_table("post").data if hasattr(face, "reference_table") else b""
    if len(table) >= 12:
        position, thickness = (int.from_bytes(table[i : i + 2], "big", signed=True) for i in (8, 10))
        if 0 < thickness < face.upem // 3 and -face.upem < position < 0:
            return position, thickness
    return -face.upem // 10, face.upem // 20


@lru_cache(maxsize=128)
def _face(key: str) -> tuple[hb.Face, frozenset[int]]:
    face = hb.Face(faces().data(key))
    return face, frozenset(face.unicodes)


@lru_cache(maxsize=256)
def font_of(file: FontFile, weight: float) -> Font:
    """The font of a file at a weight. Raises MissingFace."""
    return Font(file, _face(file.key)[0], weight)


def holds(file: FontFile, points: frozenset[int]) -> bool:
    """Whether a file has letters for all of the code points."""
    return all(file.may_hold(p) for p in points) and _face(file.key)[1].issuperset(points)


@dataclass(frozen=True, slots=True)
class Choice:
    """A family at a weight and slope, as somebody chose it."""

    family: str
    weight: float
    italic: bool


@lru_cache(maxsize=128)
def _stand_ins(han: str, weight: float) -> tuple[FontFile, ...]:
    families = [f.id for f in FAMILIES if f.stands_in]
    families.sort(key=lambda family: family != han)
    return tuple(file for family in families for file in faces().files(family, weight, False))


def family_for_han(text: str) -> str:
    """Of the families with Chinese characters the one whose forms a text wants: with kana Japanese, with hangul Korean, else Chinese."""
    if regex.search(r"[\p{Hiragana}\p{Katakana}]", text):
        return "noto-sans-jp"
    return "noto-sans-kr" if regex.search(r"\p{Hangul}", text) else "noto-sans-sc"


@lru_cache(maxsize=16384)
def font_for(letter: str, choice: Choice, han: str) -> tuple[Font, bool]:
    """(font, whether it is of the chosen family): the chosen family, then what stands in for it; where nobody has the letter, the chosen
    family's sign for that. An emoji asks for its own colours first. Raises MissingFace where there is no font at all."""
    # A letter and its mark are asked for as the one sign that they are, where there is one: shaping joins them.
    points = frozenset(map(ord, normalize("NFC", letter))) - IGNORED
    weight = round(choice.weight / 5.0) * 5.0
    own = faces().files(choice.family, weight, choice.italic) or faces().files(DEFAULT_FAMILY, weight, choice.italic)
    others = _stand_ins(han, weight)
    wants_colour = "\ufe0f" in letter or ("\ufe0e" not in letter and _EMOJI.match(letter) is not None)
    order = (*own, *others)
    if wants_colour:
        order = (*faces().files(EMOJI_FAMILY, weight, False), *order)
    for file in order:
        if holds(file, points):
            return font_of(file, weight), file in own
    if len(points) > 1:
        # Marks that no font has for this letter are drawn by themselves: the letter is not lost for them.
        font, _ = font_for(letter[0], choice, han)
        return font, False
    first = next(iter(own), None) or next(iter(others), None)
    if first is None:
        raise _faces_missing(choice.family)
    return font_of(first, weight), False


def lacks(letter: str, font: Font) -> bool:
    """Whether a font has no picture of a letter, but its sign for that."""
    return not letter.isspace() and not _face(font.key)[1].issuperset(frozenset((ord(normalize("NFC", letter)[0]),)) - IGNORED)


def _faces_missing(family: str) -> OakError:
    return MissingFace.of("face.missing", "The faces that ship with Oak Lens are not installed. Run ./oak start once more.", family)


def forget_fonts() -> None:
    """Lets go of all that is open: what is brought from now on is asked for anew."""
    for cache in (_face, font_of, font_for, _stand_ins):
        cache.cache_clear()
