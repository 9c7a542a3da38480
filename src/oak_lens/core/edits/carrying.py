"""Carry to…: what is right on one photo, text or scene, put on others in one step."""

from typing import Any, Literal, NamedTuple

from pydantic import Field

from ..document import Document, Layer, PhotoLayer, TextLayer, in_order, resolved_backdrop, resolved_part
from ..document.records import Id
from ..framing import fit_of, limited_view, seen_aspect
from .looks import UseLook, lowest_photo, use_look
from .motions import motion_of
from .registry import Edit, EditSpec, LayerRef, container_of, layer_of, photo_of, refused, scene_of, with_layers, with_scenes
from .styles import STYLED

What = Literal["look", "mount", "shadow", "correction", "views", "style", "motion", "camera", "backdrop", "hold", "join"]


class Carried(NamedTuple):
    """What can be carried. `kinds`: of which layers, to all others of that kind; none: of the scene, whichever layer it is carried from."""

    id: What
    label: str
    help: str
    kinds: tuple[str, ...] = ()


CARRIED = (
    Carried("style", "Text style", "Letters, ink, panel and shadow; linked if the text is linked to a style", ("text",)),
    Carried("look", "Look", "Mount, shadow, backdrop and correction; linked if the photo is linked to a look", ("photo",)),
    Carried("mount", "Mount", "The mount alone", ("photo",)),
    Carried("shadow", "Shadow", "The shadow alone", ("photo", "text")),
    Carried("correction", "Correction", "Light and colour alone", ("photo",)),
    Carried("views", "Views", "Opening and closing view with their ease; each photo keeps within its own fit", ("photo",)),
    Carried("motion", "Motion", "Keyframes, move, entrance and exit: relative to where each stands, so they fit any", ("photo", "text")),
    Carried("camera", "Camera and light", "The scene's camera with its keyframes and moves, and its light"),
    Carried("backdrop", "Backdrop", "The scene's backdrop"),
    Carried("hold", "Hold", "How long the scene stands"),
    Carried("join", "Join", "The join into the scene"),
)
_SPECS = {spec.id: spec for spec in CARRIED}


class Carry(Edit):
    """Carry `what` of a photo or text, and of its scene, to other scenes: to every photo or text in them, and to the scenes themselves."""

    source: LayerRef
    what: list[What] = Field(min_length=1)
    to: list[Id] = Field(min_length=1, max_length=5000)


def carry(document: Document, edit: Carry) -> Document:
    source = layer_of(document, edit.source)
    if not isinstance(source, PhotoLayer | TextLayer):
        raise refused("edit.no_photo", edit.source.path, "This layer is neither a photo nor a text: choose one of those to carry from.")
    for what in edit.what:
        if _SPECS[what].kinds and source.kind not in _SPECS[what].kinds:
            raise refused("edit.kind", edit.source.path, f"A {source.kind} has no {_SPECS[what].label.lower()} to carry.")
    origin = scene_of(document, edit.source.scene) if edit.source.scene in document.scenes else None
    alike = [
        LayerRef(scene=target, layer=k)
        for target in edit.to
        for k, layer in in_order(container_of(document, target).layers)
        if layer.kind == source.kind and (target, k) != (edit.source.scene, edit.source.layer)
    ]
    if "look" in edit.what and isinstance(source, PhotoLayer):
        document = _look_carried(document, edit.source, source, alike)
    if "style" in edit.what and isinstance(source, TextLayer):
        own = {part: getattr(source, part) for part in ("style", *STYLED)}
        document = with_layers(document, [(ref, layer_of(document, ref).model_copy(update=own)) for ref in alike])
    document = with_layers(document, [(ref, _carried_onto(document, edit.what, source, layer_of(document, ref))) for ref in alike])
    return document if origin is None else _scene_carried(document, edit, resolved_backdrop(document, origin))


def _carried_onto(document: Document, what: list[What], source: PhotoLayer | TextLayer, layer: Layer) -> Layer:
    update: dict[str, Any] = {part: resolved_part(document, source, part) for part in ("mount", "shadow", "correction") if part in what}
    if "views" in what and isinstance(source, PhotoLayer) and isinstance(layer, PhotoLayer):
        update["view"] = _views_for(document, source, layer)
    if "motion" in what:
        update |= motion_of(source)
    return layer.model_copy(update=update)


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
