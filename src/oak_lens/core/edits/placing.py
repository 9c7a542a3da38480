"""Placing layers: dragged on the easel, by window or by picture, aligned, spread, put in one of nine places."""

from collections.abc import Callable
from math import cos, radians, sin
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from ..document import Document, Layer, PhotoLayer, Placement, View, Window
from ..document.records import Id, Ticks
from ..evaluate import Placed, Staged, bounds_of, staged, timeline_of
from ..framing import fit_of, fit_zoom, limited_view, plane_size, seen_aspect
from ..space import map_points, plane_homography
from .gestures import Gesture, Point, along_one_axis, stepped, turned_by
from .registry import Edit, EditSpec, LayerRef, layer_of, merged, refused, with_layers
from .snapping import SAFE_SHARE, lines_of, snapped_offset

UPRIGHT_WITHIN_DEG = 1.5


class ResetPlacement(Edit):
    """Back to the middle, upright; photos without a window as their fit shows them."""

    layers: list[LayerRef] = Field(min_length=1)


def reset_placement(document: Document, edit: ResetPlacement) -> Document:
    return with_layers(document, [(ref, layer_of(document, ref).model_copy(update={"placement": Placement()})) for ref in edit.layers])


class DragLayer(Gesture):
    """A drag of a layer on the easel; positions in fractions of the frame.

    `target` picture moves, sizes and turns the picture in its window. Edges widen the window while the picture stays where it is.
    `on`: the scene it is seen in, if the layer is in a shared group; `at`: the moment of the film.
    """

    scene: Id
    layer: Id
    target: Literal["layer", "picture"] = "layer"
    snap: bool = False
    on: Id | None = None
    at: Ticks | None = None


def drag_layer(document: Document, edit: DragLayer) -> Document:
    ref = LayerRef(scene=edit.scene, layer=edit.layer)
    layer = layer_of(document, ref)
    seen_in = edit.on or edit.scene
    stage = staged_in(document, seen_in, edit.at)
    placed = movable(stage, ref)
    if edit.target == "picture" or edit.handle.startswith("edge"):
        if not isinstance(layer, PhotoLayer) or layer.window is None:
            raise refused("edit.no_window", ref.path, "This layer has no window. Give the photo a window first.")
        dragged = _picture_dragged if edit.target == "picture" else _edge_dragged
        return with_layers(document, [(ref, dragged(document, layer, placed, edit))])
    return with_layers(document, [(ref, _layer_dragged(stage, layer, placed, edit))])


def moment_in(document: Document, scene: str, at: int | None) -> tuple[int, int]:
    """(ticks of its own time after the scene came on screen, length of that time); by default when its hold begins."""
    span = timeline_of(document).span_of(scene)
    if span is None:
        return 0, 1
    return span.own(span.hold_start if at is None else at), span.own_length


def staged_in(document: Document, scene: str, at: int | None) -> Staged:
    """A scene at moment `at` of the film, by default when its hold begins. Raises InvalidEdit."""
    if scene not in document.scenes:
        raise refused("edit.no_layer", f"scenes.{scene}", "This layer is not seen in the scene it was dragged in.")
    return staged(document, scene, *moment_in(document, scene, at))


def find_placed(stage: Staged, ref: LayerRef) -> Placed:
    """The layer where it stands. Raises InvalidEdit."""
    placed = stage.find(ref.scene, ref.layer)
    if placed is None:
        raise refused("edit.no_layer", ref.path, "This layer is not seen in the scene it was dragged in.")
    return placed


def movable(stage: Staged, ref: LayerRef) -> Placed:
    """A layer that may be moved. Raises InvalidEdit where it, or a group that it is in, is locked."""
    placed = find_placed(stage, ref)
    if placed.layer.locked:
        raise refused("edit.locked", ref.path, "This layer is locked. Unlock it to move it.")
    if placed.locked:
        raise refused("edit.locked", ref.path, "This layer is in a group that is locked. Unlock the group to move it.")
    return placed


def _points(document: Document, placed: Placed, edit: DragLayer) -> tuple[Point, Point]:
    """Where the drag began and is now, on the ground the layer is placed on, in frame heights from its middle."""
    scale = np.array((document.frame.aspect, 1.0))
    on_frame = (np.array((edit.start, edit.end)) - 0.5) * scale
    inverse = np.asarray(np.linalg.inv(plane_homography(placed.ground.frame_from_ground)), np.float64)
    start, end = map_points(inverse, on_frame)
    return start, end


def _layer_dragged(stage: Staged, layer: Layer, placed: Placed, edit: DragLayer) -> Layer:
    document = stage.document
    placement, aspect = layer.placement, document.frame.aspect
    x, y, size, turn = placement.x, placement.y, placement.size, placement.turn
    centre = np.array((x * aspect, y))
    start, end = _points(document, placed, edit)
    if edit.handle == "inside":
        offset = along_one_axis(end - start) if edit.constrain else end - start
        if edit.snap and layer.parent is None and placed.container == stage.container:
            xs, ys = lines_of(stage, frozenset({(placed.container, placed.layer_id)}))
            offset = np.array(snapped_offset(bounds_of(placed), (float(offset[0]), float(offset[1])), xs, ys))
        partial = {"x": x + offset[0] / aspect, "y": y + offset[1]}
    elif edit.handle == "turn":
        new_turn = turn + turned_by(centre, start, end)
        upright = round(new_turn / 90.0) * 90.0
        if edit.constrain:
            new_turn = stepped(new_turn)
        elif edit.snap and abs(new_turn - upright) < UPRIGHT_WITHIN_DEG:
            new_turn = upright
        partial = {"turn": new_turn}
    else:
        before, after = float(np.linalg.norm(start - centre)), float(np.linalg.norm(end - centre))
        partial = {"size": min(20.0, max(0.02, size * after / max(before, 1e-6)))}
    limits = {"x": 10.0, "y": 10.0, "turn": 3600.0}
    partial = {k: float(np.clip(v, -limits[k], limits[k])) if k in limits else float(v) for k, v in partial.items()}
    return layer.model_copy(update={"placement": merged(placement, partial, "placement")})


def _in_plane(placed: Placed, document: Document, edit: DragLayer) -> NDArray[np.float64]:
    """(2, 2): where the drag began and is now, in the layer's own plane."""
    on_frame = (np.array((edit.start, edit.end)) - 0.5) * (document.frame.aspect, 1.0)
    return map_points(np.asarray(np.linalg.inv(placed.frame_from_plane), np.float64), on_frame)


def _picture_dragged(document: Document, layer: PhotoLayer, placed: Placed, edit: DragLayer) -> PhotoLayer:
    """The picture moved in its window: both views alike, so that a move between them stays."""
    assert placed.standing is not None
    start, end = _in_plane(placed, document, edit)
    origin = np.zeros(2)
    offset = along_one_axis(end - start) if edit.constrain else end - start
    height = placed.standing.content.height

    def changed(view: View) -> View:
        if edit.handle == "turn":
            turn = view.turn - turned_by(origin, start, end)
            return view.model_copy(update={"turn": stepped(turn) if edit.constrain else turn})
        if edit.handle != "inside":
            ratio = float(np.linalg.norm(end)) / max(float(np.linalg.norm(start)), 1e-6)
            return view.model_copy(update={"zoom": float(np.clip(view.zoom * ratio, 0.05, 50.0))})
        c, s = cos(radians(view.turn)), sin(radians(view.turn))
        across, down = c * offset[0] - s * offset[1], s * offset[0] + c * offset[1]
        width_now, height_now = _picture_size(document, layer, view, height)
        return view.model_copy(
            update={"x": float(np.clip(view.x - across / width_now, -5, 5)), "y": float(np.clip(view.y - down / height_now, -5, 5))}
        )

    return with_views(document, layer, changed)


def _picture_size(document: Document, layer: PhotoLayer, view: View, window_height: float) -> tuple[float, float]:
    """(width, height) of the picture as a view shows it in its window, in the plane's unit."""
    picture, seen = document.media[layer.media].aspect, seen_aspect(document, layer)
    width, height = plane_size(picture, seen)
    magnification = view.zoom * fit_zoom(fit_of(document, layer), picture, seen) * window_height
    return width * magnification, height * magnification


def with_views(document: Document, layer: PhotoLayer, changed: Callable[[View], View]) -> PhotoLayer:
    """The photo with every view changed, kept within what its fit allows."""
    picture, seen, fit = document.media[layer.media].aspect, seen_aspect(document, layer), fit_of(document, layer)
    keys = {n: k.model_copy(update={"value": limited_view(changed(k.value), fit, picture, seen)}) for n, k in layer.view.keys.items()}
    return layer.model_copy(update={"view": layer.view.model_copy(update={"keys": keys})})


def _edge_dragged(document: Document, layer: PhotoLayer, placed: Placed, edit: DragLayer) -> PhotoLayer:
    """One edge of the window moved; the picture behind it stays where it is, as far as its fit allows."""
    assert placed.standing is not None and layer.window is not None
    start, end = _in_plane(placed, document, edit)
    width, height = placed.standing.content.width, placed.standing.content.height
    left, top, right, bottom = -width / 2, -height / 2, width / 2, height / 2
    offset = end - start
    side = int(edit.handle[-1])
    if side == 0:
        top = min(top + offset[1], bottom - 0.03)
    elif side == 1:
        right = max(right + offset[0], left + 0.03)
    elif side == 2:
        bottom = max(bottom + offset[1], top + 0.03)
    else:
        left = min(left + offset[0], right - 0.03)
    new_width, new_height = right - left, bottom - top
    aspect = float(np.clip(new_width / new_height, 0.02, 50.0))
    middle_x, middle_y = (left + right) / 2, (top + bottom) / 2
    placement = layer.placement
    x, y, size, turn = placement.x, placement.y, placement.size, placement.turn
    c, s = cos(radians(turn)) * size, sin(radians(turn)) * size
    moved = {
        "x": x + (middle_x * c - middle_y * s) / document.frame.aspect,
        "y": y + middle_x * s + middle_y * c,
        "size": float(np.clip(size * new_height / plane_size(aspect, document.frame.aspect)[1], 0.01, 20.0)),
    }
    new = layer.model_copy(
        update={
            "window": Window.model_validate({**layer.window.model_dump(), "aspect": aspect}),
            "placement": merged(placement, {k: float(np.clip(v, -10, 20)) for k, v in moved.items()}, "placement"),
        }
    )

    def kept(view: View) -> View:
        before_width, before_height = _picture_size(document, layer, view, height)
        after_width, _ = _picture_size(document, new, view, new_height)
        return view.model_copy(
            update={
                "zoom": float(np.clip(view.zoom * before_width / after_width, 0.05, 50.0)),
                "x": float(np.clip(view.x + middle_x / before_width, -5, 5)),
                "y": float(np.clip(view.y + middle_y / before_height, -5, 5)),
            }
        )

    return with_views(document, new, kept)


class ArrangedLayers(Edit):
    """Layers of one scene as they stand at moment `at` of the film (when the scene's hold begins, if none is given)."""

    layers: list[LayerRef] = Field(min_length=1)
    on: Id | None = None
    at: Ticks | None = None


class AlignLayers(ArrangedLayers):
    """Edges or middles brought together: of the chosen layers, or with the frame or the title-safe area.

    `across` and `down` may both be given: together they name nine places.
    """

    across: Literal["left", "middle", "right"] | None = None
    down: Literal["top", "middle", "bottom"] | None = None
    to: Literal["layers", "frame", "safe"] = "frame"


def align_layers(document: Document, edit: AlignLayers) -> Document:
    found = _placed_all(document, edit)
    boxes = [bounds_of(p) for p in found]
    aspect = document.frame.aspect
    if edit.to == "layers":
        left, top, right, bottom = (pick(box[i] for box in boxes) for i, pick in enumerate((min, min, max, max)))
    else:
        share = SAFE_SHARE if edit.to == "safe" else 1.0
        left, top, right, bottom = -aspect * share / 2, -share / 2, aspect * share / 2, share / 2
    shifts = []
    for x1, y1, x2, y2 in boxes:
        dx = {None: 0.0, "left": left - x1, "middle": (left + right - x1 - x2) / 2, "right": right - x2}[edit.across]
        dy = {None: 0.0, "top": top - y1, "middle": (top + bottom - y1 - y2) / 2, "bottom": bottom - y2}[edit.down]
        shifts.append((dx, dy))
    return _shifted(document, found, shifts)


class DistributeLayers(ArrangedLayers):
    """Three or more layers with equal room between them, the outermost staying where they are."""

    axis: Literal["across", "down"]


def distribute_layers(document: Document, edit: DistributeLayers) -> Document:
    found = _placed_all(document, edit)
    if len(found) < 3:
        raise refused("edit.too_few", "layers", "Choose three or more layers to spread them evenly.")
    low, high = (0, 2) if edit.axis == "across" else (1, 3)
    order = sorted(((bounds_of(p), p) for p in found), key=lambda entry: entry[0][low] + entry[0][high])
    boxes = [box for box, _ in order]
    room = (boxes[-1][high] - boxes[0][low] - sum(b[high] - b[low] for b in boxes)) / (len(boxes) - 1)
    at, shifts = boxes[0][low], []
    for box in boxes:
        shifts.append((at - box[low], 0.0) if edit.axis == "across" else (0.0, at - box[low]))
        at += box[high] - box[low] + room
    return _shifted(document, [p for _, p in order], shifts)


class NudgeLayers(ArrangedLayers):
    """All layers moved by (x, y) fractions of the frame."""

    by: tuple[float, float]


def nudge_layers(document: Document, edit: NudgeLayers) -> Document:
    found = _placed_all(document, edit)
    return _shifted(document, found, [(edit.by[0] * document.frame.aspect, edit.by[1])] * len(found))


def _placed_all(document: Document, edit: ArrangedLayers) -> list[Placed]:
    stage = staged_in(document, edit.on or edit.layers[0].scene, edit.at)
    return [movable(stage, ref) for ref in edit.layers]


def _shifted(document: Document, found: list[Placed], shifts: list[tuple[float, float]]) -> Document:
    """The layers moved by so much in frame coordinates, whatever group they are in."""
    changed: list[tuple[LayerRef, Layer | None]] = []
    for placed, shift in zip(found, shifts, strict=True):
        placement = placed.layer.placement
        x, y = placement.x, placement.y
        ground = plane_homography(placed.ground.frame_from_ground)
        here = np.array(((x * document.frame.aspect, y),))
        seen = map_points(ground, here) + np.array(shift)
        new_x, new_y = map_points(np.asarray(np.linalg.inv(ground), np.float64), seen)[0]
        partial = {"x": float(np.clip(new_x / document.frame.aspect, -10, 10)), "y": float(np.clip(new_y, -10, 10))}
        ref = LayerRef(scene=placed.container, layer=placed.layer_id)
        changed.append((ref, placed.layer.model_copy(update={"placement": merged(placement, partial, "placement")})))
    return with_layers(document, changed)


PLACING_EDITS = (
    EditSpec("reset_placement", "Reset placement", ResetPlacement, reset_placement),
    EditSpec("drag_layer", "Move layer", DragLayer, drag_layer, keyed=True),
    EditSpec("align_layers", "Align layers", AlignLayers, align_layers, keyed=True),
    EditSpec("distribute_layers", "Spread layers evenly", DistributeLayers, distribute_layers, keyed=True),
    EditSpec("nudge_layers", "Nudge layers", NudgeLayers, nudge_layers, keyed=True),
)
