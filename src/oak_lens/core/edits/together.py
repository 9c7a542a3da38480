"""Scenes in another frame with all that stands in them kept together: made smaller as one, so that nothing comes to lie over anything else."""

from collections.abc import Callable, Mapping
from math import isfinite
from typing import Any

from ..curves import AnyLane, PathLane
from ..document import Document, Layer, PhotoLayer, Scene, ShapeLayer, TextLayer
from ..evaluate import Placed, bounds_of, staged
from ..looks.links import Link
from ..looks.parameters import parameters_of
from ..space import Camera, home_distance
from .placing import moment_in

Factors = Mapping[str, float]
"""Values by property name, each times which it is."""


def kept_together(before: Document, after: Document) -> Document:
    """`after`, which is `before` with another frame: what stands in its scenes is as it was to one another, as large as the narrower of the two
    frames has room for. What covers the frame, or is measured by it, is left as it is. Scenes with a layout are left alone."""
    if abs(after.frame.aspect / before.frame.aspect - 1.0) < 1e-3:
        return after
    share = min(1.0, after.frame.aspect / before.frame.aspect)
    scenes = {k: scene if scene.layout is not None else _scene(before, after, k, scene, share) for k, scene in after.scenes.items()}
    groups = {k: group.model_copy(update={"layers": _layers(before, after, k, group.layers, 1.0)}) for k, group in after.groups.items()}
    return after.model_copy(update={"scenes": scenes, "groups": groups})


def _scene(before: Document, after: Document, key: str, scene: Scene, share: float) -> Scene:
    old, new = before.frame.aspect, after.frame.aspect
    camera = Camera(focal_mm=scene.camera.focal)
    across, deep = share * old / new, home_distance(camera, new) / home_distance(camera, old)
    seen = {
        "camera.x": across, "camera.y": share, "camera.dolly": deep, "camera.focus": deep,
        "camera.point_x": across, "camera.point_y": share, "camera.point_z": deep,
    }  # fmt: skip
    framed: Scene = _times(scene.model_copy(update={"layers": _layers(before, after, key, scene.layers, share, deep)}), seen)
    return framed


def _layers(before: Document, after: Document, key: str, layers: Mapping[str, Layer], share: float, deep: float = 1.0) -> dict[str, Layer]:
    """The layers of a scene or shared group, those on its own ground `share` as large. Groups take along what is in them."""
    old, new = before.frame.aspect, after.frame.aspect
    at, length = moment_in(before, key, None)
    stood = {p.layer_id: p for p in staged(before, key, at, length).every_layer if p.container == key}
    found = dict(layers)
    for now in staged(after, key, at, length).every_layer:
        if now.container != key or _by_frame(now.layer):
            continue
        was, top = stood[now.layer_id], now.layer.parent is None
        if top and _fills(was, old):
            continue
        own, depth = (share, deep) if top else (1.0, 1.0)
        factors = {
            "placement.x": own * old / new, "placement.y": own, "placement.z": depth, "placement.size": own * _height(was) / _height(now),
            "setting.box_width": old / new,
        }  # fmt: skip
        found[now.layer_id] = _times(now.layer, factors)
    return found


def _by_frame(layer: Layer) -> bool:
    """Whether it is measured by the frame and nothing else."""
    if isinstance(layer, PhotoLayer):
        return layer.window is None
    return isinstance(layer, ShapeLayer) and layer.form.outline == "sheet"


def _fills(placed: Placed, aspect: float) -> bool:
    left, top, right, bottom = bounds_of(placed)
    if not all(isfinite(v) for v in (left, top, right, bottom)):
        return True
    return left <= -aspect / 2 and right >= aspect / 2 and top <= -0.5 and bottom >= 0.5


def _height(placed: Placed) -> float:
    """Frame heights that what it shows is high before it is placed; 1 for what has no measure of its own in the frame."""
    content = None if placed.standing is None else placed.standing.content
    return 1.0 if content is None or isinstance(placed.layer, TextLayer) else max(content.height, 1e-6)


def _times(owner: Any, factors: Factors) -> Any:
    """A layer or scene with numbers times what is said of them, in its lanes and in what its links come to as well."""
    update: dict[str, Any] = {}
    for name, factor in factors.items():
        part, number = name.split(".")
        record = update.get(part, getattr(owner, part, None))
        if record is not None and hasattr(record, number) and factor != 1.0:
            spec = next(s for s in parameters_of(type(record)) if s.id == number)
            low, high = (limit if limit is not None else getattr(record, number) * factor for limit in (spec.minimum, spec.maximum))
            update[part] = record.model_copy(update={number: min(max(getattr(record, number) * factor, low), high)})
    lanes = {n: _lane(n, lane, factors) for n, lane in owner.animation.items()}
    links = {n: _link(link, factors[n]) if n in factors else link for n, link in owner.links.items()}
    return owner.model_copy(update={**update, "animation": lanes, "links": links})


def _lane(name: str, lane: AnyLane, factors: Factors) -> AnyLane:
    if isinstance(lane, PathLane):
        x, y, z = (factors.get(f"{name.partition('.')[0]}.{axis}", 1.0) for axis in "xyz")

        def moved(point: tuple[float, float, float]) -> tuple[float, float, float]:
            return point[0] * x, point[1] * y, point[2] * z

        fields: tuple[str, ...] = ("value", "tangent_in", "tangent_out")
        change: Callable[[Any], Any] = lambda key: key.model_copy(update={f: moved(getattr(key, f)) for f in fields})  # noqa: E731
    else:
        factor = factors.get(name, 1.0)
        change = lambda key: key.model_copy(update={"value": key.value * factor})  # noqa: E731
    return lane.model_copy(update={"keys": {k: change(key) for k, key in lane.keys.items()}})


def _link(link: Link, factor: float) -> Link:
    """What it comes to at each place of its dial, times a factor."""
    mapping = link.mapping
    if mapping is None or mapping.low is None or mapping.high is None:
        values = {} if mapping is None else {k: v * factor if isinstance(v, float) and not isinstance(v, bool) else v for k, v in mapping.values.items()}
        return link if not values else link.model_copy(update={"mapping": mapping.model_copy(update={"values": values})})  # type: ignore[union-attr]
    return link.model_copy(update={"mapping": mapping.model_copy(update={"low": mapping.low * factor, "high": mapping.high * factor, "step": mapping.step * abs(factor)})})
