"""What a layout is made of."""

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Slot:
    """A place for one photo: its middle from the middle of the frame, its room, all in frame heights; `turn` in degrees clockwise.

    A photo is cut to a slot's shape, or keeps its own within the slot's room if `own_shape`.
    """

    x: float
    y: float
    width: float
    height: float
    turn: float = 0.0
    own_shape: bool = False


@dataclass(frozen=True, slots=True)
class Wanted:
    """What is to be laid out: the aspects (width / height) of the pictures in order, lowest first, in a frame of `aspect`.

    `seed` varies what varies; `gap` in frame heights.
    """

    aspects: tuple[float, ...]
    aspect: float
    seed: int
    gap: float

    @property
    def count(self) -> int:
        return len(self.aspects)


@dataclass(frozen=True, slots=True)
class LayoutSpec:
    """One layout. `arrange` gives a slot for each picture, in order; `seeded` says whether another seed changes anything."""

    id: str
    label: str
    help: str
    arrange: Callable[[Wanted], list[Slot]]
    least: int = 2
    most: int = 40
    seeded: bool = False


def catalogue(*specs: LayoutSpec) -> tuple[LayoutSpec, ...]:
    """The specs, refused if an id stands twice."""
    ids = [spec.id for spec in specs]
    if len(set(ids)) != len(ids):
        raise ValueError(f"layout ids must differ: {ids}")
    return specs
