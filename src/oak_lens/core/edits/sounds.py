"""Edits of music: files taken in, songs placed and trimmed, levels, beats corrected by hand."""

from typing import Annotated, Any, Literal

from pydantic import Field

from ..document import Beats, Document, Song, SoundFile, in_order
from ..document.records import Id
from .positions import orders_before
from .registry import Edit, EditSpec, fresh, merged, refused

FileMoment = Annotated[int, Field(ge=0)]
SAME_BEAT = 0.35
"""A tapped beat within this share of the distance between beats takes the place of the one there."""


class NewSound(SoundFile):
    id: Id


class AddSounds(Edit):
    """Sound files, each also put into the film as a song, after those that are there, unless `as_songs` is false."""

    sounds: list[NewSound] = Field(min_length=1, max_length=200)
    as_songs: bool = True


def add_sounds(document: Document, edit: AddSounds) -> Document:
    fresh(document.sounds, (s.id for s in edit.sounds), "sounds")
    added = {s.id: SoundFile.model_validate(s.model_dump(exclude={"id"})) for s in edit.sounds}
    document = document.model_copy(update={"sounds": {**document.sounds, **added}})
    if not edit.as_songs:
        return document
    return add_songs(document, AddSongs(songs=[NewSong(id=s.id, sound=s.id) for s in edit.sounds if s.id not in document.songs]))


class NewSong(Edit):
    id: Id
    sound: Id


class AddSongs(Edit):
    songs: list[NewSong]


def add_songs(document: Document, edit: AddSongs) -> Document:
    fresh(document.songs, (s.id for s in edit.songs), "songs")
    orders = orders_before(document.songs, None, len(edit.songs))
    added = dict(document.songs)
    for new, order in zip(edit.songs, orders, strict=True):
        _sound_of(document, new.sound)
        added[new.id] = Song(order=order, sound=new.sound)
    return document.model_copy(update={"songs": added})


class Ids(Edit):
    ids: list[Id] = Field(min_length=1)


def remove_songs(document: Document, edit: Ids) -> Document:
    """Songs taken out of the film, and the files that no song uses any more."""
    for song_id in edit.ids:
        song_of(document, song_id)
    songs = {k: s for k, s in document.songs.items() if k not in edit.ids}
    gone = {document.songs[k].sound for k in edit.ids} - {s.sound for s in songs.values()}
    sounds = {k: s for k, s in document.sounds.items() if k not in gone}
    return document.model_copy(update={"songs": songs, "sounds": sounds})


class MoveSongs(Ids):
    """Put before song `before`, or at the end."""

    before: Id | None = None


def move_songs(document: Document, edit: MoveSongs) -> Document:
    moving = [k for k, _ in in_order(document.songs) if k in set(edit.ids)]
    rest = {k: s for k, s in document.songs.items() if k not in moving}
    orders = orders_before(rest, edit.before, len(moving))
    moved = {k: document.songs[k].model_copy(update={"order": o}) for k, o in zip(moving, orders, strict=True)}
    return document.model_copy(update={"songs": {**document.songs, **moved}})


class SetSongs(Ids):
    """What is given of each song; null goes back to what it is by itself."""

    song: dict[str, Any]


def set_songs(document: Document, edit: SetSongs) -> Document:
    changed = dict(document.songs)
    for song_id in edit.ids:
        song = song_of(document, song_id)
        if {"order", "sound"} & edit.song.keys():
            raise refused("edit.value", f"songs.{song_id}", "A song's place and file are changed by other edits.")
        plain = {k: Song.model_fields[k].get_default(call_default_factory=True) if v is None and k in Song.model_fields else v
                 for k, v in edit.song.items()}  # fmt: skip
        song = merged(song, plain, f"songs.{song_id}")
        length = document.sounds[song.sound].length
        if song.trim_start >= length or (song.trim_end is not None and song.trim_end <= song.trim_start):
            raise refused(
                "edit.trim", f"songs.{song_id}.trim_start", "Nothing of the song would be left: its trimmed start lies at or after its end."
            )
        for scene in song.over or ():
            if scene not in document.scenes:
                raise refused("edit.no_scene", f"songs.{song_id}.over", "There is no such scene; it may have been deleted.")
        changed[song_id] = song
    return document.model_copy(update={"songs": changed})


class SetMix(Edit):
    mix: dict[str, Any]


def set_mix(document: Document, edit: SetMix) -> Document:
    return document.model_copy(update={"mix": merged(document.mix, edit.mix, "mix")})


class ChangeBeats(Edit):
    """Beats of a sound corrected: `half` and `double` as many, `shift` all by `by` ticks, `bars` begin one beat later, `add` or `remove`
    the one at `at` (ticks of the file), `even` by `tempo` from `at`."""

    sound: Id
    how: Literal["half", "double", "shift", "bars", "add", "remove", "even"]
    at: FileMoment = 0
    by: int = 0
    tempo: Annotated[float, Field(ge=20, le=400, allow_inf_nan=False)] | None = None


def change_beats(document: Document, edit: ChangeBeats) -> Document:
    sound = _sound_of(document, edit.sound)
    beats = sound.beats or Beats(tempo=edit.tempo or 120.0, times=())
    times, update = list(beats.times), {}
    if edit.how == "half":
        keep = beats.first % 2
        times, update = times[keep::2], {"tempo": max(beats.tempo / 2, 20.0), "first": beats.first // 2}
    elif edit.how == "double":
        times = [t for a, b in zip(times, [*times[1:], None], strict=True) for t in ((a,) if b is None else (a, (a + b) // 2))]
        update = {"tempo": min(beats.tempo * 2, 400.0), "first": min(beats.first * 2, 15) % beats.bar}
    elif edit.how == "shift":
        times = [t + edit.by for t in times if 0 <= t + edit.by <= sound.length]
    elif edit.how == "bars":
        update = {"first": (beats.first + 1) % beats.bar}
    elif edit.how == "even":
        tempo = edit.tempo or beats.tempo
        step = 60.0 / tempo * 705_600_000
        times = [round(edit.at + n * step) for n in range(-int(edit.at // step), int((sound.length - edit.at) // step) + 1)]
        update = {"tempo": tempo, "first": int(edit.at // step) % beats.bar}
    else:
        near = _nearest(times, edit.at)
        if near is not None and abs(times[near] - edit.at) < SAME_BEAT * 60.0 / beats.tempo * 705_600_000:
            del times[near]
        elif edit.how == "remove":
            raise refused("edit.no_beat", f"sounds.{edit.sound}.beats", "There is no beat here to remove.")
        if edit.how == "add":
            times = sorted({*times, min(edit.at, sound.length)})
    changed = beats.model_copy(update={**update, "times": tuple(times), "confidence": 1.0})
    changed = merged(changed, {}, f"sounds.{edit.sound}.beats")
    return document.model_copy(update={"sounds": {**document.sounds, edit.sound: sound.model_copy(update={"beats": changed})}})


def _nearest(times: list[int], at: int) -> int | None:
    return min(range(len(times)), key=lambda i: abs(times[i] - at), default=None)


def song_of(document: Document, song_id: str) -> Song:
    song = document.songs.get(song_id)
    if song is None:
        raise refused("edit.no_song", f"songs.{song_id}", "There is no such song; it may have been taken out.")
    return song


def _sound_of(document: Document, sound_id: str) -> SoundFile:
    sound = document.sounds.get(sound_id)
    if sound is None:
        raise refused("edit.no_sound", f"sounds.{sound_id}", "There is no such sound in the project.")
    return sound


SOUND_EDITS = (
    EditSpec("add_sounds", "Add music", AddSounds, add_sounds),
    EditSpec("add_songs", "Add songs", AddSongs, add_songs),
    EditSpec("remove_songs", "Take out songs", Ids, remove_songs),
    EditSpec("move_songs", "Move songs", MoveSongs, move_songs),
    EditSpec("set_songs", "Change songs", SetSongs, set_songs),
    EditSpec("set_mix", "Change levels", SetMix, set_mix),
    EditSpec("change_beats", "Correct beats", ChangeBeats, change_beats),
)
