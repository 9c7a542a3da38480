"""Edits that put templates to use: put on scenes and pictures, zones filled, dials turned, scenes freed."""

from collections.abc import Mapping
from typing import Annotated, Any

from pydantic import Field

from ..document import (
    DialValue,
    Document,
    Layer,
    Media,
    Origin,
    Scene,
    Template,
    TemplateUse,
    TextLayer,
    in_order,
    order_keys_between,
    photos_of,
    resolved_hold,
    settled,
    with_dials,
    written,
)
from ..document.records import Id
from ..templates import (
    PICTURED,
    Cast,
    Fills,
    TemplateContent,
    cast,
    fill_of,
    filled_scenes,
    filled_zones,
    handed_on,
    shelved,
    tidied,
    without_clashes,
    without_zones,
    zone_of,
    zones_in,
)
from .positions import orders_before
from .registry import Edit, EditSpec, fresh, has_picture, refused, scene_of, with_scenes
from .template_frames import in_frame

Key = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class PutOn(Edit):
    """Puts template `key` on scenes, whose pictures and texts go into its zones in order, and on `pictures` besides, which get scenes of their own
    before scene `before` or at the end. Scenes keep their place, name, hold and joins (their
    place and name where it is a whole film); those whose pictures all went into others go. `id` names
    this use of it, and with a number behind it the new scenes."""

    key: Key
    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,50}$")]
    scenes: list[Id] = Field(default_factory=list, max_length=5000)
    pictures: list[Id] = Field(default_factory=list, max_length=5000)
    before: Id | None = None
    seed: int = Field(1, ge=0, le=9999)
    dials: dict[Id, DialValue] = Field(default_factory=dict)


def put_on(document: Document, edit: PutOn) -> Document:
    content = shelved(edit.key)
    if content is None:
        raise refused("edit.no_template", "key", "This template is not in the library any more. Open its file again, or choose another.")
    return put_content_on(document, content, edit)


def put_content_on(document: Document, content: TemplateContent, edit: PutOn) -> Document:
    """The same with what the key names at hand. Raises InvalidEdit."""
    content = without_clashes(document, in_frame(content, document.frame))
    for picture in edit.pictures:
        has_picture(document, picture)
    for dial, value in edit.dials.items():
        if dial not in content.record.dials or not content.record.dials[dial].takes(value):
            raise refused("edit.value", f"dials.{dial}", "There is no such dial in this template, or it cannot stand there.")
    asked = {k for k in edit.scenes if scene_of(document, k)}
    chosen = [k for k, _ in in_order(document.scenes) if k in asked]
    shown = [(k, layer.media) for k in chosen for _, layer in photos_of(document.scenes[k]) if not document.media[layer.media].placeholder]
    pictures = [*(media for _, media in shown), *edit.pictures]
    said = [(k, text) for k in chosen for text in _words_of(document.scenes[k])]
    words = [text for _, text in said]
    casts = cast(content, len(pictures), len(words), edit.seed)
    uses = {use.use for k in chosen if (use := document.scenes[k].template) is not None}
    document, template = with_template(document, content, edit.key)
    places = _places(casts, [k for k, _ in shown], chosen)
    made = _made_of(document, content, casts, places, edit, template)
    # What found no place stays where it is: scenes go that have nothing left of their own.
    held = [(k, n in {i for one in casts for i in one.pictures.values()}) for n, (k, _) in enumerate(shown)]
    held += [(k, n in {i for one in casts for i in one.words.values()}) for n, (k, _) in enumerate(said)]
    left = {k for k, placed in held if not placed}
    gone = dict.fromkeys(k for k in chosen if k not in made and k not in left)
    document = with_resources(document, content)
    document = settled_scenes(with_scenes(document, {**gone, **made}), list(made))
    fills = {key: _fills(document.scenes[key], content, one, pictures, words) for key, one in zip(made, casts, strict=True)}
    document = handed_on(filled_scenes(document, content.record, fills), uses, content.record, edit.id)
    return without_unused(tidied(document))


def _fills(scene: Scene, content: TemplateContent, one: Cast, pictures: list[str], words: list[str]) -> Fills:
    """What goes into each zone of a scene: nothing into those of pictures that have none; those of texts keep what the template says."""
    given = {z: pictures[i] for z, i in one.pictures.items()} | {z: words[i] for z, i in one.words.items()}
    return {**{z: None for z in zones_in(scene, content.record) if content.record.zones[z].takes in PICTURED}, **given}


def _words_of(scene: Scene) -> list[str]:
    return [written(layer.text) for _, layer in in_order(scene.layers) if isinstance(layer, TextLayer)]


def _places(casts: tuple[Cast, ...], owners: list[str], chosen: list[str]) -> list[str | None]:
    """Which of the chosen scenes each new one takes the place of: that of its first picture, if none has yet; else None."""
    places: list[str | None] = []
    free = list(chosen)
    for one in casts:
        first = min(one.pictures.values(), default=None)
        own = owners[first] if first is not None and first < len(owners) else None
        place = own if own in free else None
        if first is None and free and not owners:
            # Scenes without pictures: of texts alone.
            place = free[0]
        if place is not None:
            free.remove(place)
        places.append(place)
    return places


KEPT = ("name", "hold", "join", "fade_in", "fade_out")
"""Of a scene that a template is put on, what stays its own."""

KEPT_IN_FILMS = ("name",)
"""The same where the template is a whole film, which has its own pace."""


def _made_of(document: Document, content: TemplateContent, casts: tuple[Cast, ...], places: list[str | None], edit: PutOn, template: str) -> dict[str, Scene]:
    """The scenes by id, in order, their zones not filled yet."""
    ids = [place or f"{edit.id}-{n + 1}" for n, place in enumerate(places)]
    fresh({**document.scenes, **document.groups}, (k for k, place in zip(ids, places, strict=True) if place is None), "scenes")
    orders = _orders(document, places, edit.before)
    made = {}
    for key, place, order, one in zip(ids, places, orders, casts, strict=True):
        base = content.document.scenes[one.part]
        use = TemplateUse(template=template, part=one.part, use=edit.id, round=one.round, dials=edit.dials)
        update: dict[str, Any] = {"order": order, "template": use}
        if place is not None:
            was = document.scenes[place]
            update |= {name: getattr(was, name) for name in (KEPT_IN_FILMS if content.record.kind == "film" else KEPT)}
        made[key] = base.model_copy(update=update)
    return made


def _orders(document: Document, places: list[str | None], before: str | None) -> list[str]:
    """Order keys of the scenes: of those that take another's place, its own; the rest stand behind the one before them, or at `before`."""
    orders = [""] * len(places)
    listed = sorted(scene.order for scene in document.scenes.values())
    run: list[int] = []

    def close(low: str | None, high: str | None) -> None:
        if run:
            for at, order in zip(run, order_keys_between(low, high, len(run)), strict=True):
                orders[at] = order
            run.clear()

    last: str | None = None
    for index, place in enumerate(places):
        if place is None:
            run.append(index)
            continue
        order = document.scenes[place].order
        low = last if last is not None else max((o for o in listed if o < order), default=None)
        close(low, order if last is None else min((o for o in listed if o > last), default=None))
        orders[index] = last = order
    if run and last is None:
        for at, order in zip(run, orders_before(document.scenes, before, len(run)), strict=True):
            orders[at] = order
    elif run:
        close(last, min((o for o in listed if last is not None and o > last), default=None))
    return orders


def with_template(document: Document, content: TemplateContent, key: str) -> tuple[Document, str]:
    """The document with the template's record, and its id there: the one it has already, if it has it."""
    for name, known in document.templates.items():
        if known.origin is not None and known.origin.key == key:
            return document, name
    name = content.id if content.id not in document.templates else f"{content.id[:47]}-{key[:16]}"
    record = content.record.model_copy(update={"origin": Origin(id=content.id, version=content.version, key=key)})
    return document.model_copy(update={"templates": {**document.templates, name: record}}), name


def with_resources(document: Document, content: TemplateContent) -> Document:
    """The document with what the template's scenes name: moves, fonts, shared groups and pictures, by the ids they have there."""
    update: dict[str, Any] = {}
    for name in ("moves", "fonts", "groups"):
        own, brought = getattr(document, name), getattr(content.document, name)
        if missing := {k: v for k, v in brought.items() if k not in own}:
            update[name] = {**own, **missing}
    media: dict[str, Media] = dict(document.media)
    for key, picture in in_order(content.document.media):
        if key not in media:
            last = max((m.order for m in media.values()), default=None)
            media[key] = picture.model_copy(update={"order": order_keys_between(last, None, 1)[0]})
    return document.model_copy(update={**update, "media": media})


def made_by(document: Document, content: TemplateContent, uses: Mapping[str, TemplateUse], fills: Mapping[str, Fills]) -> Document:
    """The document with scenes as a template that it knows makes them by itself, with what is said in their zones."""
    made = {k: content.document.scenes[use.part].model_copy(update={"template": use}) for k, use in uses.items()}
    document = with_scenes(with_resources(document, content), made)
    return filled_scenes(settled_scenes(document, list(made)), content.record, {k: fills.get(k, {}) for k in made})


def settled_scenes(document: Document, scenes: list[str]) -> Document:
    """The document with what follows dials in these scenes as those stand."""
    alone = document.model_copy(update={"scenes": {k: document.scenes[k] for k in scenes}})
    return document.model_copy(update={"scenes": {**document.scenes, **settled(alone).scenes}})


class FillZones(Edit):
    """Zones of a scene filled with pictures (by id) or words; null empties one. What else shows them in the same turn of its template follows."""

    scene: Id
    fills: dict[Id, Annotated[str, Field(max_length=10_000)] | None] = Field(min_length=1, max_length=500)


def fill_zones(document: Document, edit: FillZones) -> Document:
    template = _template_of(document, edit.scene)
    for zone, what in edit.fills.items():
        if zone not in template.zones:
            raise refused("edit.no_zone", f"scenes.{edit.scene}", "There is no such zone in this scene's template.")
        if what is not None and template.zones[zone].takes in PICTURED:
            has_picture(document, what)
        if what is not None and template.zones[zone].takes == "song" and what not in document.sounds:
            raise refused("edit.no_sound", f"scenes.{edit.scene}", "There is no such sound in this project; it may have been removed.")
    return filled_zones(document, edit.scene, edit.fills)


class ZoneRef(Edit):
    scene: Id
    zone: Id


class SwapZones(Edit):
    """What is in one zone goes into another, and the other way round."""

    first: ZoneRef
    second: ZoneRef


def swap_zones(document: Document, edit: SwapZones) -> Document:
    held, kinds = [], []
    for ref in (edit.first, edit.second):
        template = _template_of(document, ref.scene)
        if ref.zone not in template.zones:
            raise refused("edit.no_zone", f"scenes.{ref.scene}", "There is no such zone in this scene's template.")
        takes = template.zones[ref.zone].takes
        kinds.append(takes if takes in ("text", "song") else "picture")
        held.append(fill_of(document, document.scenes[ref.scene], ref.zone))
    if kinds[0] != kinds[1]:
        raise refused("edit.kind", f"scenes.{edit.second.scene}", "Only two pictures, two texts or two songs can change places.")
    document = filled_zones(document, edit.first.scene, {edit.first.zone: held[1]})
    return filled_zones(document, edit.second.scene, {edit.second.zone: held[0]})


class TurnDials(Edit):
    """Dials of the templates that scenes use, turned; null: back to its default. `apart`: for these scenes alone, which are a use of their own
    from now on; else for every scene of the same uses."""

    scenes: list[Id] = Field(min_length=1, max_length=5000)
    dials: dict[Id, DialValue | None] = Field(min_length=1, max_length=200)
    apart: Id | None = None


def turn_dials(document: Document, edit: TurnDials) -> Document:
    if edit.apart is not None:
        apart = {k: _used(document, k).model_copy(update={"use": edit.apart}) for k in edit.scenes}
        document = with_scenes(document, {k: document.scenes[k].model_copy(update={"template": use}) for k, use in apart.items()})
    done: set[str] = set()
    for key in edit.scenes:
        template, use = _template_of(document, key), _used(document, key)
        if use.use in done:
            continue
        done.add(use.use)
        turned: dict[str, DialValue] = {}
        for dial, value in edit.dials.items():
            if dial not in template.dials:
                raise refused("edit.no_dial", f"scenes.{key}", "There is no such dial in this scene's template.")
            turned[dial] = template.dials[dial].default if value is None else value
            if not template.dials[dial].takes(turned[dial]):
                raise refused("edit.value", f"scenes.{key}.dials.{dial}", f"“{template.dials[dial].name}” cannot stand there.")
        document = with_dials(document, key, turned)
    return document


class FreeScenes(Edit):
    """Scenes go on as they are, made by hand from now on: no template's zones, dials and rules apply to them."""

    scenes: list[Id] = Field(min_length=1, max_length=5000)


def free_scenes(document: Document, edit: FreeScenes) -> Document:
    freed: dict[str, Scene | None] = {}
    for key in edit.scenes:
        scene = scene_of(document, key)
        if scene.template is None:
            continue
        layers = {k: _freed(layer) for k, layer in scene.layers.items()}
        hold = resolved_hold(document, scene)
        keeps = document.defaults.hold if scene.hold is None else scene.hold
        update = {"template": None, "backdrop_zone": None, "layers": layers, "links": _without_dials(scene.links)}
        freed[key] = scene.model_copy(update={**update, **({} if hold == keeps else {"hold": hold})})
    return without_unused(without_zones(with_scenes(document, freed)))


def without_unused(document: Document) -> Document:
    """The document without templates from elsewhere that no scene uses any more."""
    used = {scene.template.template for scene in document.scenes.values() if scene.template}
    kept = {k: t for k, t in document.templates.items() if k in used or t.origin is None}
    return document if len(kept) == len(document.templates) else document.model_copy(update={"templates": kept})


def _freed(layer: Layer) -> Layer:
    update: dict[str, Any] = {"links": _without_dials(layer.links)}
    if zone_of(layer) is not None:
        update["zone"] = None
    return layer.model_copy(update=update)


def _without_dials(links: Mapping[str, Any]) -> dict[str, Any]:
    return {k: link for k, link in links.items() if link.source != "dial"}


def _used(document: Document, scene: str) -> TemplateUse:
    use = scene_of(document, scene).template
    if use is None:
        raise refused("edit.no_template", f"scenes.{scene}", "This scene is made by hand: no template is on it.")
    return use


def _template_of(document: Document, scene: str) -> Template:
    return document.templates[_used(document, scene).template]


TEMPLATE_EDITS = (
    EditSpec("put_on", "Put on a template", PutOn, put_on),
    EditSpec("fill_zones", "Fill a zone", FillZones, fill_zones),
    EditSpec("swap_zones", "Swap zones", SwapZones, swap_zones),
    EditSpec("turn_dials", "Turn a dial", TurnDials, turn_dials),
    EditSpec("free_scenes", "Free from a template", FreeScenes, free_scenes),
)
