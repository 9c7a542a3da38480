"""What applies to scenes and layers that say nothing of their own: for whoever shows it, so that nobody else need know the order of
looks and defaults."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from .differing import differing
from .inheritance import resolved_hold, resolved_join, resolved_part, resolved_shutter
from .layers import KIND_OF, PhotoLayer, TextLayer
from .models import Document
from .naming import said


@dataclass(frozen=True, slots=True)
class Applied:
    """Values that may be inherited, as they apply, and `differing`, the parts that are not as a new one has them. `scenes` (by id) and
    `layers` (by `container/layer`) give each by the index in `values`: most scenes share what they inherit."""

    values: list[Any]
    scenes: dict[str, dict[str, int]]
    layers: dict[str, dict[str, int]]


def applied(document: Document, containers: Iterable[str] | None = None) -> Applied:
    """Of all scenes and shared groups, or of those named that there are."""
    values: list[Any] = []
    known: dict[Any, int] = {}

    def place(value: Any) -> int:
        index = known.setdefault(value, len(values))
        if index == len(values):
            values.append(value)
        return index

    scenes, layers = {}, {}
    for key in (*document.scenes, *document.groups) if containers is None else containers:
        scene = document.scenes.get(key)
        if scene is not None:
            scenes[key] = {
                "hold": place(resolved_hold(document, scene)),
                "shutter": place(resolved_shutter(document, scene)),
                "join": place(resolved_join(document, scene)),
                "backdrop": place(resolved_part(document, scene, "backdrop")),
                "differing": place(differing(scene)),
            }
        container = scene or document.groups.get(key)
        for layer_id, layer in container.layers.items() if container else ():
            found = {part: place(resolved_part(document, layer, part)) for part in KIND_OF[layer.kind].inherited}
            if isinstance(layer, PhotoLayer):
                found["fit"] = place(layer.fit or document.defaults.fit)
            elif isinstance(layer, TextLayer):
                found["said"] = place(said(document, layer, key))
            layers[f"{key}/{layer_id}"] = {**found, "differing": place(differing(layer))}
    return Applied(values, scenes, layers)
