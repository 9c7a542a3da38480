"""A film made of templates as a whole: its drop zones in the order in which they are seen, and its dials, those of one name as one."""

from collections.abc import Iterable
from dataclasses import dataclass

from ..document import Dial, DialKind, DialValue, Document, Scene, Template, Zone, in_order
from .casting import PICTURED
from .content import TemplateContent, zones_in
from .shelf import shelved
from .songs import scenes_of_use
from .zones import fill_of, shown_media


@dataclass(frozen=True, slots=True)
class FilmZone:
    """A drop zone of a film, where it is seen first. `number`: that of its template; `held`: the id of a picture or sound, words, None where it is
    empty; `plain`: words that are still those of the template; `by_hand`: no picture goes into it by itself."""

    scene: str
    id: str
    use: str
    round: int
    number: int
    zone: Zone
    held: str | None
    plain: bool = False
    by_hand: bool = False

    @property
    def pictured(self) -> bool:
        return self.zone.takes in PICTURED


def film_zones(document: Document, use: str | None = None) -> tuple[FilmZone, ...]:
    """Every drop zone of a film once, or those of one use of a template, in the order in which they are seen; songs come with the first scene of
    their use."""
    found, begun = dict[tuple[str, int, str], FilmZone](), set[str]()
    for key, scene in in_order(document.scenes):
        made = scene.template
        if made is None or (use is not None and made.use != use):
            continue
        template = document.templates[made.template]
        listed = [k for k, _ in in_order(template.zones)]
        logos_alone = all(zone.takes == "logo" for zone in template.zones.values() if zone.takes in PICTURED)
        heard = [] if made.use in begun else [k for k in listed if template.zones[k].takes == "song"]
        begun.add(made.use)
        for id in [*zones_in(scene, template), *heard]:
            zone = template.zones[id]
            # What a turn shows twice it shows alike.
            name = (made.use, made.round, id)
            if name not in found:
                held = fill_of(document, scene, id)
                plain = zone.takes == "text" and held == _own_words(scene, content_of(document, scene), id)
                by_hand = zone.takes == "logo" and not logos_alone
                found[name] = FilmZone(key, id, made.use, made.round, listed.index(id) + 1, zone, held, plain, by_hand)
    return tuple(found.values())


def _own_words(scene: Scene, content: TemplateContent | None, zone: str) -> str | None:
    """What a template itself says in a zone; None where that is not known."""
    part = scene.template.part if scene.template else ""
    return None if content is None or part not in content.document.scenes else fill_of(content.document, content.document.scenes[part], zone)


def content_of(document: Document, scene: Scene) -> TemplateContent | None:
    """The template of the library that made a scene, if it is at hand."""
    origin = document.templates[scene.template.template].origin if scene.template else None
    return None if origin is None else shelved(origin.key)


def empty_zones(document: Document, use: str | None = None) -> list[FilmZone]:
    """The zones of pictures that are empty, of a use of a template or of all, in the order of the film; those of logos only where there are no others."""
    return [z for z in film_zones(document, use) if z.pictured and z.held is None and not z.by_hand]


def spare_scenes(document: Document) -> list[str]:
    """The scenes of templates that show no picture where they could, and that those let go: they repeat, or are optional."""
    filled = {(z.use, z.round) for z in film_zones(document) if z.pictured and z.held is not None}
    empty = dict.fromkeys((z.use, z.round) for z in empty_zones(document))
    spare = []
    for key, scene in in_order(document.scenes):
        use = scene.template
        if use is None or (use.use, use.round) in filled or (use.use, use.round) not in empty:
            continue
        rule = document.templates[use.template].scenes.get(use.part)
        if use.round > 0 or (rule is not None and (rule.repeats or rule.optional)):
            spare.append(key)
    return spare


@dataclass(frozen=True, slots=True)
class FilmDial:
    """Dials of one name and kind in all templates of a film. `dial`: the first of them; `value`: where that stands; `turns`: (a scene of the use, the
    dial's id there) of each."""

    name: str
    kind: DialKind
    dial: Dial
    value: DialValue
    turns: tuple[tuple[str, str], ...]


def film_dials(document: Document) -> tuple[FilmDial, ...]:
    """The dials of a film in the order of its templates."""
    found: dict[tuple[str, str], FilmDial] = {}
    for use in dict.fromkeys(scene.template.use for _, scene in in_order(document.scenes) if scene.template is not None):
        first = scenes_of_use(document, use)[0]
        made = document.scenes[first].template
        assert made is not None
        for key, dial in in_order(document.templates[made.template].dials):
            name = (dial.name.casefold(), dial.kind)
            known = found.get(name)
            if known is None:
                found[name] = FilmDial(dial.name, dial.kind, dial, made.dials.get(key, dial.default), ((first, key),))
            else:
                found[name] = FilmDial(known.name, known.kind, known.dial, known.value, (*known.turns, (first, key)))
    return tuple(found.values())


def standing(dial: Dial, value: DialValue) -> DialValue | None:
    """Where a dial stands that is to stand where another of its name does: an amount no farther than it goes, all else there or not at all."""
    if dial.kind == "amount" and not isinstance(value, bool | str):
        value = min(max(value, dial.minimum), dial.maximum)
    return value if dial.takes(value) else None


def unused_pictures(document: Document) -> list[str]:
    """One's own pictures that no scene shows, in order."""
    shown = shown_media(document)
    return [k for k, media in in_order(document.media) if not media.placeholder and k not in shown]


def zone_fault(document: Document, zone: FilmZone) -> str:
    """A sentence on what is in a zone and does not suit it; empty where all is well."""
    if zone.held is None:
        return ""
    if zone.zone.takes == "text" and zone.zone.most and len(zone.held) > zone.zone.most:
        return f"{len(zone.held)} characters; {zone.zone.most} have room here. Make it shorter, or see whether it still fits."
    if zone.pictured and zone.zone.least:
        media = document.media[zone.held]
        longer = max(media.width, media.height)
        if longer < zone.zone.least:
            return f"{longer} pixels on its longer side; {zone.zone.least} are asked for here. It may look soft: choose a larger one."
    return ""


def templates_used(document: Document) -> tuple[Template, ...]:
    """The templates of a film in the order in which they are seen."""
    ids: Iterable[str] = dict.fromkeys(scene.template.template for _, scene in in_order(document.scenes) if scene.template)
    return tuple(document.templates[k] for k in ids)
