"""Pictures and clips: receive a file, show it, look into it."""

from typing import Any
from urllib.parse import unquote

from flask import Response, request

from ..core.document import Document
from ..core.edits import apply_edits, parse_edits, shown_area
from ..core.errors import Fault, InvalidPicture, NotFound
from . import blueprints
from . import models as m
from .projects import image
from .state import services, who

blueprint = blueprints.blueprint("pictures")


@blueprint.post("/projects/<project>/pictures", responses={200: m.PictureAnswer, 413: m.Faults, 415: m.Faults, 422: m.Faults})
def receive_picture(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    """One file as the request's body, its name (percent-encoded) in the header X-File-Name."""
    _, document = services().projects.read(who(), path.project)
    name = unquote(request.headers.get("X-File-Name", ""))
    if not name:
        raise InvalidPicture([Fault("picture.no_file", "", "The request carries no file name.")])
    record: dict[str, Any] = services().pictures.take_in(document, name, request.stream)
    return m.PictureAnswer(record=record).model_dump(mode="json")


def _document(path: m.PicturePath, edits: list[Any] | None = None) -> Document:
    """The project's document, with edits that are only tried."""
    _, document = services().projects.read(who(), path.project)
    if edits:
        document = apply_edits(document, parse_edits(edits))
    if path.media not in document.media:
        raise NotFound([Fault("picture.missing", "", "There is no such picture in this project.")])
    return document


@blueprint.get("/projects/<project>/pictures/<media>/thumbnail", responses={200: None, 404: m.Faults})
def thumbnail(path: m.PicturePath, query: m.FrameQuery):  # type: ignore[no-untyped-def]
    return image(services().pictures.thumbnail(_document(path), path.media))


@blueprint.get("/projects/<project>/pictures/<media>/large", responses={200: None, 404: m.Faults})
def large(path: m.PicturePath, query: m.FrameQuery):  # type: ignore[no-untyped-def]
    """The picture as JPEG as it is turned, cropped and corrected, at most `width` pixels on a side."""
    return image(services().pictures.developed(_document(path), path.media, query.width))


@blueprint.post("/projects/<project>/pictures/<media>/developed", responses={200: None, 404: m.Faults, 422: m.Faults})
def developed(path: m.PicturePath, body: m.DevelopRequest):  # type: ignore[no-untyped-def]
    """The same with edits tried; `uncropped` shows all of the picture, turned by quarters."""
    data = services().pictures.developed(_document(path, body.edits), path.media, body.width, body.uncropped)
    return Response(data, mimetype="image/jpeg")


@blueprint.post("/projects/<project>/pictures/<media>/shape", responses={200: m.ShapeAnswer, 404: m.Faults, 422: m.Faults})
def shape(path: m.PicturePath, body: m.ShapeRequest):  # type: ignore[no-untyped-def]
    """Where a picture's crop and subject lie, with edits tried."""
    media = _document(path, body.edits).media[path.media]
    crop, subject = shown_area(media, "crop"), shown_area(media, "subject")
    return m.ShapeAnswer(crop=crop, subject=subject, turn=-media.straighten).model_dump(mode="json")


@blueprint.post("/projects/<project>/pictures/<media>/histogram", responses={200: m.HistogramAnswer, 404: m.Faults, 422: m.Faults})
def histogram(path: m.PicturePath, body: m.ShapeRequest):  # type: ignore[no-untyped-def]
    """How the levels of a picture are spread as it is cropped and corrected, with edits tried."""
    found = services().pictures.histogram(_document(path, body.edits), path.media)
    return m.HistogramAnswer(channels=[list(c) for c in found.channels], dark=found.dark, light=found.light).model_dump(mode="json")


@blueprint.get("/projects/<project>/pictures/<media>/suggestion", responses={200: m.SuggestionAnswer, 404: m.Faults})
def suggestion(path: m.PicturePath):  # type: ignore[no-untyped-def]
    """A correction worked out from the picture's own histogram."""
    return m.SuggestionAnswer(correction=services().pictures.suggestion(_document(path), path.media)).model_dump(mode="json")


@blueprint.post("/projects/<project>/borders", responses={200: m.BordersAnswer, 404: m.Faults})
def borders(path: m.ProjectPath, body: m.PictureIds):  # type: ignore[no-untyped-def]
    """Crops without the borders of scans; null for pictures that have none."""
    _, document = services().projects.read(who(), path.project)
    known = [i for i in body.ids if i in document.media and document.media[i].kind == "picture"]
    found = services().pictures.borders(document, known)
    return m.BordersAnswer(found=[m.BorderModel(id=k, crop=v) for k, v in found.items()]).model_dump(mode="json")
