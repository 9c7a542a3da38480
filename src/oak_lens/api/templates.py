"""The library of templates."""

from dataclasses import asdict

from flask import Response, request, send_file

from ..core.document import in_order
from ..core.time import seconds
from ..core.trials import BUILTIN as TRIALS
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


@blueprint.get("/templates/<key>/poster", responses={200: None, 404: m.Faults, 409: m.Faults})
def template_poster(path: m.TemplateKeyPath):  # type: ignore[no-untyped-def]
    """What a template looks like while its zones are empty."""
    return Response(services().templates.poster(who(), path.key), mimetype="image/jpeg", headers={"Cache-Control": "private, max-age=31536000, immutable"})


@blueprint.delete("/templates/<kept>", responses={204: None, 404: m.Faults})
def remove_template(path: m.KeptTemplatePath):  # type: ignore[no-untyped-def]
    """Out of the library; films that use it stay as they are."""
    services().templates.remove(who(), path.kept)
    return "", 204


@blueprint.put("/templates/favourites/<template>", responses={204: None})
def like_template(path: m.TemplateIdPath, body: m.Liked):  # type: ignore[no-untyped-def]
    services().templates.like(who(), path.template, body.on)
    return "", 204


@blueprint.get("/templates/used", responses={200: m.TemplatesUsed})
def list_used_templates():  # type: ignore[no-untyped-def]
    """Which of one's projects use which templates."""
    versions = services().template_versions
    used = [
        m.TemplateUsedModel(project=u.project, title=u.title, record=u.record, template=u.template, version=u.version, keeps=versions.keeps(u))
        for u in versions.used(who())
    ]
    return m.TemplatesUsed(used=used).model_dump(mode="json")


@blueprint.get("/projects/<project>/templates/offers", responses={200: m.OfferList, 404: m.Faults})
def list_offers(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    """Newer versions of templates that a film uses."""
    return m.OfferList(offers=[m.OfferModel(**asdict(offer)) for offer in services().template_versions.offered(who(), path.project)]).model_dump(mode="json")


@blueprint.post("/templates/<template>/everywhere", responses={200: m.TakenEverywhere, 404: m.Faults, 409: m.Faults})
def take_everywhere(path: m.TemplateIdPath):  # type: ignore[no-untyped-def]
    """The newest version of a template into every film that uses an older one; undone in each of them by itself."""
    return m.TakenEverywhere(films=services().template_versions.take_everywhere(who(), path.template)).model_dump(mode="json")


@blueprint.get("/projects/<project>/templates/<template>/trials", responses={200: m.TrialList, 404: m.Faults})
def list_trials(path: m.ProjectTemplatePath):  # type: ignore[no-untyped-def]
    """What a template can be tried on."""
    services().projects.read(who(), path.project)
    return m.TrialList(trials=[m.TrialModel(id=t.id, label=t.label, about=t.about) for t in TRIALS]).model_dump(mode="json")


@blueprint.get("/projects/<project>/templates/<template>/trials/<trial>", responses={200: m.TrialReport, 404: m.Faults, 422: m.Faults})
def try_template(path: m.TrialPath):  # type: ignore[no-untyped-def]
    """A template of the project on one of them: the scenes that it comes to, and what is wrong with them."""
    _, document = services().projects.read(who(), path.project)
    tried, findings = services().trying.report(document, path.template, path.trial)
    scenes = [k for k, _ in in_order(tried.scenes)]
    return m.TrialReport(aspect=tried.frame.aspect, scenes=scenes, findings=[m.TrialFindingModel(**asdict(f)) for f in findings]).model_dump(mode="json")


@blueprint.get("/projects/<project>/templates/<template>/trials/<trial>/frame", responses={200: None, 404: m.Faults})
def tried_template_frame(path: m.TrialPath, query: m.TrialFrameQuery):  # type: ignore[no-untyped-def]
    _, document = services().projects.read(who(), path.project)
    data = services().trying.frame(document, path.template, path.trial, query.scene, query.share, query.width)
    return Response(data, mimetype="image/jpeg")


def _model(facts: TemplateFacts) -> m.TemplateFactsModel:
    return m.TemplateFactsModel(**{**asdict(facts), "length": seconds(facts.length)})
