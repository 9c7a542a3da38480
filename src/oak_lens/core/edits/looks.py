"""Edits of looks: saved from a photo, changed for all that are linked, put on photos as a link or a copy."""

from typing import Annotated, Any

from pydantic import Field

from ..document import Document, Layer, PhotoLayer, photos_of, resolved_backdrop, resolved_correction, resolved_mount, resolved_shadow
from ..document.records import Id
from ..looks import LOOK_PARTS, SHIPPED, Look
from .registry import Edit, EditSpec, LayerRef, containers, fresh, merged, photo_of, refused, scene_of, with_layers, with_scenes

PARTS = tuple(part for part, _, _ in LOOK_PARTS)
LookName = Annotated[str, Field(min_length=1, max_length=100)]


class SaveLook(Edit):
    """What a photo looks like now becomes look `id`; the photo is linked to it."""

    id: Id
    name: LookName
    photo: LayerRef


def save_look(document: Document, edit: SaveLook) -> Document:
    fresh({**document.looks, **SHIPPED}, (edit.id,), "looks")
    layer = photo_of(document, edit.photo)
    scene = document.scenes.get(edit.photo.scene)
    look = Look(
        name=edit.name,
        mount=resolved_mount(document, layer),
        shadow=resolved_shadow(document, layer),
        backdrop=resolved_backdrop(document, scene) if scene else document.defaults.backdrop,
        correction=resolved_correction(document, layer),
    )
    document = document.model_copy(update={"looks": {**document.looks, edit.id: look}})
    return use_look(document, UseLook(look=edit.id, photos=[edit.photo]))


class SetLook(Edit):
    """Change a look; every photo linked to it follows."""

    id: Id
    name: LookName | None = None
    mount: dict[str, Any] | None = None
    shadow: dict[str, Any] | None = None
    backdrop: dict[str, Any] | None = None
    correction: dict[str, Any] | None = None


def set_look(document: Document, edit: SetLook) -> Document:
    look = _look(document, edit.id)
    update: dict[str, Any] = {} if edit.name is None else {"name": edit.name}
    for part in PARTS:
        partial = getattr(edit, part)
        if partial is not None:
            update[part] = merged(getattr(look, part), partial, f"looks.{edit.id}.{part}")
    return document.model_copy(update={"looks": {**document.looks, edit.id: look.model_copy(update=update)}})


class UseLook(Edit):
    """Put a look on photos: linked, so that they follow its changes, or as a copy of its values.

    Their own mount, shadow and correction give way to it, and so does the backdrop of a scene of which the lowest photo is among them.
    """

    look: Id
    photos: list[LayerRef] = Field(min_length=1)
    linked: bool = True


def use_look(document: Document, edit: UseLook) -> Document:
    document = with_look(document, edit.look)
    look = document.looks[edit.look]
    changed: list[tuple[LayerRef, Layer | None]] = []
    for ref in edit.photos:
        layer = photo_of(document, ref)
        own = (
            dict.fromkeys(("mount", "shadow", "correction"))
            if edit.linked
            else {p: getattr(look, p) for p in ("mount", "shadow", "correction")}
        )
        changed.append((ref, layer.model_copy(update={**own, "look": edit.look if edit.linked else None})))
    document = with_layers(document, changed)
    scenes = {}
    for scene_id in {ref.scene for ref in edit.photos if ref.scene in document.scenes}:
        scene = document.scenes[scene_id]
        lowest = lowest_photo(document, scene_id)
        if lowest in [ref.layer for ref in edit.photos if ref.scene == scene_id]:
            scenes[scene_id] = scene.model_copy(update={"backdrop": None if edit.linked else look.backdrop})
    return with_scenes(document, scenes)


def lowest_photo(document: Document, scene_id: str) -> str | None:
    """Id of the photo whose look gives a scene its backdrop."""
    return next((k for k, _ in photos_of(scene_of(document, scene_id))), None)


class PutIntoLook(Edit):
    """What a photo has of its own becomes look `id`, for all that are linked to it; `photos` follow it again."""

    id: Id
    photo: LayerRef
    photos: list[LayerRef] = Field(default_factory=list)


def put_into_look(document: Document, edit: PutIntoLook) -> Document:
    look, layer = _look(document, edit.id), photo_of(document, edit.photo)
    own = {"mount": resolved_mount(document, layer), "shadow": resolved_shadow(document, layer), "correction": resolved_correction(document, layer)}
    document = document.model_copy(update={"looks": {**document.looks, edit.id: look.model_copy(update=own)}})
    following: list[tuple[LayerRef, Layer | None]] = [
        (ref, photo_of(document, ref).model_copy(update=dict.fromkeys(own))) for ref in (edit.photo, *edit.photos)
    ]
    return with_layers(document, following)


class DefaultLook(Edit):
    """The look of every photo that has none of its own; null: none."""

    look: Id | None


def default_look(document: Document, edit: DefaultLook) -> Document:
    if edit.look is not None:
        document = with_look(document, edit.look)
    return document.model_copy(update={"defaults": document.defaults.model_copy(update={"look": edit.look})})


class RemoveLook(Edit):
    """Take a look out of the project; photos linked to it keep its values as their own."""

    id: Id


def remove_look(document: Document, edit: RemoveLook) -> Document:
    look = _look(document, edit.id)
    changed: list[tuple[LayerRef, Layer | None]] = []
    scenes = {}
    for container_id, container in containers(document):
        for layer_id, layer in container.layers.items():
            if isinstance(layer, PhotoLayer) and layer.look == edit.id:
                own = {p: getattr(layer, p) or getattr(look, p) for p in ("mount", "shadow", "correction")}
                changed.append((LayerRef(scene=container_id, layer=layer_id), layer.model_copy(update={**own, "look": None})))
                if (
                    container_id in document.scenes
                    and document.scenes[container_id].backdrop is None
                    and lowest_photo(document, container_id) == layer_id
                ):
                    scenes[container_id] = look.backdrop
    document = with_layers(document, changed)
    document = with_scenes(document, {k: document.scenes[k].model_copy(update={"backdrop": b}) for k, b in scenes.items()})
    update: dict[str, Any] = {"looks": {k: v for k, v in document.looks.items() if k != edit.id}}
    if document.defaults.look == edit.id:
        update["defaults"] = document.defaults.model_copy(update={"look": None, **{p: getattr(look, p) for p in PARTS}})
    return document.model_copy(update=update)


def with_look(document: Document, look_id: str) -> Document:
    """The document with a shipped look taken into it, if it is not there yet. Raises InvalidEdit."""
    if look_id in document.looks:
        return document
    if look_id not in SHIPPED:
        raise refused("edit.no_look", f"looks.{look_id}", "There is no such look in this project.")
    return document.model_copy(update={"looks": {**document.looks, look_id: SHIPPED[look_id]}})


def _look(document: Document, look_id: str) -> Look:
    if look_id not in document.looks:
        raise refused("edit.no_look", f"looks.{look_id}", "There is no such look in this project.")
    return document.looks[look_id]


LOOK_EDITS = (
    EditSpec("save_look", "Save a look", SaveLook, save_look),
    EditSpec("set_look", "Change a look", SetLook, set_look),
    EditSpec("use_look", "Use a look", UseLook, use_look),
    EditSpec("put_into_look", "Change a look", PutIntoLook, put_into_look),
    EditSpec("default_look", "Change the project's look", DefaultLook, default_look),
    EditSpec("remove_look", "Remove a look", RemoveLook, remove_look),
)
