"""Pictures into a film that a template makes: into what is empty first, and then into as many scenes more as they take."""

from pydantic import Field

from ..document import Document, TemplateUse, in_order, order_keys_between, photos_of
from ..document.records import Id
from ..templates import (
    PICTURED,
    Fills,
    TemplateContent,
    cast_more,
    extracted,
    filled_zones,
    handed_on,
    scenes_of_use,
    shelved,
    tidied,
    without_clashes,
    zones_in,
)
from .registry import Edit, EditSpec, fresh, has_picture, refused, with_scenes
from .template_frames import in_frame
from .templates import made_by


class PourPictures(Edit):
    """Pictures go into the empty zones of a template's scenes, in the order of the film; those that find none get scenes more of the stretch that
    repeats, before what ends the film. `use`: of which use of a template, None that with the most empty zones, or else scenes. `id` names the new
    scenes, with a number behind it."""

    pictures: list[Id] = Field(min_length=1, max_length=5000)
    id: Id = Field(max_length=50)
    use: Id | None = None


def pour_pictures(document: Document, edit: PourPictures) -> Document:
    for picture in edit.pictures:
        has_picture(document, picture)
    use = edit.use or _use_to_fill(document)
    scenes = [] if use is None else scenes_of_use(document, use)
    if use is None or not scenes:
        raise refused("edit.no_template", "use", "No scene of this film is made by a template. Treat some with one first.")
    waiting = list(edit.pictures)
    for scene, zone in empty_zones(document, use):
        if not waiting:
            break
        document = filled_zones(document, scene, {zone: waiting.pop(0)})
    return _with_more(document, use, waiting, edit.id) if waiting else document


def empty_zones(document: Document, use: str) -> list[tuple[str, str]]:
    """(scene, zone) of the zones of pictures that are empty in a use of a template, in the order of the film; of logos only where it has no others."""
    found: dict[tuple[int, str], tuple[str, str]] = {}
    for key in scenes_of_use(document, use):
        scene = document.scenes[key]
        assert scene.template is not None
        template = document.templates[scene.template.template]
        pictured = [zone for zone in template.zones.values() if zone.takes in PICTURED]
        by_hand = "logo" if any(zone.takes != "logo" for zone in pictured) else ""
        empty = {p.zone for _, p in photos_of(scene) if document.media[p.media].placeholder}
        if scene.backdrop is not None and scene.backdrop.media is not None and document.media[scene.backdrop.media].placeholder:
            empty.add(scene.backdrop_zone)
        for zone in zones_in(scene, template):
            if zone in empty and template.zones[zone].takes in PICTURED and template.zones[zone].takes != by_hand:
                found.setdefault((scene.template.round, zone), (key, zone))
    return list(found.values())


def _use_to_fill(document: Document) -> str | None:
    """The use with the most empty zones; of those without any, the one of the most scenes, the first of the film."""
    uses = list(dict.fromkeys(scene.template.use for _, scene in in_order(document.scenes) if scene.template is not None))
    return max(uses, key=lambda u: (len(empty_zones(document, u)), len(scenes_of_use(document, u))), default=None)


def _with_more(document: Document, use: str, pictures: list[str], id: str) -> Document:
    """The document with scenes more of what repeats, for pictures that found no place."""
    uses = {k: made for k in scenes_of_use(document, use) if (made := document.scenes[k].template) is not None}
    first = next(iter(uses.values()))
    content = _content_of(document, first)
    casts = () if content is None else cast_more(content, len(pictures), sum(made.round > 0 for made in uses.values()))
    if content is None or not casts:
        raise refused("edit.no_place", "pictures", f"{len(pictures)} pictures find no place: nothing of this template repeats. Put them into scenes of their own.")
    # Behind the last scene that repeats; else behind them all.
    last = [k for k, made in uses.items() if made.round > 0] or list(uses)
    listed = [k for k, _ in in_order(document.scenes)]
    at = listed.index(last[-1])
    behind = document.scenes[listed[at + 1]].order if at + 1 < len(listed) else None
    orders = order_keys_between(document.scenes[last[-1]].order, behind, len(casts))
    ids = [f"{id}-{n + 1}" for n in range(len(casts))]
    fresh({**document.scenes, **document.groups}, ids, "scenes")
    begun = max(made.round for made in uses.values())
    added, fills = dict[str, TemplateUse](), dict[str, Fills]()
    for number, (key, one) in enumerate(zip(ids, casts, strict=True)):
        added[key] = first.model_copy(update={"part": one.part, "round": begun + number + 1})
        empty = dict.fromkeys(z for z in zones_in(content.document.scenes[one.part], content.record) if content.record.zones[z].takes in PICTURED)
        fills[key] = {**empty, **{zone: pictures[index] for zone, index in one.pictures.items()}}
    document = made_by(document, content, added, fills)
    document = with_scenes(document, {k: document.scenes[k].model_copy(update={"order": order}) for k, order in zip(ids, orders, strict=True)})
    return tidied(handed_on(document, [use], content.record, use))


def _content_of(document: Document, use: TemplateUse) -> TemplateContent | None:
    """What a use's template is, in the film's frame, if it is at hand: of one that is made here, as it would be kept."""
    origin = document.templates[use.template].origin
    content = extracted(document, use.template, use.template) if origin is None else shelved(origin.key)
    return None if content is None else without_clashes(document, in_frame(content, document.frame))


POURING_EDITS = (EditSpec("pour_pictures", "Fill the template with pictures", PourPictures, pour_pictures),)
