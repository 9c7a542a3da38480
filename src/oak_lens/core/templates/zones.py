"""Filling drop zones: the same place, mount, motion and timing with another picture, or other words."""

from collections.abc import Iterable, Mapping
from typing import Any

from ..document import Document, Layer, Media, PhotoLayer, Scene, Template, TextLayer, Window, Zone, in_order, order_keys_between, rewritten
from ..framing import on_subject
from .content import numbered, placeholder_media
from .songs import song_in, with_song

Fills = Mapping[str, str | None]
"""What goes into zones, by id: a picture or sound by its id, words, or (None) nothing."""


def same_turn(document: Document, scene_id: str) -> list[str]:
    """The scenes that show the same zones filled alike: of one use, and of one turn of it."""
    use = document.scenes[scene_id].template
    alike = (lambda t: t is not None and use is not None and (t.use, t.round) == (use.use, use.round)) if use else lambda t: False
    return [k for k, scene in in_order(document.scenes) if k == scene_id or alike(scene.template)]


def filled_zones(document: Document, scene_id: str, fills: Fills) -> Document:
    """The document with zones of a scene filled, wherever its turn of the template shows them. Its pictures must be there."""
    use = document.scenes[scene_id].template
    if use is None:
        return document
    turn = same_turn(document, scene_id)
    template = document.templates[use.template]
    heard = {z: what for z, what in fills.items() if template.zones[z].takes == "song"}
    for zone, sound in heard.items():
        document = with_song(document, use.use, zone, template.zones[zone], sound)
    seen = {z: what for z, what in fills.items() if z not in heard}
    return tidied(filled_scenes(document, template, dict.fromkeys(turn, seen))) if seen else document


def filled_film(document: Document, fills: Iterable[tuple[str, str, str | None]]) -> Document:
    """The document with zones of many scenes filled, (scene, zone, what) each, wherever their turns show them; no songs. Pictures must be there."""
    turns: dict[tuple[str, int], list[str]] = {}
    for key, scene in in_order(document.scenes):
        if scene.template is not None:
            turns.setdefault((scene.template.use, scene.template.round), []).append(key)
    seen: dict[str, dict[str, dict[str, str | None]]] = {}
    for key, zone, what in fills:
        use = document.scenes[key].template
        if use is not None:
            for shown in turns[use.use, use.round]:
                seen.setdefault(use.template, {}).setdefault(shown, {})[zone] = what
    for template, own in seen.items():
        document = filled_scenes(document, document.templates[template], own)
    return tidied(document) if seen else document


def filled_scenes(document: Document, template: Template, fills: Mapping[str, Fills]) -> Document:
    """The document with zones of scenes that use a template filled, each scene with what is said of it, and with what stands in for what is empty."""
    document, stand_ins = _with_placeholders(document, template, dict.fromkeys(z for f in fills.values() for z, what in f.items() if what is None))
    scenes: dict[str, Scene] = {}
    for key, own in fills.items():
        scene = document.scenes[key]
        layers = {k: _filled(document, layer, template, own, stand_ins) for k, layer in scene.layers.items()}
        update: dict[str, Any] = {"layers": layers}
        zone = scene.backdrop_zone
        if zone is not None and zone in own and scene.backdrop is not None:
            update["backdrop"] = scene.backdrop.model_copy(update={"media": own[zone] or stand_ins[zone]})
        scenes[key] = scene.model_copy(update=update)
    return document.model_copy(update={"scenes": {**document.scenes, **scenes}})


def zone_of(layer: Layer) -> str | None:
    """The zone that a layer shows."""
    return layer.zone if isinstance(layer, PhotoLayer | TextLayer) else None


def fill_of(document: Document, scene: Scene, zone: str) -> str | None:
    """What a zone is filled with: the id of a picture or sound, words; None where it is empty."""
    song = None if scene.template is None else song_in(document, scene.template.use, zone)
    if song is not None:
        return document.songs[song].sound
    for _, layer in in_order(scene.layers):
        if zone_of(layer) != zone:
            continue
        if isinstance(layer, PhotoLayer):
            return None if document.media[layer.media].placeholder else layer.media
        if isinstance(layer, TextLayer):
            return "".join(span.text for span in layer.text)
    shown = scene.backdrop.media if scene.backdrop_zone == zone and scene.backdrop else None
    return None if shown is None or document.media[shown].placeholder else shown


def _filled(document: Document, layer: Layer, template: Template, fills: Fills, stand_ins: Mapping[str, str]) -> Layer:
    """A layer with what is said of its zone in it; as it is, if nothing is."""
    key = zone_of(layer)
    if key is None or key not in fills:
        return layer
    zone, what = template.zones[key], fills[key]
    hidden = what is None and (zone.empty == "nothing" or not zone.required)
    if isinstance(layer, TextLayer):
        return layer.model_copy(update={"hidden": hidden, **({} if what is None else {"text": rewritten(layer.text, what)})})
    assert isinstance(layer, PhotoLayer)
    media = what or stand_ins[key]
    update: dict[str, Any] = {"media": media, "hidden": hidden}
    if layer.name in ("", document.media[layer.media].name):
        update["name"] = document.media[media].name
    return on_subject(document, layer.model_copy(update=update))


def fitted(document: Document, layer: PhotoLayer, zone: Zone) -> PhotoLayer:
    """The photo as its zone fits pictures of another shape: cut by it, whole in it, or (the zone then takes its shape) all that is seen."""
    aspect = document.media[layer.media].aspect
    if zone.fitting == "shape":
        return layer.model_copy(update={"window": (layer.window or Window()).model_copy(update={"aspect": None}), "fit": None})
    own = layer.window is not None and layer.window.aspect is None
    window = {"window": layer.window.model_copy(update={"aspect": aspect})} if own and layer.window else {}
    return layer.model_copy(update={"fit": zone.fitting, **window})


def _with_placeholders(document: Document, template: Template, zones: Iterable[str]) -> tuple[Document, dict[str, str]]:
    """The document with what stands in for pictures of empty zones; their ids by zone."""
    ids, media = {}, dict(document.media)
    for zone, number in numbered(template, list(zones)).items():
        if template.zones[zone].takes not in ("text", "song"):
            shape = template.zones[zone].shape or 1.5
            ids[zone], record = placeholder(media, number, shape, template.zones[zone].name, template.zones[zone].takes)
            media.setdefault(ids[zone], record)
    return document.model_copy(update={"media": media}) if len(media) != len(document.media) else document, ids


def placeholder(media: Mapping[str, Media], number: int, shape: float, name: str, takes: str = "picture") -> tuple[str, Media]:
    """(id, record) of what stands in for the picture of empty zone `number`: one for each number, kind and shape."""
    last = in_order(media)[-1][1].order if media else None
    record = placeholder_media(number, shape, order_keys_between(last, None, 1)[0], name or f"Zone {number}", takes)
    return f"empty-{number}{'' if takes == 'picture' else f'-{takes}'}-{record.width}x{record.height}", record


def shown_media(document: Document) -> set[str]:
    """Pictures, clips and stand-ins that some scene shows."""
    listed = [layers.values() for layers in (*(s.layers for s in document.scenes.values()), *(g.layers for g in document.groups.values()))]
    shown: set[str] = {layer.media for layers in listed for layer in layers if isinstance(layer, PhotoLayer)}
    return shown | {scene.backdrop.media for scene in document.scenes.values() if scene.backdrop and scene.backdrop.media}


def tidied(document: Document) -> Document:
    """The document without placeholders that nothing shows."""
    stand_ins = {k for k, m in document.media.items() if m.placeholder}
    gone = stand_ins - shown_media(document) if stand_ins else stand_ins
    return document.model_copy(update={"media": {k: m for k, m in document.media.items() if k not in gone}}) if gone else document
