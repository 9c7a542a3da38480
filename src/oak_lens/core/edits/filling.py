"""Edits of a film that is made of templates as a whole: which ones it is made of, which picture goes where, where dials of one name stand."""

from typing import Annotated

from pydantic import Field

from ..document import DialKind, DialValue, Document, in_order, with_dials
from ..document.records import Id
from ..templates import (
    DealtBy,
    FilmDial,
    TemplateContent,
    dealt,
    filled_film,
    filled_in_order,
    film_dials,
    film_zones,
    handed_on,
    repeating,
    seats,
    shelved,
    standing,
    tidied,
)
from .pouring import poured
from .registry import Edit, EditSpec, has_picture, refused, with_scenes
from .templates import Key, PutOn, put_content_on, without_unused

FilmId = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]


class ComposeFilm(Edit):
    """Makes the film of templates, one after another, such as an opening, a body and a closing. Pictures and words that its drop zones hold now, and
    `pictures` besides, go into those of the new ones, and so do songs; dials of one name stand alike. Scenes that no template made stay.
    `id` names this use, and with numbers behind it the new scenes."""

    keys: list[Key] = Field(min_length=1, max_length=8)
    id: FilmId
    pictures: list[Id] = Field(default_factory=list, max_length=5000)
    seed: int = Field(1, ge=0, le=9999)


def compose_film(document: Document, edit: ComposeFilm) -> Document:
    contents = [shelved(key) for key in edit.keys]
    known = [content for content in contents if content is not None]
    if len(known) != len(contents):
        raise refused("edit.no_template", "keys", "This template is not in the library any more. Open its file again, or choose another.")
    for picture in edit.pictures:
        has_picture(document, picture)
    zones = film_zones(document)
    pictures = list(dict.fromkeys([*(z.held for z in zones if z.pictured and z.held and not z.by_hand), *edit.pictures]))
    words = [z.held for z in zones if z.zone.takes == "text" and z.held and not z.plain]
    turned = {(d.name.casefold(), d.kind): d.value for d in film_dials(document) if d.value != d.dial.default}
    old = [k for k, scene in in_order(document.scenes) if scene.template is not None]
    listed = [k for k, _ in in_order(document.scenes)]
    before = next((k for k in listed[listed.index(old[0]) :] if k not in old), None) if old else None
    uses = list(dict.fromkeys(z.use for z in zones))
    document = with_scenes(document, dict.fromkeys(old))
    for number, (content, key, count) in enumerate(zip(known, edit.keys, _allotted(known, len(pictures)), strict=True)):
        own, pictures = pictures[:count], pictures[count:]
        put = PutOn(key=key, id=f"{edit.id}-{number + 1}", pictures=own, before=before, seed=edit.seed)
        document = put_content_on(document, content, put)
        document = handed_on(document, uses, content.record, put.id)
    document = _worded(document, [f"{edit.id}-{n + 1}" for n in range(len(known))], words)
    return without_unused(tidied(_joined(document, turned, _lead(known))))


def _allotted(contents: list[TemplateContent], pictures: int) -> list[int]:
    """How many of the pictures go into each of the templates: what comes once takes what it has zones for, what repeats the rest; where nothing does,
    what is left over stays on the contact sheet."""
    room = [None if repeating(c) else len(filled_in_order(c)) for c in contents]
    spoken = [0] * len(contents)
    for index, places in enumerate(room):
        if places is not None:
            spoken[index] = min(places, pictures - sum(spoken))
    left = pictures - sum(spoken)
    goes_on = [i for i, places in enumerate(room) if places is None]
    for turn, index in enumerate(goes_on):
        # Where several go on, each has its share.
        share = left // (len(goes_on) - turn)
        spoken[index], left = share, left - share
    return spoken


def _lead(contents: list[TemplateContent]) -> int:
    """The template whose dials the others follow at first: the one that goes on for as long as there are pictures."""
    return next((i for i, c in enumerate(contents) if repeating(c)), 0)


def _worded(document: Document, uses: list[str], words: list[str]) -> Document:
    """The document with words in the zones of texts of some uses, in the order of the film."""
    free = [z for z in film_zones(document) if z.use in uses and z.zone.takes == "text"]
    return filled_film(document, [(zone.scene, zone.id, said) for zone, said in zip(free, words, strict=False)])


def _joined(document: Document, turned: dict[tuple[str, DialKind], DialValue], lead: int) -> Document:
    """The document in which dials of one name stand alike: where they were turned to before, else where those of the leading use stand."""
    for dial in film_dials(document):
        name = (dial.name.casefold(), dial.kind)
        value = turned.get(name)
        if value is None and len(dial.turns) > 1:
            leading = next((t for t in dial.turns if _number(document, t[0]) == lead), dial.turns[0])
            value = _stands_at(document, *leading)
        if value is not None:
            document = _turned(document, dial, value)
    return document


def _number(document: Document, scene: str) -> int:
    """Of which of the templates a scene is, from 0, by the name of its use."""
    use = document.scenes[scene].template
    return int(use.use.rpartition("-")[2]) - 1 if use and use.use.rpartition("-")[2].isdigit() else -1


def _stands_at(document: Document, scene: str, dial: str) -> DialValue:
    use = document.scenes[scene].template
    assert use is not None
    return use.dials.get(dial, document.templates[use.template].dials[dial].default)


def _turned(document: Document, dial: FilmDial, value: DialValue | None) -> Document:
    """The document with a dial turned in all templates; None: each back to its default."""
    for scene, id in dial.turns:
        use = document.scenes[scene].template
        assert use is not None
        own = document.templates[use.template].dials[id]
        at = own.default if value is None else standing(own, value)
        if at is not None:
            document = with_dials(document, scene, {id: at})
    return document


class DialTurn(Edit):
    """Dials of a name and kind, turned to `value`; None: each back to its default."""

    name: Annotated[str, Field(min_length=1, max_length=100)]
    kind: DialKind
    value: DialValue | None


class TurnFilmDials(Edit):
    """Dials turned in all templates that a film is made of, those of one name and kind as one."""

    turns: list[DialTurn] = Field(min_length=1, max_length=200)


def turn_film_dials(document: Document, edit: TurnFilmDials) -> Document:
    for turn in edit.turns:
        dial = next((d for d in film_dials(document) if (d.name.casefold(), d.kind) == (turn.name.casefold(), turn.kind)), None)
        if dial is None:
            raise refused("edit.no_dial", "turns", f"No template of this film has a dial “{turn.name}”.")
        if turn.value is not None and not dial.dial.takes(turn.value):
            raise refused("edit.value", "turns", f"“{dial.name}” cannot stand there.")
        document = _turned(document, dial, turn.value)
    return document


class DealPictures(Edit):
    """All pictures in the zones of a film dealt anew, and `pictures` besides: by the order of the contact sheet, as they were taken, by which zones they
    suit, or by chance. Zones fill from the first on, those of scenes that come once before all others; what finds none gets scenes more of what repeats, named by `id`, or where nothing does stays on
    the contact sheet."""

    by: DealtBy = "order"
    seed: int = Field(1, ge=0, le=9999)
    pictures: list[Id] = Field(default_factory=list, max_length=5000)
    id: FilmId


def deal_pictures(document: Document, edit: DealPictures) -> Document:
    for picture in edit.pictures:
        has_picture(document, picture)
    held = [z.held for z in film_zones(document) if z.pictured and not z.by_hand and z.held]
    new = [k for k in dict.fromkeys(edit.pictures) if k not in held]
    if new:
        document = poured(document, new, edit.id, partly=True)
    zones = [z for z in film_zones(document) if z.pictured and not z.by_hand]
    given = {z.held for z in zones if z.held}
    if not given:
        raise refused("edit.no_template", "", "There are no pictures in drop zones to deal. Choose a template and add pictures first.")
    ordered = [(k, media) for k, media in in_order(document.media) if k in given]
    taken = seats([z.round for z in zones], len(ordered))
    order = dealt(ordered, [zones[i].zone.shape for i in taken], edit.by, edit.seed)
    wanted: dict[int, str] = dict(zip(taken, order, strict=True))
    return filled_film(document, [(z.scene, z.id, wanted.get(i)) for i, z in enumerate(zones) if wanted.get(i) != z.held])


class NameFilm(Edit):
    """The film's title; what said the old one says the new one, and so does else the first text that is still the template's."""

    title: Annotated[str, Field(min_length=1, max_length=200)]


def name_film(document: Document, edit: NameFilm) -> Document:
    named = next((z for z in film_zones(document) if z.zone.takes == "text" and z.plain), None)
    said = next((z for z in film_zones(document) if z.zone.takes == "text" and z.held == document.title), named)
    if said is not None:
        document = filled_film(document, [(said.scene, said.id, edit.title)])
    return document.model_copy(update={"title": edit.title})


FILLING_EDITS = (
    EditSpec("compose_film", "Make the film of templates", ComposeFilm, compose_film),
    EditSpec("turn_film_dials", "Turn dials", TurnFilmDials, turn_film_dials),
    EditSpec("name_film", "Name the film", NameFilm, name_film),
    EditSpec("deal_pictures", "Deal the pictures", DealPictures, deal_pictures),
)
