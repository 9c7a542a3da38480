"""Pictures into a film that a template makes: into what is empty first, and then into as many scenes more as they take."""

from pydantic import Field

from ..document import Document, TemplateUse, in_order, order_keys_between
from ..document.records import Id
from ..errors import InvalidEdit
from ..templates import (
    PICTURED,
    Fills,
    TemplateContent,
    cast_more,
    empty_zones,
    extracted,
    filled_film,
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
    """Pictures go into the empty zones of templates' scenes, in the order of the film; those that find none get scenes more of the stretch that
    repeats, before what ends the film. `use`: of which use of a template, None all of the film. `partly`: what finds no place stays on the contact
    sheet; else it is refused. `id` names the new scenes, with a number behind it."""

    pictures: list[Id] = Field(min_length=1, max_length=5000)
    id: Id = Field(max_length=50)
    use: Id | None = None
    partly: bool = False


def pour_pictures(document: Document, edit: PourPictures) -> Document:
    for picture in edit.pictures:
        has_picture(document, picture)
    return poured(document, edit.pictures, edit.id, edit.use, edit.partly)


def poured(document: Document, pictures: list[str], id: str, use: str | None = None, partly: bool = False) -> Document:
    """The document with pictures poured into what templates made. Raises InvalidEdit where none did, or not all find a place, unless it may be done `partly`."""
    on = use or _going_on(document)
    if on is None or not scenes_of_use(document, on):
        raise refused("edit.no_template", "use", "No scene of this film is made by a template. Treat some with one first.")
    empty = empty_zones(document, use)
    document = filled_film(document, [(zone.scene, zone.id, picture) for zone, picture in zip(empty, pictures, strict=False)])
    left = pictures[len(empty) :]
    if not left:
        return document
    try:
        return _with_more(document, on, left, id)
    except InvalidEdit:
        if not partly:
            raise
        return document


def _going_on(document: Document) -> str | None:
    """The use of a template that goes on for pictures that find no place: one that repeats, and of those the one of the most scenes."""
    uses: dict[str, list[TemplateUse]] = {}
    for _, scene in in_order(document.scenes):
        if scene.template is not None:
            uses.setdefault(scene.template.use, []).append(scene.template)
    return max(uses, key=lambda use: (any(made.round > 0 for made in uses[use]), len(uses[use])), default=None)


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
