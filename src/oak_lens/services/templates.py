"""The library: templates that one has, by their key."""

from dataclasses import dataclass

from ..core.templates import PICTURED, TemplateContent, zones_in
from ..core.treatments import ShippedShelf


@dataclass(frozen=True, slots=True)
class TemplateFacts:
    """A template as it stands in the library. `pictures`, `texts`: how many zones it has of them; `required`: pictures that it asks for; `scenes`:
    how many it has; `repeats`: whether it takes any number of pictures; `length`: ticks its scenes stand."""

    key: str
    id: str
    version: str
    name: str
    kind: str
    about: str
    words: str
    pictures: int
    required: int
    texts: int
    dials: int
    scenes: int
    repeats: bool
    length: int
    shapes: tuple[float, ...]


class Templates:
    """What people do with the library."""

    def __init__(self, shelf: ShippedShelf):
        self._shelf = shelf

    def listed(self) -> list[TemplateFacts]:
        return [facts_of(content) for content in self._shelf.listed()]


def facts_of(content: TemplateContent) -> TemplateFacts:
    """What the library shows of a template."""
    record, first = content.record, content.parts[0][1]
    zones = content.zones(*PICTURED)
    shown = [z for z in zones_in(first, record) if record.zones[z].takes in PICTURED]
    return TemplateFacts(
        key=content.key,
        id=content.id,
        version=content.version,
        name=record.name,
        kind=record.kind,
        about=record.about,
        words=record.words,
        pictures=len(zones),
        required=sum(zone.required for _, zone in zones),
        texts=len(content.zones("text")),
        dials=len(record.dials),
        scenes=len(content.parts),
        repeats=record.kind == "treatment" or any(rule.repeats for rule in record.scenes.values()),
        length=sum(scene.hold or 0 for _, scene in content.parts),
        shapes=tuple(record.zones[z].shape or 1.5 for z in shown),
    )
