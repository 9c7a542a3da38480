"""Edits of layouts: several photos of a scene put in their places, and anew for another frame."""

from typing import Any

from pydantic import Field

from ..document import Document, Layer, Layout, PhotoLayer, Placement, Scene, View, Window, in_order, resolved_mount, view_lane
from ..document.records import Id
from ..layouts import LAYOUTS, Arranged, arranged
from .positions import orders_before
from .registry import Edit, EditSpec, LayerRef, fresh, has_picture, merged, refused, scene_of, with_layers, with_scenes


class ApplyLayout(Edit):
    """Lay out the photos of scenes, lowest first; those in groups stay. Afterwards each can be adjusted freely."""

    scenes: list[Id] = Field(min_length=1)
    layout: dict[str, Any]


def apply_layout(document: Document, edit: ApplyLayout) -> Document:
    for scene_id in edit.scenes:
        scene = scene_of(document, scene_id)
        layout = merged(scene.layout or Layout(kind="grid"), edit.layout, f"scenes.{scene_id}.layout")
        if layout.kind not in LAYOUTS:
            raise refused("edit.no_layout", "layout.kind", f"There is no layout called {layout.kind!r}; known are {', '.join(LAYOUTS)}.")
        places = places_in(document, scene_id, layout)
        if not places:
            raise refused("edit.too_few", f"scenes.{scene_id}", "This scene has no photo to lay out.")
        document = with_scenes(document, {scene_id: scene.model_copy(update={"layout": layout})})
        document = with_layers(document, [(LayerRef(scene=scene_id, layer=k), _put(scene.layers[k], place)) for k, place in places.items()])
    return document


def _put(layer: Layer, place: Arranged) -> Layer:
    """The photo in its place: its views begin anew where they meant the frame before."""
    assert isinstance(layer, PhotoLayer)
    window = place.window
    if layer.window is not None:
        window = layer.window.model_copy(update={"aspect": place.window.aspect})
    update: dict[str, Any] = {"placement": place.placement, "window": window}
    if layer.window is None:
        update["view"] = view_lane(View(), View())
    return layer.model_copy(update=update)


def laid_out(scene: Scene) -> list[tuple[str, PhotoLayer]]:
    """The photos a layout puts in place, lowest first: those not in a group."""
    return [(k, layer) for k, layer in in_order(scene.layers) if isinstance(layer, PhotoLayer) and layer.parent is None]


def places_in(document: Document, scene_id: str, layout: Layout) -> dict[str, Arranged]:
    """Where a layout puts each photo of a scene in the document's frame."""
    photos = laid_out(document.scenes[scene_id])
    spec = LAYOUTS.get(layout.kind)
    if not photos or spec is None:
        return {}
    if len(photos) < spec.least or len(photos) > spec.most:
        raise refused(
            "edit.too_few", f"scenes.{scene_id}", f"{spec.label} is for {spec.least} to {spec.most} photos; this scene has {len(photos)}."
        )
    aspects = [document.media[layer.media].aspect for _, layer in photos]
    places = arranged(spec, layout, aspects, document.frame.aspect, [resolved_mount(document, layer) for _, layer in photos])
    return {k: place for (k, _), place in zip(photos, places, strict=True)}


class NewPhotoLayer(Edit):
    layer: Id
    media: Id


class AddComposition(Edit):
    """One scene of several pictures, laid out, before scene `before` or at the end."""

    id: Id
    photos: list[NewPhotoLayer] = Field(min_length=2, max_length=40)
    layout: dict[str, Any] = Field(default_factory=dict)
    before: Id | None = None
    name: str = Field("", max_length=300)


def add_composition(document: Document, edit: AddComposition) -> Document:
    fresh({**document.scenes, **document.groups}, (edit.id,), "scenes")
    fresh({}, (p.layer for p in edit.photos), f"scenes.{edit.id}.layers")
    (order,) = orders_before(document.scenes, edit.before, 1)
    layers: dict[str, Layer] = {}
    for photo, layer_order in zip(edit.photos, orders_before({}, None, len(edit.photos)), strict=True):
        has_picture(document, photo.media)
        layers[photo.layer] = PhotoLayer(
            order=layer_order, name=document.media[photo.media].name, media=photo.media, window=Window(), view=view_lane(View(), View())
        )
    name = edit.name or f"{document.media[edit.photos[0].media].name} and {len(edit.photos) - 1} more"
    document = with_scenes(document, {edit.id: Scene(order=order, name=name[:300], layers=layers)})
    layout = {"kind": "grid", **edit.layout}
    return apply_layout(document, ApplyLayout(scenes=[edit.id], layout=layout))


def laid_out_anew(before: Document, after: Document) -> Document:
    """The document in its new frame with every layout made anew for it; what was adjusted by hand stays adjusted as much."""
    for scene_id, scene in after.scenes.items():
        if scene.layout is None:
            continue
        old, new = places_in(before, scene_id, scene.layout), places_in(after, scene_id, scene.layout)
        changed: list[tuple[LayerRef, Layer | None]] = []
        for layer_id, place in new.items():
            layer = scene.layers[layer_id]
            assert isinstance(layer, PhotoLayer)
            changed.append((LayerRef(scene=scene_id, layer=layer_id), _readjusted(layer, old[layer_id], place)))
        after = with_layers(after, changed)
    return after


def _readjusted(layer: PhotoLayer, old: Arranged, new: Arranged) -> PhotoLayer:
    """The photo in its new place, with the same difference from it that it had from its old one."""
    placement = layer.placement
    numbers = {
        name: (getattr(placement, name), getattr(old.placement, name), getattr(new.placement, name)) for name in ("x", "y", "size", "turn")
    }
    if not all(isinstance(value, float) for values in numbers.values() for value in values):
        return layer
    partial = {name: present + (after - before) for name, (present, before, after) in numbers.items()}
    present, before, after = numbers["size"]
    partial["size"] = min(max(present * after / before, 0.01), 20.0)
    update: dict[str, Any] = {"placement": Placement.model_validate({**placement.model_dump(), **partial})}
    if layer.window is not None and layer.window.aspect is not None and old.window.aspect is not None and new.window.aspect is not None:
        aspect = new.window.aspect * layer.window.aspect / old.window.aspect
        update["window"] = layer.window.model_copy(update={"aspect": min(max(aspect, 0.02), 50.0)})
    return layer.model_copy(update=update)


LAYOUT_EDITS = (
    EditSpec("apply_layout", "Lay out photos", ApplyLayout, apply_layout),
    EditSpec("add_composition", "Add a scene of several photos", AddComposition, add_composition),
)
