"""The library of templates."""

from dataclasses import asdict

from ..core.time import seconds
from ..services.templates import TemplateFacts
from . import blueprints
from . import models as m
from .state import services, who

blueprint = blueprints.blueprint("templates")


@blueprint.get("/templates", responses={200: m.TemplateList})
def list_templates():  # type: ignore[no-untyped-def]
    """Templates that there are to be put on."""
    who()
    return m.TemplateList(templates=[_model(facts) for facts in services().templates.listed()]).model_dump(mode="json")


def _model(facts: TemplateFacts) -> m.TemplateFactsModel:
    return m.TemplateFactsModel(**{**asdict(facts), "length": seconds(facts.length)})
