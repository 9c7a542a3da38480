"""Old records brought to the present schema by pure steps, one version at a time.

Every record says the schema it was written in: scenes, pictures (`media`), the head (all else), and the changes that undo is made of,
which hold parts of all three. A step changes each of them on its own, so that records of different age can stand beside each other, and
leaves a record that is newer than it as it is.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from pydantic import ValidationError

from ..errors import Fault, InvalidDocument
from ..looks import Mount
from .media import Media
from .models import SCHEMA_VERSION

Json = dict[str, Any]

OLDEST = 1
"""What records are taken for that do not say their schema: steps leave newer ones as they are."""


@dataclass(frozen=True, slots=True)
class Around:
    """What a scene's step may ask of the document it stands in. `frame`: width / height; `defaults` and `looks`: as stored; `aspects` of
    pictures as they are shown, by id."""

    frame: float
    defaults: Json
    looks: Json
    aspects: Mapping[str, float]

    @classmethod
    def of(cls, head: Mapping[str, Any], media: Mapping[str, Any]) -> "Around":
        """What plain data says; what cannot be read counts as not said."""
        frame, defaults, looks = (head.get(name) for name in ("frame", "defaults", "looks"))
        try:
            aspect = float(frame["width"]) / float(frame["height"]) if isinstance(frame, dict) else 16 / 9
        except (KeyError, TypeError, ValueError, ZeroDivisionError):
            aspect = 16 / 9
        aspects = {}
        for key, record in media.items():
            try:
                aspects[key] = Media.model_validate(record).aspect
            except (ValidationError, ArithmeticError):
                continue
        return cls(aspect, defaults if isinstance(defaults, dict) else {}, looks if isinstance(looks, dict) else {}, aspects)


def _as_it_is(record: Json, around: Around) -> Json:
    return record


@dataclass(frozen=True, slots=True)
class Step:
    """From one schema to the next: what becomes of a scene, of a picture's record, and of the head (or as much of it as a change holds)."""

    scene: Callable[[Json, Around], Json] = _as_it_is
    media: Callable[[Json, Around], Json] = _as_it_is
    head: Callable[[Json, Around], Json] = _as_it_is


def _each(records: Any, change: Callable[[Json], Json]) -> Any:
    """A map of records with each changed; what is none stays as it is, for validation to name."""
    return {k: change(v) if isinstance(v, dict) else v for k, v in records.items()} if isinstance(records, dict) else records


def _changed(record: Json, name: str, change: Callable[[Any], Any]) -> Json:
    """The record with one field changed, if it has it."""
    return {**record, name: change(record[name])} if record.get(name) is not None else record


def _kinds_in(scene: Json, around: Around) -> Json:
    """1 -> 2: there are layers of several kinds now; every layer of schema 1 is a photo."""
    return _changed(scene, "layers", lambda layers: _each(layers, lambda layer: {"kind": "photo", **layer}))


def _freed(record: Any, part: str, animation: Json) -> Any:
    """A record whose lanes went into `animation`, relative to the number they had at first."""
    if not isinstance(record, dict):
        return record
    plain = dict(record)
    for name, value in record.items():
        keys = value.get("keys") if isinstance(value, dict) else None
        if isinstance(keys, dict) and keys and all(isinstance(k, dict) and isinstance(k.get("value"), int | float) for k in keys.values()):
            plain[name] = base = next(iter(keys.values()))["value"]
            factor = f"{part}.{name}" == "placement.size"
            moved = {i: {**k, "value": k["value"] / base if factor else k["value"] - base} for i, k in keys.items()}
            animation[f"{part}.{name}"] = {"kind": "number", "keys": moved}
    return plain


def _lanes_beside_numbers(container: Json, around: Around) -> Json:
    """2 -> 3: lanes of placements and corrections become lanes of the layer."""

    def layer_of(layer: Json) -> Json:
        animation: Json = {}
        parts: Json = {p: _freed(layer[p], p, animation) for p in ("placement", "correction") if p in layer}
        return {**layer, **parts, **({"animation": animation} if animation else {})}

    return _changed(container, "layers", lambda layers: _each(layers, layer_of))


def _plain_correction(record: Json, around: Around) -> Json:
    """2 -> 3: pictures' own corrections keep the value of their first key: they are no part of a scene and have no time."""
    return _changed(record, "correction", lambda correction: _freed(correction, "", {}))


def _head_beside_numbers(head: Json, around: Around) -> Json:
    head = _changed(head, "groups", lambda groups: _each(groups, lambda group: _lanes_beside_numbers(group, around)))
    head = _changed(head, "looks", lambda looks: _each(looks, lambda look: _plain_correction(look, around)))
    return _changed(head, "defaults", lambda defaults: _plain_correction(defaults, around) if isinstance(defaults, dict) else defaults)


def _joins_turned(record: Json, around: Around) -> Json:
    """3 -> 4: a push is one join with a direction."""

    def turned(join: Any) -> Any:
        kind = join.get("kind") if isinstance(join, dict) else None
        if isinstance(kind, str) and kind.startswith("push-"):
            return {**join, "kind": "push", "direction": kind.removeprefix("push-")}
        return join

    return _changed(record, "join", turned)


def _default_join_turned(head: Json, around: Around) -> Json:
    return _changed(head, "defaults", lambda defaults: _joins_turned(defaults, around) if isinstance(defaults, dict) else defaults)


OVER_THE_EDGE = 0.02
MOST_ZOOM = 1.07
SHAPES = (16 / 9, 3 / 2, 4 / 3, 1.0, 4 / 5, 3 / 4, 2 / 3, 9 / 16)


def _filling_again(scene: Json, around: Around) -> Json:
    """4 -> 5: photos that fill the frame were made smaller by a late change of its shape, until they stood in it whole and
    `OVER_THE_EDGE` frame heights more. Such a size is told to a millionth, in the shape the frame has or one it may have had."""
    if scene.get("layout") is not None:
        return scene

    def mended(layer: Json) -> Json:
        placement = layer.get("placement")
        if layer.get("kind", "photo") != "photo" or layer.get("window") is not None or not isinstance(placement, dict):
            return layer
        fit, picture = layer.get("fit") or around.defaults.get("fit", "auto"), around.aspects.get(str(layer.get("media")))
        numbers = [placement.get(name, 0.0) for name in ("x", "y", "z", "turn", "tip", "swing")]
        size, zooms = placement.get("size"), _zooms_of(layer.get("view"))
        if (
            picture is None
            or fit not in ("fill", "auto")
            or not isinstance(size, int | float)
            or not all(isinstance(n, int | float) for n in numbers)
        ):
            return layer
        x, y, *rest = numbers
        if any(rest) or abs(x) > OVER_THE_EDGE or abs(y) > OVER_THE_EDGE or zooms is None:
            return layer
        low, high = zooms
        border = _border_of(layer, around)
        for frame in (around.frame, *(SHAPES if low == high and x == y == 0.0 else ())):
            width, height = max(picture, frame) + 2 * border, max(frame / picture, 1.0) + 2 * border
            stood = min((frame + OVER_THE_EDGE) / width, (1.0 + OVER_THE_EDGE) / height)
            if stood < 0.97 and stood / high * (1 - 1e-6) <= size <= stood / low * (1 + 1e-6):
                return {**layer, "placement": {**placement, "size": 1.0, "x": 0.0, "y": 0.0}}
        return layer

    return _changed(scene, "layers", lambda layers: _each(layers, mended))


def _border_of(layer: Json, around: Around) -> float:
    """Frame heights that a photo's mount is wide."""
    look = around.looks.get(layer.get("look") or around.defaults.get("look") or "")
    mount = layer.get("mount") or (look if isinstance(look, dict) else around.defaults).get("mount")
    plain = Mount()
    widths = [mount.get(name, getattr(plain, name)) for name in ("border", "mat")] if isinstance(mount, dict) else [plain.border, plain.mat]
    return sum(float(w) for w in widths if isinstance(w, int | float))


def _zooms_of(view: Any) -> tuple[float, float] | None:
    """(least, most) zoom of a photo's views; None if they are so close that it cannot have been made smaller."""
    keys = view.get("keys") if isinstance(view, dict) else None
    values = [key.get("value") for key in keys.values() if isinstance(key, dict)] if isinstance(keys, dict) else []
    zooms = [max(float(v.get("zoom", 1.0)), 1.0) for v in values if isinstance(v, dict) and isinstance(v.get("zoom", 1.0), int | float)]
    if not zooms or min(zooms) > MOST_ZOOM:
        return None
    return min(zooms), min(max(zooms), MOST_ZOOM)


ONLY_OF = {"form": ("shape",), "shadow": ("photo", "shape"), **dict.fromkeys(("window", "mount", "correction"), ("photo",))}
"""Parts whose numbers only some kinds of layer have, as it was in schema 6."""


def _lanes_of_its_kind(container: Json, around: Around) -> Json:
    """5 -> 6: each kind of layer has numbers of its own. A move made into keyframes could leave lanes of others, that moved nothing."""

    def layer_of(layer: Json) -> Json:
        kind = layer.get("kind", "photo")

        def kept(lanes: Any) -> Any:
            return {n: v for n, v in lanes.items() if kind in ONLY_OF.get(n.partition(".")[0], (kind,))} if isinstance(lanes, dict) else lanes

        return _changed(layer, "animation", kept)

    return _changed(container, "layers", lambda layers: _each(layers, layer_of))


def _groups_lanes_of_their_kind(head: Json, around: Around) -> Json:
    return _changed(head, "groups", lambda groups: _each(groups, lambda group: _lanes_of_its_kind(group, around)))


STEPS: dict[int, Step] = {
    1: Step(scene=_kinds_in),
    2: Step(scene=_lanes_beside_numbers, media=_plain_correction, head=_head_beside_numbers),
    3: Step(scene=_joins_turned, head=_default_join_turned),
    4: Step(scene=_filling_again),
    5: Step(scene=_lanes_of_its_kind, head=_groups_lanes_of_their_kind),
    # 6 -> 7: links and fields are new; what was written before has none.
    6: Step(),
    # 7 -> 8: the poster is new; what was written before has the one by default.
    7: Step(),
    # 8 -> 9: texts, their styles, fonts and what a project tells of itself are new.
    8: Step(),
    # 9 -> 10: templates, their zones and dials are new.
    9: Step(),
    # 10 -> 11: scenes of templates for frames of another shape, moods, and zones of songs are new.
    10: Step(),
}
"""Version n -> what makes version n + 1 of a record."""


def migrated_scene(scene: Json, version: int, around: Around) -> Json:
    """A scene written in a schema, in the present one; raises InvalidDocument if that is newer."""
    for step in _steps_from(version):
        scene = step.scene(scene, around)
    return scene


def migrated_media(record: Json, version: int, around: Around) -> Json:
    """A picture's record in the present schema; raises InvalidDocument."""
    for step in _steps_from(version):
        record = step.media(record, around)
    return record


def migrated_head(head: Json, version: int, around: Around) -> Json:
    """Everything of a document but its scenes and pictures, in the present schema; raises InvalidDocument."""
    for step in _steps_from(version):
        head = step.head(head, around)
    return {**head, "schema": SCHEMA_VERSION}


def migrated_change(change: Json, version: int, around: Around) -> Json:
    """A stored change in the present schema, each part by the step of its kind; raises InvalidDocument."""
    scenes, media = change.get("scenes"), change.get("media")
    if isinstance(change.get("frame"), dict):
        around = replace(around, frame=Around.of(change, {}).frame)
    head = {k: v for k, v in change.items() if k not in ("scenes", "media")}
    for step in _steps_from(version):
        head = step.head(head, around)
        scenes = _each(scenes, lambda scene, step=step: step.scene(scene, around))  # type: ignore[misc]
        media = _each(media, lambda record, step=step: step.media(record, around))  # type: ignore[misc]
    return {**head, **({"scenes": scenes} if scenes is not None else {}), **({"media": media} if media is not None else {})}


def migrated(data: Json) -> Json:
    """A whole document in the present schema; raises InvalidDocument if its version is unknown or newer."""
    version = data.get("schema")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise InvalidDocument([Fault("document.schema", "schema", "This is not an Oak Lens document: it states no schema version.")])
    head = {k: v for k, v in data.items() if k not in ("scenes", "media")}
    scenes, media = data.get("scenes"), data.get("media")
    around = Around.of(data, media if isinstance(media, dict) and version < SCHEMA_VERSION else {})
    parts: Json = {} if media is None else {"media": _each(media, lambda record: migrated_media(record, version, around))}
    if scenes is not None:
        parts["scenes"] = _each(scenes, lambda scene: migrated_scene(scene, version, around))
    return {**migrated_head(head, version, around), **parts}


def _steps_from(version: int) -> list[Step]:
    if version > SCHEMA_VERSION:
        raise InvalidDocument(
            [
                Fault(
                    "document.newer",
                    "schema",
                    f"This was written by a newer Oak Lens (schema {version}; this one reads up to {SCHEMA_VERSION}). Update Oak Lens to open it.",
                )
            ]
        )
    return [STEPS[number] for number in range(version, SCHEMA_VERSION)]
