"""Details that texts name in braces, filled in: `{title}`, `{scene name}`, `{captured:d MMMM y}`, an own detail by its name."""

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from .inheritance import photos_of
from .layers import Layer, TextLayer
from .models import Document, Scene, SharedGroup
from .ordering import in_order
from .remembered import ByRecord, remembered
from .texts import Span

DETAIL = re.compile(r"\{([^{}:\n]{1,60})(?::([^{}\n]{1,60}))?\}")
"""A detail as it is written: its name, and after a colon how a date is put."""

DATE_PATTERN = "d MMMM y"

DETAILS: tuple[tuple[str, str], ...] = (
    ("title", "The film’s title"),
    ("author", "Who made it"),
    ("place", "The place"),
    ("date", "The date"),
    ("rights", "Whose it is"),
    ("scene", "Number of the scene"),
    ("scene name", "Name of the scene"),
    ("page", "Number of the scene, of all"),
    ("pages", "How many scenes there are"),
    ("picture", "Name of the scene’s picture"),
    ("description", "Its description"),
    ("captured", "When it was taken"),
)
"""(name, what it is) of the details that every project has."""

MONTHS = ("January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December")
_MOMENT = re.compile(r"(\d{4})-(\d\d)-(\d\d)(?:[T ](\d\d):(\d\d)(?::(\d\d))?)?")
_DATE_PART = re.compile(r"'([^']*)'|y{1,4}|M{1,4}|d{1,2}|H{1,2}|m{1,2}|s{1,2}")


@dataclass(frozen=True, slots=True)
class FilledSpan:
    """A span as it is shown. `sources`: for each of its characters the character of the written text that it comes from; of a detail, its brace."""

    span: Span
    text: str
    sources: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Filled:
    """A text as it is shown. `unknown`: details that are not there, `empty`: those with nothing in them."""

    spans: tuple[FilledSpan, ...]
    unknown: tuple[str, ...] = ()
    empty: tuple[str, ...] = ()

    @property
    def text(self) -> str:
        return "".join(span.text for span in self.spans)


def filled(document: Document, layer: TextLayer, container: str | None) -> Filled:
    """The text with its details as they are in a scene (or shared group)."""
    spans, unknown, empty, at = list[FilledSpan](), dict[str, None](), dict[str, None](), 0
    for span in layer.text:
        pieces: list[str] = []
        sources: list[int] = []
        last = 0
        for match in DETAIL.finditer(span.text) if layer.filled else ():
            value = detail_value(document, container, match[1].strip(), match[2])
            if value is None:
                unknown[match[1].strip()] = None
                value = match[0]
            elif not value:
                empty[match[1].strip()] = None
            pieces += [span.text[last : match.start()], value]
            sources += [*range(at + last, at + match.start()), *([at + match.start()] * len(value))]
            last = match.end()
        pieces.append(span.text[last:])
        sources += range(at + last, at + len(span.text))
        spans.append(FilledSpan(span, "".join(pieces), tuple(sources)))
        at += len(span.text)
    return Filled(tuple(spans), tuple(unknown), tuple(empty))


def naming_details(layers: Iterable[Layer]) -> Iterator[TextLayer]:
    """Those of the layers that are texts with details in them: what they say changes with the rest of the document."""
    return (layer for layer in layers if isinstance(layer, TextLayer) and layer.filled and any("{" in span.text for span in layer.text))


_naming: ByRecord[Scene | SharedGroup, tuple[TextLayer, ...]] = ByRecord(lambda record: tuple(naming_details(record.layers.values())), 4096)


@remembered
def details_told(document: Document) -> Mapping[str, tuple[str, ...]]:
    """What texts say that name details, by the scene or the shared group that holds them."""
    holding: Iterable[tuple[str, Scene | SharedGroup]] = (*document.scenes.items(), *document.groups.items())
    return {key: tuple(filled(document, text, key).text for text in texts) for key, record in holding if (texts := _naming.of(record))}


@remembered
def _numbers(document: Document) -> Mapping[str, int]:
    """Of the scenes, in the film's order, from 1."""
    return {key: number + 1 for number, (key, _) in enumerate(in_order(document.scenes))}


def detail_value(document: Document, container: str | None, name: str, pattern: str | None) -> str | None:
    """What stands for a detail; "" if there is nothing in it, None if there is no such detail."""
    details, low = document.details, name.lower()
    if low == "title":
        return document.title
    if low in ("author", "place", "date", "rights"):
        return str(getattr(details, low))
    own = next((detail for _, detail in sorted(details.own.items()) if detail.name.lower() == low), None)
    if own is not None:
        return own.text
    if low == "pages":
        return str(len(document.scenes))
    scene = document.scenes.get(container or "")
    if low in ("scene", "page"):
        return "" if scene is None else str(_numbers(document)[str(container)])
    if low == "scene name":
        return "" if scene is None else scene.name
    if low in ("picture", "description", "captured"):
        photo = None if scene is None else next((layer for _, layer in photos_of(scene)), None)
        media = None if photo is None else document.media[photo.media]
        if media is None:
            return ""
        return {"picture": media.name, "description": media.description, "captured": dated(media.captured, pattern or DATE_PATTERN)}[low]
    return None


def dated(moment: str | None, pattern: str) -> str:
    """A time as ISO 8601 writes it in a pattern of Unicode's (UTS 35: d, MMMM, y, HH, mm…); "" where there is none.

    >>> dated("2025-03-09T21:04:00", "d MMMM y, HH:mm")
    '9 March 2025, 21:04'
    """
    if not moment:
        return ""
    known = _MOMENT.match(moment)
    if known is None or not 1 <= int(known[2]) <= 12:
        return moment
    year, month, *rest = (int(part or 0) for part in known.groups())
    numbers = {"y": year, "d": rest[0], "H": rest[1], "m": rest[2], "s": rest[3]}

    def part(match: re.Match[str]) -> str:
        token = match[0]
        if token[0] == "'":
            return match[1]
        if token[0] == "M":
            name = MONTHS[month - 1]
            return {1: str(month), 2: f"{month:02d}", 3: name[:3], 4: name}[len(token)]
        number = numbers[token[0]]
        if token[0] == "y":
            return f"{number % 100:02d}" if len(token) == 2 else str(number)
        return f"{number:0{len(token)}d}"

    return _DATE_PART.sub(part, pattern)
