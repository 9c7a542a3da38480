"""Carry to…: what is right on one photo or scene, put on others in one step."""

from typing import Any, Literal

from pydantic import Field

from ..document import Document, Layer, PhotoLayer, photos_of, resolved_backdrop, resolved_correction, resolved_mount, resolved_shadow
from ..document.records import Id
from ..framing import fit_of, limited_view, seen_aspect
from .looks import UseLook, lowest_photo, use_look
from .motions import motion_of
from .registry import Edit, EditSpec, LayerRef, container_of, photo_of, scene_of, with_layers, with_scenes

What = Literal["look", "mount", "shadow", "correction", "views", "motion", "camera", "backdrop", "hold", "join"]

CARRIED: tuple[tuple[What, str, str], ...] = (
    ("look", "Look", "Mount, shadow, backdrop and correction; linked if the photo is linked to a look"),
    ("mount", "Mount", "The mount alone"),
    ("shadow", "Shadow", "The shadow alone"),
    ("correction", "Correction", "Light and colour alone"),
    ("views", "Views", "Opening and closing view with their ease; each photo keeps within its own fit"),
    ("motion", "Motion", "Keyframes, move, entrance and exit: relative to where each photo stands, so they fit any"),
    ("camera", "Camera and light", "The scene's camera with its keyframes and moves, and its light"),
    ("backdrop", "Backdrop", "The scene's backdrop"),
    ("hold", "Hold", "How long the scene stands"),
    ("join", "Join", "The join into the scene"),
)
"""(id, label, help) of what can be carried."""


class Carry(Edit):
    """Carry `what` of a photo and its scene to other scenes: to every photo in them, and to the scenes themselves."""

    source: LayerRef
    what: list[What] = Field(min_length=1)
    to: list[Id] = Field(min_length=1, max_length=5000)


def carry(document: Document, edit: Carry) -> Document:
    source = photo_of(document, edit.source)
    origin = scene_of(document, edit.source.scene) if edit.source.scene in document.scenes else None
    for target in edit.to:
        container_of(document, target)
    photos = [
        LayerRef(scene=target, layer=k)
        for target in edit.to
        for k, _ in photos_of(container_of(document, target))
        if (target, k) != (edit.source.scene, edit.source.layer)
    ]
    if "look" in edit.what:
        document = _look_carried(document, edit.source, source, photos)
    changed: list[tuple[LayerRef, Layer | None]] = []
    for ref in photos:
        layer = photo_of(document, ref)
        update: dict[str, Any] = {}
        if "mount" in edit.what:
            update["mount"] = resolved_mount(document, source)
        if "shadow" in edit.what:
            update["shadow"] = resolved_shadow(document, source)
        if "correction" in edit.what:
            update["correction"] = resolved_correction(document, source)
        if "views" in edit.what:
            update["view"] = _views_for(document, source, layer)
        if "motion" in edit.what:
            update |= motion_of(source)
        changed.append((ref, layer.model_copy(update=update)))
    document = with_layers(document, changed)
    return document if origin is None else _scene_carried(document, edit, resolved_backdrop(document, origin))


def _look_carried(document: Document, source_ref: LayerRef, source: PhotoLayer, photos: list[LayerRef]) -> Document:
    if not photos:
        return document
    if source.look is not None and source.mount is None and source.shadow is None and source.correction is None:
        return use_look(document, UseLook(look=source.look, photos=photos))
    own = {part: getattr(source, part) for part in ("look", "mount", "shadow", "correction")}
    document = with_layers(document, [(ref, photo_of(document, ref).model_copy(update=own)) for ref in photos])
    backdrop = document.scenes[source_ref.scene].backdrop if source_ref.scene in document.scenes else None
    lowest = {ref.scene for ref in photos if ref.scene in document.scenes and lowest_photo(document, ref.scene) == ref.layer}
    return with_scenes(document, {k: document.scenes[k].model_copy(update={"backdrop": backdrop}) for k in lowest})


def _views_for(document: Document, source: PhotoLayer, layer: PhotoLayer) -> Any:
    """The source's views as the target's fit allows them: they are relative to the fit, so they fit any picture."""
    fit, picture, seen = fit_of(document, layer), document.media[layer.media].aspect, seen_aspect(document, layer)
    keys = {n: k.model_copy(update={"value": limited_view(k.value, fit, picture, seen)}) for n, k in source.view.keys.items()}
    return source.view.model_copy(update={"keys": keys})


def _scene_carried(document: Document, edit: Carry, backdrop: Any) -> Document:
    origin = document.scenes[edit.source.scene]
    update: dict[str, Any] = {}
    if "backdrop" in edit.what:
        update["backdrop"] = backdrop
    if "camera" in edit.what:
        update |= {name: getattr(origin, name) for name in ("camera", "light", "shutter", "camera_move", "animation")}
    if "hold" in edit.what:
        update["hold"] = origin.hold
    if "join" in edit.what:
        update["join"] = origin.join
    targets = [t for t in edit.to if t in document.scenes and t != edit.source.scene]
    return with_scenes(document, {t: document.scenes[t].model_copy(update=update) for t in targets}) if update else document


CARRY_EDITS = (EditSpec("carry", "Carry to other scenes", Carry, carry),)
