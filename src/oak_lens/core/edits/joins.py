"""Edits of joins: varied by rule over many scenes; into the first scene and out of the last."""

from typing import Annotated, Any

import numpy as np
from pydantic import Field

from ..document import Document, Join, Scene, in_order, resolved_join
from ..document.records import Ticks
from ..joins import JOINS
from .registry import Edit, EditSpec, merged, refused, scene_of, with_scenes
from .scenes import SceneIds

DIRECTIONS = ("left", "right", "up", "down")


class SetEnds(Edit):
    """The join into the first scene and out of the last; what is not given stays, null takes it away."""

    beginning: dict[str, Any] | None = None
    ending: dict[str, Any] | None = None


def set_ends(document: Document, edit: SetEnds) -> Document:
    ends = document.ends
    for name in ("beginning", "ending"):
        if name in edit.model_fields_set:
            partial = getattr(edit, name)
            join = None if partial is None else merged(getattr(ends, name) or Join(), partial, f"ends.{name}")
            ends = ends.model_copy(update={name: join})
    return document.model_copy(update={"ends": ends})


class VaryJoins(SceneIds):
    """Joins of some kinds into the scenes named, in an order drawn by `seed`: no two alike in a row, each as often as the others.

    Directions are drawn too. `length` in ticks; None: each takes its own.
    """

    kinds: list[str] = Field(min_length=1, max_length=50)
    seed: int = Field(1, ge=0, le=9999)
    length: Annotated[Ticks, Field(gt=0)] | None = None


def vary_joins(document: Document, edit: VaryJoins) -> Document:
    for kind in edit.kinds:
        if kind not in JOINS:
            raise refused("edit.no_join", "kinds", f"There is no join called {kind}.")
    for scene_id in edit.ids:
        scene_of(document, scene_id)
    rng = np.random.default_rng(edit.seed)
    kinds = list(dict.fromkeys(edit.kinds))
    chosen = set(edit.ids)
    changed: dict[str, Scene | None] = {}
    bag: list[str] = []
    last = ("", "")
    for scene_id, scene in in_order(document.scenes):
        if scene_id not in chosen:
            join = resolved_join(document, scene)
            last = (join.kind, join.direction)
            continue
        if not [k for k in bag if k != last[0]]:
            bag += [kinds[i] for i in rng.permutation(len(kinds))]
        kind = next((k for k in bag if k != last[0]), bag[0])
        bag.remove(kind)
        spec = JOINS[kind]
        ways = [d for d in DIRECTIONS if (kind, d) != last]
        direction = ways[int(rng.integers(len(ways)))]
        settings = {**spec.preset, **({"direction": direction} if "direction" in spec.uses else {})}
        join = Join.model_validate({"kind": kind, "length": edit.length or spec.length, **settings})
        changed[scene_id] = scene.model_copy(update={"join": join})
        last = (kind, direction)
    return with_scenes(document, changed)


JOIN_EDITS = (
    EditSpec("set_ends", "Change how the film begins and ends", SetEnds, set_ends),
    EditSpec("vary_joins", "Vary joins", VaryJoins, vary_joins),
)
