"""Scenes made by a template made anew by another version of it, or for another frame: what was adjusted by hand stays, all else follows."""

from collections.abc import Mapping
from typing import Annotated, Any

from pydantic import Field, ValidationError

from ..document import Document, Layer, Origin, PhotoLayer, Scene, Template, TemplateUse, TextLayer, in_order, written
from ..document.records import Id
from ..templates import Fills, TemplateContent, fill_of, handed_on, shelved, tidied, without_clashes, zone_of, zones_in
from .registry import Edit, EditSpec, refused, with_scenes
from .template_frames import in_frame
from .templates import made_by, without_unused

Json = Any


class TakeVersion(Edit):
    """Takes over another version of a template that the film uses, `key` of the library: all its scenes are made by that one from now on. Their
    place, name, length and joins, what is in zones, where dials stand and whatever else was changed by hand stay."""

    template: Id
    key: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


def take_version(document: Document, edit: TakeVersion) -> Document:
    record = document.templates.get(edit.template)
    if record is None or record.origin is None:
        raise refused("edit.no_template", f"templates.{edit.template}", "This film uses no such template from the library.")
    content = shelved(edit.key)
    if content is None:
        raise refused("edit.no_template", "key", "This version is not in the library any more. Open its file again.")
    if content.id != record.origin.id:
        raise refused("edit.kind", "key", "This is another template, no version of this one. Treat the scenes with it instead.")
    before = shelved(record.origin.key)
    origin = Origin(id=content.id, version=content.version, key=edit.key)
    old, new = (None if c is None else without_clashes(document, in_frame(c, document.frame)) for c in (before, content))
    assert new is not None
    return renewed(document, document, edit.template, old, new, origin)


def for_frame(before: Document, after: Document) -> Document:
    """`after`, which is `before` in another frame, with scenes of templates that are at hand as those lay them out for it."""
    for key, record in before.templates.items():
        content = None if record.origin is None else shelved(record.origin.key)
        if content is not None:
            old, new = (without_clashes(before, in_frame(content, d.frame)) for d in (before, after))
            after = renewed(before, after, key, old, new, record.origin)
    return after


def renewed(before: Document, after: Document, template: str, old: TemplateContent | None, new: TemplateContent, origin: Origin | None) -> Document:
    """`after` with the scenes of a template as `new` makes them; what differs in `before` from what `old` made of them is as it is in `after`.
    `old` None: nothing is known of it, and nothing but what the scenes hold stays."""
    scenes = {k: s for k, s in in_order(before.scenes) if s.template is not None and s.template.template == template}
    record = new.record.model_copy(update={"origin": origin})
    uses, fills = dict[str, TemplateUse](), dict[str, Fills]()
    for key, scene in scenes.items():
        use = scene.template
        assert use is not None
        part = counterpart(old, new, use.part)
        if part is not None:
            dials = {k: v for k, v in use.dials.items() if k in record.dials and record.dials[k].takes(v)}
            uses[key] = use.model_copy(update={"part": part, "dials": dials})
            fills[key] = _held(before, scene, before.templates[template], old)
    made = {}
    if old is not None:
        alike = {k: scenes[k].template for k in uses}
        made = made_by(before, old, {k: use for k, use in alike.items() if use is not None and use.part in old.document.scenes}, fills).scenes
    after = after.model_copy(update={"templates": {**after.templates, template: record}})
    known = {k: {z: what for z, what in own.items() if _takes_alike(before.templates[template], record, z)} for k, own in fills.items()}
    fresh = made_by(after, new, uses, {k: {**_empty(new, uses[k].part), **own} for k, own in known.items()})
    changed: dict[str, Scene] = {}
    for key in uses:
        was = made.get(key) if old is not None else None
        changed[key] = _merged(was, scenes[key], fresh.scenes[key], after.scenes[key], uses[key])
    # A scene that there is no counterpart of goes on as it is; by hand, if the template knows nothing of it any more.
    gone = [k for k, scene in scenes.items() if k not in uses and scene.template is not None and scene.template.part not in record.scenes]
    freed = {k: after.scenes[k].model_copy(update={"template": None, "backdrop_zone": None}) for k in gone}
    after = with_scenes(fresh, {k: _whole(scene, record) for k, scene in {**changed, **freed}.items()})
    for use_id in dict.fromkeys(use.use for use in uses.values()):
        after = handed_on(after, [use_id], record, use_id)
    return without_unused(tidied(after))


def counterpart(old: TemplateContent | None, new: TemplateContent, part: str) -> str | None:
    """The scene of a template that stands for one of another version or shape: the one of the same name, or at the same place; None: there is none."""
    if part in new.document.scenes:
        return part
    before, after = [] if old is None else [k for k, _ in old.parts], [k for k, _ in new.parts]
    return after[before.index(part)] if part in before and len(before) == len(after) else None


def _held(document: Document, scene: Scene, record: Template, old: TemplateContent | None) -> dict[str, str | None]:
    """What is in the zones of a scene, but for words that the template itself says."""
    own = None if old is None or scene.template is None else old.document.scenes.get(scene.template.part)
    said = {zone_of(x): written(x.text) for x in own.layers.values() if isinstance(x, TextLayer)} if own is not None else {}
    held = {zone: fill_of(document, scene, zone) for zone in zones_in(scene, record)}
    return {zone: what for zone, what in held.items() if record.zones[zone].takes != "text" or said.get(zone) != what}


def _empty(content: TemplateContent, part: str) -> dict[str, None]:
    return {z: None for z in zones_in(content.document.scenes[part], content.record) if content.record.zones[z].takes not in ("text", "song")}


def _takes_alike(old: Template, new: Template, zone: str) -> bool:
    kinds = [None if zone not in t.zones else t.zones[zone].takes if t.zones[zone].takes in ("text", "song") else "picture" for t in (old, new)]
    return kinds[0] == kinds[1]


HELD = ("order", "name", "hold", "join", "fade_in", "fade_out")
"""Of a scene, what is its own wherever it comes from."""


def _merged(made: Scene | None, now: Scene, fresh: Scene, kept: Scene, use: TemplateUse) -> Scene:
    """The scene as it is made afresh, where it is now as it was made, and else as it is kept."""
    own = {"template": use, **{name: getattr(kept, name) for name in HELD}}
    if made is None:
        return fresh.model_copy(update=own)
    was, here, new, stays = (scene.model_dump(mode="json", by_alias=True) for scene in (made, now, fresh, kept))
    try:
        return Scene.model_validate(merged_json(was, here, new, stays)).model_copy(update=own)
    except ValidationError:
        # Parts that do not go together: what was made by hand wins whole.
        return kept.model_copy(update={"template": use})


def merged_json(was: Json, here: Json, new: Json, stays: Json) -> Json:
    """`new` where `here` is as it `was`, else what `stays`, key by key.

    >>> merged_json({"a": 1, "b": 2}, {"a": 5, "b": 2}, {"a": 1, "b": 3, "c": 4}, {"a": 5, "b": 2})
    {'a': 5, 'b': 3, 'c': 4}
    """
    if here == was:
        return new
    parts = (was, here, new, stays)
    if not all(isinstance(p, dict) for p in parts) or len({p.get("kind") for p in parts}) > 1:
        return stays
    found = {}
    for key in dict.fromkeys([*new, *stays]):
        if key in new and key in stays and key in here:
            found[key] = merged_json(was.get(key), here[key], new[key], stays[key])
        elif key in stays and (key not in was or was[key] != here.get(key)):
            found[key] = stays[key]
        elif key in new and key not in was:
            found[key] = new[key]
    return found


def _whole(scene: Scene, record: Template) -> Scene:
    """A scene without zones and dials that its template has none of."""
    dials = record.dials if scene.template is not None else {}

    def known(links: Mapping[str, Any]) -> dict[str, Any]:
        return {k: link for k, link in links.items() if link.source != "dial" or link.id in dials}

    layers: dict[str, Layer] = {}
    for key, layer in scene.layers.items():
        zone = record.zones.get(zone_of(layer) or "") if scene.template is not None else None
        fits = zone is not None and (zone.takes == "text") == isinstance(layer, TextLayer)
        update: dict[str, Any] = {"links": known(layer.links)}
        if isinstance(layer, PhotoLayer | TextLayer) and layer.zone is not None and not fits:
            update["zone"] = None
        layers[key] = layer.model_copy(update=update)
    backdrop = scene.backdrop_zone if scene.backdrop_zone in record.zones else None
    return scene.model_copy(update={"layers": layers, "links": known(scene.links), "backdrop_zone": backdrop})


RENEWING_EDITS = (EditSpec("take_version", "Take over another version", TakeVersion, take_version),)
