"""A template taken out of the film it was made in: its scenes alone, with all that they inherit and follow there made their own."""

from typing import Any

from ..document import (
    Defaults,
    Document,
    GroupLayer,
    Layer,
    Media,
    PhotoLayer,
    Scene,
    SharedGroup,
    Template,
    TextLayer,
    in_order,
    resolved_backdrop,
    resolved_correction,
    resolved_hold,
    resolved_join,
    resolved_mount,
    resolved_shadow,
    resolved_shutter,
    resolved_text,
)
from ..looks.links import Link
from ..moves import SHIPPED
from .content import TemplateContent, placeholder_media
from .zones import zone_of


def extracted(document: Document, template: str, id: str, version: str = "1.0.0") -> TemplateContent:
    """Template `template` of a film as what is kept of it, called `id`. Zones hold placeholders; dials stand at what they stand at in the film.

    Scenes of it that were added by hand, or are copies, are left out: each of its scenes comes once.
    """
    record = document.templates[template]
    scenes: dict[str, Scene] = {}
    for _, scene in in_order(document.scenes):
        if scene.template is not None and scene.template.template == template:
            scenes.setdefault(scene.template.part, scene)
    first = next(iter(scenes.values()), None)
    standing = first.template.dials if first is not None and first.template is not None else {}
    record = record.model_copy(update={
        "dials": {k: dial.model_copy(update={"default": standing.get(k, dial.default)}) for k, dial in record.dials.items()},
        "scenes": {k: rule for k, rule in record.scenes.items() if k in scenes},
        "origin": None,
    })  # fmt: skip
    stand_ins = _stand_ins(record)
    made = {k: _own(document, scene, record, stand_ins, id, begins=n == 0) for n, (k, scene) in enumerate(scenes.items())}
    groups = _reached(document, made)
    layers = [*(layer for s in made.values() for layer in s.layers.values()), *(layer for g in groups.values() for layer in g.layers.values())]
    shown = {layer.media for layer in layers if isinstance(layer, PhotoLayer)} | {s.backdrop.media for s in made.values() if s.backdrop and s.backdrop.media}
    moved = {use.move for layer in layers for use in (layer.move, layer.entrance, layer.exit) if use} | {s.camera_move.move for s in made.values() if s.camera_move}
    lettered = {layer.setting.family for layer in layers if isinstance(layer, TextLayer) and layer.setting}
    media = {**document.media, **stand_ins}
    content = Document(
        title=record.name or "Template", frame=document.frame, defaults=Defaults(hold=document.defaults.hold), templates={id: record}, scenes=made, groups=groups,
        media={k: media[k] for k in sorted(shown)}, moves={k: document.moves[k] for k in sorted(moved - SHIPPED.keys())},
        fonts={k: document.fonts[k] for k in sorted(lettered & document.fonts.keys())},
    )  # fmt: skip
    return TemplateContent(content, id, version)


def _stand_ins(record: Template) -> dict[str, Media]:
    """What stands in the template's zones of pictures, by media id."""
    listed = in_order(record.zones)
    return {f"empty-{k}": placeholder_media(n + 1, zone.shape or 1.5, zone.order, zone.name, zone.takes) for n, (k, zone) in enumerate(listed) if zone.takes not in ("text", "song")}


def _own(document: Document, scene: Scene, record: Template, stand_ins: dict[str, Media], id: str, begins: bool) -> Scene:
    """A scene that inherits nothing and follows dials only. `begins`: the template does with it, so no join leads into it."""
    assert scene.template is not None
    backdrop = resolved_backdrop(document, scene)
    if scene.backdrop_zone is not None:
        backdrop = backdrop.model_copy(update={"media": f"empty-{scene.backdrop_zone}"})
    return scene.model_copy(update={
        "backdrop": backdrop, "hold": resolved_hold(document, scene), "shutter": resolved_shutter(document, scene),
        "join": None if begins else resolved_join(document, scene), "links": _dials(scene.links, record),
        "template": scene.template.model_copy(update={"template": id, "use": id, "round": 0, "dials": {}}),
        "layers": {k: _own_layer(document, layer, record, stand_ins) for k, layer in scene.layers.items()},
    })  # fmt: skip


def _own_layer(document: Document, layer: Layer, record: Template, stand_ins: dict[str, Media]) -> Layer:
    update: dict[str, Any] = {"links": _dials(layer.links, record)}
    zone = zone_of(layer)
    if isinstance(layer, PhotoLayer):
        update |= {
            "look": None, "mount": resolved_mount(document, layer), "shadow": resolved_shadow(document, layer), "correction": resolved_correction(document, layer),
            "fit": layer.fit or document.defaults.fit,
        }  # fmt: skip
        if zone is not None and f"empty-{zone}" in stand_ins:
            # It is called what the picture in it is called, unless somebody named it.
            own = layer.name if layer.name != document.media[layer.media].name else ""
            update |= {"media": f"empty-{zone}", "name": own, "hidden": False}
    elif isinstance(layer, TextLayer):
        setting, ink, panel, shadow = resolved_text(document, layer)
        update |= {"style": None, "setting": setting, "ink": ink, "panel": panel, "shadow": shadow}
    return layer.model_copy(update=update)


def _dials(links: dict[str, Link], record: Template) -> dict[str, Link]:
    return {k: link for k, link in links.items() if link.source == "dial" and link.id in record.dials}


def _reached(document: Document, scenes: dict[str, Scene]) -> dict[str, SharedGroup]:
    """The shared groups that scenes show, and those in them, with nothing inherited."""
    found: dict[str, SharedGroup] = {}
    waiting = [layer.shared for s in scenes.values() for layer in s.layers.values() if isinstance(layer, GroupLayer) and layer.shared]
    while waiting:
        key = waiting.pop()
        if key in found:
            continue
        group = document.groups[key]
        found[key] = group.model_copy(update={"layers": {k: _own_layer(document, layer, Template(), {}) for k, layer in group.layers.items()}})
        waiting += [layer.shared for layer in group.layers.values() if isinstance(layer, GroupLayer) and layer.shared]
    return found
