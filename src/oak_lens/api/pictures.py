"""Pictures: receive a file, show it."""

from typing import Any
from urllib.parse import unquote

from flask import request, send_file
from flask_openapi3 import APIBlueprint, Tag

from ..core.document import Media
from ..core.errors import Fault, InvalidPicture, NotFound
from . import models as m
from .projects import CACHED_FOREVER
from .state import services, who

blueprint = APIBlueprint("pictures", __name__, url_prefix="/api", abp_tags=[Tag(name="pictures")])


@blueprint.post("/projects/<project>/pictures", responses={200: m.PictureAnswer, 413: m.Faults, 415: m.Faults, 422: m.Faults})
def receive_picture(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    """One file as the request's body, its name (percent-encoded) in the header X-File-Name."""
    _, document = services().projects.read(who(), path.project)
    name = unquote(request.headers.get("X-File-Name", ""))
    if not name:
        raise InvalidPicture([Fault("picture.no_file", "", "The request carries no file name.")])
    record: dict[str, Any] = services().pictures.take_in(document, name, request.stream)
    return m.PictureAnswer(record=record).model_dump(mode="json")


def _media(path: m.PicturePath) -> Media:
    _, document = services().projects.read(who(), path.project)
    media = document.media.get(path.media)
    if media is None:
        raise NotFound([Fault("picture.missing", "", "There is no such picture in this project.")])
    return media


@blueprint.get("/projects/<project>/pictures/<media>/thumbnail", responses={200: None, 404: m.Faults})
def thumbnail(path: m.PicturePath):  # type: ignore[no-untyped-def]
    media = _media(path)
    response = send_file(services().pictures.thumbnail(media.sha256), mimetype="image/jpeg", conditional=True, etag=media.sha256)
    response.headers["Cache-Control"] = CACHED_FOREVER
    return response


@blueprint.get("/projects/<project>/pictures/<media>/large", responses={200: None, 404: m.Faults})
def large(path: m.PicturePath, query: m.FrameQuery):  # type: ignore[no-untyped-def]
    """The picture itself as JPEG, colour-managed and upright, at least `width` pixels wide where it has them."""
    media = _media(path)
    _, document = services().projects.read(who(), path.project)
    response = send_file(services().pictures.large(document, path.media, query.width), mimetype="image/jpeg", max_age=0)
    response.headers["Cache-Control"] = CACHED_FOREVER
    response.set_etag(f"{media.sha256}-{query.width}")
    return response
