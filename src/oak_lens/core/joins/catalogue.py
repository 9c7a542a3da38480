"""What a join is made of."""

from collections.abc import Callable
from dataclasses import dataclass

from ..draw import DrawList, Picturing


@dataclass(frozen=True, slots=True)
class JoinSpec:
    """One kind of join.

    `compose(before, after, progress)` says what a frame shows while progress goes from 0 (the scene before alone)
    to 1 (the scene after alone). An instant join has no length of its own.
    """

    id: str
    version: int
    label: str
    help: str
    compose: Callable[[DrawList, DrawList, float], Picturing]
    instant: bool = False


def catalogue(*specs: JoinSpec) -> tuple[JoinSpec, ...]:
    """The specs, refused if an id stands twice."""
    ids = [spec.id for spec in specs]
    if len(set(ids)) != len(ids):
        raise ValueError(f"join ids must differ: {ids}")
    return specs
