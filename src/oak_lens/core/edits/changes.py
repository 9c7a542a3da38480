"""What differs between two documents, as data that can be stored, sent and applied."""

from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from ..document import (
    Defaults,
    Details,
    Document,
    Ends,
    Frame,
    Guide,
    Media,
    Mix,
    OwnFont,
    Poster,
    ProjectField,
    Scene,
    SharedGroup,
    Song,
    SoundFile,
    Template,
)
from ..looks import Look, TextStyle
from ..moves import Move

HEAD_FIELDS = (
    "title", "frame", "defaults", "ends", "details", "looks", "styles", "fonts", "moves", "groups", "guides", "poster", "sounds", "songs", "mix", "fields", "templates",
)  # fmt: skip


class Change(BaseModel):
    """New values of the parts that changed; None under an id means the record goes."""

    model_config = ConfigDict(frozen=True)

    title: str | None = None
    frame: Frame | None = None
    defaults: Defaults | None = None
    ends: Ends | None = None
    details: Details | None = None
    looks: dict[str, Look] | None = None
    styles: dict[str, TextStyle] | None = None
    fonts: dict[str, OwnFont] | None = None
    moves: dict[str, Move] | None = None
    groups: dict[str, SharedGroup] | None = None
    guides: tuple[Guide, ...] | None = None
    poster: Poster | None = None
    sounds: dict[str, SoundFile] | None = None
    songs: dict[str, Song] | None = None
    mix: Mix | None = None
    fields: dict[str, ProjectField] | None = None
    templates: dict[str, Template] | None = None
    media: dict[str, Media | None] = Field(default_factory=dict)
    scenes: dict[str, Scene | None] = Field(default_factory=dict)

    def applied_to(self, document: Document) -> Document:
        """The document with this change made."""
        update: dict[str, Any] = {name: value for name in HEAD_FIELDS if (value := getattr(self, name)) is not None}
        for name in ("media", "scenes"):
            changed = getattr(self, name)
            if changed:
                kept = {**getattr(document, name), **changed}
                update[name] = {k: v for k, v in kept.items() if v is not None}
        return document.model_copy(update=update)

    @property
    def is_empty(self) -> bool:
        return not self.media and not self.scenes and all(getattr(self, n) is None for n in HEAD_FIELDS)


def difference(before: Document, after: Document) -> Change:
    """The change from `before` to `after`.

    Edits share every record they do not touch, so records are compared by identity first: the cost follows the size of the
    change, not of the document.
    """

    def records(name: str) -> dict[str, Any]:
        old, new = getattr(before, name), getattr(after, name)
        if old is new:
            return {}
        changed = {k: v for k, v in new.items() if old.get(k) is not v and old.get(k) != v}
        return {**changed, **dict.fromkeys(old.keys() - new.keys())}

    heads = {
        name: value
        for name in HEAD_FIELDS
        if (value := getattr(after, name)) is not getattr(before, name) and value != getattr(before, name)
    }
    return Change.model_construct(**{**dict.fromkeys(HEAD_FIELDS), **heads}, media=records("media"), scenes=records("scenes"))


def parse_change(data: dict[str, Any]) -> Change:
    """A change from plain data."""
    return Change.model_validate(data)


def changed_parts(change: Change) -> frozenset[str]:
    """Names of the parts a change touches, such as `frame` or `scenes.a1`."""
    parts = {name for name in HEAD_FIELDS if getattr(change, name) is not None}
    return frozenset(parts | {f"media.{k}" for k in change.media} | {f"scenes.{k}" for k in change.scenes})


def present_parts(document: Document, parts: frozenset[str]) -> Change:
    """The parts with these names as they are now, as a change."""
    fields: dict[str, Any] = {**dict.fromkeys(HEAD_FIELDS), "media": {}, "scenes": {}}
    for part in parts:
        kind, _, key = part.partition(".")
        if kind in ("media", "scenes"):
            fields[kind][key] = getattr(document, kind).get(key)
        else:
            fields[kind] = getattr(document, kind)
    return Change.model_construct(**fields)
