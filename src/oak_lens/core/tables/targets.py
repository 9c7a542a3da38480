"""What columns of a table may say of a film: its title, what it tells of itself, its fields, its drop zones, its dials; and which column says what."""

import re
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..document import Dial, Document, in_order
from ..templates import FilmDial, FilmZone, film_dials, film_zones

TargetKind = Literal["title", "detail", "field", "text", "picture", "pictures", "song", "dial"]


@dataclass(frozen=True, slots=True)
class Target:
    """`id` is the same as long as the film has it; `about`: what a cell is to hold."""

    id: str
    label: str
    kind: TargetKind
    about: str
    zone: FilmZone | None = None
    dial: FilmDial | None = None


DETAILS = {"author": "Author", "place": "Place", "date": "Date", "rights": "Rights"}


def targets_of(document: Document) -> tuple[Target, ...]:
    """All that a table may say of a film, what differs most between films first."""
    zones = film_zones(document)
    names = [zone.zone.name or f"Zone {zone.number}" for zone in zones]
    places = {k: n + 1 for n, (k, _) in enumerate(in_order(document.scenes))}
    found: list[Target] = []
    for zone, name in zip(zones, names, strict=True):
        label = name if names.count(name) == 1 else f"{name} (scene {places[zone.scene]})"
        id = f"{zone.use}:{zone.round}:{zone.id}"
        if zone.zone.takes == "text":
            found.append(Target(f"text:{id}", label, "text", "words", zone))
        elif zone.zone.takes == "song":
            found.append(Target(f"song:{id}", label, "song", "the name of a song of the project", zone))
        else:
            found.append(Target(f"picture:{id}", label, "picture", "the name of a picture", zone))
    if any(zone.pictured for zone in zones):
        found.append(Target("pictures", "Pictures, in order", "pictures", "names of pictures, separated by ; or |"))
    found.append(Target("title", "Title of the project", "title", "words"))
    found += [Target(f"detail:{id}", label, "detail", "words") for id, label in DETAILS.items()]
    found += [Target(f"detail:own:{id}", detail.name, "detail", "words") for id, detail in sorted(document.details.own.items())]
    found += [Target(f"field:{id}", field.name, "field", "a colour as #rrggbb" if isinstance(field.value, str) else "a number") for id, field in sorted(document.fields.items())]
    found += [Target(f"dial:{d.kind}:{d.name.casefold()}", d.name, "dial", about_dial(d.dial), dial=d) for d in film_dials(document)]
    return tuple(found)


def about_dial(dial: Dial) -> str:
    """What a cell says that turns a dial."""
    if dial.kind == "amount":
        return f"a number from {dial.minimum / dial.scale:g} to {dial.maximum / dial.scale:g}{dial.unit and ' ' + dial.unit}"
    if dial.kind == "choice":
        return "one of: " + ", ".join(c.label for c in dial.choices)
    return {"colour": "a colour as #rrggbb", "switch": "yes or no", "face": "the name of a typeface", "seed": "a whole number"}.get(dial.kind, "words")


def matched(columns: Sequence[str], targets: Sequence[Target], before: Mapping[str, str] | None = None) -> dict[str, str]:
    """Which target each column is for, by their names; none is for two columns. What was said `before` of columns that are still there stays."""
    ids = {target.id for target in targets}
    found = {c: t for c, t in (before or {}).items() if c in columns and (t in ids or not t)}
    taken = set(found.values())
    for alike in (_same, _within):
        for column in columns:
            if column in found:
                continue
            target = next((t for t in targets if t.id not in taken and alike(_plain(column), _plain(t.label))), None)
            if target is not None:
                found[column] = target.id
                taken.add(target.id)
    return {c: found.get(c, "") for c in columns}


def _same(column: str, label: str) -> bool:
    return column == label or (column == "pictures" and label == "pictures in order")


def _within(column: str, label: str) -> bool:
    """Whether one holds all words of the other."""
    a, b = set(column.split()), set(label.split())
    return bool(a and b) and (a <= b or b <= a)


def _plain(name: str) -> str:
    """Letters and digits alone, without case and accents: names that people would call the same."""
    bare = "".join(c for c in unicodedata.normalize("NFKD", name) if not unicodedata.combining(c))
    return re.sub(r"[\W_]+", " ", bare.casefold()).strip()
