"""Edits of numbers that move: all of an animation shifted, or keys that make the number so."""


from pydantic import Field

from ..document import Document
from ..evaluate import staged, values_at
from ..moves import FACTORS, PATHS
from .keys import Number
from .lanes import (
    InTime,
    LaneRef,
    base_of,
    lane_of,
    moment_of,
    offset_at,
    offset_from,
    owner_of,
    property_of,
    set_key,
    with_base,
    with_lane,
)
from .registry import EditSpec, refused


class SetValues(InTime):
    """Numbers brought to `value` at a moment by changing what lies under their lanes: the whole animation moves with them."""

    lanes: list[LaneRef] = Field(min_length=1)
    value: Number


def set_values(document: Document, edit: SetValues) -> Document:
    for ref in edit.lanes:
        prop = property_of(document, ref)
        if prop is None:
            raise refused("edit.no_property", ref.path, "A path has no single value: change its numbers.")
        base = base_of(document, ref, prop)
        now = _shown_now(document, ref, edit.at, base)
        # Whatever moves it - its own lane, a path, a move - goes on from the new number.
        wanted = (base * edit.value / now if abs(now) > 1e-9 else base) if ref.property in FACTORS else base + edit.value - now
        document = with_base(document, ref, prop, wanted)
    return document


def _shown_now(document: Document, ref: LaneRef, at: int, base: float) -> float:
    """The number over `base` as it is at a moment of the film, with all that moves it."""
    moment, length = moment_of(document, ref, at)
    seen_in = ref.on or ref.scene
    shown = values_at(staged(document, seen_in, moment, length)) if seen_in in document.scenes else {}
    return shown.get(f"{ref.scene}/{ref.layer or ''}", {}).get(ref.property, base)


def record_values(document: Document, edit: SetValues) -> Document:
    """The same while changes are recorded: keys that make the numbers so. What lies under them stays, and so its range does not matter:
    from 100 % down and up again, the way up would begin beyond it."""
    frame_ticks = document.frame.frame_rate.frame_ticks
    for ref in edit.lanes:
        prop = property_of(document, ref)
        if prop is None or (ref.property in PATH_PARTS and ref.property not in owner_of(document, ref).animation):
            document = set_values(document, edit.model_copy(update={"lanes": [ref]}))
            continue
        base = base_of(document, ref, prop)
        now = _shown_now(document, ref, edit.at, base)
        lane = lane_of(document, ref)
        moment, length = moment_of(document, ref, edit.at)
        here = offset_at(document, lane, ref, moment, length)
        if ref.property in FACTORS:
            value = here * edit.value / now if abs(now) > 1e-9 else offset_from(base, edit.value, ref.property)
        else:
            value = here + edit.value - now
        document = with_lane(document, ref, set_key(lane, value, moment, length, frame_ticks))
    return document


PATH_PARTS = frozenset(part for parts in PATHS.values() for part in parts[:3])
"""Numbers that a path lane moves unless they have a lane of their own."""


VALUE_EDITS = (
    EditSpec("set_values", "Move the animation", SetValues, set_values, keyed=True, recorded=record_values),
)
