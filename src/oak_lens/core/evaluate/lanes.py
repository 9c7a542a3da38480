"""The lanes of a scene as they are drawn: keys where they stand, numbers as they are shown, curves."""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Any, Literal

from ..curves import NumberLane, PathLane, ease_name, key_times, lerp_number, path_point, sample
from ..document import (
    LAYER_PROPERTIES,
    SCENE_PROPERTIES,
    Document,
    Layer,
    PhotoLayer,
    Property,
    Scene,
    View,
    ViewLane,
    base_value,
    called,
    in_order,
    move_of,
    shared_of,
)
from ..framing import mix_views
from ..moves import FACTORS
from ..time import TICKS_PER_SECOND
from .motion import Motion, passages
from .staging import Staged
from .travels import stop_times

CURVE_POINTS = 240
LABELS = {"placement.path": "Place", "camera.path": "Place", "view": "View"}
PARTS = {"view": "", "placement": "", "layer": "", "camera": "Camera", "light": "Light", "backdrop": "Backdrop"}


@dataclass(frozen=True, slots=True)
class KeyMark:
    """A key: `at` ticks after its scene came on screen; `value` as shown: a number; of a path its place, of a view across,
    down, zoom, turn. `ease`: to the next key."""

    id: str
    at: int
    anchor: Literal["start", "end", "fraction"]
    value: float | list[float]
    ease: str
    ease_out: tuple[float, float]
    ease_in: tuple[float, float]
    hold: bool
    follow: dict[str, str | float] | None


@dataclass(frozen=True, slots=True)
class Curve:
    """A lane over its scene's time: `values` as shown (of a path or view: the share of the way), `speeds` a second, at even steps."""

    values: tuple[float, ...]
    speeds: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class LaneRow:
    """One lane. `container`: what lists its layer; `layer` None: of the scene. `base`: the number under it, from `low` to `high` in steps of
    `step` shown units."""

    container: str
    layer: str | None
    property: str
    owner: str
    label: str
    kind: Literal["number", "path", "view"]
    unit: str
    scale: float
    base: float
    low: float
    high: float
    step: float
    keys: tuple[KeyMark, ...]
    even: bool
    turn_along: bool
    curve: Curve | None


@dataclass(frozen=True, slots=True)
class Bar:
    """A move, entrance, exit or stop on the time of a scene, `first` to `last` in ticks after it came on screen."""

    container: str
    layer: str | None
    slot: Literal["move", "entrance", "exit", "stop"]
    owner: str
    label: str
    first: int
    last: int


def scene_lanes(document: Document, scene_id: str, length: int, opened: frozenset[str] = frozenset()) -> list[LaneRow]:
    """Every lane of a scene: camera, light and backdrop first, then its layers from the topmost down.

    `opened`: lanes whose curves are wanted, as `container/layer/property` (layer empty for the scene's own).
    """
    found = [
        _row(document, scene_id, None, document.scenes[scene_id], n, lane, length, opened) for n, lane in _lanes(document.scenes[scene_id])
    ]
    for container, layer_id, layer in layers_seen(document, scene_id):
        found += [_row(document, container, layer_id, layer, name, lane, length, opened) for name, lane in _lanes(layer)]
    return found


def layers_seen(document: Document, scene_id: str) -> Iterator[tuple[str, str, Layer]]:
    """(container, layer id, layer) of all layers of a scene, topmost first, those of shared groups after their group."""

    def inside(container: str, layers: dict[str, Layer], above: frozenset[str]) -> Iterator[tuple[str, str, Layer]]:
        for layer_id, layer in reversed(in_order(layers)):
            yield container, layer_id, layer
            shared = shared_of(layer)
            if shared is not None and shared not in above:
                yield from inside(shared, document.groups[shared].layers, above | {shared})

    yield from inside(scene_id, document.scenes[scene_id].layers, frozenset())


def _lanes(owner: Layer | Scene) -> list[tuple[str, Any]]:
    listed: list[tuple[str, Any]] = list(owner.animation.items())
    # Views that are all alike move nothing: they are set, not keyframed.
    if isinstance(owner, PhotoLayer) and (
        len(owner.view.keys) > 2 or len({k.value.model_dump_json() for k in owner.view.keys.values()}) > 1
    ):
        listed.append(("view", owner.view))
    names = ["placement.path", "camera.path", *SCENE_PROPERTIES, *LAYER_PROPERTIES, "view"]
    return sorted(listed, key=lambda entry: names.index(entry[0]))


def _row(
    document: Document,
    container: str,
    layer_id: str | None,
    owner: Layer | Scene,
    name: str,
    lane: Any,
    length: int,
    opened: frozenset[str],
) -> LaneRow:
    prop = owner.numbers.get(name)
    base = base_value(document, owner, prop) if prop else None
    base = 0.0 if base is None else base
    times = key_times(lane.keys, length)
    marks = []
    for index, (at, key_id) in enumerate(times):
        key = lane.keys[key_id]
        following = lane.keys[times[index + 1][1]] if index + 1 < len(times) else None
        marks.append(
            KeyMark(
                key_id,
                at,
                key.anchor,
                _shown(key.value, base, name),
                ease_name(key, following) if following else "none",
                key.ease_out,
                key.ease_in,
                key.hold,
                None if key.follow is None else key.follow.model_dump(),
            )
        )
    part = PARTS.get(name.partition(".")[0])
    label = LABELS.get(name) or (prop.spec.label if prop else name)
    if part is None:
        part = name.partition(".")[0].capitalize()
    curve = _curve(document, lane, base, name, length) if f"{container}/{layer_id or ''}/{name}" in opened else None
    return LaneRow(
        container, layer_id, name, "" if isinstance(owner, Scene) else called(document, owner, container),
        f"{part} {label[:1].lower()}{label[1:]}" if part else label,
        "view" if isinstance(lane, ViewLane) else lane.kind,
        prop.spec.unit if prop else "", prop.spec.scale if prop else 1.0, base, *_range(prop), tuple(marks),
        isinstance(lane, PathLane) and lane.even, isinstance(lane, PathLane) and lane.turn_along, curve,
    )  # fmt: skip


def _range(prop: Property | None) -> tuple[float, float, float]:
    """(low, high, step) of a number; of paths and views, which have several, nothing that binds."""
    if prop is None or prop.spec.minimum is None or prop.spec.maximum is None:
        return 0.0, 0.0, 1.0
    return prop.spec.minimum, prop.spec.maximum, prop.spec.step or 0.01


def _shown(value: Any, base: float, name: str) -> Any:
    if isinstance(value, View):
        return [value.x, value.y, value.zoom, value.turn]
    if isinstance(value, tuple):
        return list(value)
    return base * value if name in FACTORS else base + value


def _curve(document: Document, lane: Any, base: float, name: str, length: int) -> Curve:
    moments = [length * i // CURVE_POINTS for i in range(CURVE_POINTS + 1)]
    if isinstance(lane, NumberLane):
        values = [_shown(sample(lane, at, length, lerp_number), base, name) for at in moments]
    elif isinstance(lane, PathLane):
        aspect = document.frame.aspect
        points = [path_point(lane, at, length, aspect)[0] for at in moments]
        values = [0.0]
        for (x0, y0, z0), (x1, y1, z1) in pairwise(points):
            values.append(values[-1] + (((x1 - x0) * aspect) ** 2 + (y1 - y0) ** 2 + (z1 - z0) ** 2) ** 0.5)
    else:
        values = [sample(lane, at, length, mix_views).zoom for at in moments]
    step = length / CURVE_POINTS / TICKS_PER_SECOND
    speeds = [(b - a) / step for a, b in pairwise(values)]
    return Curve(tuple(float(v) for v in values), (*speeds, speeds[-1]))


def scene_bars(document: Document, scene_id: str, length: int) -> list[Bar]:
    """Moves, entrances and exits of a scene's layers, its camera's move, and the stops of its travel."""
    scene, found = document.scenes[scene_id], []
    if scene.camera_move is not None:
        found.append(Bar(scene_id, None, "move", "Camera", move_of(document, scene.camera_move).name, 0, length))
    if scene.travel is not None:
        for (_, stop), (arrives, leaves) in zip(in_order(scene.travel.stops), stop_times(document, scene, length), strict=True):
            at = scene.layers.get(stop.layer) if stop.layer else None
            found.append(Bar(scene_id, None, "stop", "Camera", called(document, at, scene_id) if at else "Stop", arrives, leaves))
    for container, layer_id, layer in layers_seen(document, scene_id):
        name = called(document, layer, container)
        if layer.move is not None:
            found.append(Bar(container, layer_id, "move", name, move_of(document, layer.move).name, 0, length))
        for slot, (first, last) in passages(document, layer, length).items():
            use = getattr(layer, slot)
            move = move_of(document, use)
            found.append(Bar(container, layer_id, slot, name, (slot == "exit" and move.exit_name) or move.name, first, last))
    return found


def values_at(stage: Staged) -> dict[str, dict[str, float]]:
    """Numbers that are otherwise than what lies under their lanes, by `container/layer` (layer empty for the scene), as shown now."""
    document = stage.document
    moving: list[tuple[str, Layer | Scene, Motion]] = [(f"{stage.container}/", document.scenes[stage.container], stage.seeing.motion)]
    moving += [(f"{p.container}/{p.layer_id}", p.layer, p.motion) for p in reversed(stage.every_layer)]
    found: dict[str, dict[str, float]] = {}
    for name, owner, motion in moving:
        numbers = {}
        for part, changes in motion.parts.items():
            for number, by in changes.items():
                full = f"{part}.{number}"
                prop = owner.numbers.get(full)
                base = base_value(document, owner, prop) if prop else None
                if base is not None:
                    numbers[full] = base * by if full in FACTORS else base + by
        if numbers:
            found[name] = numbers
    return found
