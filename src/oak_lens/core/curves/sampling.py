"""The value of a lane at a moment: find the interval, ease inside it, mix the two values."""

from bisect import bisect_right
from collections.abc import Callable
from typing import Any, TypeVar

from .anchoring import key_times
from .bezier import cubic_bezier
from .follows import followed
from .keyframes import Keyframe, Lane

V = TypeVar("V")


def eased(earlier: Keyframe[Any], later: Keyframe[Any], x: float) -> float:
    """Fraction of the change of value made after a fraction `x` of the interval between two keys; may leave [0, 1]."""
    if earlier.hold:
        return 0.0 if x < 1.0 else 1.0
    if earlier.follow is not None:
        return followed(earlier.follow, x)
    (ox, oy), (ix, iy) = earlier.ease_out, later.ease_in
    return x if (ox == oy and ix == iy) else cubic_bezier(ox, oy, 1.0 - ix, 1.0 - iy, x)


def sample(lane: Lane[V], at: int, length: int, mix: Callable[[V, V, float], V]) -> V:
    """Value of `lane` at `at` ticks after the start of a span `length` ticks long.

    Before the first key its value, from the last key on its value. `mix(a, b, s)` interpolates; `s` is the eased
    fraction of the interval and leaves [0, 1] where handles overshoot.

    >>> from .interpolation import lerp_number
    >>> from .keyframes import NumberLane
    >>> lane = NumberLane(keys={"a": Keyframe(value=0.0), "b": Keyframe(anchor="end", value=1.0)})
    >>> sample(lane, 5, 10, lerp_number)
    0.5
    """
    times = key_times(lane.keys, length)
    index = bisect_right(times, at, key=lambda entry: entry[0])
    if index == 0:
        return lane.keys[times[0][1]].value
    if index == len(times):
        return lane.keys[times[-1][1]].value
    (start, first), (end, second) = times[index - 1], times[index]
    earlier, later = lane.keys[first], lane.keys[second]
    if earlier.hold:
        return earlier.value
    return mix(earlier.value, later.value, eased(earlier, later, (at - start) / (end - start)))
