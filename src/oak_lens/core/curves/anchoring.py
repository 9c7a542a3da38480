"""Where anchored keys stand in a span of a given length."""

from collections.abc import Mapping
from typing import Any, TypeVar

from .keyframes import Anchor, Keyframe

K = TypeVar("K", bound=Keyframe[Any])


def key_times(keys: Mapping[str, Keyframe[Any]], length: int) -> list[tuple[int, str]]:
    """`(ticks from the span's start, key id)` of every key, in time order.

    Keys anchored to the start and the end keep their distance from it while the span is long enough. In a
    span too short for both, the two groups shrink by one common factor until they meet, so that their order never changes.
    Keys of equal time keep their ids' order; the later one wins.
    """
    after_start = max((int(k.at) for k in keys.values() if k.anchor == "start"), default=0)
    before_end = max((-int(k.at) for k in keys.values() if k.anchor == "end"), default=0)
    needed = after_start + before_end
    shrink = length / needed if needed > length else 1.0

    def place(key: Keyframe[Any]) -> int:
        if key.anchor == "fraction":
            return round(key.at * length)
        # Cut off, not rounded: two offsets that meet must not pass each other by a tick.
        offset = int(key.at * shrink)
        return offset if key.anchor == "start" else length + offset

    rank = {"start": 0, "fraction": 1, "end": 2}
    placed = sorted((place(k), rank[k.anchor], name) for name, k in keys.items())
    return [(at, name) for at, _, name in placed]


def anchored(key: K, place: int, length: int, anchor: Anchor | None = None) -> K:
    """The key at `place` ticks from the start of a span of `length`, held within it; its own anchor, or another."""
    anchor = anchor or key.anchor
    place = min(max(place, 0), length)
    at = {"start": place, "end": place - length, "fraction": place / length if length else 0.0}[anchor]
    return key.model_copy(update={"anchor": anchor, "at": at})
