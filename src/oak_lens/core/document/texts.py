"""Texts as they are written: spans of one appearance; and what a project tells of itself, for texts to name."""

from typing import Annotated, Any

from pydantic import AfterValidator, Field

from ..letters import LONGEST_TEXT
from ..looks.parameters import COLOUR
from .records import ID_PATTERN, IdKey, Record

MOST_SPANS = 1000


class Span(Record):
    """A stretch of a text. What is None is as the setting and ink say; `size`: times that of the setting."""

    text: Annotated[str, Field(max_length=LONGEST_TEXT)] = ""
    family: Annotated[str, Field(pattern=ID_PATTERN)] | None = None
    weight: Annotated[float, Field(ge=100, le=900, allow_inf_nan=False)] | None = None
    italic: bool | None = None
    size: Annotated[float, Field(ge=0.1, le=10, allow_inf_nan=False)] | None = None
    colour: Annotated[str, Field(pattern=COLOUR)] | None = None
    underline: bool = False


def _not_too_long(spans: tuple[Span, ...]) -> tuple[Span, ...]:
    if sum(len(span.text) for span in spans) > LONGEST_TEXT:
        raise ValueError(f"a text has at most {LONGEST_TEXT:,} characters")
    return spans


Spans = Annotated[tuple[Span, ...], Field(max_length=MOST_SPANS), AfterValidator(_not_too_long)]


def written(spans: tuple[Span, ...]) -> str:
    """The whole text as it was written."""
    return "".join(span.text for span in spans)


def tidied(spans: list[Span]) -> tuple[Span, ...]:
    """The spans without empty ones, neighbours of one appearance joined."""
    found: list[Span] = []
    for span in spans:
        if not span.text:
            continue
        if found and found[-1].model_copy(update={"text": span.text}) == span:
            found[-1] = span.model_copy(update={"text": found[-1].text + span.text})
        else:
            found.append(span)
    return tuple(found)


def parted(spans: tuple[Span, ...], at: int) -> tuple[list[Span], list[Span]]:
    """The spans before and after a character."""
    before: list[Span] = []
    for index, span in enumerate(spans):
        if at < len(span.text):
            first, rest = (span.model_copy(update={"text": piece}) for piece in (span.text[:at], span.text[at:]))
            return [*before, first], [rest, *spans[index + 1 :]]
        before.append(span)
        at -= len(span.text)
    return before, []


def rewritten(spans: tuple[Span, ...], text: str) -> tuple[Span, ...]:
    """The spans with another text: what was typed looks like what it was typed after, all else stays as it is.

    >>> [s.text for s in rewritten((Span(text="First "), Span(text="light", weight=700)), "First lights")]
    ['First ', 'lights']
    """
    old = written(spans)
    first = next((i for i, (a, b) in enumerate(zip(old, text, strict=False)) if a != b), min(len(old), len(text)))
    most = min(len(old), len(text)) - first
    last = next((i for i in range(most) if old[len(old) - 1 - i] != text[len(text) - 1 - i]), most)
    before, _ = parted(spans, first)
    _, after = parted(spans, len(old) - last)
    like = next((span for span in reversed(before) if span.text), None) or next(iter(spans), Span())
    return tidied([*before, like.model_copy(update={"text": text[first : len(text) - last]}), *after])


def restyled(spans: tuple[Span, ...], start: int, stop: int, changes: dict[str, Any]) -> tuple[Span, ...]:
    """The spans with another appearance from one character to another."""
    before, rest = parted(spans, start)
    inside, after = parted(tuple(rest), max(stop - start, 0))
    return tidied([*before, *(Span.model_validate({**span.model_dump(), **changes}) for span in inside), *after])


DetailText = Annotated[str, Field(max_length=2000)]
DetailName = Annotated[str, Field(pattern=r"^[^{}:\n]{1,60}$")]


class OwnDetail(Record):
    """Something else that a project tells of itself, under a name of its own."""

    name: DetailName
    text: DetailText = ""


class Details(Record):
    """What a project tells of itself, for its texts and exports."""

    author: DetailText = ""
    place: DetailText = ""
    date: DetailText = ""
    rights: DetailText = ""
    own: dict[IdKey, OwnDetail] = Field(default_factory=dict)
