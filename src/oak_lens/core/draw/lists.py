"""What stands in a draw list."""

from dataclasses import asdict, dataclass
from typing import Any, cast

import numpy as np

from ..space import Matrix3

Numbers9 = tuple[float, float, float, float, float, float, float, float, float]


def homography_of(matrix: Matrix3) -> Numbers9:
    """Row-major numbers of a (3, 3) matrix."""
    return cast(Numbers9, tuple(float(v) for v in matrix.reshape(9)))


def matrix_of(numbers: Numbers9) -> Matrix3:
    """(3, 3) matrix of row-major numbers."""
    return np.array(numbers, dtype=np.float64).reshape(3, 3)


@dataclass(frozen=True, slots=True)
class ColourItem:
    """The whole frame in one opaque colour `#rrggbb`."""

    colour: str


@dataclass(frozen=True, slots=True)
class BackdropItem:
    """A picture covering the frame, blurred by a Gaussian of standard deviation `blur`; edges mirror, nothing darkens."""

    media: str
    blur: float
    brightness: float
    saturation: float
    zoom: float


@dataclass(frozen=True, slots=True)
class ShadowItem:
    """A soft rounded rectangle of the plane; `softness` is a standard deviation in the plane's unit."""

    frame_from_plane: Numbers9
    width: float
    height: float
    radius: float
    softness: float
    colour: str
    opacity: float


@dataclass(frozen=True, slots=True)
class PhotoItem:
    """A picture of `width` x `height` in the plane with a border outside it; `radius` rounds the outer corners."""

    media: str
    frame_from_plane: Numbers9
    width: float
    height: float
    border: float
    border_colour: str
    radius: float
    opacity: float


DrawItem = ColourItem | BackdropItem | ShadowItem | PhotoItem


@dataclass(frozen=True, slots=True)
class DrawList:
    """What one scene shows, lowest first, in a frame of `aspect` = width / height."""

    aspect: float
    items: tuple[DrawItem, ...]


@dataclass(frozen=True, slots=True)
class Mixture:
    """Two pictures mixed: `amount` 0 is `below` alone, 1 is `above` alone."""

    below: DrawList
    above: DrawList
    amount: float


Picturing = DrawList | Mixture
"""What one frame of the film shows."""


def pictures_of(picturing: Picturing) -> frozenset[str]:
    """Ids of all pictures a frame needs."""
    if isinstance(picturing, Mixture):
        return pictures_of(picturing.below) | pictures_of(picturing.above)
    return frozenset(i.media for i in picturing.items if isinstance(i, BackdropItem | PhotoItem))


def plain(picturing: Picturing) -> dict[str, Any]:
    """As plain data, each item under its kind."""
    if isinstance(picturing, Mixture):
        return {"mixture": {"amount": picturing.amount, "below": plain(picturing.below), "above": plain(picturing.above)}}
    return {
        "aspect": picturing.aspect,
        "items": [{"kind": type(i).__name__.removesuffix("Item").lower(), **asdict(i)} for i in picturing.items],
    }
