"""Photos put into the slots of a layout."""

from dataclasses import dataclass
from itertools import combinations
from math import log

from ..document import Layout, Placement, Window
from ..framing import WINDOW_SIDE, plane_size
from ..looks import Mount
from .catalogue import LayoutSpec, Slot, Wanted

WORTH_SWAPPING = 0.12


@dataclass(frozen=True, slots=True)
class Arranged:
    """Where a photo goes: its placement and its window."""

    placement: Placement
    window: Window


def arranged(spec: LayoutSpec, layout: Layout, aspects: list[float], frame_aspect: float, mounts: list[Mount]) -> list[Arranged]:
    """A place for each picture (aspects and mounts in the same order). Cells that cut are given to pictures of about their shape."""
    wanted = Wanted(tuple(aspects), frame_aspect, layout.seed, layout.gap)
    slots = spec.arrange(wanted)
    order = matched(aspects, slots)
    found = []
    for index, aspect in enumerate(aspects):
        place = slots[order[index]]
        found.append(_in_slot(place, aspect, frame_aspect, mounts[index]))
    return found


def matched(aspects: list[float], slots: list[Slot]) -> list[int]:
    """For each picture the slot it goes to: in order, but swapped where the shapes agree clearly better."""
    order = list(range(len(aspects)))

    def misfit(picture: int, place: int) -> float:
        chosen = slots[place]
        return 0.0 if chosen.own_shape else abs(log(aspects[picture] * chosen.height / chosen.width))

    for _ in range(len(order)):
        gains = [
            (misfit(a, order[a]) + misfit(b, order[b]) - misfit(a, order[b]) - misfit(b, order[a]), a, b)
            for a, b in combinations(range(len(order)), 2)
        ]
        gain, a, b = max(gains, default=(0.0, 0, 0))
        if gain < WORTH_SWAPPING:
            break
        order[a], order[b] = order[b], order[a]
    return order


def _in_slot(place: Slot, aspect: float, frame_aspect: float, mount: Mount) -> Arranged:
    """The window that fills a slot together with its mount."""
    width, height = place.width, place.height
    if place.own_shape:
        width, height = (width, width / aspect) if width / height < aspect else (height * aspect, height)
    rim, foot = 2 * (mount.border + mount.mat) / WINDOW_SIDE, mount.foot / WINDOW_SIDE
    shorter = min(width, height) / (1.0 + rim + foot)
    if place.own_shape:
        share = shorter / min(width, height)
        inner_width, inner_height = width * share, height * share
    else:
        inner_width, inner_height = max(width - rim * shorter, 0.02), max(height - (rim + foot) * shorter, 0.02)
    shape = inner_width / inner_height
    size = inner_height / plane_size(shape, frame_aspect)[1]
    placement = Placement(x=place.x / frame_aspect, y=place.y - foot * shorter / 2, size=min(max(size, 0.02), 20.0), turn=place.turn)
    return Arranged(placement, Window(aspect=None if place.own_shape else min(max(shape, 0.02), 50.0)))
