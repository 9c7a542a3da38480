"""Edits of keyframes: set, recorded, moved in time, stretched, eased, reversed, mirrored, copied, deleted."""

from math import isfinite, sqrt
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from ..curves import Anchor, Bounce, Follow, PathKeyframe, PathLane, Spring, anchored, eased_keys, key_times
from ..curves import Handle as EaseHandle
from ..document import Document, View, ViewLane, faults_from
from ..errors import InvalidEdit
from ..evaluate import ground_offset, staged, values_at
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
    with_base,
    with_keys,
    with_lane,
)
from .placing import find_placed, staged_in
from .registry import Edit, EditSpec, refused

Number = Annotated[float, Field(allow_inf_nan=False, ge=-1e6, le=1e6)]
SceneTicks = Annotated[int, Field(ge=-(1 << 50), le=1 << 50)]
ENDS = ("opening", "closing")
MOST_KEYS = 20_000


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


class DragPath(InTime):
    """A drag on the easel of a path's key, or of the end of one of its tangents; positions in fractions of the frame.

    The opposite tangent of a smooth key stays in line with it; `break_off` makes it a corner.
    """

    lane: LaneRef
    key: str
    part: Literal["point", "in", "out"]
    start: tuple[Number, Number]
    end: tuple[Number, Number]
    constrain: bool = False
    break_off: bool = False


def drag_path(document: Document, edit: DragPath) -> Document:
    ref = edit.lane
    lane = lane_of(document, ref)
    if not isinstance(lane, PathLane) or edit.key not in lane.keys or ref.layer is None:
        raise refused("edit.no_key", ref.path, "There is no such keyframe; it may have been deleted.")
    placed = find_placed(staged_in(document, ref.on or ref.scene, edit.at), ref.as_layer)
    key = lane.keys[edit.key]
    depth = placed.layer.placement.z + key.value[2]
    dx, dy = ground_offset(placed, edit.start, edit.end, depth, document.frame.aspect)
    if edit.constrain:
        dx, dy = (dx, 0.0) if abs(dx) * document.frame.aspect >= abs(dy) else (0.0, dy)
    way = (float(dx), float(dy), 0.0)
    if not (isfinite(way[0]) and isfinite(way[1])):
        return document
    update: dict[str, Any] = {}
    if edit.part == "point":
        update["value"] = _sum(key.value, way)
    else:
        own, other = ("tangent_in", "tangent_out") if edit.part == "in" else ("tangent_out", "tangent_in")
        moved = _sum(getattr(key, own), way)
        update = {own: moved, "smooth": key.smooth and not edit.break_off}
        if update["smooth"]:
            size, far = sqrt(sum(v * v for v in moved)), sqrt(sum(v * v for v in getattr(key, other)))
            update[other] = tuple(-v * far / size for v in moved) if size > 1e-9 else getattr(key, other)
    return with_lane(document, ref, with_keys(lane, {**lane.keys, edit.key: key.model_copy(update=update)}))


def _sum(a: tuple[float, float, float], b: tuple[float, float, float]) -> tuple[float, float, float]:
    return a[0] + b[0], a[1] + b[1], a[2] + b[2]


class SetLanes(Edit):
    """How paths are travelled: `even` at one pace, `turn_along` turned with the path, `bent` through smooth curves or straight."""

    lanes: list[LaneRef] = Field(min_length=1)
    even: bool | None = None
    turn_along: bool | None = None
    bent: bool | None = None


def set_lanes(document: Document, edit: SetLanes) -> Document:
    for ref in edit.lanes:
        lane = lane_of(document, ref)
        if not isinstance(lane, PathLane):
            raise refused("edit.no_path", ref.path, "Only a path can be travelled evenly, turned along or bent.")
        update: dict[str, Any] = {n: getattr(edit, n) for n in ("even", "turn_along") if getattr(edit, n) is not None}
        if edit.bent is not None:
            update["keys"] = _bent(lane, length_of(document, ref)) if edit.bent else _straight(lane)
        document = with_lane(document, ref, lane.model_copy(update=update))
    return document


def _straight(lane: PathLane) -> dict[str, PathKeyframe]:
    none = {"tangent_in": (0.0, 0.0, 0.0), "tangent_out": (0.0, 0.0, 0.0), "smooth": False}
    return {k: v.model_copy(update=none) for k, v in lane.keys.items()}


def _bent(lane: PathLane, length: int) -> dict[str, PathKeyframe]:
    """Smooth tangents along the line between a key's neighbours, a sixth of it (Catmull and Rom's spline)."""
    order = [name for _, name in key_times(lane.keys, length)]
    keys = dict(lane.keys)
    for i, name in enumerate(order):
        before, after = lane.keys[order[max(i - 1, 0)]].value, lane.keys[order[min(i + 1, len(order) - 1)]].value
        way = tuple((b - a) / 6.0 for a, b in zip(before, after, strict=True))
        out = (way[0], way[1], way[2])
        keys[name] = keys[name].model_copy(update={"tangent_out": out, "tangent_in": (-out[0], -out[1], -out[2]), "smooth": True})
    return keys


class LaneRefs(Edit):
    lanes: list[LaneRef] = Field(min_length=1)


def remove_lanes(document: Document, edit: LaneRefs) -> Document:
    """Numbers without keyframes any more; they stay what they are under them."""
    for ref in edit.lanes:
        if ref.property == VIEW:
            lane = lane_of(document, ref)
            assert lane is not None
            document = with_lane(document, ref, with_keys(lane, {k: v for k, v in lane.keys.items() if k in ENDS}))
        else:
            document = with_lane(document, ref, None)
    return document


KEY_EDITS = (
    EditSpec("set_values", "Move the animation", SetValues, set_values, keyed=True, recorded=record_values),
    EditSpec("add_keys", "Set keyframes", AddKeys, add_keys),
    EditSpec("remove_keys", "Delete keyframes", KeyRefs, remove_keys),
    EditSpec("shift_keys", "Move keyframes", ShiftKeys, shift_keys),
    EditSpec("stretch_keys", "Stretch keyframes", StretchKeys, stretch_keys),
    EditSpec("set_keys", "Change keyframes", SetKeys, set_keys),
    EditSpec("ease_keys", "Ease keyframes", EaseKeys, ease_keys),
    EditSpec("turn_keys", "Turn keyframes round", TurnKeys, turn_keys),
    EditSpec("paste_keys", "Paste keyframes", PasteKeys, paste_keys),
    EditSpec("drag_path", "Drag a path", DragPath, drag_path),
    EditSpec("set_lanes", "Change a path", SetLanes, set_lanes),
    EditSpec("remove_lanes", "Take keyframes away", LaneRefs, remove_lanes),
)
