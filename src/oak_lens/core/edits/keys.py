"""Edits of keyframes: set, moved in time, stretched, eased, reversed, mirrored, deleted."""

from typing import Annotated, Any, Literal

from pydantic import Field

from ..curves import Anchor, Bounce, Follow, PathKeyframe, Spring, anchored, eased_keys, key_times
from ..curves import Handle as EaseHandle
from ..document import Document, View, ViewLane
from ..moves import FACTORS, PATHS
from .lanes import (
    VIEW,
    InTime,
    KeyRef,
    LaneRef,
    base_of,
    keys_by_lane,
    lane_of,
    length_of,
    moment_of,
    new_key,
    offset_at,
    offset_from,
    owner_of,
    property_of,
    set_key,
    value_from,
    with_keys,
    with_lane,
)
from .registry import Edit, EditSpec, refused

Number = Annotated[float, Field(allow_inf_nan=False, ge=-1e6, le=1e6)]
SceneTicks = Annotated[int, Field(ge=-(1 << 50), le=1 << 50)]
ENDS = ("opening", "closing")
MOST_KEYS = 20_000


class AddKeys(InTime):
    """A key on each lane at a moment, holding what is there; lanes that are not there yet begin."""

    lanes: list[LaneRef] = Field(min_length=1)


def add_keys(document: Document, edit: AddKeys) -> Document:
    before, frame_ticks = document, document.frame.frame_rate.frame_ticks
    for ref in edit.lanes:
        prop = property_of(document, ref)
        if prop is not None:
            base_of(document, ref, prop)
        lane = lane_of(document, ref)
        # Keys change no times.
        moment, length = moment_of(before, ref, edit.at)
        value = offset_at(document, lane, ref, moment, length)
        document = with_lane(document, ref, set_key(lane, value, moment, length, frame_ticks))
    return document


class KeyRefs(Edit):
    keys: list[KeyRef] = Field(min_length=1, max_length=MOST_KEYS)


def remove_keys(document: Document, edit: KeyRefs) -> Document:
    """The opening and closing key of a view stay: a photo always has both."""
    for ref, lane, names in keys_by_lane(document, edit.keys):
        gone = {n for n in names if not (ref.property == VIEW and n in ENDS)}
        document = with_lane(document, ref, with_keys(lane, {k: v for k, v in lane.keys.items() if k not in gone}))
    return document


class ShiftKeys(KeyRefs):
    """Keys moved by so many ticks, and their numbers changed by so much; kept within the scene's time on screen."""

    by: SceneTicks = 0
    value: Number = 0.0


def shift_keys(document: Document, edit: ShiftKeys) -> Document:
    for ref, lane, names in keys_by_lane(document, edit.keys):
        length = length_of(document, ref)
        places = {name: at for at, name in key_times(lane.keys, length)}
        # All stop where the first of them would leave the scene, so that their distances stay.
        by = min(max(edit.by, -min(places[n] for n in names)), length - max(places[n] for n in names))
        keys: dict[str, Any] = dict(lane.keys)
        prop = property_of(document, ref)
        for name in names:
            key = keys[name]
            if edit.value and prop is not None:
                base = base_of(document, ref, prop)
                shown = value_from(base, key.value, ref.property) + edit.value
                assert prop.spec.minimum is not None and prop.spec.maximum is not None
                shown = min(max(shown, prop.spec.minimum), prop.spec.maximum)
                key = key.model_copy(update={"value": offset_from(base, shown, ref.property)})
            keys[name] = anchored(key, places[name] + by, length) if by else key
        document = with_lane(document, ref, with_keys(lane, keys))
    return document


class StretchKeys(KeyRefs):
    """Keys retimed: what lies at `first` and `last` (ticks after the scene came on screen) comes to `to_first` and `to_last`."""

    first: SceneTicks
    last: SceneTicks
    to_first: SceneTicks
    to_last: SceneTicks


def stretch_keys(document: Document, edit: StretchKeys) -> Document:
    if edit.first == edit.last:
        raise refused("edit.no_span", "first", "Keys that all stand at one moment cannot be stretched; move them instead.")
    share = (edit.to_last - edit.to_first) / (edit.last - edit.first)
    for ref, lane, names in keys_by_lane(document, edit.keys):
        length = length_of(document, ref)
        places = {name: at for at, name in key_times(lane.keys, length)}
        keys: dict[str, Any] = dict(lane.keys)
        for name in names:
            keys[name] = anchored(keys[name], round(edit.to_first + (places[name] - edit.first) * share), length)
        document = with_lane(document, ref, with_keys(lane, keys if share >= 0.0 else _handles_swapped(keys, names)))
    return document


class SetKeys(KeyRefs):
    """Change what is given of keys. `value`: the number as shown, or of a path the place; `at`: ticks after the scene came on screen."""

    value: Number | None = None
    point: tuple[Number, Number, Number] | None = None
    view: dict[str, Any] | None = None
    at: SceneTicks | None = None
    anchor: Anchor | None = None
    hold: bool | None = None
    ease_out: EaseHandle | None = None
    ease_in: EaseHandle | None = None
    tangent_in: tuple[Number, Number, Number] | None = None
    tangent_out: tuple[Number, Number, Number] | None = None
    smooth: bool | None = None


def set_keys(document: Document, edit: SetKeys) -> Document:
    for ref, lane, names in keys_by_lane(document, edit.keys):
        length = length_of(document, ref)
        places = {name: at for at, name in key_times(lane.keys, length)}
        keys: dict[str, Any] = dict(lane.keys)
        for name in names:
            update: dict[str, Any] = {n: getattr(edit, n) for n in ("hold", "ease_out", "ease_in") if getattr(edit, n) is not None}
            if "ease_out" in update:
                update["follow"] = None
            if edit.value is not None:
                update["value"] = _offset_of(document, ref, edit.value)
            if isinstance(keys[name], PathKeyframe):
                update |= {n: getattr(edit, n) for n in ("tangent_in", "tangent_out", "smooth") if getattr(edit, n) is not None}
                if edit.point is not None:
                    base = [getattr(_base_place(document, ref), p) for p in _names_of(ref)]
                    update["value"] = tuple(v - b for v, b in zip(edit.point, base, strict=True))
            if edit.view is not None and isinstance(lane, ViewLane):
                update["value"] = View.model_validate({**keys[name].value.model_dump(), **edit.view})
            key = keys[name].model_copy(update=update)
            if edit.at is not None or edit.anchor is not None:
                key = anchored(key, places[name] if edit.at is None else edit.at, length, edit.anchor)
            keys[name] = type(key).model_validate(key.model_dump())
        document = with_lane(document, ref, with_keys(lane, keys))
    return document


def _offset_of(document: Document, ref: LaneRef, value: float) -> float:
    prop = property_of(document, ref)
    if prop is None:
        raise refused("edit.no_property", ref.path, "A key of a path or a view is no single number.")
    low, high = prop.spec.minimum, prop.spec.maximum
    assert low is not None and high is not None
    if not low <= value <= high:
        raise refused("edit.value", ref.path, f"{prop.spec.label} must lie between {low:g} and {high:g}.")
    return offset_from(base_of(document, ref, prop), value, ref.property)


def _names_of(ref: LaneRef) -> list[str]:
    return [p.partition(".")[2] for p in PATHS[ref.property][:3]]


def _base_place(document: Document, ref: LaneRef) -> Any:
    return getattr(owner_of(document, ref), ref.property.partition(".")[0])


class EaseKeys(KeyRefs):
    """One ease between all chosen keys that follow each other on a lane; where one alone is chosen, after it (after the last: before it)."""

    leave: EaseHandle = (1 / 3, 1 / 3)
    arrive: EaseHandle = (1 / 3, 1 / 3)
    hold: bool = False
    follow: Follow | None = None


def ease_keys(document: Document, edit: EaseKeys) -> Document:
    follow: Bounce | Spring | None = edit.follow
    for ref, lane, names in keys_by_lane(document, edit.keys):
        order = [name for _, name in key_times(lane.keys, length_of(document, ref))]
        chosen = [i for i, name in enumerate(order) if name in names]
        starts = [i for i in chosen if i + 1 < len(order) and order[i + 1] in names]
        if len(chosen) == 1 and len(order) > 1:
            starts = [min(chosen[0], len(order) - 2)]
        keys: dict[str, Any] = dict(lane.keys)
        for i in starts:
            keys[order[i]], keys[order[i + 1]] = eased_keys(keys[order[i]], keys[order[i + 1]], edit.leave, edit.arrive, edit.hold, follow)
        document = with_lane(document, ref, with_keys(lane, keys))
    return document


class TurnKeys(KeyRefs):
    """`reverse`: the chosen keys of each lane run backwards in the same time; `there_and_back`: a mirror image of them follows;
    `mirror`: their numbers change to the other side of what they rest on."""

    how: Literal["reverse", "there_and_back", "mirror"]


def turn_keys(document: Document, edit: TurnKeys) -> Document:
    for ref, lane, names in keys_by_lane(document, edit.keys):
        length = length_of(document, ref)
        places = {name: at for at, name in key_times(lane.keys, length)}
        keys: dict[str, Any] = dict(lane.keys)
        first, last = min(places[n] for n in names), max(places[n] for n in names)
        if edit.how == "mirror":
            for name in names:
                keys[name] = keys[name].model_copy(update=_mirrored(keys[name], ref.property))
        elif edit.how == "reverse":
            for name in names:
                keys[name] = anchored(keys[name], first + last - places[name], length)
            keys = _handles_swapped(keys, names)
        else:
            back = min(last - first, length - last)
            if back <= 0:
                raise refused("edit.no_room", ref.path, "There is no time left in the scene for the way back.")
            copies = {n: keys[n] for n in sorted(names, key=lambda n: places[n])[:-1]}
            swapped = _handles_swapped(dict(keys), names)
            made = lane
            for name in copies:
                at = last + round((last - places[name]) * back / (last - first))
                added = anchored(swapped[name], at, length)
                keys[new_key(made)] = added
                made = made.model_copy(update={"keys": keys})
            newest = max(names, key=lambda n: places[n])
            keys[newest] = keys[newest].model_copy(update={"ease_out": keys[newest].ease_in})
        document = with_lane(document, ref, with_keys(lane, keys))
    return document


def _mirrored(key: Any, name: str) -> dict[str, Any]:
    if isinstance(key, PathKeyframe):
        return {f: (-getattr(key, f)[0], *getattr(key, f)[1:]) for f in ("value", "tangent_in", "tangent_out")}
    if isinstance(key.value, View):
        return {"value": key.value.model_copy(update={"x": -key.value.x, "turn": -key.value.turn})}
    if name in FACTORS:
        return {"value": 1.0 / key.value if abs(key.value) > 1e-6 else key.value}
    return {"value": -key.value}


def _handles_swapped(keys: dict[str, Any], names: list[str]) -> dict[str, Any]:
    """Keys that run backwards: what led out leads in. A hold or a bounce belongs to the interval, so it goes to the key it now follows."""
    for name in names:
        key = keys[name]
        update: dict[str, Any] = {"ease_out": key.ease_in, "ease_in": key.ease_out}
        if isinstance(key, PathKeyframe):
            update |= {"tangent_in": key.tangent_out, "tangent_out": key.tangent_in}
        keys[name] = key.model_copy(update=update)
    return keys


KEY_EDITS = (
    EditSpec("add_keys", "Set keyframes", AddKeys, add_keys),
    EditSpec("remove_keys", "Delete keyframes", KeyRefs, remove_keys),
    EditSpec("shift_keys", "Move keyframes", ShiftKeys, shift_keys),
    EditSpec("stretch_keys", "Stretch keyframes", StretchKeys, stretch_keys),
    EditSpec("set_keys", "Change keyframes", SetKeys, set_keys),
    EditSpec("ease_keys", "Ease keyframes", EaseKeys, ease_keys),
    EditSpec("turn_keys", "Turn keyframes round", TurnKeys, turn_keys),
)
