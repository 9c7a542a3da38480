"""A spread: a move on a text that reaches its letters, words or lines one after another."""

from collections.abc import Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..curves import EaseName
from ..looks.parameters import Parameters, choice, number, percentage
from .paces import PACES, paced

Unit = Literal["letter", "word", "line", "all"]
Order = Literal["forwards", "backwards", "from_middle", "to_middle", "any"]

UNITS: tuple[tuple[Unit, str], ...] = (("letter", "Letter"), ("word", "Word"), ("line", "Line"), ("all", "All at once"))
ORDERS: tuple[tuple[Order, str], ...] = (
    ("forwards", "Forwards"),
    ("backwards", "Backwards"),
    ("from_middle", "From the middle"),
    ("to_middle", "To the middle"),
    ("any", "Any order"),
)
BY_PARTS = ("unit", ("letter", "word", "line"))
"""When there is something that could come one after another."""


class Spread(Parameters):
    """Which parts of a text a move reaches in which order. `overlap` 0: one after the other, 1: all at once; `rhythm` eases their beginnings;
    `seed` decides any order, and what is scattered. The whole takes the time that the move takes, however many parts there are."""

    unit: Unit = choice("By", UNITS, "letter")
    order: Order = choice("Order", ORDERS, "forwards", when=BY_PARTS)
    overlap: float = percentage("Overlap", 0, 1, 0.7, animated=False, when=BY_PARTS, help="0 %: one after the other; 100 %: all at once")
    rhythm: EaseName = choice("Rhythm", PACES, "none", when=BY_PARTS, help="How the beginnings follow each other")
    seed: int = number("Seed", 0, 9999, 1, step=1, animated=False, when=BY_PARTS, help="Another any order, another scatter")


def chance(seed: int, count: int, salt: int) -> NDArray[np.float64]:
    """(count,) numbers -1..1 that look like chance: a hash (Steele's and Vigna's SplitMix64), the same on every machine for ever."""
    n = (np.arange(count, dtype=np.uint64) + np.uint64(1)) * np.uint64(0x9E3779B97F4A7C15)
    n += np.uint64((seed * 1_000_003 + salt * 7919 + 1) * 0xBF58476D1CE4E5B9 % 2**64)
    for shift, factor in ((30, 0xBF58476D1CE4E5B9), (27, 0x94D049BB133111EB), (31, 1)):
        n = (n ^ (n >> np.uint64(shift))) * np.uint64(factor)
    return (n >> np.uint64(11)).astype(np.float64) / 2.0**52 - 1.0


def ranks(spread: Spread, places: Sequence[float]) -> NDArray[np.float64]:
    """(n,) 0..1: when each part begins, as a share of the time from the first to the last beginning. `places`: where each stands, -1..1, from
    the beginning to the end of its line; by them it is told what is in the middle.

    >>> [round(float(r), 2) for r in ranks(Spread(order="from_middle"), (-1.0, 0.0, 1.0))]
    [1.0, 0.0, 1.0]
    """
    count = len(places)
    order = np.arange(count) / max(count - 1, 1)
    if spread.order == "backwards":
        order = 1.0 - order
    elif spread.order in ("from_middle", "to_middle"):
        away = np.abs(np.asarray(places, np.float64))
        order = (away - away.min(initial=0.0)) / max(float(np.ptp(away)) if count else 0.0, 1e-9)
        order = order if spread.order == "from_middle" else 1.0 - order
    elif spread.order == "any":
        order = np.argsort(np.argsort(chance(spread.seed, count, 0))) / max(count - 1, 1)
    return np.array([paced(spread.rhythm, float(share)) for share in order])


def progress(spread: Spread, places: Sequence[float], t: float) -> NDArray[np.float64]:
    """(n,) 0..1: how far each part is at `t` 0..1 of the whole. The first begins at 0, the last ends exactly at 1.

    n parts that overlap by o each take 1 / (1 + (n - 1)(1 - o)) of the whole.
    """
    steps = (1.0 - spread.overlap) * max(len(places) - 1, 0)
    own = 1.0 / (1.0 + steps)
    if t >= 1.0:
        return np.ones(len(places))
    return np.clip((t - ranks(spread, places) * steps * own) / own, 0.0, 1.0)
