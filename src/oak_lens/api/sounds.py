"""Music and the film's sound: receive a file, make a piece, draw it, hear it."""

from dataclasses import asdict
from typing import Any
from urllib.parse import unquote

from flask import Response, request

from ..core.document import Document
from ..core.edits import apply_edits, parse_edits
from ..core.errors import Fault, InvalidSound, NotFound
from ..core.evaluate import Timeline, timeline_of
from ..core.sound import film_beats, placed_songs
from ..services.sounds import Listened
from . import blueprints
from . import models as m
from .projects import timeline_model
from .state import services, who

blueprint = blueprints.blueprint("sounds")


@blueprint.post("/projects/<project>/sounds", responses={200: m.SoundAnswer, 413: m.Faults, 415: m.Faults, 422: m.Faults})
def receive_sound(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    """One file as the request's body, its name (percent-encoded) in the header X-File-Name."""
    _, document = services().projects.read(who(), path.project)
    name = unquote(request.headers.get("X-File-Name", ""))
    if not name:
        raise InvalidSound([Fault("sound.no_file", "", "The request carries no file name.")])
    return _answer(services().sounds.take_in(document, name, request.stream))


@blueprint.get("/projects/<project>/listening/<sha256>", responses={200: m.SoundAnswer, 404: m.Faults, 422: m.Faults})
def listening(path: m.ListeningPath, query: m.ListeningQuery):  # type: ignore[no-untyped-def]
    """How far listening to a received file is."""
    services().projects.read(who(), path.project)
    return _answer(services().sounds.listened(path.sha256, query.name))


@blueprint.delete("/projects/<project>/listening/<sha256>", responses={204: None, 404: m.Faults})
def cancel_listening(path: m.ListeningPath):  # type: ignore[no-untyped-def]
    services().projects.read(who(), path.project)
    services().sounds.cancel_listening(path.sha256)
    return "", 204


@blueprint.post("/projects/<project>/made-music", responses={200: m.SoundAnswer, 422: m.Faults})
def make_music(path: m.ProjectPath, body: m.MusicWish):  # type: ignore[no-untyped-def]
    """A piece made to length."""
    _, document = services().projects.read(who(), path.project)
    record = services().sounds.make(document, body.mood, body.tempo, body.intensity, body.seconds, body.seed)
    return _answer(Listened(record["sha256"], 1.0, record))


@blueprint.post("/projects/<project>/made-music/heard", responses={200: None, 404: m.Faults, 422: m.Faults})
def hear_music(path: m.ProjectPath, body: m.MusicWish):  # type: ignore[no-untyped-def]
    """How such a piece begins, as WAV; nothing is kept."""
    services().projects.read(who(), path.project)
    return Response(services().sounds.sample_of(body.mood, body.tempo, body.intensity, body.seconds, body.seed), mimetype="audio/wav")


def _answer(listened: Listened) -> dict[str, Any]:
    return m.SoundAnswer(**asdict(listened)).model_dump(mode="json")


@blueprint.get("/projects/<project>/sounds/<sound>/peaks", responses={200: m.PeaksAnswer, 404: m.Faults})
def peaks(path: m.SoundPath, query: m.PeaksQuery):  # type: ignore[no-untyped-def]
    """What a waveform is drawn from."""
    _, document = services().projects.read(who(), path.project)
    if path.sound not in document.sounds:
        raise NotFound([Fault("sound.not_found", "", "There is no such sound in the project.")])
    return {"peaks": services().sounds.peaks(document, path.sound, query.start, query.end, query.count)}


@blueprint.get("/projects/<project>/heard", responses={200: m.HeardAnswer})
def heard(path: m.ProjectPath):  # type: ignore[no-untyped-def]
    """When songs and beats are heard, in ticks of the film."""
    _, document = services().projects.read(who(), path.project)
    return _heard(document, timeline_of(document)).model_dump(mode="json")


def _heard(document: Document, timeline: Timeline) -> m.HeardAnswer:
    songs = [m.PlacedSong(song=k, start=a, end=b) for k, a, b in placed_songs(document, timeline)]
    beats = film_beats(document, timeline)
    return m.HeardAnswer(songs=songs, beats=[b.at for b in beats], bars=[b.at for b in beats if b.bar])


@blueprint.post("/projects/<project>/tried", responses={200: m.TriedAnswer, 409: m.Faults, 422: m.Faults})
def tried(path: m.ProjectPath, body: m.TriedEdits):  # type: ignore[no-untyped-def]
    """What edits would make of the film's times and songs; nothing is stored."""
    _, document = services().projects.read(who(), path.project)
    document = apply_edits(document, parse_edits(body.edits))
    timeline = timeline_of(document)
    answer = m.TriedAnswer.model_construct(timeline=timeline_model(timeline), heard=_heard(document, timeline), songs=document.songs)
    return Response(answer.model_dump_json(by_alias=True), mimetype="application/json")


@blueprint.get("/projects/<project>/sound", responses={200: None, 404: m.Faults})
def sound(path: m.ProjectPath, query: m.PieceQuery):  # type: ignore[no-untyped-def]
    """WAV of a stretch of the film's sound, as it is exported."""
    _, document = services().projects.read(who(), path.project)
    data = services().sounds.piece(document, timeline_of(document), query.first, query.count, services().pictures.path_of(document))
    return Response(data, mimetype="audio/wav", headers={"Cache-Control": "no-store"})
