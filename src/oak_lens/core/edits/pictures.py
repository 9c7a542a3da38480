"""Edits of the contact sheet: pictures gathered, put in order, removed."""

from typing import Annotated, Literal

from pydantic import Field

from ..document import Document, Media, in_order, order_keys_between
from ..document.models import Id, Name
from ..errors import Fault, InvalidEdit
from .positions import orders_before
from .registry import Edit, EditSpec, fresh, with_scenes


class PictureRecord(Edit):
    """One picture as the import read it; see `document.Media`."""

    id: Id
    name: Name
    file: Name
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    width: int = Field(ge=1, le=100_000)
    height: int = Field(ge=1, le=100_000)
    captured: str | None = Field(None, max_length=40)
    description: str = Field("", max_length=2000)


class AddPictures(Edit):
    """Put pictures before picture `before`, or at the end."""

    pictures: list[PictureRecord] = Field(min_length=1, max_length=5000)
    before: Id | None = None


def add_pictures(document: Document, edit: AddPictures) -> Document:
    fresh(document.media, (p.id for p in edit.pictures), "media")
    orders = orders_before(document.media, edit.before, len(edit.pictures))
    added = {p.id: Media(order=order, **p.model_dump(exclude={"id"})) for p, order in zip(edit.pictures, orders, strict=True)}
    return document.model_copy(update={"media": {**document.media, **added}})


class PictureIds(Edit):
    ids: list[Id] = Field(min_length=1)


class RemovePictures(PictureIds):
    """Take pictures out of the project; scenes that use them go, too, if `with_scenes` says so."""

    with_scenes: bool = False


def remove_pictures(document: Document, edit: RemovePictures) -> Document:
    gone = set(edit.ids)
    using = [sid for sid, scene in document.scenes.items() if any(p.media in gone for p in scene.layers.values())]
    if using and not edit.with_scenes:
        raise InvalidEdit(
            [
                Fault(
                    "edit.in_use",
                    "media",
                    f"{len(using)} scene(s) of the film use these pictures. Remove the scenes too, or keep the pictures.",
                )
            ]
        )
    document = with_scenes(document, dict.fromkeys(using))
    return document.model_copy(update={"media": {k: v for k, v in document.media.items() if k not in gone}})


class MovePictures(PictureIds):
    """Put pictures before picture `before`, or at the end, in the order they have now."""

    before: Id | None = None


def move_pictures(document: Document, edit: MovePictures) -> Document:
    moving = [k for k, _ in in_order(document.media) if k in set(edit.ids)]
    rest = {k: v for k, v in document.media.items() if k not in set(moving)}
    orders = orders_before(rest, edit.before, len(moving))
    moved = {k: document.media[k].model_copy(update={"order": o}) for k, o in zip(moving, orders, strict=True)}
    return document.model_copy(update={"media": {**document.media, **moved}})


class SortPictures(Edit):
    """Sort the whole contact sheet; pictures without a capture time go last."""

    by: Literal["name", "captured", "shape"]
    reverse: bool = False


def sort_pictures(document: Document, edit: SortPictures) -> Document:
    keys = {
        "name": lambda m: (0, _natural(m.name)),
        "captured": lambda m: (m.captured is None, m.captured or ""),
        "shape": lambda m: (0, m.aspect),
    }
    current = in_order(document.media)
    ordered = sorted(current, key=lambda item: keys[edit.by](item[1]), reverse=edit.reverse)
    orders = order_keys_between(None, None, len(ordered))
    media = {k: m.model_copy(update={"order": o}) for (k, m), o in zip(ordered, orders, strict=True)}
    return document.model_copy(update={"media": media})


def _natural(name: str) -> list[tuple[int, int, str]]:
    """Sorts `9 dusk` before `10 hut`."""
    parts: list[tuple[int, int, str]] = []
    run = ""
    for char in [*name.casefold(), ""]:
        if run and (not char or char.isdecimal() != run.isdecimal()):
            parts.append((0, int(run), "") if run.isdecimal() else (1, 0, run))
            run = ""
        run += char
    return parts


def picture_records(document: Document) -> list[PictureRecord]:
    """The document's pictures as parameters of `add_pictures`, in order."""
    return [PictureRecord(id=k, **m.model_dump(exclude={"order", "kind"})) for k, m in in_order(document.media)]


PICTURE_EDITS = (
    EditSpec("add_pictures", "Add pictures", AddPictures, add_pictures),
    EditSpec("remove_pictures", "Remove pictures", RemovePictures, remove_pictures),
    EditSpec("move_pictures", "Move pictures", MovePictures, move_pictures),
    EditSpec("sort_pictures", "Sort pictures", SortPictures, sort_pictures),
)
