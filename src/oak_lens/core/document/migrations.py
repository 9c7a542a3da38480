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


STEPS: dict[int, Callable[[Json], Json]] = {1: _layers_have_kinds}
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
