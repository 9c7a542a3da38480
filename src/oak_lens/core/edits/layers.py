"""Edits of layers: added, changed, put in order, grouped, shared, replaced."""

from math import cos, radians, sin
from typing import Annotated, Any, Literal

from pydantic import Field

from ..document import (
    KIND_OF,
    Document,
    FitChoice,
    GroupLayer,
    Layer,
    PhotoLayer,
    Placement,
    Scene,
    ShapeLayer,
    SharedGroup,
    TextLayer,
    View,
    Window,
    broken_links,
    in_order,
    look_of,
    photos_of,
    resolved_part,
    view_lane,
)
from ..document.layers import Blend
from ..document.records import Amount, Id, Name
from ..framing import chosen_fit, fit_zoom, on_subject
from ..looks import Correction, Form, Mask, Mount, Shadow
from ..templates import filled_zones
from ..time import TICKS_PER_SECOND
from .positions import orders_before
from .registry import Edit, EditSpec, LayerRef, container_of, fresh, has_picture, layer_of, merged, photo_of, refused, with_layers

NEW_PHOTO_SIZE = 0.55
NEW_SHAPE_SIZE = 0.4


class LayerRefs(Edit):
    layers: list[LayerRef] = Field(min_length=1)


class NewPhoto(Edit):
    id: Id
    media: Id


class AddPhotos(Edit):
    """Photos onto a scene that has some, each in a window of its own shape, above all others; a little apart from each other. In a scene of a template
    they are mounted, cast shadows and come in as those in its drop zones do, after them."""

    scene: Id
    photos: list[NewPhoto] = Field(min_length=1, max_length=200)
    parent: Id | None = None


def add_photos(document: Document, edit: AddPhotos) -> Document:
    container = container_of(document, edit.scene)
    fresh(container.layers, (p.id for p in edit.photos), f"scenes.{edit.scene}.layers")
    added: list[tuple[LayerRef, Layer | None]] = []
    orders = orders_before(container.layers, None, len(edit.photos))
    for number, (new, order) in enumerate(zip(edit.photos, orders, strict=True)):
        has_picture(document, new.media)
        offset = 0.05 * (number - (len(edit.photos) - 1) / 2)
        layer = PhotoLayer(
            order=order,
            media=new.media,
            name=document.media[new.media].name,
            parent=edit.parent,
            window=Window(),
            view=view_lane(View(), View()),
            placement=Placement(x=max(min(offset, 0.4), -0.4), y=max(min(offset, 0.4), -0.4), size=NEW_PHOTO_SIZE),
        )
        added.append((LayerRef(scene=edit.scene, layer=new.id), _as_in_zones(layer, container, number)))
    return checked(with_layers(document, added))


NEXT_COMES_IN = TICKS_PER_SECOND * 7 // 10
"""How much later each photo comes in than the one before, where those in drop zones do so one after another."""


def _as_in_zones(photo: PhotoLayer, container: Scene | SharedGroup, number: int) -> PhotoLayer:
    """A photo as those in the drop zones of its scene: the look of the topmost, and its entrance after all of theirs."""
    zones = [p for _, p in photos_of(container) if p.zone is not None and p.window is not None]
    if not zones:
        return photo
    like = zones[-1]
    update: dict[str, Any] = {
        "mount": like.mount, "shadow": like.shadow, "placement": photo.placement.model_copy(update={"z": like.placement.z}),
        "links": {k: link for k, link in like.links.items() if k.startswith(("mount.", "shadow."))},
    }  # fmt: skip
    coming = [p.entrance for p in zones if p.entrance is not None]
    if coming:
        last = max(coming, key=lambda use: use.delay)
        update["entrance"] = last.model_copy(update={"delay": last.delay + NEXT_COMES_IN * (number + 1)})
    return photo.model_copy(update=update)


class AddShape(Edit):
    """A shape, colour or gradient above all other layers."""

    scene: Id
    id: Id
    form: dict[str, Any] = Field(default_factory=dict)
    name: Name = ""


def add_shape(document: Document, edit: AddShape) -> Document:
    container = container_of(document, edit.scene)
    fresh(container.layers, (edit.id,), f"scenes.{edit.scene}.layers")
    form = merged(Form(), edit.form, "form")
    (order,) = orders_before(container.layers, None, 1)
    size = 1.0 if form.outline == "sheet" else NEW_SHAPE_SIZE
    if form.outline == "line" and "stroke" not in edit.form:
        form = form.model_copy(update={"stroke": 0.006})
    return with_layers(
        document,
        [(LayerRef(scene=edit.scene, layer=edit.id), ShapeLayer(order=order, name=edit.name, form=form, placement=Placement(size=size)))],
    )


class SetLayers(LayerRefs):
    """Change what is given on every layer named that has it; partial records are merged into what applies now.

    An explicit null of a photo's fit, look, mount, shadow or correction goes back to what it follows, and so does one of a text's style, setting,
    ink, panel or shadow; of window or mask it takes it away, of a shape's or group's shadow, too.
    """

    name: Name | None = None
    hidden: bool | None = None
    locked: bool | None = None
    solo: bool | None = None
    opacity: Amount | None = None
    blur: Annotated[float, Field(ge=0, le=0.3, allow_inf_nan=False)] | None = None
    blend: Blend | None = None
    placement: dict[str, Any] | None = None
    mask: dict[str, Any] | None = None
    shadow: dict[str, Any] | None = None
    fit: FitChoice | None = None
    window: dict[str, Any] | None = None
    look: Id | None = None
    mount: dict[str, Any] | None = None
    correction: dict[str, Any] | None = None
    caption: str | None = Field(None, max_length=200)
    form: dict[str, Any] | None = None
    filled: bool | None = None
    style: Id | None = None
    setting: dict[str, Any] | None = None
    ink: dict[str, Any] | None = None
    panel: dict[str, Any] | None = None


COMMON = ("name", "hidden", "locked", "solo", "opacity", "blur", "blend")
PHOTO_PARTS: dict[str, Any] = {"mount": Mount, "shadow": Shadow, "correction": Correction}


def set_layers(document: Document, edit: SetLayers) -> Document:
    given = edit.model_fields_set - {"layers"}
    changed: list[tuple[LayerRef, Layer | None]] = []
    took: set[str] = set()
    for ref in edit.layers:
        layer = layer_of(document, ref)
        update: dict[str, Any] = {name: getattr(edit, name) for name in COMMON if getattr(edit, name) is not None}
        if edit.placement is not None:
            update["placement"] = merged(layer.placement, edit.placement, f"{ref.path}.placement")
        if "mask" in given:
            update["mask"] = None if edit.mask is None else merged(layer.mask or Mask(), edit.mask, f"{ref.path}.mask")
        if isinstance(layer, PhotoLayer):
            layer = _changed_photo(document, layer, edit, given, ref.path, update)
        elif isinstance(layer, TextLayer):
            _change_text(document, layer, edit, given, ref.path, update)
        else:
            if "shadow" in given:
                update["shadow"] = None if edit.shadow is None else merged(layer.shadow or Shadow(), edit.shadow, f"{ref.path}.shadow")
            for part in KIND_OF[layer.kind].details:
                if (partial := getattr(edit, part)) is not None:
                    update[part] = merged(getattr(layer, part), partial, f"{ref.path}.{part}")
        took |= set(update) | ({"fit"} if isinstance(layer, PhotoLayer) else set())
        changed.append((ref, layer.model_copy(update=update)))
    missed = given - took
    if missed:
        raise refused("edit.kind", edit.layers[0].path, f"The chosen layers have no {', '.join(sorted(missed))}.")
    return checked(with_layers(document, changed))


def _changed_photo(
    document: Document, layer: PhotoLayer, edit: SetLayers, given: set[str], path: str, update: dict[str, Any]
) -> PhotoLayer:
    """The photo refitted if a fit is given; what else is given goes into `update`."""
    if "fit" in given:
        layer = _refitted(document, layer, edit.fit)
    if "window" in given:
        update["window"] = None if edit.window is None else merged(layer.window or Window(), edit.window, f"{path}.window")
        if (layer.window is None) != (edit.window is None):
            # The views meant the frame before and mean the window now, or the other way round.
            update["view"] = view_lane(View(), View())
    if "look" in given:
        update["look"] = edit.look
        if edit.look is not None and edit.look not in document.looks:
            raise refused("edit.no_look", f"{path}.look", "There is no such look in this project.")
    if edit.caption is not None:
        update["caption"] = edit.caption
    for part in PHOTO_PARTS:
        if part in given:
            partial = getattr(edit, part)
            current = getattr(layer, part) or getattr(look_of(document, layer) or document.defaults, part)
            update[part] = None if partial is None else merged(current, partial, f"{path}.{part}")
    return layer


def _change_text(document: Document, layer: TextLayer, edit: SetLayers, given: set[str], path: str, update: dict[str, Any]) -> None:
    """What is given of a text into `update`."""
    if edit.filled is not None:
        update["filled"] = edit.filled
    if "style" in given:
        update["style"] = edit.style
        if edit.style is not None and edit.style not in document.styles:
            raise refused("edit.no_style", f"{path}.style", "There is no such text style in this project.")
    for part in KIND_OF[layer.kind].inherited:
        if part in given:
            partial = getattr(edit, part)
            update[part] = None if partial is None else merged(resolved_part(document, layer, part), partial, f"{path}.{part}")


def _refitted(document: Document, layer: PhotoLayer, fit: FitChoice | None) -> PhotoLayer:
    """The layer under another fit, its views keeping what they show as far as the new fit allows."""
    picture, aspect = document.media[layer.media].aspect, document.frame.aspect
    if layer.window is not None:
        return layer.model_copy(update={"fit": fit})
    old = fit_zoom(chosen_fit(layer.fit or document.defaults.fit, picture, aspect), picture, aspect)
    new = fit_zoom(chosen_fit(fit or document.defaults.fit, picture, aspect), picture, aspect)
    keys = {
        name: key.model_copy(update={"value": key.value.model_copy(update={"zoom": min(50.0, max(0.05, key.value.zoom * old / new))})})
        for name, key in layer.view.keys.items()
    }
    return layer.model_copy(update={"fit": fit, "view": layer.view.model_copy(update={"keys": keys})})


class RemoveLayers(LayerRefs):
    """Groups go with what is in them."""


def remove_layers(document: Document, edit: RemoveLayers) -> Document:
    gone: list[tuple[LayerRef, Layer | None]] = []
    for ref in edit.layers:
        layer_of(document, ref)
        gone += [(LayerRef(scene=ref.scene, layer=k), None) for k in within(document, ref)]
    return with_layers(document, gone)


def within(document: Document, ref: LayerRef) -> list[str]:
    """Ids of a layer and of everything in it."""
    layers = container_of(document, ref.scene).layers
    found, at = [ref.layer], 0
    while at < len(found):
        found += [k for k, _ in in_order(layers) if layers[k].parent == found[at]]
        at += 1
    return found


class MoveLayers(LayerRefs):
    """Put layers of one scene just below layer `below`, or on top, in the order they have; into group `parent`, or out of all."""

    below: Id | None = None
    parent: Id | None = None


def move_layers(document: Document, edit: MoveLayers) -> Document:
    container_id = edit.layers[0].scene
    layers = container_of(document, container_id).layers
    ids = {ref.layer for ref in edit.layers if layer_of(document, ref)}
    if any(ref.scene != container_id for ref in edit.layers):
        raise refused("edit.two_scenes", "layers", "Layers of one scene can be put in order together.")
    moving = [k for k, _ in in_order(layers) if k in ids]
    rest = {k: v for k, v in layers.items() if k not in ids}
    orders = orders_before(rest, edit.below, len(moving))
    return checked(
        with_layers(
            document,
            [
                (LayerRef(scene=container_id, layer=k), layers[k].model_copy(update={"order": order, "parent": edit.parent}))
                for k, order in zip(moving, orders, strict=True)
            ],
        )
    )


class LayerCopy(LayerRef):
    """A layer to copy, and the copy's id; `ids` names the copies of what is in it. `to`: the scene or shared group that the copy goes into, null for
    its own."""

    to: Id | None = None
    copy_id: Id
    ids: dict[str, Id] = Field(default_factory=dict)


class DuplicateLayers(Edit):
    """Each copy stands above its original, a little to its lower right; in another scene above all others, at the same place."""

    copies: list[LayerCopy] = Field(min_length=1)


def duplicate_layers(document: Document, edit: DuplicateLayers) -> Document:
    for entry in edit.copies:
        if entry.to not in (None, entry.scene):
            document = _copied_into(document, entry, str(entry.to))
            continue
        container = container_of(document, entry.scene)
        original = layer_of(document, entry)
        inside = within(document, LayerRef(scene=entry.scene, layer=entry.layer))
        names = {k: entry.ids.get(k, f"{entry.copy_id[:40]}-{n}") for n, k in enumerate(inside[1:])} | {entry.layer: entry.copy_id}
        fresh(container.layers, names.values(), f"scenes.{entry.scene}.layers")
        listed = [k for k, _ in in_order(container.layers)]
        after = listed.index(entry.layer) + 1
        orders = orders_before(container.layers, listed[after] if after < len(listed) else None, len(inside))
        placement = original.placement
        if isinstance(placement.x, float) and isinstance(placement.y, float):
            placement = placement.model_copy(update={"x": min(placement.x + 0.03, 10.0), "y": min(placement.y + 0.03, 10.0)})
        made: list[tuple[LayerRef, Layer | None]] = []
        for k, order in zip(inside, orders, strict=True):
            layer = container.layers[k]
            update: dict[str, Any] = {"order": order}
            update |= {"placement": placement} if k == entry.layer else {"parent": names[layer.parent or ""]}
            made.append((LayerRef(scene=entry.scene, layer=names[k]), layer.model_copy(update=update)))
        document = with_layers(document, made)
    return document


def _copied_into(document: Document, entry: LayerCopy, to: str) -> Document:
    """A layer, with what is in it, put above all others of another scene."""
    container, target = container_of(document, entry.scene), container_of(document, to)
    layer_of(document, entry)
    inside = within(document, LayerRef(scene=entry.scene, layer=entry.layer))
    names = {k: entry.ids.get(k, f"{entry.copy_id[:40]}-{n}") for n, k in enumerate(inside[1:])} | {entry.layer: entry.copy_id}
    fresh(target.layers, names.values(), f"scenes.{to}.layers")
    made: list[tuple[LayerRef, Layer | None]] = []
    for k, order in zip(inside, orders_before(target.layers, None, len(inside)), strict=True):
        parent = None if k == entry.layer else names[container.layers[k].parent or ""]
        made.append((LayerRef(scene=to, layer=names[k]), container.layers[k].model_copy(update={"order": order, "parent": parent})))
    return checked(with_layers(document, made))


class GroupLayers(LayerRefs):
    """The layers of one scene become a group `id`, which stands where the topmost of them stood."""

    id: Id
    name: Name = "Group"


def group_layers(document: Document, edit: GroupLayers) -> Document:
    container_id = edit.layers[0].scene
    layers = container_of(document, container_id).layers
    ids = [ref.layer for ref in edit.layers if ref.scene == container_id and layer_of(document, ref)]
    parents = {layers[k].parent for k in ids}
    if len(ids) != len(edit.layers) or len(parents) > 1:
        raise refused("edit.two_scenes", "layers", "Layers that lie in the same scene and group can become a group.")
    fresh(layers, (edit.id,), f"scenes.{container_id}.layers")
    listed = [k for k, _ in in_order(layers)]
    top = max(listed.index(k) for k in ids)
    (order,) = orders_before(layers, listed[top + 1] if top + 1 < len(listed) else None, 1)
    group = GroupLayer(order=order, name=edit.name, parent=parents.pop())
    inside = [(LayerRef(scene=container_id, layer=k), layers[k].model_copy(update={"parent": edit.id})) for k in ids]
    return with_layers(document, [(LayerRef(scene=container_id, layer=edit.id), group), *inside])


class UngroupLayers(LayerRefs):
    """What is in a group takes its place; a shared group's layers are copied out of it. The group's place, size and turn are kept."""


def ungroup_layers(document: Document, edit: UngroupLayers) -> Document:
    for ref in edit.layers:
        group = layer_of(document, ref)
        if not isinstance(group, GroupLayer):
            raise refused("edit.kind", ref.path, "This layer is no group.")
        container = container_of(document, ref.scene)
        if group.shared is None:
            inside = {k: layer for k, layer in container.layers.items() if layer.parent == ref.layer}
            deeper: dict[str, Layer] = {}
        else:
            copies = {k: f"{ref.layer[:30]}-{k[:30]}" for k in document.groups[group.shared].layers}
            fresh(container.layers, copies.values(), f"scenes.{ref.scene}.layers")
            shared = {
                copies[k]: v.model_copy(update={"parent": copies.get(v.parent or "")})
                for k, v in document.groups[group.shared].layers.items()
            }
            inside = {k: v for k, v in shared.items() if v.parent is None}
            deeper = {k: v for k, v in shared.items() if v.parent is not None}
        if any((group.animation, group.move, group.entrance, group.exit)):
            raise refused(
                "edit.animated", ref.path, "The group moves as one, which its layers cannot take over. Take its motion away first."
            )
        listed = [k for k, _ in in_order(container.layers)]
        after = listed.index(ref.layer) + 1
        orders = orders_before(container.layers, listed[after] if after < len(listed) else None, len(inside))
        made: list[tuple[LayerRef, Layer | None]] = [(ref, None)]
        for (k, layer), order in zip(in_order(inside), orders, strict=True):
            update = {"order": order, "parent": group.parent, "placement": _out_of(document, group.placement, layer.placement)}
            made.append((LayerRef(scene=ref.scene, layer=k), layer.model_copy(update=update)))
        made += [(LayerRef(scene=ref.scene, layer=k), layer) for k, layer in deeper.items()]
        document = with_layers(document, made)
    return document


def _out_of(document: Document, group: Placement, layer: Placement) -> Placement:
    """A layer's placement in a group as one outside it. Raises InvalidEdit where the group is turned in space."""
    numbers = [getattr(p, n) for p in (group, layer) for n in ("x", "y", "z", "size", "turn")]
    if group.tip or group.swing:
        raise refused("edit.animated", "placement", "The group is turned in space, which its layers cannot take over one by one.")
    gx, gy, gz, gsize, gturn, x, y, z, size, turn = numbers
    aspect = document.frame.aspect
    c, s = cos(radians(gturn)) * gsize, sin(radians(gturn)) * gsize
    across, down = x * aspect * c - y * s, x * aspect * s + y * c
    return merged(
        layer, {"x": gx + across / aspect, "y": gy + down, "z": gz + z * gsize, "size": size * gsize, "turn": turn + gturn}, "placement"
    )


class ShareGroup(LayerRef):
    """What is in a group becomes shared group `id`: other scenes can show it, and a change in one reaches all."""

    id: Id


def share_group(document: Document, edit: ShareGroup) -> Document:
    group = layer_of(document, edit)
    if not isinstance(group, GroupLayer) or group.shared is not None:
        raise refused("edit.kind", edit.path, "Choose a group of this scene that is not shared yet.")
    fresh({**document.groups, **document.scenes}, (edit.id,), "groups")
    ref = LayerRef(scene=edit.scene, layer=edit.layer)
    layers = container_of(document, edit.scene).layers
    inside = within(document, ref)[1:]
    content = {k: layers[k].model_copy(update={"parent": None}) if layers[k].parent == edit.layer else layers[k] for k in inside}
    shared = SharedGroup(name=group.name, layers=content)
    document = document.model_copy(update={"groups": {**document.groups, edit.id: shared}})
    gone: list[tuple[LayerRef, Layer | None]] = [(LayerRef(scene=edit.scene, layer=k), None) for k in inside]
    return with_layers(document, [*gone, (ref, group.model_copy(update={"shared": edit.id}))])


class AddGroup(LayerRef):
    """Show shared group `shared` in a scene, above all other layers."""

    shared: Id


def add_group(document: Document, edit: AddGroup) -> Document:
    if edit.shared not in document.groups:
        raise refused("edit.no_group", f"groups.{edit.shared}", "There is no such shared group.")
    container = container_of(document, edit.scene)
    fresh(container.layers, (edit.layer,), f"scenes.{edit.scene}.layers")
    (order,) = orders_before(container.layers, None, 1)
    group = GroupLayer(order=order, name=document.groups[edit.shared].name, shared=edit.shared)
    return checked(with_layers(document, [(LayerRef(scene=edit.scene, layer=edit.layer), group)]))


class ReplacePictures(LayerRefs):
    """Another picture in the photos named; place, mount, move and timing stay. `how`: views kept, or brought onto the new subject."""

    media: Id
    how: Literal["keep", "subject"] = "subject"


def replace_pictures(document: Document, edit: ReplacePictures) -> Document:
    has_picture(document, edit.media)
    changed: list[tuple[LayerRef, Layer | None]] = []
    for ref in edit.layers:
        layer = photo_of(document, ref)
        if layer.zone is not None:
            # A zone shows one picture wherever it is seen.
            document = filled_zones(document, ref.scene, {layer.zone: edit.media})
            continue
        before, after = document.media[layer.media], document.media[edit.media]
        update: dict[str, Any] = {"media": edit.media}
        if layer.name == before.name:
            update["name"] = after.name
        new = layer.model_copy(update=update)
        changed.append((ref, on_subject(document, new) if edit.how == "subject" else new))
    return with_layers(document, changed)


def checked(document: Document) -> Document:
    """The document, refused if something it names is not there or a group would hold itself."""
    faults = broken_links(document)
    if faults:
        raise refused("edit.link", "", faults[0][0].upper() + faults[0][1:] + ".")
    return document


LAYER_EDITS = (
    EditSpec("add_photos", "Add photos to the scene", AddPhotos, add_photos),
    EditSpec("add_shape", "Add a shape", AddShape, add_shape),
    EditSpec("add_group", "Add a shared group", AddGroup, add_group),
    EditSpec("set_layers", "Change layers", SetLayers, set_layers, keyed=True),
    EditSpec("remove_layers", "Delete layers", RemoveLayers, remove_layers),
    EditSpec("move_layers", "Put layers in order", MoveLayers, move_layers),
    EditSpec("duplicate_layers", "Duplicate layers", DuplicateLayers, duplicate_layers),
    EditSpec("group_layers", "Group layers", GroupLayers, group_layers),
    EditSpec("ungroup_layers", "Ungroup", UngroupLayers, ungroup_layers),
    EditSpec("share_group", "Share a group", ShareGroup, share_group),
    EditSpec("replace_pictures", "Replace pictures", ReplacePictures, replace_pictures),
)
