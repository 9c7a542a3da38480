"""The table of a project: matched, looked through, and its films asked for."""

from urllib.parse import unquote

from flask import Response, request

from ..core.document import Document, in_order
from ..core.errors import Fault, NotFound
from ..core.evaluate import timeline_of
from ..core.tables import MOST_BYTES, CellFault, Films, faulty_rows, targets_of
from ..services.ports import FilmBatch, KeptTable
from ..services.watching import scene_moment
from . import blueprints
from . import models as m
from . import table_models as t
from .exports import export_model
from .state import services, who

blueprint = blueprints.blueprint("tables")

MOST_LISTED = 100
LIVE = ("waiting", "rendering", "joining")


@blueprint.post("/projects/<project>/table", responses={200: t.TableModel, 404: m.Faults, 413: m.Faults, 422: m.Faults})
def take_table(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    """A CSV file, or what was pasted, as the request's body."""
    _, document = services().projects.read(who(), path.project)
    data = request.stream.read(MOST_BYTES + 1)
    return _model(document, services().film_tables.take(path.project, document, unquote(request.headers.get("X-File-Name", "Table")), data))


@blueprint.get("/projects/<project>/table", responses={200: t.TableModel, 404: m.Faults})
def read_table(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    _, document = services().projects.read(who(), path.project)
    return _model(document, services().film_tables.read(path.project))


@blueprint.patch("/projects/<project>/table", responses={200: t.TableModel, 404: m.Faults})
def change_table(path: m.ProjectPath, body: t.TableChange):  # type: ignore[no-untyped-def]
    _, document = services().projects.read(who(), path.project)
    return _model(document, services().film_tables.change(path.project, body.mapping, body.pattern))


@blueprint.delete("/projects/<project>/table", responses={204: None, 404: m.Faults})
def forget_table(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    services().projects.read(who(), path.project)
    services().film_tables.forget(path.project)
    return "", 204


@blueprint.get("/projects/<project>/table/rows/<number>", responses={200: t.RowFilmModel, 404: m.Faults})
def read_row(path: t.RowPath):  # type: ignore[no-untyped-def]
    """The film of a row, as it would be."""
    _, document = services().projects.read(who(), path.project)
    made, row = services().film_tables.film(path.project, document, path.number)
    kept = services().film_tables.read(path.project)
    name = Films(document, kept.table, kept.mapping).names(kept.pattern)[path.number]
    scenes = [k for k, _ in in_order(made.scenes)]
    return t.RowFilmModel(name=name, aspect=made.frame.aspect, scenes=scenes, faults=_faults(row.faults), notes=list(row.notes)).model_dump(mode="json")


@blueprint.get("/projects/<project>/table/rows/<number>/frame", responses={200: None, 404: m.Faults})
def row_frame(path: t.RowPath, query: t.RowFrameQuery):  # type: ignore[no-untyped-def]
    _, document = services().projects.read(who(), path.project)
    made, _ = services().film_tables.film(path.project, document, path.number)
    if query.scene not in made.scenes:
        raise NotFound([Fault("edit.no_scene", "", "There is no such scene.")])
    drawn = scene_moment(made, timeline_of(made), query.scene, "hold", query.share)
    return Response(services().watching.jpeg(made, drawn, query.width), mimetype="image/jpeg", headers={"Cache-Control": "no-store"})


@blueprint.post("/projects/<project>/table/films", responses={200: t.BatchModel, 404: m.Faults, 409: m.Faults, 422: m.Faults})
def start_films(path: m.ProjectPath, body: t.FilmsRequest):  # type: ignore[no-untyped-def]
    """Films of rows, one after another, by workers."""
    _, document = services().projects.read(who(), path.project)
    return _batch(services().film_tables.start(who(), path.project, document, body.settings.model_dump(), body.rows)).model_dump(mode="json")


@blueprint.get("/projects/<project>/table/films", responses={200: t.BatchList, 404: m.Faults})
def list_films(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    services().projects.read(who(), path.project)
    return t.BatchList(batches=[_batch(b) for b in services().film_tables.batches(path.project)]).model_dump(mode="json")


@blueprint.post("/batches/<batch>/stop", responses={204: None, 404: m.Faults})
def stop_films(path: t.BatchPath):  # type: ignore[no-untyped-def]
    """No more are begun, those under way end; what is done stays."""
    services().film_tables.stop(who(), path.batch)
    return "", 204


@blueprint.delete("/batches/<batch>", responses={204: None, 404: m.Faults})
def remove_films(path: t.BatchPath):  # type: ignore[no-untyped-def]
    services().film_tables.remove(who(), path.batch)
    return "", 204


@blueprint.get("/batches/<batch>/films.zip", responses={200: None, 404: m.Faults})
def download_films(path: t.BatchPath):  # type: ignore[no-untyped-def]
    """All films that are done, as one file."""
    return Response(
        services().film_tables.bundle(who(), path.batch), mimetype="application/zip", headers={"Content-Disposition": 'attachment; filename="Films.zip"'}
    )


def _model(document: Document, kept: KeptTable) -> dict[str, object]:
    films = Films(document, kept.table, kept.mapping)
    names = films.names(kept.pattern)
    faulty = faulty_rows(films)
    first = kept.table.rows[0].cells
    return t.TableModel(
        name=kept.name,
        columns=[t.ColumnModel(name=c, target=kept.mapping.get(c, ""), sample=first[i][:200]) for i, c in enumerate(kept.table.columns)],
        targets=[t.TargetModel(id=x.id, label=x.label, kind=x.kind, about=x.about) for x in targets_of(document)],
        pattern=kept.pattern,
        rows=len(kept.table.rows),
        names=names[:MOST_LISTED],
        faulty=len(faulty),
        faults=[t.FaultyRow(number=n, line=kept.table.rows[n].line, name=names[n], faults=_faults(row.faults)) for n, row in faulty[:MOST_LISTED]],
        notes=list(kept.table.notes),
    ).model_dump(mode="json")


def _faults(faults: tuple[CellFault, ...]) -> list[t.CellFaultModel]:
    return [t.CellFaultModel(column=f.column, sentence=f.sentence) for f in faults]


def _batch(batch: FilmBatch) -> t.BatchModel:
    films = [record for _, record in services().film_tables.films(who(), batch.id)]
    states = [f.state for f in films]
    return t.BatchModel(
        id=batch.id, created=batch.created.isoformat(), total=len(batch.numbers), made=batch.made, state=batch.state, message=batch.message,
        done=states.count("done"), failed=states.count("failed"), live=batch.state == "making" or any(s in LIVE for s in states),
        frames=sum(f.frames for f in films), done_frames=sum(f.done_frames if f.state != "done" else f.frames for f in films),
        films=[export_model(f) for f in films[:MOST_LISTED]],
    )  # type: ignore[arg-type]  # fmt: skip
