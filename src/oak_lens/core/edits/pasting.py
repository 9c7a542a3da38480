"""Copied keyframes put onto other numbers, layers and scenes."""

from typing import Any

from pydantic import Field, ValidationError

from ..curves import key_times
from ..document import Document, View, faults_from
from ..errors import InvalidEdit
from .keys import MOST_KEYS, SceneTicks
from .lanes import (
    VIEW,
    InTime,
    LaneRef,
    base_of,
    lane_of,
    moment_of,
    property_of,
    set_key,
    with_keys,
    with_lane,
)
from .registry import Edit, EditSpec, refused


class PastedKey(Edit):
    """A copied key: `after` ticks from the first one; its `value` as shown where it came from, or a place or view relative to what it moves."""

    property: str
    after: SceneTicks
    key: dict[str, Any]


class PasteKeys(InTime):
    """Copied keys put on layers (or, layer None, scenes) so that the first stands at a moment; `property`: onto another number."""

    keys: list[PastedKey] = Field(min_length=1, max_length=MOST_KEYS)
    to: list[LaneRef] = Field(min_length=1, max_length=2000)


def paste_keys(document: Document, edit: PasteKeys) -> Document:
    """Each target's `property` empty: onto the numbers they came from; named: all onto that one."""
    frame_ticks = document.frame.frame_rate.frame_ticks
    for target in edit.to:
        for pasted in edit.keys:
            ref = target if target.property else target.model_copy(update={"property": pasted.property})
            prop = property_of(document, ref)
            moment, length = moment_of(document, ref, edit.at)
            place = min(max(moment + pasted.after, 0), length)
            lane = lane_of(document, ref)
            data = {k: v for k, v in pasted.key.items() if k not in ("anchor", "at")}
            value = data.get("value")
            if prop is not None:
                if not isinstance(value, int | float):
                    raise refused("edit.kind", ref.path, "These keyframes hold no numbers: paste them onto a value of their own kind.")
                base_of(document, ref, prop)
            elif isinstance(value, int | float) or (ref.property == VIEW) != isinstance(value, dict):
                raise refused("edit.kind", ref.path, "These keyframes are of another kind: paste them onto a value of their own kind.")
            lane = set_key(lane, _typed(value), place, length, frame_ticks)
            name = next(n for at, n in key_times(lane.keys, length) if abs(at - place) <= frame_ticks)
            old = lane.keys[name]
            key = _validated(type(old), {**data, "anchor": old.anchor, "at": old.at}, ref.path)
            document = with_lane(document, ref, with_keys(lane, {**lane.keys, name: key}))
    return document


def _typed(value: Any) -> Any:
    if isinstance(value, dict):
        return View.model_validate(value)
    return tuple(float(v) for v in value) if isinstance(value, list | tuple) else float(value)


def _validated(kind: Any, data: dict[str, Any], path: str) -> Any:
    try:
        return kind.model_validate(data)
    except ValidationError as error:
        raise InvalidEdit(faults_from(error, "edit.value", path)) from None


PASTE_EDITS = (
    EditSpec("paste_keys", "Paste keyframes", PasteKeys, paste_keys),
)
