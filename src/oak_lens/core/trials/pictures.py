"""Awkward pictures that ship as what they are drawn by: very wide, very tall, tiny, of one colour, with what they are about at their edge."""

import hashlib
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..document import Area, Media
from ..draw import Picture
from ..paint import PictureSource, level_size

SQUARES = 24
GROUND, MARK, SKIN = (96, 132, 150), (232, 214, 170), (214, 158, 120)


@dataclass(frozen=True, slots=True)
class TrialPicture:
    """`subject`: (left, top, width, height) of what it is about, in fractions. `look`: drawn over a fine pattern, as one colour, or cut out."""

    id: str
    name: str
    width: int
    height: int
    subject: tuple[float, float, float, float] | None = None
    look: str = "pattern"

    @property
    def key(self) -> str:
        return hashlib.sha256(f"trial {self.id} {self.width}x{self.height} {self.subject} {self.look}".encode()).hexdigest()

    def media(self, order: str) -> Media:
        """Its record."""
        area = None if self.subject is None else Area(x=self.subject[0], y=self.subject[1], width=self.subject[2], height=self.subject[3])
        return Media(order=order, name=self.name, file=f"{self.id}.png", sha256=self.key, width=self.width, height=self.height, subject=area)


USUAL = TrialPicture("usual", "A usual picture", 3000, 2000, (0.38, 0.25, 0.24, 0.4))
WIDE = TrialPicture("wide", "Very wide", 4000, 800, (0.44, 0.3, 0.1, 0.5))
TALL = TrialPicture("tall", "Very tall", 800, 4000, (0.3, 0.44, 0.5, 0.1))
TINY = TrialPicture("tiny", "Tiny", 120, 80, (0.35, 0.25, 0.3, 0.4))
FLAT = TrialPicture("flat", "One colour", 3000, 2000, None, "flat")
EDGE = TrialPicture("edge", "Face at the edge", 3000, 2000, (0.8, 0.02, 0.18, 0.27))
CORNERS = TrialPicture("corners", "People from edge to edge", 3600, 2000, (0.02, 0.1, 0.96, 0.6))
CUT_OUT = TrialPicture("cut-out", "Cut out, transparent", 2000, 2000, (0.3, 0.3, 0.4, 0.4), "cut")

PICTURES = (USUAL, WIDE, TALL, TINY, FLAT, EDGE, CORNERS, CUT_OUT)
_BY_KEY = {p.key: p for p in PICTURES}


def drawn(picture: TrialPicture, wide: int, high: int) -> NDArray[np.uint8]:
    """(high, wide, 4) uint8, premultiplied: a pattern in which softness is seen, its edges marked, and a face where it is about something."""
    y, x = np.mgrid[:high, :wide] + 0.5
    pixels = np.empty((high, wide, 4), np.uint8)
    pixels[..., :3], pixels[..., 3] = GROUND, 255
    if picture.look != "flat":
        side = min(wide, high) / SQUARES
        pixels[((x // side + y // side) % 2) == 0, :3] = tuple(round(c * 0.82) for c in GROUND)
        rim = min(wide, high) / 40
        pixels[(x < rim) | (y < rim) | (x > wide - rim) | (y > high - rim), :3] = MARK
    if picture.subject is not None:
        left, top, width, height = picture.subject
        u, v = (x / wide - left - width / 2) / (width / 2), (y / high - top - height / 2) / (height / 2)
        pixels[u**2 + v**2 <= 1, :3] = SKIN
        for eye in (-0.35, 0.35):
            pixels[((u - eye) / 0.12) ** 2 + ((v + 0.2) / 0.12) ** 2 <= 1, :3] = (40, 34, 30)
        pixels[(np.abs(u) < 0.4) & (np.abs(v - 0.45 + 0.25 * u**2) < 0.06), :3] = (120, 52, 44)
    if picture.look == "cut":
        round_ = (x / wide - 0.5) ** 2 + (y / high - 0.5) ** 2 <= 0.2
        pixels *= round_[..., None].astype(np.uint8)
    return pixels


class TrialPictures:
    """A `PictureSource` of these, and of whatever another one has."""

    def __init__(self, others: PictureSource):
        self._others, self._levels = others, dict[tuple[str, int], NDArray[np.uint8]]()

    def size(self, picture: Picture) -> tuple[int, int]:
        known = _BY_KEY.get(picture.key)
        return (known.width, known.height) if known else self._others.size(picture)

    def level(self, picture: Picture, level: int) -> NDArray[np.uint8]:
        known = _BY_KEY.get(picture.key)
        if known is None:
            return self._others.level(picture, level)
        if (picture.key, level) not in self._levels:
            # Each level is drawn for itself: nobody needs the largest ones.
            self._levels[picture.key, level] = drawn(known, *level_size(known.width, known.height, level))
        return self._levels[picture.key, level]
