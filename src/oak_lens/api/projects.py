"""Projects: list, create, open, edit, undo, versions."""

import json
from collections.abc import Iterable, Mapping
from dataclasses import asdict

from flask import Response, request

from ..core.document import ByRecord, Document, Scene, applied, details_told
from ..core.edits import HEAD_FIELDS, apply_edits, parse_edits, scene_changes
from ..core.errors import Fault, NotFound
from ..core.evaluate import Timeline, timeline_of
from ..core.time import seconds
from ..services.findings import all_marks, changed_marks
from ..services.ports import ProjectHead
from ..services.projects import Edited
from ..services.watching import join_moment, outlines, scene_moment
from . import blueprints
from . import models as m
from .state import services, who

blueprint = blueprints.blueprint("projects")

SCENES_WRITTEN = 2_000
"""Scenes whose JSON is remembered, over all projects: some 5 kB each."""

_written = ByRecord[Scene, str](lambda scene: scene.model_dump_json(by_alias=True), SCENES_WRITTEN)

CACHED_FOREVER = "private, max-age=31536000, immutable"


def timeline_model(timeline: Timeline) -> m.TimelineModel:
    return m.TimelineModel.model_construct(
        spans=[
            m.SpanModel(scene=s.scene, join_start=s.join_start, hold_start=s.hold_start, hold_end=s.hold_end, end=s.end) for s in timeline.spans
        ],
        length=timeline.length,
        frames=timeline.frames,
        frame_ticks=timeline.rate.frame_ticks,
    )


def image(data: bytes) -> Response:
    """A JPEG that the browser may keep: its address names how it looks."""
    return Response(data, mimetype="image/jpeg", headers={"Cache-Control": CACHED_FOREVER})


def _summary(head: ProjectHead) -> m.ProjectSummary:
    return m.ProjectSummary(
        id=head.id,
        title=head.title,
        revision=head.revision,
        updated=head.updated.isoformat(),
        width=head.width,
        height=head.height,
        rate=head.rate,
        scenes=head.scenes,
        pictures=head.pictures,
        length_seconds=seconds(head.length),
        poster_key=str(head.revision) if head.scenes and not head.fault else "",
        fault=head.fault,
    )


def _answer(answer: m.Answer, **texts: str) -> Response:
    """An answer whose parts named are JSON already."""
    rest = answer.model_dump_json(by_alias=True, exclude=set(texts)).removesuffix("}")
    return Response("".join((rest, *(f',"{name}":{text}' for name, text in texts.items()), "}")), mimetype="application/json")


def _scenes_text(scenes: Mapping[str, Scene | None]) -> str:
    """Scenes as JSON: a scene is written once, whatever is asked of the others."""
    return "{" + ",".join(f"{json.dumps(key)}:{'null' if scene is None else _written.of(scene)}" for key, scene in scenes.items()) + "}"


@blueprint.get("/projects", responses={200: m.ProjectList})
def list_projects():  # type: ignore[no-untyped-def]
    return m.ProjectList(projects=[_summary(head) for head in services().projects.listed(who())]).model_dump(mode="json")


@blueprint.post("/projects", responses={200: m.ProjectCreated, 422: m.Faults})
def create_project(body: m.NewProject):  # type: ignore[no-untyped-def]
    projects = services().projects
    head = projects.copy(who(), body.copy_of) if body.copy_of else projects.create(who(), body.edits, body.title)
    return m.ProjectCreated(id=head.id).model_dump(mode="json")


@blueprint.get("/projects/<project>", responses={200: m.ProjectAnswer, 404: m.Faults})
def read_project(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    projects = services().projects
    head, document = projects.read(who(), path.project)
    undo, redo = projects.labels(who(), path.project)
    answer = m.ProjectAnswer.model_construct(
        id=head.id,
        revision=head.revision,
        document=document,
        timeline=timeline_model(timeline_of(document)),
        marks=all_marks(document),
        applied=_applied(document),
        undo=undo,
        redo=redo,
    )
    rest = document.model_dump_json(by_alias=True, exclude={"scenes"}).removesuffix("}")
    return _answer(answer, document=f'{rest},"scenes":{_scenes_text(document.scenes)}}}')


@blueprint.delete("/projects/<project>", responses={204: None, 404: m.Faults})
def delete_project(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    services().projects.delete(who(), path.project)
    return "", 204


@blueprint.post("/projects/<project>/bring-back", responses={204: None, 404: m.Faults})
def bring_back_project(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    services().projects.bring_back(who(), path.project)
    return "", 204


def _applied(document: Document, containers: Iterable[str] | None = None) -> m.AppliedModel:
    found = applied(document, containers)
    return m.AppliedModel.model_construct(values=found.values, scenes=found.scenes, layers=found.layers)


def _edited(edited: Edited) -> Response:
    timeline = timeline_of(edited.document)
    change = edited.change
    touched = dict.fromkeys((*change.scenes, *(change.groups or ())))
    if edited.before is not None:
        # What texts tell of the rest of the document may be otherwise though they were not touched.
        told = details_told(edited.before)
        touched |= {key: None for key, words in details_told(edited.document).items() if words != told.get(key)}
    answer = m.EditAnswer.model_construct(
        revision=edited.revision,
        **{name: getattr(change, name) for name in HEAD_FIELDS},
        media=change.media,
        scenes=change.scenes,
        timeline=timeline_model(timeline),
        marks=changed_marks(edited.before, edited.document),
        applied=_applied(edited.document, None if edited.before is None or change.looks or change.styles or change.defaults else touched),
        undo=edited.undo,
        redo=edited.redo,
    )
    return _answer(answer, scenes=_scenes_text(change.scenes))


LONGEST_REQUEST = 64


def _asked() -> str | None:
    """What the page calls this step, so that it can ask again when no answer arrives."""
    return request.headers.get("X-Oak-Request", "")[:LONGEST_REQUEST] or None


@blueprint.post("/projects/<project>/edits", responses={200: m.EditAnswer, 409: m.Faults, 422: m.Faults})
def edit_project(path: m.ProjectPath, body: m.EditRequest):  # type: ignore[no-untyped-def]
    return _edited(services().projects.edit(who(), path.project, body.base, body.edits, _asked()))


@blueprint.post("/projects/<project>/undo", responses={200: m.EditAnswer, 409: m.Faults})
def undo(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    return _edited(services().projects.undo(who(), path.project, _asked()))


@blueprint.post("/projects/<project>/redo", responses={200: m.EditAnswer, 409: m.Faults})
def redo(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    return _edited(services().projects.redo(who(), path.project, _asked()))


@blueprint.post("/projects/<project>/findings", responses={200: m.FindingsAnswer, 404: m.Faults})
def project_findings(path: m.ProjectPath, body: m.WantedScenes):  # type: ignore[no-untyped-def]
    """How the photos of some scenes are used."""
    _, document = services().projects.read(who(), path.project)
    found = services().findings.of(document, timeline_of(document), body.scenes)
    return m.FindingsAnswer(findings=[m.SceneFindingModel(**asdict(f)) for f in found]).model_dump(mode="json")


@blueprint.get("/projects/<project>/state", responses={200: m.StateAnswer})
def project_state(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    head, document = services().projects.read(who(), path.project)
    states = [m.MediaStateModel(**asdict(s)) for s in services().pictures.states(document)]
    return m.StateAnswer(revision=head.revision, pictures=states).model_dump(mode="json")


@blueprint.get("/projects/<project>/versions", responses={200: m.VersionList})
def list_versions(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    found = services().projects.versions(who(), path.project)
    return m.VersionList(
        versions=[m.VersionModel(id=v.id, name=v.name, revision=v.revision, created=v.created.isoformat()) for v in found]
    ).model_dump(mode="json")


@blueprint.post("/projects/<project>/versions", responses={200: m.VersionModel})
def name_version(path: m.ProjectPath, body: m.NewVersion):  # type: ignore[no-untyped-def]
    v = services().projects.name_version(who(), path.project, body.name)
    return m.VersionModel(id=v.id, name=v.name, revision=v.revision, created=v.created.isoformat()).model_dump(mode="json")


@blueprint.post("/projects/<project>/versions/<version>/return", responses={200: m.EditAnswer, 404: m.Faults})
def return_to_version(path: m.VersionPath):  # type: ignore[no-untyped-def]
    return _edited(services().projects.return_to_version(who(), path.project, path.version, _asked()))


@blueprint.get("/projects/<project>/versions/<version>/frame", responses={200: None, 404: m.Faults})
def version_frame(path: m.VersionPath, query: m.MomentQuery):  # type: ignore[no-untyped-def]
    """A moment as it is in a named version."""
    document = services().projects.version(who(), path.project, path.version)
    if query.scene not in document.scenes:
        raise NotFound([Fault("version.no_scene", "", "This scene was not there yet in that version.")])
    drawn = scene_moment(document, timeline_of(document), query.scene, "hold", query.share)
    return image(services().watching.jpeg(document, drawn, query.width))


@blueprint.get("/projects/<project>/poster", responses={200: None})
def poster(path: m.ProjectPath, query: m.FrameQuery):  # type: ignore[no-untyped-def]
    _, document = services().projects.read(who(), path.project)
    return image(services().watching.poster(document, query.width))


@blueprint.get("/projects/<project>/scenes/<scene>/frame", responses={200: None, 404: m.Faults})
def scene_frame(path: m.ScenePath, query: m.FrameQuery):  # type: ignore[no-untyped-def]
    _, document = services().projects.read(who(), path.project)
    if path.scene not in document.scenes:
        raise NotFound([Fault("edit.no_scene", "", "There is no such scene.")])
    return image(services().watching.end(document, timeline_of(document), path.scene, query.which, query.width))


@blueprint.get("/projects/<project>/scenes/<scene>/outlines", responses={200: m.OutlineList, 404: m.Faults, 409: m.Faults})
def scene_outlines(path: m.ScenePath, query: m.ShareQuery):  # type: ignore[no-untyped-def]
    """Where the layers of a scene stand after a share of its time, lowest first."""
    _, document = services().projects.read(who(), path.project)
    if path.scene not in document.scenes:
        raise NotFound([Fault("edit.no_scene", "", "There is no such scene.")])
    found = outlines(document, timeline_of(document), path.scene, query.share)
    return m.OutlineList(outlines=[m.OutlineModel(container=o.container, layer=o.layer, corners=list(o.corners)) for o in found]).model_dump(mode="json")


@blueprint.post("/projects/<project>/tried-frame", responses={200: None, 404: m.Faults, 409: m.Faults, 422: m.Faults})
def tried_frame(path: m.ProjectPath, body: m.TriedFrame):  # type: ignore[no-untyped-def]
    """A scene's frame as JPEG, with edits that are only tried."""
    _, document = services().projects.read(who(), path.project)
    if body.edits:
        document = apply_edits(document, parse_edits(body.edits))
        services().placeholders.bring(document, None if body.which in ("join", "end") else body.scene)
    if body.scene not in document.scenes:
        raise NotFound([Fault("edit.no_scene", "", "There is no such scene.")])
    timeline = timeline_of(document)
    if body.which in ("join", "end"):
        drawn = join_moment(document, timeline, body.scene, body.which == "end", body.share or 0.0)
    else:
        drawn = scene_moment(document, timeline, body.scene, body.which, body.share)
    return Response(services().watching.jpeg(document, drawn, body.width), mimetype="image/jpeg")


@blueprint.post("/projects/<project>/changes", responses={200: m.ChangesAnswer, 409: m.Faults, 422: m.Faults})
def tried_changes(path: m.ProjectPath, body: m.TriedEdits):  # type: ignore[no-untyped-def]
    """What edits would change, scene by scene; nothing is stored."""
    _, document = services().projects.read(who(), path.project)
    after = apply_edits(document, parse_edits(body.edits))
    changes = [m.SceneChangeModel(scene=c.scene, what=list(c.what)) for c in scene_changes(document, after)]
    return m.ChangesAnswer(changes=changes).model_dump(mode="json")
