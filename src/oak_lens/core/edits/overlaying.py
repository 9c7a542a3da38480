"""Templates over other film: their titles, shapes and framed pictures above what scenes show already, or on nothing, to be laid over film elsewhere."""

from pydantic import Field

from ..document import Document, Layer, PhotoLayer, Scene, TemplateUse, in_order, order_keys_between
from ..document.records import Id
from ..looks import Backdrop
from ..templates import PICTURED, Fills, TemplateContent, filled_scenes, shelved, tidied, without_clashes, zones_in
from .positions import orders_before
from .registry import Edit, EditSpec, fresh, refused, scene_of, with_scenes
from .template_frames import in_frame
from .templates import Key, settled_scenes, with_resources, with_template


class LayOver(Edit):
    """Lays template `key` over scenes, one of its own over each in turn: what stands in front of its ground comes above all that the scene shows, and
    stays one with the template (its zones, dials, versions). Without scenes, new ones with nothing behind are made, before scene `before` or at
    the end, to be exported see-through. `id` names this use of it, and with a number behind it new scenes."""

    key: Key
    id: Id = Field(max_length=50)
    scenes: list[Id] = Field(default_factory=list, max_length=5000)
    before: Id | None = None


def lay_over(document: Document, edit: LayOver) -> Document:
    content = shelved(edit.key)
    if content is None:
        raise refused("edit.no_template", "key", "This template is not in the library any more. Open its file again, or choose another.")
    content = without_clashes(document, in_frame(content, document.frame))
    parts = {k: layers for k, scene in content.parts if (layers := _in_front(scene))}
    if not parts:
        raise refused("edit.no_place", "key", "Nothing of this template stands in front of its pictures. Put it on instead.")
    document, template = with_template(document, content, edit.key)
    document = with_resources(document, content)
    named = list(parts)
    made: dict[str, Scene] = {}
    for number, key in enumerate(edit.scenes):
        part = named[number % len(named)]
        made[key] = _laid(scene_of(document, key), key, parts[part], TemplateUse(template=template, part=part, use=edit.id, round=number + 1))
    if not edit.scenes:
        ids = [f"{edit.id}-{n + 1}" for n in range(len(named))]
        fresh({**document.scenes, **document.groups}, ids, "scenes")
        orders = orders_before(document.scenes, edit.before, len(named))
        for key, part, order in zip(ids, named, orders, strict=True):
            use = TemplateUse(template=template, part=part, use=edit.id)
            base = content.document.scenes[part]
            made[key] = base.model_copy(update={"order": order, "template": use, "layers": parts[part], "backdrop": Backdrop(kind="none"), "backdrop_zone": None})
    document = settled_scenes(with_scenes(document, made), list(made))
    return tidied(filled_scenes(document, content.record, {k: _empty(scene, content) for k, scene in made.items()}))


def _in_front(scene: Scene) -> dict[str, Layer]:
    """The layers of a scene above those that are its ground: pictures that fill the frame, lowest of all."""
    layers = in_order(scene.layers)
    while layers and isinstance(layers[0][1], PhotoLayer) and _fills(layers[0][1]):
        layers = layers[1:]
    return dict(layers)


def _fills(photo: PhotoLayer) -> bool:
    """Whether a picture stands as large as the frame, as nothing else does that one would lay over film."""
    place = photo.placement
    return photo.window is None and photo.parent is None and place.size >= 1.0 and not (place.x or place.y or place.turn)


def _laid(scene: Scene, key: str, layers: dict[str, Layer], use: TemplateUse) -> Scene:
    """A scene with a template's layers above its own."""
    if scene.template is not None:
        raise refused("edit.kind", f"scenes.{key}", "A template made this scene already. Free it first, or lay the other over a copy.")
    if clash := set(layers) & set(scene.layers):
        raise refused("edit.id_taken", f"scenes.{key}.layers.{min(clash)}", "This lies over the scene already.")
    highest = max((layer.order for layer in scene.layers.values()), default=None)
    orders = order_keys_between(highest, None, len(layers))
    above = {k: layer.model_copy(update={"order": order}) for (k, layer), order in zip(in_order(layers), orders, strict=True)}
    return scene.model_copy(update={"layers": {**scene.layers, **above}, "template": use})


def _empty(scene: Scene, content: TemplateContent) -> Fills:
    return dict.fromkeys(z for z in zones_in(scene, content.record) if content.record.zones[z].takes in PICTURED)


OVERLAYING_EDITS = (EditSpec("lay_over", "Lay a template over", LayOver, lay_over),)
