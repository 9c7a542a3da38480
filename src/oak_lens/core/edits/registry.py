"""What an edit is made of, and the helpers every edit uses."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any, TypeVar

from pydantic import BaseModel, ConfigDict, ValidationError

from ..document import Document, Layer, PhotoLayer, Poster, Scene, SharedGroup, faults_from
from ..document.records import Id
from ..errors import Fault, InvalidEdit


class Edit(BaseModel):
    """Parameters of one edit; unknown ones are refused."""

    # Built when one is first used: most runs use few of them.
    model_config = ConfigDict(frozen=True, extra="forbid", json_schema_serialization_defaults_required=True, defer_build=True)


class LayerRef(Edit):
    """One layer: its id in a scene, or in a shared group."""

    scene: Id
    layer: Id

    @property
    def path(self) -> str:
        return f"scenes.{self.scene}.layers.{self.layer}"


@dataclass(frozen=True, slots=True)
class EditSpec:
    """`id` names the edit everywhere; `label` is what undo calls it. `keyed`: what it changes becomes keys while changes are recorded;
    `recorded`: how it is done then, where that is otherwise than by keying what it changes."""

    id: str
    label: str
    model: type[Edit]
    apply: Callable[[Document, Any], Document]
    keyed: bool = False
    recorded: Callable[[Document, Any], Document] | None = None


def registry(*specs: EditSpec) -> tuple[EditSpec, ...]:
    """The specs, refused if an id stands twice."""
    ids = [spec.id for spec in specs]
    if len(set(ids)) != len(ids) or len({spec.model for spec in specs}) != len(specs):
        raise ValueError("edit ids and models must differ")
    return specs


R = TypeVar("R", bound=BaseModel)


def merged(record: R, partial: Mapping[str, Any], path: str) -> R:
    """The record with some fields replaced, validated; raises InvalidEdit."""
    try:
        return type(record).model_validate({**record.model_dump(by_alias=True), **partial})
    except ValidationError as error:
        raise InvalidEdit(faults_from(error, "edit.value", path)) from None


def refused(code: str, path: str, message: str) -> InvalidEdit:
    """An edit's refusal with one fault."""
    return InvalidEdit([Fault(code, path, message)])


def scene_of(document: Document, scene_id: str) -> Scene:
    scene = document.scenes.get(scene_id)
    if scene is None:
        raise refused("edit.no_scene", f"scenes.{scene_id}", "There is no such scene; it may have been deleted.")
    return scene


def container_of(document: Document, container_id: str) -> Scene | SharedGroup:
    """The scene or shared group that lists layers."""
    return document.groups.get(container_id) or scene_of(document, container_id)


def containers(document: Document) -> list[tuple[str, Scene | SharedGroup]]:
    """(id, record) of everything that lists layers."""
    return [*document.scenes.items(), *document.groups.items()]


def layer_of(document: Document, ref: LayerRef) -> Layer:
    layer = container_of(document, ref.scene).layers.get(ref.layer)
    if layer is None:
        raise refused("edit.no_layer", ref.path, "There is no such layer; it may have been deleted.")
    return layer


def photo_of(document: Document, ref: LayerRef) -> PhotoLayer:
    layer = layer_of(document, ref)
    if not isinstance(layer, PhotoLayer):
        raise refused("edit.no_photo", ref.path, "This layer is no photo: choose a photo for this.")
    return layer


def with_scenes(document: Document, scenes: Mapping[str, Scene | None]) -> Document:
    """The document with scenes added, replaced or (None) removed."""
    kept = {k: v for k, v in {**document.scenes, **scenes}.items() if v is not None}
    # A poster goes with its scene.
    poster = document.poster if document.poster.scene is None or document.poster.scene in kept else Poster()
    return document.model_copy(update={"scenes": kept, "poster": poster})


def with_layers(document: Document, layers: Iterable[tuple[LayerRef, Layer | None]]) -> Document:
    """The document with layers added, replaced or (None) removed."""
    changed: dict[str, dict[str, Layer]] = {}
    gone: dict[str, set[str]] = {}
    for ref, layer in layers:
        kept = changed.setdefault(ref.scene, dict(container_of(document, ref.scene).layers))
        if layer is None:
            kept.pop(ref.layer, None)
            gone.setdefault(ref.scene, set()).add(ref.layer)
        else:
            kept[ref.layer] = _zoned(document, ref.scene, layer)
    groups = {k: document.groups[k].model_copy(update={"layers": v}) for k, v in changed.items() if k in document.groups}
    scenes = {
        k: document.scenes[k].model_copy(update={"layers": v, **_without_stops(document.scenes[k], gone.get(k, set()) - v.keys())})
        for k, v in changed.items()
        if k in document.scenes
    }
    if groups:
        document = document.model_copy(update={"groups": {**document.groups, **groups}})
    return with_scenes(document, scenes) if scenes else document


def _zoned(document: Document, container_id: str, layer: Layer) -> Layer:
    """The layer, which shows no zone but of the template that its scene uses: copies that go elsewhere are pictures and texts like any other."""
    zone = getattr(layer, "zone", None)
    use = document.scenes[container_id].template if container_id in document.scenes else None
    if zone is None or (use is not None and zone in document.templates[use.template].zones):
        return layer
    return layer.model_copy(update={"zone": None})


def _without_stops(scene: Scene, layers: set[str]) -> dict[str, Any]:
    """The scene's travel without stops at layers that are gone."""
    if scene.travel is None or not any(stop.layer in layers for stop in scene.travel.stops.values()):
        return {}
    stops = {k: stop for k, stop in scene.travel.stops.items() if stop.layer not in layers}
    return {"travel": scene.travel.model_copy(update={"stops": stops}) if stops else None}


def fresh(existing: Mapping[str, Any], ids: Iterable[str], path: str) -> None:
    """Raises InvalidEdit if an id is already taken or stands twice."""
    seen: set[str] = set()
    for new in ids:
        if new in existing or new in seen:
            raise refused("edit.id_taken", f"{path}.{new}", "This id is already in use.")
        seen.add(new)


def has_picture(document: Document, media: str) -> None:
    """Raises InvalidEdit if the contact sheet has no such picture."""
    if media not in document.media:
        raise refused("edit.no_picture", f"media.{media}", "There is no such picture on the contact sheet.")
