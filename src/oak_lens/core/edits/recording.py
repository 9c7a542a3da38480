"""Recording: what edits change becomes keyframes at a moment."""

from ..document import Document, Layer, Property, Scene, base_value, resolved_part
from ..document.records import Id
from ..moves import PATHS
from .lanes import InTime, LaneRef, lane_of, moment_of, offset_at, offset_from, set_key, value_from, with_base, with_lane
from .registry import EditSpec, containers


class Record(InTime):
    """Stands before other edits of one step that set numbers: every one they change becomes a keyframe at this moment, instead of moving
    all of the animation. `on`: the scene in which layers of shared groups are seen."""

    on: Id | None = None


def recorded(before: Document, after: Document, at: int, on: str | None) -> Document:
    """`after`, but with the numbers of layers and scenes that differ from `before` as keys at a moment."""
    known = dict(containers(before))
    for container_id, container in containers(after):
        old = known.get(container_id)
        if old is None or old is container:
            continue
        pairs: list[tuple[str | None, Layer | Scene, Layer | Scene]] = [
            (k, old.layers[k], v) for k, v in container.layers.items() if k in old.layers and old.layers[k] is not v
        ]
        if isinstance(container, Scene) and isinstance(old, Scene):
            pairs.append((None, old, container))
        for layer_id, was, now in pairs:
            after = _recorded_owner(before, after, LaneRef(scene=container_id, layer=layer_id, property="", on=on), was, now, at)
    return after


def _recorded_owner(before: Document, after: Document, owner: LaneRef, was: Layer | Scene, now: Layer | Scene, at: int) -> Document:
    frame_ticks = after.frame.frame_rate.frame_ticks
    moved = {part: 0.0 for parts in PATHS.values() for part in parts[:3]}
    for name, prop in was.numbers.items():
        first, last = base_value(before, was, prop), base_value(after, now, prop)
        if first is None or last is None or (first == last and not _colour_differs(before, after, was, now, prop)):
            continue
        ref = owner.model_copy(update={"property": name})
        if name in moved and name not in was.animation:
            moved[name] = last - first
        else:
            lane = lane_of(after, ref)
            moment, length = moment_of(after, ref, at)
            value = value_from(last, offset_at(after, lane, ref, moment, length), name)
            after = with_lane(after, ref, set_key(lane, offset_from(first, value, name), moment, length, frame_ticks))
        after = with_base(after, ref, prop, first)
    for path, parts in PATHS.items():
        if any(moved[p] for p in parts[:3]) and (path == "camera.path") == (owner.layer is None):
            ref = owner.model_copy(update={"property": path})
            lane = lane_of(after, ref)
            moment, length = moment_of(after, ref, at)
            here = offset_at(after, lane, ref, moment, length)
            value_now = tuple(h + moved[p] for h, p in zip(here, parts[:3], strict=True))
            after = with_lane(after, ref, set_key(lane, value_now, moment, length, frame_ticks))
    return after


def _colour_differs(before: Document, after: Document, was: Layer | Scene, now: Layer | Scene, prop: Property) -> bool:
    """Whether a number is a channel of a colour that differs: then all three are keyed, or the colour would not hold still elsewhere."""
    if prop.colour is None:
        return False
    first, last = resolved_part(before, was, prop.part), resolved_part(after, now, prop.part)
    return first is not None and last is not None and getattr(first, prop.colour) != getattr(last, prop.colour)


def record(document: Document, edit: Record) -> Document:
    """By itself it changes nothing."""
    return document


RECORDING_EDITS = (EditSpec("record", "Record", Record, record),)
