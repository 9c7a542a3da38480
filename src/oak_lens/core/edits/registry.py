"""What an edit is made of, and the helpers every edit uses."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any, TypeVar

from pydantic import BaseModel, ConfigDict, ValidationError

from ..document import Document, PhotoLayer, Scene, faults_from
from ..document.models import Id
from ..errors import Fault, InvalidEdit


class Edit(BaseModel):
    """Parameters of one edit; unknown ones are refused."""

    model_config = ConfigDict(frozen=True, extra="forbid", json_schema_serialization_defaults_required=True)


class PhotoRef(Edit):
    """One photo: a layer of a scene."""

    scene: Id
    layer: Id


@dataclass(frozen=True, slots=True)
class EditSpec:
    """`id` names the edit everywhere; `label` is what undo calls it."""

    id: str
    label: str
    model: type[Edit]
    apply: Callable[[Document, Any], Document]


def registry(*specs: EditSpec) -> tuple[EditSpec, ...]:
    """The specs, refused if an id stands twice."""
    ids = [spec.id for spec in specs]
    if len(set(ids)) != len(ids):
        raise ValueError("edit ids must differ")
    return specs


R = TypeVar("R", bound=BaseModel)


def merged(record: R, partial: Mapping[str, Any], path: str) -> R:
    """The record with some fields replaced, validated; raises InvalidEdit."""
    try:
        return type(record).model_validate({**record.model_dump(by_alias=True), **partial})
    except ValidationError as error:
        raise InvalidEdit(faults_from(error, "edit.value", path)) from None


def scene_of(document: Document, scene_id: str) -> Scene:
    scene = document.scenes.get(scene_id)
    if scene is None:
        raise InvalidEdit([Fault("edit.no_scene", f"scenes.{scene_id}", "There is no such scene; it may have been deleted.")])
    return scene


def photo_of(document: Document, ref: PhotoRef) -> PhotoLayer:
    layer = scene_of(document, ref.scene).layers.get(ref.layer)
    if layer is None:
        raise InvalidEdit(
            [Fault("edit.no_layer", f"scenes.{ref.scene}.layers.{ref.layer}", "There is no such photo; it may have been deleted.")]
        )
    return layer


def with_scenes(document: Document, scenes: Mapping[str, Scene | None]) -> Document:
    """The document with scenes added, replaced or (None) removed."""
    kept = {**document.scenes, **scenes}
    return document.model_copy(update={"scenes": {k: v for k, v in kept.items() if v is not None}})


def with_photos(document: Document, photos: Iterable[tuple[PhotoRef, PhotoLayer]]) -> Document:
    """The document with photos replaced."""
    scenes: dict[str, Scene] = {}
    for ref, layer in photos:
        scene = scenes.get(ref.scene) or document.scenes[ref.scene]
        scenes[ref.scene] = scene.model_copy(update={"layers": {**scene.layers, ref.layer: layer}})
    return with_scenes(document, scenes)


def fresh(existing: Mapping[str, Any], ids: Iterable[str], path: str) -> None:
    """Raises InvalidEdit if an id is already taken or stands twice."""
    seen: set[str] = set()
    for new in ids:
        if new in existing or new in seen:
            raise InvalidEdit([Fault("edit.id_taken", f"{path}.{new}", "This id is already in use.")])
        seen.add(new)
