"""A template as it is kept: a document that holds what is made by it, and nothing else; named by what is in it."""

import hashlib
import json
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from ..document import Document, Media, PhotoLayer, Scene, Template, TextLayer, Zone, dump_document, in_order

DRAWING = 2
"""How placeholders are drawn: raised when that changes, so that they are drawn anew."""


@dataclass(frozen=True)
class TemplateContent:
    """`document`: its scenes all use template `id` of it, each by itself (`part` is its own id); what stands in empty zones are placeholders.
    `id` is the same in all versions of a template, and nobody else's."""

    document: Document
    id: str
    version: str = "1.0.0"

    @cached_property
    def record(self) -> Template:
        return self.document.templates[self.id]

    @cached_property
    def key(self) -> str:
        """SHA-256 of what is in it: the same for the same."""
        return hashlib.sha256(json.dumps(dump_document(self.document), sort_keys=True, ensure_ascii=False).encode()).hexdigest()

    @cached_property
    def parts(self) -> tuple[tuple[str, Scene], ...]:
        """Its scenes by id, in order."""
        return tuple(in_order(self.document.scenes))

    def zones(self, *takes: str) -> list[tuple[str, Zone]]:
        """Zones by id, in order: all, or those that take one of these."""
        return [(k, zone) for k, zone in in_order(self.record.zones) if not takes or zone.takes in takes]


def zones_in(scene: Scene, template: Template) -> list[str]:
    """Ids of the zones that a scene shows, in their order."""
    shown = {layer.zone for layer in scene.layers.values() if isinstance(layer, PhotoLayer | TextLayer)} | {scene.backdrop_zone}
    return [k for k, _ in in_order(template.zones) if k in shown]


STOOD_IN = {"picture": "", "clip": "clip", "cutout": "cut-out", "logo": "logo"}
"""What is written below the number of an empty zone, by what it takes."""


def placeholder_media(number: int, aspect: float, order: str, name: str, takes: str = "picture") -> Media:
    """What stands in for the picture of empty zone `number`: its drawing is named by what is on it."""
    said = STOOD_IN.get(takes, "")
    width, height = (1500, max(round(1500 / aspect), 30)) if aspect >= 1 else (max(round(1500 * aspect), 30), 1500)
    drawn = hashlib.sha256(f"placeholder {DRAWING} {number} {said} {width}x{height}".encode()).hexdigest()
    return Media(order=order, name=name, file=f"zone-{number}{said and '-'}{said}.jpg", sha256=drawn, width=width, height=height, placeholder=number)


def numbered(template: Template, zones: Sequence[str]) -> dict[str, int]:
    """The numbers of zones, by id."""
    listed = [k for k, _ in in_order(template.zones)]
    return {k: listed.index(k) + 1 for k in zones}
