"""Edits that make a template of scenes: zones switched on and described, dials made of values, what may become of each scene."""

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import Field

from ..document import (
    Dial,
    Document,
    Layer,
    Linkable,
    Mood,
    PhotoLayer,
    Played,
    Scene,
    SceneRule,
    Song,
    SongZone,
    Template,
    TemplateUse,
    TextLayer,
    Zone,
    called,
    in_order,
    order_keys_between,
    photos_of,
    resolved_backdrop,
    written,
)
from ..document.records import Id, Name
from ..looks.links import DialMapping, Link
from ..templates import PICTURED, fitted, zone_of
from .links import LinkValues, ValueRef, link_values, value_of, with_own_part
from .positions import orders_before
from .registry import Edit, EditSpec, LayerRef, fresh, layer_of, merged, refused, scene_of, with_scenes
from .sounds import song_of
from .templates import FreeScenes, free_scenes

Kind = Literal["treatment", "opening", "body", "closing", "film"]
USUAL_LEAST_PX = 1000


class MakeTemplate(Edit):
    """Scenes become template `id`, which is made in this project: what they are is what others put on. `zones`: every photo and text of theirs is a
    drop zone at first, one that is seen in several places a single zone."""

    id: Id
    name: Name
    scenes: list[Id] = Field(min_length=1, max_length=500)
    kind: Kind = "treatment"
    zones: bool = True


def make_template(document: Document, edit: MakeTemplate) -> Document:
    fresh(document.templates, (edit.id,), "templates")
    for key in edit.scenes:
        scene_of(document, key)
    document = free_scenes(document, FreeScenes(scenes=edit.scenes))
    ordered = [k for k, _ in in_order(document.scenes) if k in edit.scenes]
    template = Template(name=edit.name, kind=edit.kind, scenes={k: SceneRule() for k in ordered})
    document = document.model_copy(update={"templates": {**document.templates, edit.id: template}})
    made = {k: document.scenes[k].model_copy(update={"template": TemplateUse(template=edit.id, part=k, use=edit.id)}) for k in ordered}
    document = with_scenes(document, made)
    if not edit.zones:
        return document
    if edit.kind == "film":
        for key, song in in_order(document.songs):
            document = _with_song_zone(document, edit.id, key, song)
    refs = [LayerRef(scene=k, layer=layer) for k in ordered for layer, one in in_order(document.scenes[k].layers) if isinstance(one, PhotoLayer | TextLayer)]
    return _zones_of(document, edit.id, refs) if refs else document


class SetTemplate(Edit):
    """Changes what is given of a template that is made here. `scenes`: what may become of some of them."""

    id: Id
    name: Name | None = None
    kind: Kind | None = None
    about: str | None = Field(None, max_length=2000)
    words: str | None = Field(None, max_length=300)
    moods: tuple[Mood, ...] | None = Field(None, max_length=4)
    varies: Literal["turn", "seed"] | None = None
    scenes: dict[Id, dict[str, Any]] = Field(default_factory=dict, max_length=500)


def set_template(document: Document, edit: SetTemplate) -> Document:
    template = own_template(document, edit.id)
    update = {n: getattr(edit, n) for n in ("name", "kind", "about", "words", "moods", "varies") if getattr(edit, n) is not None}
    rules = dict(template.scenes)
    for key, partial in edit.scenes.items():
        if key not in rules:
            raise refused("edit.no_scene", f"templates.{edit.id}.scenes.{key}", "There is no such scene in this template.")
        rules[key] = merged(rules[key], partial, f"templates.{edit.id}.scenes.{key}")
    return _with_template(document, edit.id, template.model_copy(update={**update, "scenes": rules}))


class RemoveTemplate(Edit):
    """A template that is made here goes; its scenes stay as they are."""

    id: Id


def remove_template(document: Document, edit: RemoveTemplate) -> Document:
    own_template(document, edit.id)
    used = [k for k, s in document.scenes.items() if s.template and s.template.template == edit.id]
    document = free_scenes(document, FreeScenes(scenes=used)) if used else document
    return document.model_copy(update={"templates": {k: t for k, t in document.templates.items() if k != edit.id}})


class MakeZones(Edit):
    """Photos and texts of a template's scenes become drop zones: each picture one zone, wherever it is seen. `zone`: all of them that one."""

    layers: list[LayerRef] = Field(min_length=1, max_length=500)
    zone: Id | None = None


def make_zones(document: Document, edit: MakeZones) -> Document:
    ids = {_making(document, ref.scene) for ref in edit.layers}
    if len(ids) != 1:
        raise refused("edit.two_scenes", "layers", "Zones are made of layers of one template at a time.")
    return _zones_of(document, ids.pop(), edit.layers, edit.zone)


class MakeSongZone(Edit):
    """A song becomes a drop zone of a template that is made here."""

    template: Id
    song: Id


class UnmakeSongZone(MakeSongZone):
    """A song that is no drop zone any more."""


def make_song_zone(document: Document, edit: MakeSongZone) -> Document:
    """A song becomes a drop zone, heard over all scenes of its template."""
    own_template(document, edit.template)
    return _with_song_zone(document, edit.template, edit.song, song_of(document, edit.song))


def unmake_song_zone(document: Document, edit: UnmakeSongZone) -> Document:
    """A song that is no drop zone any more."""
    own_template(document, edit.template)
    song = song_of(document, edit.song)
    return _without_empty(document.model_copy(update={"songs": {**document.songs, edit.song: song.model_copy(update={"zone": None})}}))


def _with_song_zone(document: Document, key: str, song_id: str, song: Song) -> Document:
    template = document.templates[key]
    uses = {scene.template.use for scene in document.scenes.values() if scene.template and scene.template.template == key}
    if song.zone is not None or not uses:
        return document
    zone_id, order = _place_for_zone(template)
    name = document.sounds[song.sound].name.rpartition(".")[0] or document.sounds[song.sound].name
    zone = Zone(order=order, name=name[:300], takes="song", required=False, empty="nothing", played=Played(fade_in=song.fade_in, fade_out=song.fade_out, gain=song.gain))
    document = _with_template(document, key, template.model_copy(update={"zones": {**template.zones, zone_id: zone}}))
    held = song.model_copy(update={"zone": SongZone(use=min(uses), zone=zone_id)})
    return document.model_copy(update={"songs": {**document.songs, song_id: held}})


def _place_for_zone(template: Template) -> tuple[str, str]:
    """(id, order) of a new zone, after all others."""
    zone = next(f"z{n}" for n in range(1, len(template.zones) + 2) if f"z{n}" not in template.zones)
    return zone, order_keys_between(max((z.order for z in template.zones.values()), default=None), None, 1)[0]


class UnmakeZones(Edit):
    """Layers that are no drop zones any more; a zone that nothing shows goes."""

    layers: list[LayerRef] = Field(min_length=1, max_length=500)


def unmake_zones(document: Document, edit: UnmakeZones) -> Document:
    for ref in edit.layers:
        _making(document, ref.scene)
        layer_of(document, ref)
    layers = {ref: layer_of(document, ref).model_copy(update={"zone": None}) for ref in edit.layers if zone_of(layer_of(document, ref))}
    return _without_empty(_with_layers(document, layers))


class SetBackdropZone(Edit):
    """The backdrop of a template's scene shows what is in a zone of pictures; null: it is the template's own from now on."""

    scene: Id
    zone: Id | None


def set_backdrop_zone(document: Document, edit: SetBackdropZone) -> Document:
    key = _making(document, edit.scene)
    scene = document.scenes[edit.scene]
    update: dict[str, Any] = {"backdrop_zone": edit.zone}
    if edit.zone is not None:
        zone = _zone(own_template(document, key), key, edit.zone)
        backdrop = resolved_backdrop(document, scene)
        if zone.takes not in PICTURED or backdrop.kind not in ("blur", "picture"):
            raise refused("edit.kind", f"scenes.{edit.scene}.backdrop", "Only a backdrop that shows a picture can follow a zone, and only one of pictures.")
        shown = next((p.media for s in document.scenes.values() if s.template and s.template.template == key for _, p in photos_of(s) if p.zone == edit.zone), None)
        update["backdrop"] = backdrop.model_copy(update={"kind": "picture", "media": shown or backdrop.media})
    return with_scenes(document, {edit.scene: scene.model_copy(update=update)})


class SetZone(Edit):
    """Changes what is given of a zone; `before`: its place among the others, null for the end."""

    template: Id
    zone: Id
    name: Name | None = None
    takes: Literal["picture", "clip", "cutout", "logo", "text", "song"] | None = None
    shape: Annotated[float, Field(ge=0.02, le=50)] | None = None
    least: int | None = Field(None, ge=0, le=100_000)
    most: int | None = Field(None, ge=0, le=10_000)
    required: bool | None = None
    empty: Literal["placeholder", "nothing"] | None = None
    fitting: Literal["fill", "whole", "shape"] | None = None
    help: str | None = Field(None, max_length=500)
    before: Id | None = None


def set_zone(document: Document, edit: SetZone) -> Document:
    template = own_template(document, edit.template)
    zone = _zone(template, edit.template, edit.zone)
    given = edit.model_fields_set - {"template", "zone", "before"}
    update = {n: getattr(edit, n) for n in given if getattr(edit, n) is not None or n == "shape"}
    if update.get("takes", zone.takes) != zone.takes and {"text", "song"} & {update["takes"], zone.takes}:
        raise refused("edit.kind", f"templates.{edit.template}.zones.{edit.zone}", "A zone of a text takes texts, one of a song songs, one of a picture pictures.")
    if "before" in edit.model_fields_set:
        others = {k: z for k, z in template.zones.items() if k != edit.zone}
        (update["order"],) = orders_before(others, edit.before, 1)
    changed = merged(zone, update, f"templates.{edit.template}.zones.{edit.zone}")
    document = _with_template(document, edit.template, template.model_copy(update={"zones": {**template.zones, edit.zone: changed}}))
    if changed.fitting == zone.fitting:
        return document
    layers = {ref: fitted(document, layer, changed) for ref, layer in _showing(document, edit.template, edit.zone) if isinstance(layer, PhotoLayer)}
    return _with_layers(document, layers)


class MakeDial(Edit):
    """A dial of a value: it stands where that does, goes through its usual range, and drives it; all the others named follow it as well."""

    template: Id
    id: Id
    values: list[ValueRef] = Field(min_length=1, max_length=500)
    name: Annotated[str, Field(min_length=1, max_length=100)] | None = None


def make_dial(document: Document, edit: MakeDial) -> Document:
    template = own_template(document, edit.template)
    fresh(template.dials, (edit.id,), f"templates.{edit.template}.dials")
    first = edit.values[0]
    owner, entry = value_of(document, first)
    value = entry.of(with_own_part(document, owner, entry, first))
    dial = _dial_of(entry, value, edit.name, template)
    document = _with_template(document, edit.template, template.model_copy(update={"dials": {**template.dials, edit.id: dial}}))
    return link_values(document, LinkValues(values=edit.values, link=Link(source="dial", id=edit.id)))


class DriveValues(Edit):
    """Values that follow a dial from now on, by a mapping; where they stand is worked out from where it does."""

    template: Id
    dial: Id
    values: list[ValueRef] = Field(min_length=1, max_length=500)
    mapping: DialMapping | None = None


def drive_values(document: Document, edit: DriveValues) -> Document:
    _dial(own_template(document, edit.template), edit.template, edit.dial)
    return link_values(document, LinkValues(values=edit.values, link=Link(source="dial", id=edit.dial, mapping=edit.mapping)))


class SetDial(Edit):
    """Changes what is given of a dial; `before`: its place among the others, null for the end. Its default is where it stands now."""

    template: Id
    dial: Id
    name: Annotated[str, Field(min_length=1, max_length=100)] | None = None
    minimum: float | None = Field(None, ge=-1e6, le=1e6)
    maximum: float | None = Field(None, ge=-1e6, le=1e6)
    step: float | None = Field(None, gt=0, le=1e6)
    help: str | None = Field(None, max_length=500)
    group: str | None = Field(None, max_length=100)
    before: Id | None = None


def set_dial(document: Document, edit: SetDial) -> Document:
    template = own_template(document, edit.template)
    dial = _dial(template, edit.template, edit.dial)
    update = {n: getattr(edit, n) for n in edit.model_fields_set - {"template", "dial", "before"} if getattr(edit, n) is not None}
    if "before" in edit.model_fields_set:
        (update["order"],) = orders_before({k: d for k, d in template.dials.items() if k != edit.dial}, edit.before, 1)
    if dial.kind == "amount" and not isinstance(dial.default, bool | str):
        low, high = update.get("minimum", dial.minimum), update.get("maximum", dial.maximum)
        update["default"] = min(max(dial.default, low), high)
    changed = merged(dial, update, f"templates.{edit.template}.dials.{edit.dial}")
    return _with_template(document, edit.template, template.model_copy(update={"dials": {**template.dials, edit.dial: changed}}))


class RemoveDial(Edit):
    """A dial goes; what followed it stays as it is."""

    template: Id
    dial: Id


def remove_dial(document: Document, edit: RemoveDial) -> Document:
    template = own_template(document, edit.template)
    _dial(template, edit.template, edit.dial)
    return _with_template(document, edit.template, template.model_copy(update={"dials": {k: d for k, d in template.dials.items() if k != edit.dial}}))


def own_template(document: Document, key: str) -> Template:
    """A template that is made in this project. Raises InvalidEdit for others."""
    template = document.templates.get(key)
    if template is None:
        raise refused("edit.no_template", f"templates.{key}", "There is no such template in this project; it may have been removed.")
    if template.origin is not None:
        raise refused("edit.kind", f"templates.{key}", "This template comes from the library. Free the scene and make one of your own to change it.")
    return template


def _making(document: Document, scene: str) -> str:
    use = scene_of(document, scene).template
    if use is None:
        raise refused("edit.no_template", f"scenes.{scene}", "Make a template of this scene first.")
    own_template(document, use.template)
    return use.template


def _zone(template: Template, key: str, zone: str) -> Zone:
    if zone not in template.zones:
        raise refused("edit.no_zone", f"templates.{key}.zones.{zone}", "There is no such zone in this template.")
    return template.zones[zone]


def _dial(template: Template, key: str, dial: str) -> Dial:
    if dial not in template.dials:
        raise refused("edit.no_dial", f"templates.{key}.dials.{dial}", "There is no such dial in this template.")
    return template.dials[dial]


def _zones_of(document: Document, key: str, refs: list[LayerRef], given: str | None = None) -> Document:
    """Zones of the layers named: a picture that is seen in several places is one."""
    template = own_template(document, key)
    zones, by_media = dict(template.zones), dict[str, str]()
    if given is not None:
        _zone(template, key, given)
    for scene in document.scenes.values():
        if scene.template and scene.template.template == key:
            by_media |= {p.media: p.zone for _, p in photos_of(scene) if p.zone is not None}
    layers: dict[LayerRef, Layer] = {}
    for ref in refs:
        layer = layer_of(document, ref)
        if not isinstance(layer, PhotoLayer | TextLayer):
            raise refused("edit.kind", ref.path, "A zone is a photo or a text.")
        if layer.zone is not None and given is None:
            continue
        zone = given or (by_media.get(layer.media) if isinstance(layer, PhotoLayer) else None)
        if zone is None:
            zone, order = _place_for_zone(template.model_copy(update={"zones": zones}))
            zones[zone] = _new_zone(document, ref, layer, order)
        if (zones[zone].takes == "text") != isinstance(layer, TextLayer):
            raise refused("edit.kind", ref.path, "A picture and a text cannot share a zone.")
        if isinstance(layer, PhotoLayer):
            by_media[layer.media] = zone
            layer = fitted(document, layer, zones[zone])
        layers[ref] = layer.model_copy(update={"zone": zone})
    document = _with_template(document, key, template.model_copy(update={"zones": zones}))
    return _with_layers(document, layers)


def _new_zone(document: Document, ref: LayerRef, layer: Layer, order: str) -> Zone:
    name = called(document, layer, ref.scene)[:300]
    if isinstance(layer, TextLayer):
        return Zone(order=order, name=name[:60], takes="text", most=max(2 * len(written(layer.text)), 24))
    assert isinstance(layer, PhotoLayer)
    aspect = layer.window.aspect if layer.window is not None and layer.window.aspect else document.media[layer.media].aspect
    return Zone(order=order, name=name, takes="clip" if document.media[layer.media].kind == "clip" else "picture", shape=round(aspect, 3), least=USUAL_LEAST_PX)


KINDS = {"number": "amount", "colour": "colour", "choice": "choice", "switch": "switch", "typeface": "face", "text": "text"}
"""Kinds of dials by those of the values they are made of."""


def _dial_of(entry: Linkable, value: Any, name: str | None, template: Template) -> Dial:
    spec = entry.spec
    last = max((d.order for d in template.dials.values()), default=None)
    kind = "seed" if entry.spec.id.endswith("seed") else KINDS[spec.kind]
    made: dict[str, Any] = {"order": order_keys_between(last, None, 1)[0], "name": name or spec.label, "kind": kind, "default": value, "help": spec.help}
    if spec.kind == "number":
        low, high = spec.usual or (spec.minimum, spec.maximum)
        made |= {"minimum": min(low or 0.0, value), "maximum": max(1.0 if high is None else high, value), "step": spec.step or 0.01, "unit": spec.unit, "scale": spec.scale}
    if spec.kind == "choice":
        made["choices"] = [{"value": v, "label": label} for v, label in spec.choices]
    return merged(Dial(order="V", name="-"), made, "dial")


def _showing(document: Document, key: str, zone: str) -> list[tuple[LayerRef, Layer]]:
    """The layers that show a zone."""
    return [
        (LayerRef(scene=k, layer=layer_id), layer)
        for k, scene in document.scenes.items()
        if scene.template and scene.template.template == key
        for layer_id, layer in scene.layers.items()
        if zone_of(layer) == zone
    ]


def _with_template(document: Document, key: str, template: Template) -> Document:
    return document.model_copy(update={"templates": {**document.templates, key: template}})


def _with_layers(document: Document, layers: Mapping[LayerRef, Layer]) -> Document:
    scenes: dict[str, Scene] = {}
    for ref, layer in layers.items():
        scene = scenes.get(ref.scene) or document.scenes[ref.scene]
        scenes[ref.scene] = scene.model_copy(update={"layers": {**scene.layers, ref.layer: layer}})
    return with_scenes(document, scenes)


def _without_empty(document: Document) -> Document:
    """The document without zones of its own templates that nothing shows."""
    templates = dict(document.templates)
    for key, template in document.templates.items():
        if template.origin is None:
            heard = {song.zone.zone for song in document.songs.values() if song.zone}
            shown = heard | {z for s in document.scenes.values() if s.template and s.template.template == key for z in (s.backdrop_zone, *(zone_of(x) for x in s.layers.values()))}
            if kept := {k: z for k, z in template.zones.items() if k in shown}:
                templates[key] = template.model_copy(update={"zones": kept}) if len(kept) != len(template.zones) else template
            elif template.zones:
                templates[key] = template.model_copy(update={"zones": {}})
    return document.model_copy(update={"templates": templates})


MAKING_EDITS = (
    EditSpec("make_template", "Make a template", MakeTemplate, make_template),
    EditSpec("set_template", "Change a template", SetTemplate, set_template),
    EditSpec("remove_template", "Remove a template", RemoveTemplate, remove_template),
    EditSpec("make_zones", "Make a drop zone", MakeZones, make_zones),
    EditSpec("make_song_zone", "Make a drop zone of a song", MakeSongZone, make_song_zone),
    EditSpec("unmake_song_zone", "No drop zone any more", UnmakeSongZone, unmake_song_zone),
    EditSpec("unmake_zones", "No drop zone any more", UnmakeZones, unmake_zones),
    EditSpec("set_backdrop_zone", "Backdrop of a zone", SetBackdropZone, set_backdrop_zone),
    EditSpec("set_zone", "Change a zone", SetZone, set_zone),
    EditSpec("make_dial", "Make a dial", MakeDial, make_dial),
    EditSpec("drive_values", "Drive a value", DriveValues, drive_values),
    EditSpec("set_dial", "Change a dial", SetDial, set_dial),
    EditSpec("remove_dial", "Remove a dial", RemoveDial, remove_dial),
)
