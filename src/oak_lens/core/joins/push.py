"""Pushes: the next scene comes in from one side and pushes the scene before out at the other, with no gap between."""

from collections.abc import Callable

from ..draw import DrawList, Passage, Picturing
from .catalogue import JoinSpec


def _composed(x: float, y: float) -> Callable[[DrawList, DrawList, float], Picturing]:
    def compose(before: DrawList, after: DrawList, progress: float) -> Picturing:
        if progress <= 0.0:
            return before
        if progress >= 1.0:
            return after
        eased = progress * progress * (3.0 - 2.0 * progress)
        return Passage(before, after, x * (1.0 - eased), y * (1.0 - eased))

    return compose


PUSHES = tuple(
    JoinSpec(
        id=f"push-{way}",
        version=1,
        label=f"Push {label}",
        help=f"The next scene comes in from {side} and pushes this one out",
        compose=_composed(x, y),
    )
    for way, label, side, x, y in (
        ("left", "left", "the right", 1.0, 0.0),
        ("right", "right", "the left", -1.0, 0.0),
        ("up", "up", "below", 0.0, 1.0),
        ("down", "down", "above", 0.0, -1.0),
    )
)
