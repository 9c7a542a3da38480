"""Which parts of a scene or a layer are not as a new one has them: whoever shows the parts marks these."""

from functools import cache
from typing import Any

from .layers import LayerBase
from .remembered import ByRecord
from .scenes import Scene
from .views import View

LAYER_PARTS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("fit", ("fit",)),
    ("placement", ("placement", "opacity", "blur", "blend")),
    ("window", ("window",)),
    ("mask", ("mask",)),
    ("views", ("view",)),
    ("motion", ("move", "entrance", "exit")),
    ("look", ("look",)),
    ("text", ("text", "filled")),
    ("style", ("style",)),
    ("setting", ("setting",)),
    ("ink", ("ink",)),
    ("panel", ("panel",)),
    ("mount", ("mount", "caption")),
    ("form", ("form",)),
    ("shadow", ("shadow",)),
    ("correction", ("correction",)),
)
"""Parts of layers and the fields that each is made of; a kind without a field has no such part."""

SCENE_PARTS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("template", ("template",)),
    ("scene", ("hold", "speed", "fade_in", "fade_out", "layout")),
    ("backdrop", ("backdrop",)),
    ("camera", ("camera", "camera_move", "travel", "shutter")),
    ("light", ("light",)),
)

_OWN_LANES = {"layer": "placement"}
"""Part of the lanes of numbers that are a layer's own, rather than one of its records'."""


def differing(record: Scene | LayerBase) -> tuple[str, ...]:
    """Names of its parts that differ from the default, or have numbers that are keyframed; in the order of the parts."""
    return _known.of(record)


def _differing(record: Scene | LayerBase) -> tuple[str, ...]:
    lanes = {_OWN_LANES.get(name.split(".")[0], name.split(".")[0]) for name in record.animation}
    return tuple(
        part
        for part, fields in _parts_of(type(record))
        if part in lanes or any(_differs(name, getattr(record, name), default) for name, default in fields)
    )


@cache
def _parts_of(kind: type[Scene | LayerBase]) -> tuple[tuple[str, tuple[tuple[str, Any], ...]], ...]:
    """(part, ((field, its default), …)) of a kind of record."""
    parts, known = SCENE_PARTS if issubclass(kind, Scene) else LAYER_PARTS, kind.model_fields
    return tuple((part, tuple((name, known[name].default) for name in fields if name in known)) for part, fields in parts)


def _differs(name: str, value: Any, default: Any) -> bool:
    if name == "view":
        return len(value.keys) != 2 or any(key.value != _PLAIN for key in value.keys.values())
    return value is not default and bool(value != default)


_known: ByRecord[Any, tuple[str, ...]] = ByRecord(_differing, 8192)

_PLAIN = View()
