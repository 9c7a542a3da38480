"""What a join is made of."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Literal

from ..draw import Picturing
from ..time import TICKS_PER_SECOND
from .settings import EaseOf, JoinSettings

Family = Literal["plain", "travel", "wipe", "lens", "turn", "light"]


@dataclass(frozen=True, slots=True)
class JoinSpec:
    """One kind of join.

    `compose(before, after, progress, settings)` says what a frame shows while progress goes from 0 to 1, both excluded and already
    eased. `uses`: names of the settings it heeds; `preset`: those it begins with where they differ from the usual; `words`: others it
    is found by. `length` in ticks: what it takes by itself; an instant join has none.
    `ease`: the usual one.
    """

    id: str
    version: int
    label: str
    help: str
    family: Family
    compose: Callable[[Picturing, Picturing, float, JoinSettings], Picturing]
    uses: tuple[str, ...] = ("ease",)
    preset: dict[str, Any] = field(default_factory=dict)
    words: str = ""
    length: int = TICKS_PER_SECOND
    instant: bool = False
    ease: EaseOf = "both"


def catalogue(*specs: JoinSpec) -> tuple[JoinSpec, ...]:
    """The specs, refused if an id stands twice or a setting is unknown."""
    ids = [spec.id for spec in specs]
    if len(set(ids)) != len(ids):
        raise ValueError(f"join ids must differ: {ids}")
    for spec in specs:
        unknown = {*spec.uses, *spec.preset} - JoinSettings.model_fields.keys()
        if unknown:
            raise ValueError(f"{spec.id} names settings that are not there: {sorted(unknown)}")
    return specs
