"""Songs in the drop zones of a template: heard over all scenes of a use of it, as the zone says."""

import hashlib
from collections.abc import Iterable

from ..document import Document, Song, SongZone, Template, Zone, in_order, order_keys_between


def scenes_of_use(document: Document, use: str) -> list[str]:
    """The scenes of a use of a template, in order."""
    return [k for k, scene in in_order(document.scenes) if scene.template is not None and scene.template.use == use]


def song_in(document: Document, use: str, zone: str) -> str | None:
    """The song in a zone of a use."""
    return next((k for k, song in in_order(document.songs) if song.zone == SongZone(use=use, zone=zone)), None)


def with_song(document: Document, use: str, zone_id: str, zone: Zone, sound: str | None) -> Document:
    """The document with a sound in a zone of a use, or none. A song that goes takes along its file, if nothing else is made of that."""
    held = song_in(document, use, zone_id)
    songs, scenes = dict(document.songs), scenes_of_use(document, use)
    if sound is not None and scenes:
        if held is not None:
            songs[held] = songs[held].model_copy(update={"sound": sound, "trim_start": 0, "trim_end": None, "points": {}})
        else:
            last = max((s.order for s in songs.values()), default=None)
            played = zone.played
            songs[_song_id(use, zone_id)] = Song(
                order=order_keys_between(last, None, 1)[0], sound=sound, over=(scenes[0], scenes[-1]), fade_in=played.fade_in, fade_out=played.fade_out,
                gain=played.gain, zone=SongZone(use=use, zone=zone_id),
            )  # fmt: skip
    elif held is not None:
        gone = songs.pop(held).sound
        if not any(s.sound == gone for s in songs.values()):
            document = document.model_copy(update={"sounds": {k: s for k, s in document.sounds.items() if k != gone}})
    return document.model_copy(update={"songs": songs})


def handed_on(document: Document, uses: Iterable[str], template: Template, use: str) -> Document:
    """The document in which the songs of earlier uses are in zones of the same names in a new one; those that have none there are songs like any."""
    before, scenes = set(uses), scenes_of_use(document, use)
    songs = dict(document.songs)
    for key, song in document.songs.items():
        if song.zone is None or song.zone.use not in before | {use}:
            continue
        zone = template.zones.get(song.zone.zone)
        if zone is not None and zone.takes == "song" and scenes:
            songs[key] = song.model_copy(update={"zone": SongZone(use=use, zone=song.zone.zone), "over": (scenes[0], scenes[-1])})
        elif not scenes_of_use(document, song.zone.use):
            songs[key] = song.model_copy(update={"zone": None})
    return document if songs == document.songs else document.model_copy(update={"songs": songs})


def without_zones(document: Document) -> Document:
    """The document in which songs of uses that no scene is of any more are songs like any."""
    used = {scene.template.use for scene in document.scenes.values() if scene.template}
    freed = {k: s.model_copy(update={"zone": None}) for k, s in document.songs.items() if s.zone is not None and s.zone.use not in used}
    return document.model_copy(update={"songs": {**document.songs, **freed}}) if freed else document


def _song_id(use: str, zone: str) -> str:
    return f"song-{hashlib.sha256(f'{use} {zone}'.encode()).hexdigest()[:16]}"
