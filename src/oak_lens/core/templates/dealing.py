"""In which order pictures go into the drop zones of a film."""

from collections.abc import Sequence
from math import log
from typing import Literal

import numpy as np

from ..document import Media

DealtBy = Literal["order", "time", "shape", "chance"]

REACH = 8
"""How many of the pictures whose turn comes next a zone may choose from by shape: a story keeps its order but for so much."""

PER_PLACE = 0.06
"""What a picture that waits longer is worth, as a difference of shape (the logarithm of width / height): none waits for ever."""


def dealt(pictures: Sequence[tuple[str, Media]], shapes: Sequence[float | None], by: DealtBy, seed: int = 1) -> list[str]:
    """Ids of pictures, the first for the first zone and so on. `pictures` in the order of the contact sheet; `shapes`: width / height that suit each
    zone, None any. `time`: as they were taken, those without a time behind the one they lie behind; `chance`: the same `seed` shuffles alike."""
    if by == "chance":
        chance, count = np.random.default_rng(seed), len(pictures)
        order = list(chance.permutation(count))
        while count > 1 and order == list(range(count)):
            # Shuffled, they lie otherwise than they came.
            order = list(chance.permutation(count))
        return [pictures[i][0] for i in order]
    if by == "time":
        return [k for _, _, k in sorted(_taken(pictures))]
    if by == "shape":
        return _by_shape(pictures, shapes)
    return [k for k, _ in pictures]


def _taken(pictures: Sequence[tuple[str, Media]]) -> list[tuple[str, int, str]]:
    """(time, place, id) of each."""
    found, last = [], ""
    for place, (key, media) in enumerate(pictures):
        last = media.captured or last
        found.append((last, place, key))
    return found


def _by_shape(pictures: Sequence[tuple[str, Media]], shapes: Sequence[float | None]) -> list[str]:
    waiting, placed = list(pictures), list[str]()
    for shape in (*shapes, *[None] * max(len(pictures) - len(shapes), 0)):
        if not waiting:
            break
        near = waiting[:REACH]
        costs = [(abs(log(media.aspect / shape)) if shape else 0.0) + place * PER_PLACE for place, (_, media) in enumerate(near)]
        placed.append(waiting.pop(costs.index(min(costs)))[0])
    return placed


def seats(rounds: Sequence[int], count: int) -> list[int]:
    """Which drop zones get a picture where there are fewer than zones, by index in the order of the film. `rounds`: the turn of each, 0 where its scene
    comes once: those have theirs first, so that what opens and what closes a film is never empty for what lies between.

    >>> seats([0, 1, 1, 2, 2, 0], 4)
    [0, 1, 2, 5]
    """
    once = [i for i, turn in enumerate(rounds) if turn == 0][:count]
    return sorted([*once, *[i for i, turn in enumerate(rounds) if turn > 0][: count - len(once)]])
