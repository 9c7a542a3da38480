"""The library of templates."""

from dataclasses import asdict

from flask import request, send_file

from ..core.time import seconds
from ..services.templates import TemplateFacts
from . import blueprints
from . import models as m
from .state import services, who

blueprint = blueprints.blueprint("templates")


@blueprint.get("/templates", responses={200: m.TemplateList})
def list_templates():  # type: ignore[no-untyped-def]
    """Templates that there are to be put on: one's own first, then those that ship."""
    return m.TemplateList(templates=[_model(facts) for facts in services().templates.listed(who())]).model_dump(mode="json")


@blueprint.post("/projects/<project>/templates", responses={200: m.TemplateFactsModel, 404: m.Faults, 409: m.Faults})
def save_template(path: m.ProjectPath, body: m.SavedTemplate):  # type: ignore[no-untyped-def]
    """What was made in a project goes into the library, as the next version of what it became before."""
    _, document = services().projects.read(who(), path.project)
    return _model(services().templates.save(who(), path.project, document, body.template)).model_dump(mode="json")


@blueprint.post("/templates", responses={200: m.TemplateFactsModel, 409: m.Faults, 413: m.Faults, 422: m.Faults})
def open_template():  # type: ignore[no-untyped-def]
    """A template's file as the request's body; it is checked whole before it is let in."""
    return _model(services().templates.open(who(), request.stream)).model_dump(mode="json")


@blueprint.get("/templates/<kept>/file", responses={200: None, 404: m.Faults})
def template_file(path: m.KeptTemplatePath):  # type: ignore[no-untyped-def]
    name, file = services().templates.file(who(), path.kept)
    return send_file(file, mimetype="application/zip", as_attachment=True, download_name=name, conditional=True)


@blueprint.delete("/templates/<kept>", responses={204: None, 404: m.Faults})
def remove_template(path: m.KeptTemplatePath):  # type: ignore[no-untyped-def]
    """Out of the library; films that use it stay as they are."""
    services().templates.remove(who(), path.kept)
    return "", 204


@blueprint.put("/templates/favourites/<template>", responses={204: None})
def like_template(path: m.TemplateIdPath, body: m.Liked):  # type: ignore[no-untyped-def]
    services().templates.like(who(), path.template, body.on)
    return "", 204


def _model(facts: TemplateFacts) -> m.TemplateFactsModel:
    return m.TemplateFactsModel(**{**asdict(facts), "length": seconds(facts.length)})
