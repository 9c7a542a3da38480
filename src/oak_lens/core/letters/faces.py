"""Families of faces: what ships, what stands in for what a family lacks, and the port that files of fonts come through."""

from bisect import bisect_right
from dataclasses import dataclass
from functools import cached_property
from typing import Literal, Protocol

from ..errors import MissingFace

FaceKind = Literal["sans", "serif", "slab", "display", "handwriting", "mono", "script"]


@dataclass(frozen=True, slots=True)
class Family:
    """A family that ships. `id` names it in documents; `scripts`: what it is made for; `italic`: whether it has one; `weights`: from and to,
    or the same twice. `stands_in`: the languages' scripts for which it is taken where the chosen family has no such letter."""

    id: str
    name: str
    kind: FaceKind
    scripts: tuple[str, ...] = ("Latin",)
    weights: tuple[int, int] = (400, 400)
    italic: bool = False
    stands_in: bool = False


EUROPE = ("Latin", "Greek", "Cyrillic")

FAMILIES = (
    Family("inter", "Inter", "sans", EUROPE, (100, 900), italic=True, stands_in=True),
    Family("montserrat", "Montserrat", "sans", ("Latin", "Cyrillic"), (100, 900), italic=True),
    Family("source-serif-4", "Source Serif 4", "serif", EUROPE, (200, 900), italic=True),
    Family("eb-garamond", "EB Garamond", "serif", EUROPE, (400, 800), italic=True),
    Family("roboto-slab", "Roboto Slab", "slab", EUROPE, (100, 900)),
    Family("playfair-display", "Playfair Display", "display", ("Latin", "Cyrillic"), (400, 900), italic=True),
    Family("abril-fatface", "Abril Fatface", "display"),
    Family("bebas-neue", "Bebas Neue", "display"),
    Family("caveat", "Caveat", "handwriting", ("Latin", "Cyrillic"), (400, 700)),
    Family("kalam", "Kalam", "handwriting", ("Latin", "Devanagari"), (300, 700)),
    Family("patrick-hand", "Patrick Hand", "handwriting"),
    Family("great-vibes", "Great Vibes", "handwriting", ("Latin", "Cyrillic")),
    Family("jetbrains-mono", "JetBrains Mono", "mono", EUROPE, (100, 800), italic=True),
    Family("courier-prime", "Courier Prime", "mono", weights=(400, 700), italic=True),
    Family("special-elite", "Special Elite", "mono"),
    Family("noto-naskh-arabic", "Noto Naskh Arabic", "script", ("Arabic",), (400, 700), stands_in=True),
    Family("noto-sans-hebrew", "Noto Sans Hebrew", "script", ("Hebrew",), (100, 900), stands_in=True),
    Family("noto-sans-devanagari", "Noto Sans Devanagari", "script", ("Devanagari",), (100, 900), stands_in=True),
    Family("noto-sans-thai", "Noto Sans Thai", "script", ("Thai",), (100, 900), stands_in=True),
    Family("noto-sans-sc", "Noto Sans SC", "script", ("Chinese",), (100, 900), stands_in=True),
    Family("noto-sans-jp", "Noto Sans JP", "script", ("Japanese",), (100, 900), stands_in=True),
    Family("noto-sans-kr", "Noto Sans KR", "script", ("Korean",), (100, 900), stands_in=True),
    Family("noto-color-emoji", "Noto Color Emoji", "script", ("Emoji",), stands_in=True),
)
"""To add one: its package among the pages' (`web/package.json`), named as its id, and a line here."""

SHIPPED_FACES = {family.id: family for family in FAMILIES}
DEFAULT_FAMILY = "inter"


@dataclass(frozen=True)
class FontFile:
    """A file of a family. `key` names its content for ever; `ranges`: (first, last) code points it may hold, in order, None: to be looked at;
    `italic`: whether its letters are."""

    key: str
    ranges: tuple[tuple[int, int], ...] | None = None
    italic: bool = False

    @cached_property
    def _firsts(self) -> list[int]:
        return [first for first, _ in self.ranges or ()]

    def may_hold(self, point: int) -> bool:
        """Whether it is worth being opened for a code point."""
        if self.ranges is None:
            return True
        at = bisect_right(self._firsts, point) - 1
        return at >= 0 and point <= self.ranges[at][1]


class FaceFiles(Protocol):
    """Whoever keeps fonts. What a key names never changes."""

    def files(self, family: str, weight: float, italic: bool) -> tuple[FontFile, ...]:
        """The files of a family that come nearest to a weight and slope; () if there is no such family."""
        ...

    def data(self, key: str) -> bytes:
        """A font that was checked, as SFNT (TrueType or OpenType). Raises MissingFace."""
        ...


class NoFaces:
    """Where nobody brought any."""

    def files(self, family: str, weight: float, italic: bool) -> tuple[FontFile, ...]:
        return ()

    def data(self, key: str) -> bytes:
        raise MissingFace.of("face.missing", f"The font {key} is not here.", key)


_SHELF: list[FaceFiles] = [NoFaces()]


def bring_faces(files: FaceFiles) -> None:
    """Says once, as a process begins, where faces are. They are constants as the shipped catalogues are (a key names one content for ever),
    so that a frame is still a function of document, time and pictures."""
    _SHELF[0] = files


def faces() -> FaceFiles:
    return _SHELF[0]
