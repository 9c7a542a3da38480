"""Edits of paths: dragged on the easel, travelled evenly, bent or straight; lanes taken away."""

from math import isfinite, sqrt
from typing import Any, Literal

from pydantic import Field

from ..curves import PathKeyframe, PathLane, key_times
from ..document import Document
from ..evaluate import ground_offset
from .keys import ENDS, Number
from .lanes import (
    VIEW,
    InTime,
    LaneRef,
    lane_of,
    length_of,
    with_keys,
    with_lane,
)
from .placing import find_placed, staged_in
from .registry import Edit, EditSpec, refused


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


PATH_EDITS = (
    EditSpec("drag_path", "Drag a path", DragPath, drag_path),
    EditSpec("set_lanes", "Change a path", SetLanes, set_lanes),
    EditSpec("remove_lanes", "Take keyframes away", LaneRefs, remove_lanes),
)
