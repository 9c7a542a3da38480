"""Named eases: what handles they stand for, and which name handles deserve."""

from dataclasses import dataclass
from typing import Any, Literal, TypeVar

from .follows import Bounce, Spring
from .keyframes import NO_EASE, Keyframe

EaseName = Literal["none", "in", "out", "both", "overshoot", "bounce", "spring", "hold", "own"]


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
    follow: Bounce | Spring | None = None


EASES = (
    EaseSpec("none", "None", NO_EASE, NO_EASE),
    EaseSpec("in", "Slow start", (0.42, 0.0), (0.0, 0.0)),
    EaseSpec("out", "Slow end", (0.0, 0.0), (0.42, 0.0)),
    EaseSpec("both", "Slow start and end", (0.42, 0.0), (0.42, 0.0)),
    EaseSpec("overshoot", "Overshoot", (0.3, 0.0), (0.45, -0.55)),
    EaseSpec("bounce", "Bounce", NO_EASE, NO_EASE, follow=Bounce()),
    EaseSpec("spring", "Spring", NO_EASE, NO_EASE, follow=Spring()),
    EaseSpec("hold", "Hold", NO_EASE, NO_EASE, hold=True),
)


def ease_name(earlier: Keyframe[Any], later: Keyframe[Any]) -> EaseName:
    """Name of the ease between two keys; `own` if it is none of the named ones. Any bounce is a bounce, any spring a spring."""
    if earlier.hold:
        return "hold"
    if earlier.follow is not None:
        return earlier.follow.kind
    for spec in EASES:
        if not spec.hold and spec.follow is None and (earlier.ease_out, later.ease_in) == (spec.leave, spec.arrive):
            return spec.id
    return "own"


K = TypeVar("K", bound=Keyframe[Any])


def eased_keys(
    earlier: K, later: K, leave: tuple[float, float], arrive: tuple[float, float], hold: bool = False, follow: Bounce | Spring | None = None
) -> tuple[K, K]:
    """The two keys with the ease between them replaced."""
    return earlier.model_copy(update={"ease_out": leave, "hold": hold, "follow": follow}), later.model_copy(update={"ease_in": arrive})
