"""How far a film made of templates is filled."""

from ..core.templates import film_dials, film_zones, spare_scenes, templates_used, unused_pictures, zone_fault
from . import blueprints
from . import filling_models as f
from . import models as m
from .state import services, who

blueprint = blueprints.blueprint("filling")


@blueprint.get("/projects/<project>/filling", responses={200: f.FillingModel, 404: m.Faults})
def read_filling(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    """Zones in the order in which they are seen and what is in them; dials, those of one name as one; what is left over."""
    _, document = services().projects.read(who(), path.project)
    zones = [
        f.FilmZoneModel(
            scene=z.scene, zone=z.id, use=z.use, round=z.round, number=z.number, name=z.zone.name or f"Zone {z.number}", takes=z.zone.takes, help=z.zone.help,
            required=z.zone.required, aspect=z.zone.shape, most=z.zone.most, held=z.held, plain=z.plain, by_hand=z.by_hand, fault=zone_fault(document, z),
        )
        for z in film_zones(document)
    ]  # fmt: skip
    dials = [f.FilmDialModel(name=d.name, kind=d.kind, dial=d.dial, value=d.value, scene=d.turns[0][0]) for d in film_dials(document)]
    templates = [f.FilmTemplateModel(key=t.origin.key if t.origin else "", name=t.name, kind=t.kind) for t in templates_used(document)]
    return f.FillingModel(templates=templates, zones=zones, dials=dials, unused=unused_pictures(document), spare=spare_scenes(document)).model_dump(mode="json")
