"""What there is to choose from: rates, joins, eases, look parameters, qualities, edits."""

from functools import cache
from typing import Any

from pydantic import BaseModel

from ..core.curves import EASES
from ..core.delivery import KINDS, QUALITIES, SIZES
from ..core.delivery.settings import CONTROLS as EXPORT_CONTROLS
from ..core.document import BLENDS, DETAILS, LAYER_KINDS, LINKABLE, Placement
from ..core.edits import BUILTIN as EDITS
from ..core.edits import CARRIED, SAFE_SHARE
from ..core.edits.controls import CONTROLS
from ..core.joins import BUILTIN, FAMILIES, JoinSettings
from ..core.layouts import BUILTIN as LAYOUTS
from ..core.letters import FAMILIES as FACES
from ..core.looks import DRAWN_PARTS, LOOK_PARTS, SHIPPED_LOOKS, TEXT_PARTS, TEXT_STYLES, parameters_of
from ..core.looks.controls import control_specs
from ..core.looks.parameters import catalogue_entry
from ..core.moves import BUILTIN as MOVES
from ..core.moves import PACES, Spread
from ..core.stage import STAGE_PARTS
from ..core.time import RATES, TICKS_PER_SECOND
from ..core.titles import BUILTIN as TITLES
from . import blueprints
from . import catalogue_models as m

blueprint = blueprints.blueprint("catalogue")


def _part(part: str, label: str, model: type[BaseModel]) -> m.LookPartModel:
    return m.LookPartModel(id=part, label=label, parameters=[m.ParameterModel(**catalogue_entry(p)) for p in parameters_of(model)])


@cache
def _catalogue() -> dict[str, Any]:
    return m.CatalogueAnswer(
        ticks_per_second=TICKS_PER_SECOND,
        rates=[m.RateModel(label=r.label, frames_per_second=float(r.fraction), frame_ticks=r.frame_ticks) for r in RATES],
        joins=[m.JoinModel(**{f: getattr(j, f) for f in m.JoinModel.model_fields if f != "uses"}, uses=list(j.uses)) for j in BUILTIN],
        join_families=list(FAMILIES),
        join_settings=[m.ParameterModel(**catalogue_entry(p)) for p in parameters_of(JoinSettings)],
        eases=[
            m.EaseModel(
                id=e.id,
                label=e.label,
                leave=e.leave,
                arrive=e.arrive,
                hold=e.hold,
                follow=None if e.follow is None else e.follow.model_dump(),
            )
            for e in EASES
        ],
        look_parts=[_part(*part) for part in LOOK_PARTS],
        text_parts=[_part(*part) for part in TEXT_PARTS],
        text_styles=[m.ChoiceModel(id=i, label=s.name, help=s.help) for i, s in TEXT_STYLES],
        titles=[m.TitleModel(id=t.id, label=t.name, help=t.help, texts=t.texts, words=t.words) for t in TITLES],
        families=[
            m.FamilyModel(id=f.id, label=f.name, kind=f.kind, scripts=list(f.scripts), weights=f.weights, italic=f.italic) for f in FACES
        ],
        text_details=[m.ChoiceModel(id=i, label=label) for i, label in DETAILS],
        spread=[m.ParameterModel(**catalogue_entry(p)) for p in parameters_of(Spread)],
        paces=[m.ChoiceModel(id=i, label=label) for i, label in PACES],
        drawn_parts=[_part(*part) for part in DRAWN_PARTS],
        layer_kinds=[m.LayerKindModel(id=k.id, label=k.label, details=list(k.details)) for k in LAYER_KINDS],
        controls=[m.ParameterModel(**catalogue_entry(c)) for c in control_specs((*CONTROLS, *EXPORT_CONTROLS))],
        placement=[m.ParameterModel(**catalogue_entry(p)) for p in parameters_of(Placement)],
        stage_parts=[_part(*part) for part in STAGE_PARTS],
        moves=[
            m.MoveModel(
                id=i, label=x.name, exit_label=x.exit_name, help=x.help, kind=x.kind, sided=x.sided, length=x.length, spread=x.spread
            )
            for i, x in MOVES
        ],
        looks=[m.ChoiceModel(id=s.id, label=s.look.name, help=s.look.help) for s in SHIPPED_LOOKS],
        layouts=[m.LayoutModel(id=x.id, label=x.label, help=x.help, least=x.least, most=x.most, seeded=x.seeded) for x in LAYOUTS],
        blends=[m.ChoiceModel(id=i, label=label) for i, label in BLENDS],
        carried=[m.CarriedModel(id=c.id, label=c.label, help=c.help, kinds=list(c.kinds)) for c in CARRIED],
        safe_share=SAFE_SHARE,
        kinds=[m.KindModel(**{f: getattr(k, f) for f in m.KindModel.model_fields if f != "uses"}, uses=list(k.uses)) for k in KINDS],
        qualities=[m.QualityModel(id=q.id, label=q.label, help=q.help) for q in QUALITIES],
        sizes=list(SIZES),
        edit_labels={spec.id: spec.label for spec in EDITS},
        natures={name: entry.nature for name, entry in LINKABLE.items()},
    ).model_dump(mode="json")


@blueprint.get("/catalogue", responses={200: m.CatalogueAnswer})
def catalogue():  # type: ignore[no-untyped-def]
    return _catalogue()
