"""Which pictures and words go into which scenes of a template: opening and closing scenes once, a stretch that repeats as often as it takes."""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from ..document import Template, Zone
from .content import TemplateContent, zones_in

PICTURED = ("picture", "clip", "cutout", "logo")


@dataclass(frozen=True, slots=True)
class Cast:
    """One scene to be made: by which of the template's (`part`), and by index into what was given, what goes into its zones. `round`: 0 where
    the scene comes once; else which turn of the stretch that repeats, from 1."""

    part: str
    round: int = 0
    pictures: dict[str, int] = field(default_factory=dict)
    words: dict[str, int] = field(default_factory=dict)


def filled_in_order(content: TemplateContent) -> list[tuple[str, Zone]]:
    """The zones that pictures go into by themselves. A logo is no picture like others: it is put in by hand, unless there is nothing else to fill."""
    pictured = content.zones(*PICTURED)
    return [(k, zone) for k, zone in pictured if zone.takes != "logo"] or pictured


@dataclass(frozen=True, slots=True)
class _Part:
    id: str
    pictures: tuple[str, ...]
    words: tuple[str, ...]
    least: int
    repeats: bool
    optional: bool


def cast(content: TemplateContent, pictures: int, words: int = 0, seed: int = 1) -> tuple[Cast, ...]:
    """The scenes that so many pictures and texts come to, in order. A template in which nothing repeats and that is a treatment repeats as a
    whole; with no pictures it comes once, empty."""
    parts = [_part(content, k) for k, _ in content.parts]
    stretch = _stretch(parts, content.record)
    first = next((i for i, p in enumerate(parts) if p in stretch), len(parts))
    head, tail = parts[:first], [p for p in parts[first:] if p not in stretch]
    # Those at the end have theirs before the stretch has any; those that come once and find none are left out where they may be.
    taken: dict[str, int] = {}
    ahead, rest = _once(head, taken, 0, pictures)
    behind, end = _once(tail, taken, rest, pictures)
    spared = pictures - end <= 0 and bool(ahead or behind) and all(p.optional for p in stretch)
    body = _turns(stretch, pictures - end, content.record, seed) if stretch and not spared else []
    given = _given_words([*ahead, *(p for p, _ in body), *behind], words)
    made: list[Cast] = []
    at = rest
    for number, part in enumerate(ahead):
        made.append(Cast(part.id, 0, {z: taken[z] for z in part.pictures if z in taken}, given[number]))
    for number, (part, count) in enumerate(body):
        made.append(Cast(part.id, number + 1, {z: at + i for i, z in enumerate(part.pictures[:count])}, given[len(ahead) + number]))
        at += count
    for number, part in enumerate(behind):
        # What it shares with the beginning it shows again; its own come after those of the stretch.
        own = {z: taken[z] if taken[z] < rest else taken[z] - rest + at for z in part.pictures if z in taken}
        made.append(Cast(part.id, 0, own, given[len(ahead) + len(body) + number]))
    return tuple(made)


def cast_more(content: TemplateContent, pictures: int, made: int = 0, seed: int = 1) -> tuple[Cast, ...]:
    """The scenes of the stretch that repeats that so many pictures more come to, where it was gone through `made` times already; none where
    nothing repeats."""
    stretch = _stretch([_part(content, k) for k, _ in content.parts], content.record)
    able = [p for p in stretch if p.pictures]
    if not able or pictures <= 0:
        return ()
    usual = [p for p in able if not p.optional] or able
    turned = [p for p in stretch if p not in usual] + usual[made % len(usual) :] + usual[: made % len(usual)]
    found, at = [], 0
    for number, (part, count) in enumerate(_turns(turned, pictures, content.record, seed)):
        found.append(Cast(part.id, made + number + 1, {z: at + i for i, z in enumerate(part.pictures[:count])}))
        at += count
    return tuple(found)


def repeating(content: TemplateContent) -> bool:
    """Whether a template takes any number of pictures."""
    return any(p.pictures for p in _stretch([_part(content, k) for k, _ in content.parts], content.record))


def _stretch(parts: Sequence[_Part], template: Template) -> list[_Part]:
    """The scenes that repeat: those that say so, or all of a treatment that have pictures."""
    stretch = [p for p in parts if p.repeats]
    if not stretch and template.kind == "treatment":
        stretch = [p for p in parts if p.pictures] or list(parts)
    return stretch


def left_over(casts: Sequence[Cast], pictures: int) -> list[int]:
    """Indexes of the pictures that go nowhere."""
    used = {i for c in casts for i in c.pictures.values()}
    return [i for i in range(pictures) if i not in used]


def _part(content: TemplateContent, scene: str) -> _Part:
    template, rule = content.record, content.record.scenes[scene]
    shown = [(z, template.zones[z]) for z in zones_in(content.document.scenes[scene], template)]
    pictured = tuple(z for z, zone in shown if zone.takes in PICTURED)
    pictured = tuple(z for z in pictured if z in dict(filled_in_order(content)))
    least = sum(template.zones[z].required for z in pictured)
    return _Part(scene, pictured, tuple(z for z, zone in shown if zone.takes == "text"), least, rule.repeats, rule.optional)


def _once(parts: Sequence[_Part], taken: dict[str, int], at: int, pictures: int) -> tuple[list[_Part], int]:
    """Those of the scenes that come once which are made, and the index of the first picture after theirs."""
    made = []
    for part in parts:
        new = [z for z in part.pictures if z not in taken]
        if part.optional and part.least > 0 and at + min(part.least, len(new)) > pictures:
            continue
        for zone in new[: max(pictures - at, 0)]:
            taken[zone] = at
            at += 1
        made.append(part)
    return made, at


def _turns(stretch: Sequence[_Part], pictures: int, template: Template, seed: int) -> list[tuple[_Part, int]]:
    """(scene, how many pictures it has) for each turn: scenes in turn, or by chance and never twice running; those that are optional only for what
    the others leave over, so that no picture stands alone where two could share."""
    if pictures <= 0 or not any(p.pictures for p in stretch):
        return [(stretch[0], 0)]
    chance = np.random.default_rng(seed)
    able = [p for p in stretch if p.pictures]
    usual = [p for p in able if not p.optional] or able
    found: list[tuple[_Part, int]] = []
    while pictures > 0:
        if template.varies == "seed":
            others = [p for p in usual if not found or p is not found[-1][0]] or usual
            part = others[int(chance.integers(len(others)))]
        else:
            part = usual[len(found) % len(usual)]
        part = _suiting(part, able, pictures)
        count = min(len(part.pictures), pictures)
        found.append((part, count))
        pictures -= count
    return found


def _suiting(part: _Part, able: Sequence[_Part], pictures: int) -> _Part:
    """The scene whose turn it is, or one that suits what is left better: it would stand half empty, or leave a single picture over."""
    count = min(len(part.pictures), pictures)
    if part.least > pictures:
        fitting = [p for p in able if p.least <= pictures]
        return max(fitting, key=lambda p: min(len(p.pictures), pictures)) if fitting else min(able, key=lambda p: p.least)
    if pictures - count == 1 and count > 2:
        return next((p for p in able if len(p.pictures) == count - 1), part)
    return part


def _given_words(parts: Sequence[_Part], words: int) -> list[dict[str, int]]:
    """Texts in order, each zone of a text one; zones seen again say the same where scenes come once."""
    given: list[dict[str, int]] = []
    at = 0
    for part in parts:
        own = {zone: at + i for i, zone in enumerate(part.words) if at + i < words}
        at += len(own)
        given.append(own)
    return given
