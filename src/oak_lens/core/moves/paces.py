"""Paces: how time passes from a beginning to an end that is reached exactly."""

from typing import Literal

from ..curves import EASES, cubic_bezier

Pace = Literal["none", "in", "out", "both"]

_CURVES: dict[str, tuple[float, float, float, float]] = {
    e.id: (e.leave[0], e.leave[1], 1.0 - e.arrive[0], 1.0 - e.arrive[1]) for e in EASES if e.id in ("in", "out", "both")
}

PACES: tuple[tuple[str, str], ...] = tuple((e.id, e.label) for e in EASES if e.id == "none" or e.id in _CURVES)
"""(pace, label): the eases that stay between beginning and end."""

SMALLEST_SHARE = 1e-7


def paced(pace: str, share: float) -> float:
    """0..1: how much of the time has passed after a `share` 0..1 of it by the clock; as by the clock for what is no pace.

    >>> round(paced("both", 0.5), 9), paced("in", 1.0)
    (0.5, 1.0)
    """
    curve = _CURVES.get(pace)
    return share if curve is None else cubic_bezier(*curve, share)


def clocked(pace: str, share: float) -> float:
    """The other way about: when by the clock a `share` of the time has passed.

    >>> round(clocked("in", paced("in", 0.3)), 6)
    0.3
    """
    low, high = 0.0, 1.0
    while high - low > SMALLEST_SHARE:
        middle = (low + high) / 2.0
        low, high = (middle, high) if paced(pace, middle) < share else (low, middle)
    return share if pace not in _CURVES else high
