"""Exports: estimate, start, watch, cancel, download."""

from dataclasses import asdict
from datetime import UTC, datetime

from flask import send_file
from pydantic import ValidationError

from ..core.delivery import ExportSettings, estimated_bytes, file_name, notes_on, segments_of
from ..core.document import faults_from
from ..core.errors import ExportFailed
from ..core.evaluate import timeline_of
from ..core.time import seconds
from ..services.ports import ExportRecord
from . import blueprints
from . import models as m
from .state import services, who

blueprint = blueprints.blueprint("exports")


def export_model(record: ExportRecord) -> m.ExportModel:
    """An export as the page is told of it."""
    left = None
    if record.state == "rendering" and record.started and record.done_frames:
        spent = (datetime.now(UTC) - record.started).total_seconds()
        left = spent * (record.frames - record.done_frames) / record.done_frames
    values = {k: v for k, v in asdict(record).items() if k in m.ExportModel.model_fields}
    return m.ExportModel(**{**values, "created": record.created.isoformat(), "seconds_left": left})


@blueprint.post("/projects/<project>/exports/estimate", responses={200: m.EstimateAnswer, 422: m.Faults})
def estimate(path: m.ProjectPath, body: m.ExportRequest):  # type: ignore[no-untyped-def]
    _, document = services().projects.read(who(), path.project)
    try:
        settings = ExportSettings.model_validate(body.model_dump())
    except ValidationError as error:
        raise ExportFailed(faults_from(error, "export.settings")) from None
    timeline = timeline_of(document)
    frames = sum(s.frames for s in segments_of(timeline, settings))
    length = frames * settings.frame_rate.frame_ticks
    if settings.kind_spec.frames == "none":
        length = max(0, min(timeline.length, settings.end or timeline.length) - settings.start)
    return m.EstimateAnswer(
        frames=frames,
        length_seconds=seconds(length),
        bytes=estimated_bytes(settings, length),
        file_name=file_name(document.title, settings.kind_spec.ending),
        notes=list(notes_on(settings)),
    ).model_dump(mode="json")


@blueprint.post("/projects/<project>/exports", responses={200: m.ExportModel, 409: m.Faults, 422: m.Faults})
def start_export(path: m.ProjectPath, body: m.ExportRequest):  # type: ignore[no-untyped-def]
    _, document = services().projects.read(who(), path.project)
    return export_model(services().exports.start(who(), path.project, document, body.model_dump())).model_dump(mode="json")


@blueprint.get("/projects/<project>/exports", responses={200: m.ExportList})
def list_exports(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    services().projects.read(who(), path.project)
    return m.ExportList(exports=[export_model(r) for r in services().exports.listed(path.project)]).model_dump(mode="json")


@blueprint.post("/exports/<export>/cancel", responses={204: None, 404: m.Faults})
def cancel_export(path: m.ExportPath):  # type: ignore[no-untyped-def]
    services().exports.cancel(who(), path.export)
    return "", 204


@blueprint.delete("/exports/<export>", responses={204: None, 404: m.Faults})
def forget_export(path: m.ExportPath):  # type: ignore[no-untyped-def]
    services().exports.forget(who(), path.export)
    return "", 204


@blueprint.get("/exports/<export>/film", responses={200: None, 404: m.Faults})
def download_film(path: m.ExportPath):  # type: ignore[no-untyped-def]
    film, name, mime = services().exports.film(who(), path.export)
    return send_file(film, mimetype=mime, as_attachment=True, download_name=name, conditional=True)
