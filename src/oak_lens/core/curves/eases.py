"""Named eases: what handles they stand for, and which name handles deserve."""

from dataclasses import dataclass
from typing import Any, Literal

from .keyframes import NO_EASE, Keyframe

EaseName = Literal["none", "in", "out", "both", "hold", "own"]


@dataclass(frozen=True, slots=True)
class EaseSpec:
    """`leave` is the handle on the earlier key, `arrive` the one on the later key.

    "in" starts slowly, "out" ends slowly, as in CSS `ease-in`, `ease-out`, `ease-in-out`.
    """

    id: EaseName
    label: str
    leave: tuple[float, float]
    arrive: tuple[float, float]
    hold: bool = False


EASES = (
    EaseSpec("none", "None", NO_EASE, NO_EASE),
    EaseSpec("in", "Slow start", (0.42, 0.0), (0.0, 0.0)),
    EaseSpec("out", "Slow end", (0.0, 0.0), (0.42, 0.0)),
    EaseSpec("both", "Slow start and end", (0.42, 0.0), (0.42, 0.0)),
    EaseSpec("hold", "Hold", NO_EASE, NO_EASE, hold=True),
)


def ease_name(earlier: Keyframe[Any], later: Keyframe[Any]) -> EaseName:
    """Name of the ease between two keys; `own` if it is none of the named ones."""
    for spec in EASES:
        if earlier.hold == spec.hold and (spec.hold or (earlier.ease_out, later.ease_in) == (spec.leave, spec.arrive)):
            return spec.id
    return "own"


def eased_keys(
    earlier: Keyframe[Any], later: Keyframe[Any], leave: tuple[float, float], arrive: tuple[float, float], hold: bool = False
) -> tuple[Keyframe[Any], Keyframe[Any]]:
    """The two keys with the ease between them replaced."""
    return (earlier.model_copy(update={"ease_out": leave, "hold": hold}), later.model_copy(update={"ease_in": arrive}))
