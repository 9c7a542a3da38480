"""Edits of camera and light: dragged on the easel and in the plan; stops of a travel."""

from math import atan2, degrees
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from ..document import Document, Scene, in_order, order_keys_between
from ..document.records import Id, Ticks
from ..evaluate import scene_seeing
from ..evaluate.plan import AXES
from ..looks.parameters import Parameters, parameters_of
from ..space import map_points, plane_homography, world_from_camera
from ..stage import Stop, Travel
from .gestures import Coordinate, Gesture, along_one_axis, stepped, turned_by
from .placing import moment_in, movable, staged_in
from .registry import Edit, EditSpec, LayerRef, layer_of, merged, refused, scene_of, with_layers, with_scenes


class DragCamera(Gesture):
    """A drag of the camera's frame on the easel, at moment `at` of the film; positions in fractions of the frame.

    Inside: track and pedestal, so that what is taken at depth 0 stays under the pointer. A corner: dolly. The turn handle: roll.
    """

    scene: Id
    at: Ticks


def drag_camera(document: Document, edit: DragCamera) -> Document:
    scene = scene_of(document, edit.scene)
    moment, length = moment_in(document, edit.scene, edit.at)
    seeing = scene_seeing(document, scene, moment, length)
    aspect = document.frame.aspect
    points = (np.array((edit.start, edit.end)) - 0.5) * (aspect, 1.0)
    rig = scene.camera
    if edit.handle == "turn":
        turn = turned_by(np.zeros(2), points[0], points[1])
        partial = {"roll": rig.roll - (stepped(turn) if edit.constrain else turn)}
    elif edit.handle == "inside":
        level = np.asarray(np.linalg.inv(plane_homography(seeing.frame_from_world)), np.float64)
        first, last = map_points(level, points)
        if not (np.isfinite(first).all() and np.isfinite(last).all()):
            return document
        way = along_one_axis(last - first) if edit.constrain else last - first
        partial = {"x": rig.x - float(way[0]) / aspect, "y": rig.y - float(way[1])}
    else:
        before, after = float(np.linalg.norm(points[0])), float(np.linalg.norm(points[1]))
        # Drawn outwards, what is seen grows: the camera comes nearer.
        depth = seeing.home - rig.dolly
        partial = {"dolly": seeing.home - max(depth, 0.05) * before / max(after, 1e-3)}
    return with_scenes(document, {edit.scene: scene.model_copy(update={"camera": _held(rig, partial)})})


class DragPlan(Edit):
    """A drag in the plan's drawing from above (`top`) or from the side; positions in frame heights of the world.

    `what`: the `camera`, its `aim`, the `focus`, the orbit's `point`, the `lamp`, or a `layer`.
    """

    scene: Id
    view: Literal["top", "side"]
    what: Literal["camera", "aim", "focus", "point", "lamp", "layer"]
    layer: LayerRef | None = None
    start: tuple[Coordinate, Coordinate]
    end: tuple[Coordinate, Coordinate]
    at: Ticks


def drag_plan(document: Document, edit: DragPlan) -> Document:
    scene, aspect = scene_of(document, edit.scene), document.frame.aspect
    across, down = AXES[edit.view]
    way = np.zeros(3)
    way[across], way[down] = edit.end[0] - edit.start[0], edit.end[1] - edit.start[1]
    rig = scene.camera
    if edit.what == "layer":
        return _layer_dragged(document, edit, way)
    if edit.what == "lamp":
        if scene.light is None:
            raise refused("edit.no_light", f"scenes.{edit.scene}.light", "This scene has no light: switch it on first.")
        light = scene.light
        moved: Parameters = _held(light, {"x": light.x + way[0] / aspect, "y": light.y + way[1], "z": light.z + way[2]})
        return with_scenes(document, {edit.scene: scene.model_copy(update={"light": moved})})
    if edit.what == "camera":
        partial = {"x": rig.x + way[0] / aspect, "y": rig.y + way[1], "dolly": rig.dolly - way[2]}
    elif edit.what == "focus":
        partial = {"focus": rig.focus + way[2]}
    elif edit.what == "point":
        partial = {"point_x": rig.point_x + way[0] / aspect, "point_y": rig.point_y + way[1], "point_z": rig.point_z + way[2]}
    else:
        moment, length = moment_in(document, edit.scene, edit.at)
        eye = world_from_camera(scene_seeing(document, scene, moment, length).camera, aspect)[:3, 3]
        first, last = np.array(edit.start) - eye[[across, down]], np.array(edit.end) - eye[[across, down]]
        turned = degrees(atan2(last[1], last[0]) - atan2(first[1], first[0]))
        turned = (turned + 180.0) % 360.0 - 180.0
        # From above, clockwise in the drawing is to the right; from the side, with the viewer at the right, it looks up.
        partial = {"pan": rig.pan + turned} if edit.view == "top" else {"tilt": rig.tilt + turned}
    return with_scenes(document, {edit.scene: scene.model_copy(update={"camera": _held(rig, partial)})})


def _layer_dragged(document: Document, edit: DragPlan, way: Any) -> Document:
    if edit.layer is None:
        raise refused("edit.no_layer", "layer", "Name the layer that is dragged.")
    layer = layer_of(document, edit.layer)
    placed = movable(staged_in(document, edit.scene, edit.at), edit.layer)
    own = np.linalg.inv(placed.ground.world_from_ground[:3, :3]) @ way
    placement = layer.placement
    partial = {"x": placement.x + own[0] / document.frame.aspect, "y": placement.y + own[1], "z": placement.z + own[2]}
    return with_layers(document, [(edit.layer, layer.model_copy(update={"placement": _held(placement, partial)}))])


def _held(parameters: Any, partial: dict[str, Any]) -> Any:
    """The parameters with numbers changed, each kept within its range."""
    specs = {s.id: s for s in parameters_of(type(parameters))}
    held = {k: min(max(float(v), specs[k].minimum or 0.0), specs[k].maximum or 0.0) for k, v in partial.items()}
    return merged(parameters, held, "camera")


class DragLamp(Edit):
    """A drag of the lamp's foot on the easel, at moment `at` of the film; positions in fractions of the frame. It stays at its height."""

    scene: Id
    at: Ticks = 0
    start: tuple[Coordinate, Coordinate]
    end: tuple[Coordinate, Coordinate]


def drag_lamp(document: Document, edit: DragLamp) -> Document:
    scene = scene_of(document, edit.scene)
    if scene.light is None:
        raise refused("edit.no_light", f"scenes.{edit.scene}.light", "This scene has no light: switch it on first.")
    light, aspect = scene.light, document.frame.aspect
    seeing = scene_seeing(document, scene, *moment_in(document, edit.scene, edit.at))
    level = np.asarray(np.linalg.inv(plane_homography(seeing.frame_from_world)), np.float64)
    first, last = map_points(level, (np.array((edit.start, edit.end)) - 0.5) * (aspect, 1.0))
    if not (np.isfinite(first).all() and np.isfinite(last).all()):
        return document
    partial = {"x": light.x + float(last[0] - first[0]) / aspect, "y": light.y + float(last[1] - first[1])}
    return with_scenes(document, {edit.scene: scene.model_copy(update={"light": _held(light, partial)})})


class NewStop(Edit):
    id: Id
    layer: Id | None = None
    fills: Annotated[float, Field(ge=0.05, le=4, allow_inf_nan=False)] = 0.86


class AddStops(Edit):
    """The camera stops before these layers, in this order, after the stops there are; the travel begins if there was none."""

    scene: Id
    stops: list[NewStop] = Field(min_length=1, max_length=200)


def add_stops(document: Document, edit: AddStops) -> Document:
    scene = scene_of(document, edit.scene)
    stops = {} if scene.travel is None else dict(scene.travel.stops)
    listed = in_order(stops)
    orders = order_keys_between(listed[-1][1].order if listed else None, None, len(edit.stops))
    for new, order in zip(edit.stops, orders, strict=True):
        if new.id in stops:
            raise refused("edit.id_taken", f"scenes.{edit.scene}.travel.stops.{new.id}", "This id is already in use.")
        if new.layer is not None and new.layer not in scene.layers:
            raise refused("edit.no_layer", f"scenes.{edit.scene}.layers.{new.layer}", "There is no such layer in this scene.")
        stops[new.id] = Stop(order=order, layer=new.layer, fills=new.fills)
    travel = Travel(stops=stops) if scene.travel is None else scene.travel.model_copy(update={"stops": stops})
    return with_scenes(document, {edit.scene: scene.model_copy(update={"travel": travel})})


class SetStops(Edit):
    """Change what is given of stops, or (`draws_back`) of the whole travel."""

    scene: Id
    stops: list[Id] = Field(default_factory=list)
    stop: dict[str, Any] = Field(default_factory=dict)
    draws_back: Annotated[float, Field(ge=0, le=2, allow_inf_nan=False)] | None = None


def set_stops(document: Document, edit: SetStops) -> Document:
    scene = scene_of(document, edit.scene)
    travel = _travel(scene, edit.scene)
    stops = dict(travel.stops)
    for stop_id in edit.stops:
        stops[stop_id] = merged(_stop(travel, edit.scene, stop_id), edit.stop, f"scenes.{edit.scene}.travel.stops.{stop_id}")
    update: dict[str, Any] = {"stops": stops, **({} if edit.draws_back is None else {"draws_back": edit.draws_back})}
    return with_scenes(document, {edit.scene: scene.model_copy(update={"travel": travel.model_copy(update=update)})})


class RemoveStops(Edit):
    """Without any stop left, the camera does not travel any more."""

    scene: Id
    stops: list[Id] = Field(min_length=1)


def remove_stops(document: Document, edit: RemoveStops) -> Document:
    scene = scene_of(document, edit.scene)
    travel = _travel(scene, edit.scene)
    for stop_id in edit.stops:
        _stop(travel, edit.scene, stop_id)
    kept = {k: v for k, v in travel.stops.items() if k not in edit.stops}
    left = travel.model_copy(update={"stops": kept}) if kept else None
    return with_scenes(document, {edit.scene: scene.model_copy(update={"travel": left})})


class MoveStop(Edit):
    """A stop before another, or (None) at the end."""

    scene: Id
    stop: Id
    before: Id | None = None


def move_stop(document: Document, edit: MoveStop) -> Document:
    scene = scene_of(document, edit.scene)
    travel = _travel(scene, edit.scene)
    stop = _stop(travel, edit.scene, edit.stop)
    listed = [(k, s) for k, s in in_order(travel.stops) if k != edit.stop]
    index = next((i for i, (k, _) in enumerate(listed) if k == edit.before), len(listed))
    low = listed[index - 1][1].order if index else None
    high = listed[index][1].order if index < len(listed) else None
    (order,) = order_keys_between(low, high, 1)
    stops = {**travel.stops, edit.stop: stop.model_copy(update={"order": order})}
    return with_scenes(document, {edit.scene: scene.model_copy(update={"travel": travel.model_copy(update={"stops": stops})})})


def _travel(scene: Scene, scene_id: str) -> Travel:
    if scene.travel is None:
        raise refused("edit.no_stop", f"scenes.{scene_id}.travel", "The camera does not travel in this scene: add stops first.")
    return scene.travel


def _stop(travel: Travel, scene_id: str, stop_id: str) -> Stop:
    if stop_id not in travel.stops:
        raise refused("edit.no_stop", f"scenes.{scene_id}.travel.stops.{stop_id}", "There is no such stop; it may have been deleted.")
    return travel.stops[stop_id]


CAMERA_EDITS = (
    EditSpec("drag_camera", "Move the camera", DragCamera, drag_camera, keyed=True),
    EditSpec("drag_plan", "Move in the plan", DragPlan, drag_plan, keyed=True),
    EditSpec("drag_lamp", "Move the lamp", DragLamp, drag_lamp, keyed=True),
    EditSpec("add_stops", "Add stops", AddStops, add_stops),
    EditSpec("set_stops", "Change stops", SetStops, set_stops),
    EditSpec("remove_stops", "Remove stops", RemoveStops, remove_stops),
    EditSpec("move_stop", "Move a stop", MoveStop, move_stop),
)
