"""Faces: how they look in words of the project, and fonts of one's own."""

from flask import Response, request

from ..services.faces import sample
from . import blueprints
from . import models as m
from .state import services, who

blueprint = blueprints.blueprint("faces")


@blueprint.post("/projects/<project>/fonts", responses={200: m.FontAnswer, 409: m.Faults, 413: m.Faults, 415: m.Faults, 422: m.Faults})
def receive_font(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    """One font (TTF, OTF, WOFF2) as the request's body; it is checked before it is kept."""
    _, document = services().projects.read(who(), path.project)
    return m.FontAnswer(record=dict(services().fonts.take_in(document, request.stream).record)).model_dump(mode="json")


@blueprint.get("/projects/<project>/face-sample", responses={200: None, 404: m.Faults})
def face_sample(path: m.ProjectPath, query: m.FaceSampleQuery):  # type: ignore[no-untyped-def]
    """A line of text in a face, as PNG on nothing."""
    _, document = services().projects.read(who(), path.project)
    data = sample(document, query.family, query.text, query.weight, query.italic, query.ink, query.height)
    answer = Response(data, mimetype="image/png")
    answer.headers["Cache-Control"] = "private, max-age=86400"
    return answer
