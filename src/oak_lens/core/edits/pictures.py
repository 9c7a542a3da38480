"""Edits of the contact sheet: pictures gathered, put in order, removed."""

from math import atan2, degrees
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from ..document import Area, Clip, Document, Media, in_order, order_keys_between, photos_of
from ..document.records import Id, Name
from ..errors import Fault, InvalidEdit
from ..framing import Handle, file_area, limited_crop, reshaped, turned_area
from ..looks import Correction
from ..templates import filled_zones
from .positions import orders_before
from .registry import Edit, EditSpec, fresh, merged, with_scenes


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
    kind: Literal["picture", "clip"] = "picture"
    subject: Area | None = None
    clip: Clip | None = None


class AddPictures(Edit):
    """Put pictures before picture `before`, or at the end."""

    pictures: list[PictureRecord] = Field(min_length=1, max_length=5000)
    before: Id | None = None


def add_pictures(document: Document, edit: AddPictures) -> Document:
    fresh(document.media, (p.id for p in edit.pictures), "media")
    orders = orders_before(document.media, edit.before, len(edit.pictures))
    added = {p.id: _media(p, order) for p, order in zip(edit.pictures, orders, strict=True)}
    return document.model_copy(update={"media": {**document.media, **added}})


def _media(record: PictureRecord, order: str) -> Media:
    return merged(
        Media(order=order, name="", file="", sha256=record.sha256, width=1, height=1),
        record.model_dump(exclude={"id"}),
        f"media.{record.id}",
    )


class PictureIds(Edit):
    ids: list[Id] = Field(min_length=1)


class RemovePictures(PictureIds):
    """Take pictures out of the project; scenes that use them go, too, if `with_scenes` says so. In a scene of a template that shows others as well,
    the drop zones that they were in are empty then, and the scene stays."""

    with_scenes: bool = False


def remove_pictures(document: Document, edit: RemovePictures) -> Document:
    gone = set(edit.ids)
    if edit.with_scenes:
        document = _without_fills(document, gone)
    using = [sid for sid, scene in document.scenes.items() if any(p.media in gone for _, p in photos_of(scene))]
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
    shared = [k for k, group in document.groups.items() if any(p.media in gone for _, p in photos_of(group))]
    backdrops = [b for b in _backdrops(document) if b in gone]
    if shared or backdrops:
        where = "a shared group" if shared else "a backdrop or look"
        raise InvalidEdit(
            [Fault("edit.in_use", "media", f"These pictures are used in {where}. Replace them there first, or keep the pictures.")]
        )
    document = with_scenes(document, dict.fromkeys(using))
    return document.model_copy(update={"media": {k: v for k, v in document.media.items() if k not in gone}})


def _without_fills(document: Document, gone: set[str]) -> Document:
    """The document in which drop zones that hold these pictures are empty, in scenes that show others besides."""
    for key, scene in document.scenes.items():
        shown = [p for _, p in photos_of(scene)]
        fills: dict[str, str | None] = {p.zone: None for p in shown if p.media in gone and p.zone is not None}
        if scene.backdrop_zone is not None and scene.backdrop is not None and scene.backdrop.media in gone:
            fills[scene.backdrop_zone] = None
        others = any(p.media not in gone and not document.media[p.media].placeholder for p in shown)
        if scene.template is not None and fills and others:
            document = filled_zones(document, key, fills)
    return document


def _backdrops(document: Document) -> list[str]:
    """Pictures that backdrops show."""
    shown = [document.defaults.backdrop, *(look.backdrop for look in document.looks.values())]
    shown += [scene.backdrop for scene in document.scenes.values() if scene.backdrop is not None]
    return [b.media for b in shown if b.media is not None]


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


class ArrangePictures(Edit):
    """`reverse` the whole contact sheet, or `shuffle` it: the same seed gives the same order of the same pictures."""

    how: Literal["reverse", "shuffle"]
    seed: int = Field(1, ge=0, le=9999)


def arrange_pictures(document: Document, edit: ArrangePictures) -> Document:
    listed = in_order(document.media)
    if edit.how == "reverse":
        ordered = listed[::-1]
    else:
        # From an order of their own, so that shuffling twice with one seed changes nothing.
        by_id = sorted(listed, key=lambda item: item[0])
        ordered = [by_id[i] for i in np.random.default_rng(edit.seed).permutation(len(by_id))]
    orders = order_keys_between(None, None, len(ordered))
    return _with_media(document, {k: m.model_copy(update={"order": o}) for (k, m), o in zip(ordered, orders, strict=True)})


class SetPictures(PictureIds):
    """Change what is given on every picture named; an explicit null of crop, correction or subject takes it away.

    A crop is in fractions of the turned picture; it shrinks as far as straightening makes it.
    """

    name: Name | None = None
    description: str | None = Field(None, max_length=2000)
    straighten: float | None = Field(None, ge=-45, le=45)
    crop: Area | None = None
    correction: dict[str, Any] | None = None
    subject: Area | None = None
    clip: dict[str, Any] | None = None


def set_pictures(document: Document, edit: SetPictures) -> Document:
    given = edit.model_fields_set
    changed = {}
    for key in edit.ids:
        media, path = _picture(document, key), f"media.{key}"
        update: dict[str, Any] = {n: getattr(edit, n) for n in ("name", "description", "straighten") if getattr(edit, n) is not None}
        for part in ("crop", "subject"):
            if part in given:
                update[part] = getattr(edit, part)
        if "correction" in given:
            update["correction"] = (
                None if edit.correction is None else merged(media.correction or Correction(), edit.correction, f"{path}.correction")
            )
        if edit.clip is not None:
            if media.clip is None:
                raise InvalidEdit([Fault("edit.kind", path, "This is a picture, not a clip: it has no times.")])
            update["clip"] = merged(media.clip, edit.clip, f"{path}.clip")
        changed[key] = _without_bare_corners(media.model_copy(update=update))
    return _with_media(document, changed)


def _without_bare_corners(media: Media) -> Media:
    return media if media.crop is None else media.model_copy(update={"crop": limited_crop(media.crop, media)})


class TurnPictures(PictureIds):
    """By quarter turns, clockwise positive; a crop turns with the picture."""

    quarters: int = Field(ge=-3, le=3)


def turn_pictures(document: Document, edit: TurnPictures) -> Document:
    return _with_media(document, {key: _turned(_picture(document, key), edit.quarters % 4) for key in edit.ids})


def _turned(media: Media, quarters: int) -> Media:
    crop = media.crop
    for _ in range(quarters):
        if crop is not None:
            crop = Area(x=1.0 - crop.y - crop.height, y=crop.x, width=crop.height, height=crop.width)
    # Seen from the flipped side, the file's picture turns the other way.
    return media.model_copy(update={"turned": (media.turned + (-quarters if media.flipped else quarters)) % 4, "crop": crop})


class FlipPictures(PictureIds):
    """Mirrored left to right, or top to bottom; crop and straightening follow."""

    axis: Literal["across", "down"]


def flip_pictures(document: Document, edit: FlipPictures) -> Document:
    changed = {}
    for key in edit.ids:
        media = _picture(document, key)
        crop = media.crop
        if crop is not None:
            crop = crop.model_copy(update={"x": 1.0 - crop.x - crop.width} if edit.axis == "across" else {"y": 1.0 - crop.y - crop.height})
        # Top to bottom is left to right and half a turn.
        turned = media.turned if edit.axis == "across" else (media.turned + 2) % 4
        changed[key] = media.model_copy(
            update={"flipped": not media.flipped, "turned": turned, "straighten": -media.straighten, "crop": crop}
        )
    return _with_media(document, changed)


Fraction = Annotated[float, Field(ge=-10, le=10, allow_inf_nan=False)]


class StraightenPicture(Edit):
    """A line drawn along something level or upright: the picture is turned so that it is. Ends in fractions of what is shown now."""

    id: Id
    start: tuple[Fraction, Fraction]
    end: tuple[Fraction, Fraction]


def straighten_picture(document: Document, edit: StraightenPicture) -> Document:
    media = _picture(document, edit.id)
    width, height = media.shown_size
    angle = degrees(atan2((edit.end[1] - edit.start[1]) * height, (edit.end[0] - edit.start[0]) * width))
    off = (angle + 45.0) % 90.0 - 45.0
    straighten = min(max(media.straighten - off, -45.0), 45.0)
    return _with_media(document, {edit.id: _without_bare_corners(media.model_copy(update={"straighten": straighten}))})


NO_SUBJECT = Area(x=0.3, y=0.3, width=0.4, height=0.4)
"""Where a subject begins to be dragged that is not known yet."""


class ReshapePicture(Edit):
    """A drag of a picture's crop or subject by its inside or a corner, on the whole picture as it is turned by quarters; `start` and `end`
    in fractions of that. `shape`: the width / height a crop keeps; None: any."""

    id: Id
    what: Literal["crop", "subject"]
    handle: Handle
    start: tuple[Fraction, Fraction]
    end: tuple[Fraction, Fraction]
    shape: float | None = Field(None, ge=0.02, le=50)


def reshape_picture(document: Document, edit: ReshapePicture) -> Document:
    media = _picture(document, edit.id)
    width, height = media.turned_size
    crop = edit.what == "crop"
    area, turn = shown_area(media, edit.what), -media.straighten if crop else 0.0
    area = reshaped(area, edit.handle, edit.start, edit.end, edit.shape if crop else None, width / height, turn)
    update = {"crop": area} if crop else {"subject": file_area(media, area)}
    return _with_media(document, {edit.id: _without_bare_corners(media.model_copy(update=update))})


def shown_area(media: Media, what: Literal["crop", "subject"]) -> Area:
    """The crop or subject of a picture, in fractions of all of it as it is turned by quarters; where it has none, where one begins."""
    if what == "crop":
        return media.crop or Area()
    return turned_area(media, media.subject) if media.subject else NO_SUBJECT


class PictureCrop(Edit):
    """A crop of one picture, in fractions of the turned picture."""

    id: Id
    crop: Area


class TrimPictures(Edit):
    """Crops found by themselves, such as the borders of scans, on many pictures in one step."""

    pictures: list[PictureCrop] = Field(min_length=1)


def trim_pictures(document: Document, edit: TrimPictures) -> Document:
    found = {entry.id: _picture(document, entry.id).model_copy(update={"crop": entry.crop}) for entry in edit.pictures}
    return _with_media(document, {k: _without_bare_corners(m) for k, m in found.items()})


class ReplaceFile(Edit):
    """Another file behind a picture of the contact sheet: wherever it is used it is replaced, and all else is kept.

    Its name, place and correction stay; a crop, straightening and the subject belonged to the old file and go.
    """

    id: Id
    picture: PictureRecord


def replace_file(document: Document, edit: ReplaceFile) -> Document:
    media = _picture(document, edit.id)
    new = _media(edit.picture, media.order)
    return _with_media(
        document,
        {
            edit.id: new.model_copy(
                update={"name": media.name, "description": media.description or new.description, "correction": media.correction}
            )
        },
    )


def _picture(document: Document, key: str) -> Media:
    media = document.media.get(key)
    if media is None:
        raise InvalidEdit([Fault("edit.no_picture", f"media.{key}", "There is no such picture on the contact sheet.")])
    return media


def _with_media(document: Document, changed: dict[str, Media]) -> Document:
    return document.model_copy(update={"media": {**document.media, **changed}})


def picture_records(document: Document) -> list[PictureRecord]:
    """The document's pictures as parameters of `add_pictures`, in order."""
    fields = set(PictureRecord.model_fields) - {"id"}
    return [PictureRecord(id=k, **m.model_dump(include=fields)) for k, m in in_order(document.media)]


PICTURE_EDITS = (
    EditSpec("add_pictures", "Add pictures", AddPictures, add_pictures),
    EditSpec("remove_pictures", "Remove pictures", RemovePictures, remove_pictures),
    EditSpec("move_pictures", "Move pictures", MovePictures, move_pictures),
    EditSpec("sort_pictures", "Sort pictures", SortPictures, sort_pictures),
    EditSpec("arrange_pictures", "Put pictures in order", ArrangePictures, arrange_pictures),
    EditSpec("set_pictures", "Change pictures", SetPictures, set_pictures),
    EditSpec("turn_pictures", "Turn pictures", TurnPictures, turn_pictures),
    EditSpec("flip_pictures", "Flip pictures", FlipPictures, flip_pictures),
    EditSpec("straighten_picture", "Straighten a picture", StraightenPicture, straighten_picture),
    EditSpec("reshape_picture", "Crop or mark a picture", ReshapePicture, reshape_picture),
    EditSpec("trim_pictures", "Trim borders", TrimPictures, trim_pictures),
    EditSpec("replace_file", "Replace a picture's file", ReplaceFile, replace_file),
)
