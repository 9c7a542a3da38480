"""Old documents brought to the present schema by pure steps, one version at a time."""

from collections.abc import Callable
from typing import Any

from ..errors import Fault, InvalidDocument
from .models import SCHEMA_VERSION

Json = dict[str, Any]


def _layers_have_kinds(data: Json) -> Json:
    """1 -> 2: there are layers of several kinds now; every layer of a schema-1 document is a photo."""
    scenes = data.get("scenes")
    if isinstance(scenes, dict):
        scenes = {k: {**s, "layers": {i: {"kind": "photo", **layer} if isinstance(layer, dict) else layer for i, layer in layers.items()}}
                  if isinstance(s, dict) and isinstance(layers := s.get("layers"), dict) else s for k, s in scenes.items()}  # fmt: skip
        data = {**data, "scenes": scenes}
    return {**data, "schema": 2}


def _lanes_stand_beside_their_numbers(data: Json) -> Json:
    """2 -> 3: lanes of placements and corrections become lanes of the layer, relative to the number they had at first.

    Pictures' own corrections keep the value of their first key: they are no part of a scene and have no time.
    """

    def freed(record: Any, part: str, animation: Json) -> Any:
        if not isinstance(record, dict):
            return record
        plain = dict(record)
        for name, value in record.items():
            keys = value.get("keys") if isinstance(value, dict) else None
            if (
                isinstance(keys, dict)
                and keys
                and all(isinstance(k, dict) and isinstance(k.get("value"), int | float) for k in keys.values())
            ):
                plain[name] = base = next(iter(keys.values()))["value"]
                factor = f"{part}.{name}" == "placement.size"
                moved = {i: {**k, "value": k["value"] / base if factor else k["value"] - base} for i, k in keys.items()}
                animation[f"{part}.{name}"] = {"kind": "number", "keys": moved}
        return plain

    def layer_of(layer: Any) -> Any:
        if not isinstance(layer, dict):
            return layer
        animation: Json = {}
        parts = {p: freed(layer[p], p, animation) for p in ("placement", "correction") if p in layer}
        return {**layer, **parts, **({"animation": animation} if animation else {})}

    def records(name: str, change: Callable[[Any], Any]) -> None:
        if isinstance(data.get(name), dict):
            data[name] = {k: change(v) for k, v in data[name].items()}

    def container_of(container: Any) -> Any:
        if not isinstance(container, dict) or not isinstance(container.get("layers"), dict):
            return container
        return {**container, "layers": {k: layer_of(v) for k, v in container["layers"].items()}}

    def corrected(record: Any) -> Any:
        return (
            {**record, "correction": freed(record["correction"], "", {})} if isinstance(record, dict) and "correction" in record else record
        )

    data = {**data, "schema": 3}
    for name, change in (("scenes", container_of), ("groups", container_of), ("media", corrected), ("looks", corrected)):
        records(name, change)
    if "defaults" in data:
        data["defaults"] = corrected(data["defaults"])
    return data


def _joins_have_directions(data: Json) -> Json:
    """3 -> 4: a push is one join with a direction."""

    def turned(record: Any) -> Any:
        if not isinstance(record, dict) or not isinstance(join := record.get("join"), dict):
            return record
        kind = join.get("kind")
        if isinstance(kind, str) and kind.startswith("push-"):
            return {**record, "join": {**join, "kind": "push", "direction": kind.removeprefix("push-")}}
        return record

    data = {**data, "schema": 4}
    if isinstance(data.get("scenes"), dict):
        data["scenes"] = {k: turned(v) for k, v in data["scenes"].items()}
    if "defaults" in data:
        data["defaults"] = turned(data["defaults"])
    return data


STEPS: dict[int, Callable[[Json], Json]] = {1: _layers_have_kinds, 2: _lanes_stand_beside_their_numbers, 3: _joins_have_directions}
"""Version n -> a function that makes version n + 1 of it."""


def migrated(data: Json) -> Json:
    """The same document in the present schema; raises InvalidDocument if its version is unknown or newer."""
    version = data.get("schema")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise InvalidDocument([Fault("document.schema", "schema", "This is not an Oak Lens document: it states no schema version.")])
    if version > SCHEMA_VERSION:
        raise InvalidDocument(
            [
                Fault(
                    "document.newer",
                    "schema",
                    f"This document was written by a newer Oak Lens (schema {version}; this one reads up to {SCHEMA_VERSION}). Update Oak Lens to open it.",
                )
            ]
        )
    for step in range(version, SCHEMA_VERSION):
        data = STEPS[step](data)
    return data
