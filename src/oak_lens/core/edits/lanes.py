"""What edits of keyframes share: naming lanes and keys, reading and writing them, values against offsets."""

import builtins
from typing import Any

from pydantic import BaseModel

from ..curves import AnyLane, Keyframe, NumberLane, PathKeyframe, PathLane, anchored, key_times, lerp_number, path_point, sample
from ..document import (
    Document,
    Layer,
    PhotoLayer,
    Property,
    Scene,
    View,
    ViewLane,
    base_value,
    resolved_part,
)
from ..document.records import Id, Ticks
from ..framing import mix_views
from ..looks.colours import with_channel
from ..moves import FACTORS, PATHS
from .placing import moment_in
from .registry import Edit, LayerRef, layer_of, merged, refused, scene_of, with_layers, with_scenes

VIEW = "view"
"""The lane of a photo's opening and closing view, among the names of lanes."""

SAME_TIME = 0.5
"""Frames within which a new key takes the place of an old one."""

Keyed = NumberLane | PathLane | ViewLane


class LaneRef(Edit):
    """One lane: of a layer, or (layer None) of the scene itself. `on`: the scene it is seen in, if the layer is in a shared group."""

    scene: Id
    layer: Id | None = None
    property: str
    on: Id | None = None

    @builtins.property
    def path(self) -> str:
        owner = f"scenes.{self.scene}" + (f".layers.{self.layer}" if self.layer else "")
        return f"{owner}.animation.{self.property}"

    @builtins.property
    def as_layer(self) -> LayerRef:
        assert self.layer is not None
        return LayerRef(scene=self.scene, layer=self.layer)


class KeyRef(LaneRef):
    """One key of a lane."""

    key: str

    @builtins.property
    def lane(self) -> LaneRef:
        return LaneRef(scene=self.scene, layer=self.layer, property=self.property, on=self.on)


class InTime(Edit):
    """What happens at a moment `at` of the film."""

    at: Ticks


def owner_of(document: Document, ref: LaneRef) -> Layer | Scene:
    return scene_of(document, ref.scene) if ref.layer is None else layer_of(document, ref.as_layer)


def property_of(document: Document, ref: LaneRef) -> Property | None:
    """The number that a lane moves; None for paths and views. Raises InvalidEdit for names that stand for nothing in its owner."""
    known = owner_of(document, ref).numbers
    if ref.property in known:
        return known[ref.property]
    if ref.property in PATHS and (ref.property == "camera.path") == (ref.layer is None):
        return None
    if ref.property == VIEW and ref.layer is not None:
        return None
    raise refused("edit.no_property", ref.path, "There is no number of this name here that can be keyframed.")


def lane_of(document: Document, ref: LaneRef) -> Keyed | None:
    property_of(document, ref)
    owner = owner_of(document, ref)
    if ref.property == VIEW:
        if not isinstance(owner, PhotoLayer):
            raise refused("edit.no_photo", ref.path, "Only photos have views.")
        return owner.view
    return owner.animation.get(ref.property)


def with_lane(document: Document, ref: LaneRef, lane: Keyed | None) -> Document:
    """The document with a lane put in place of the one there is; None takes it away."""
    owner = owner_of(document, ref)
    if isinstance(lane, ViewLane):
        return with_owner(document, ref, owner.model_copy(update={"view": lane}))
    kept: dict[str, AnyLane] = {k: v for k, v in owner.animation.items() if k != ref.property}
    if lane is not None:
        kept[ref.property] = lane
    changed = owner.model_copy(update={"animation": kept})
    return with_owner(document, ref, changed)


def with_owner(document: Document, ref: LaneRef, owner: Any) -> Document:
    if ref.layer is None:
        return with_scenes(document, {ref.scene: owner})
    return with_layers(document, [(ref.as_layer, owner)])


def with_keys(lane: Keyed, keys: dict[str, Any]) -> Keyed | None:
    """The lane with other keys; None if there are none."""
    return lane.model_copy(update={"keys": keys}) if keys else None


def keys_by_lane(document: Document, refs: list[KeyRef]) -> list[tuple[LaneRef, Keyed, list[str]]]:
    """The keys named, lane by lane. Raises InvalidEdit for keys that are not there."""
    found: dict[tuple[str, str | None, str], tuple[LaneRef, Keyed, list[str]]] = {}
    for ref in refs:
        name = (ref.scene, ref.layer, ref.property)
        if name not in found:
            lane = lane_of(document, ref.lane)
            if lane is None:
                raise refused("edit.no_key", ref.path, "There is no such keyframe; it may have been deleted.")
            found[name] = (ref.lane, lane, [])
        if ref.key not in found[name][1].keys:
            raise refused("edit.no_key", f"{ref.path}.keys.{ref.key}", "There is no such keyframe; it may have been deleted.")
        found[name][2].append(ref.key)
    return list(found.values())


def moment_of(document: Document, ref: LaneRef, at: int) -> tuple[int, int]:
    """(ticks after its scene came on screen, length of its time there) of a moment of the film."""
    return moment_in(document, ref.on or ref.scene, at)


def length_of(document: Document, ref: LaneRef) -> int:
    """Ticks that the scene of a lane is on screen."""
    return moment_in(document, ref.on or ref.scene, None)[1]


def base_of(document: Document, ref: LaneRef, prop: Property) -> float:
    """The number under a lane: what it is without any keyframes. Raises InvalidEdit where the layer has no such part."""
    value = base_value(document, owner_of(document, ref), prop)
    if value is None:
        raise refused("edit.kind", ref.path, f"This layer has no {prop.part}.")
    return value


def with_base(document: Document, ref: LaneRef, prop: Property, value: float) -> Document:
    """The document with another number under a lane, kept within its range."""
    low, high = prop.spec.minimum, prop.spec.maximum
    assert low is not None and high is not None
    value = min(max(value, low), high)
    owner = owner_of(document, ref)
    name = prop.spec.id
    if prop.part == "layer":
        return with_owner(document, ref, owner.model_copy(update={name: value}))
    part: BaseModel = resolved_part(document, owner, prop.part)
    changed: Any = value if prop.colour is None else with_channel(getattr(part, prop.colour), prop.channel, value)
    return with_owner(document, ref, owner.model_copy(update={prop.part: merged(part, {prop.colour or name: changed}, f"{ref.path}")}))


def offset_from(base: float, value: float, name: str) -> float:
    """What a lane must hold for a number to be `value`."""
    return (value / base if abs(base) > 1e-9 else 1.0) if name in FACTORS else value - base


def value_from(base: float, offset: float, name: str) -> float:
    """What a number is where a lane holds `offset`."""
    return base * offset if name in FACTORS else base + offset


def set_key(lane: Keyed | None, value: Any, place: int, length: int, frame_ticks: int) -> Keyed:
    """The lane with a key of this value at `place`; one that stands there already takes the value."""
    is_path = isinstance(value, tuple)
    if lane is None:
        key: Any = (PathKeyframe if is_path else Keyframe[float])(value=value, **EASED)
        made: Keyed = (PathLane if is_path else NumberLane)(keys={"k1": anchored(key, place, length, nearest_anchor(place, length))})
        return made
    for at, name in key_times(lane.keys, length):
        if abs(at - place) <= SAME_TIME * frame_ticks:
            return lane.model_copy(update={"keys": {**lane.keys, name: lane.keys[name].model_copy(update={"value": value})}})
    kind: Any = type(next(iter(lane.keys.values())))
    fresh = anchored(kind(value=value, **EASED), place, length, nearest_anchor(place, length))
    return lane.model_copy(update={"keys": {**lane.keys, new_key(lane): fresh}})


EASED = {"ease_out": (0.42, 0.0), "ease_in": (0.42, 0.0)}
"""Handles of a new key: slow start and end."""


def nearest_anchor(place: int, length: int) -> Any:
    """A new key in the last third counts from the end, all others from the start: so a stretched scene keeps its ends."""
    return "end" if place > length * 2 / 3 else "start"


def new_key(lane: Keyed) -> str:
    number = len(lane.keys) + 1
    while f"k{number}" in lane.keys:
        number += 1
    return f"k{number}"


def at_rest(name: str) -> Any:
    """What a lane holds where it changes nothing."""
    return (0.0, 0.0, 0.0) if name in PATHS else 1.0 if name in FACTORS else 0.0


def offset_at(document: Document, lane: Keyed | None, ref: LaneRef, moment: int, length: int) -> Any:
    """What a lane holds at a moment; what changes nothing where there is none."""
    if lane is None:
        return at_rest(ref.property)
    if isinstance(lane, PathLane):
        return path_point(lane, moment, length, document.frame.aspect)[0]
    if isinstance(lane, ViewLane):
        return View.model_validate(sample(lane, moment, length, mix_views).model_dump())
    return sample(lane, moment, length, lerp_number)
