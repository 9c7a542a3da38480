"""What there is to choose from: rates, joins, eases, look parameters, qualities, edits."""

from functools import cache
from typing import Any

from flask_openapi3 import APIBlueprint, Tag

from ..core.curves import EASES
from ..core.delivery import QUALITIES, SIZES
from ..core.edits import edit_schema
from ..core.joins import BUILTIN
from ..core.looks import LOOK_PARTS, parameters_of
from ..core.looks.parameters import catalogue_entry
from ..core.time import RATES, TICKS_PER_SECOND
from . import models as m

blueprint = APIBlueprint("catalogue", __name__, url_prefix="/api", abp_tags=[Tag(name="catalogue")])


@cache
def _catalogue() -> dict[str, Any]:
    return m.CatalogueAnswer(
        ticks_per_second=TICKS_PER_SECOND,
        rates=[m.RateModel(label=r.label, frames_per_second=float(r.fraction), frame_ticks=r.frame_ticks) for r in RATES],
        joins=[m.JoinModel(id=j.id, label=j.label, help=j.help, instant=j.instant) for j in BUILTIN],
        eases=[m.EaseModel(id=e.id, label=e.label, leave=e.leave, arrive=e.arrive, hold=e.hold) for e in EASES],
        look_parts=[
            m.LookPartModel(id=i, label=label, parameters=[m.ParameterModel(**catalogue_entry(p)) for p in parameters_of(model)])
            for i, label, model in LOOK_PARTS
        ],
        qualities=[m.QualityModel(id=q.id, label=q.label, help=q.help) for q in QUALITIES],
        sizes=list(SIZES),
        edits=edit_schema(),
    ).model_dump(mode="json")


@blueprint.get("/catalogue", responses={200: m.CatalogueAnswer})
def catalogue():  # type: ignore[no-untyped-def]
    return _catalogue()
