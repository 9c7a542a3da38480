"""Drags of songs where they lie in the film: moved, trimmed, faded, their level shaped."""

from typing import Annotated, Any, Literal

from pydantic import Field

from ..document import Document, LevelPoint, Song
from ..document.records import Id, Ticks
from ..evaluate import timeline_of
from ..sound import placed_songs
from ..time import TICKS_PER_SECOND
from .registry import Edit, EditSpec, fresh, merged, refused
from .sounds import song_of
from .timing import boundary_of

FilmTicks = Annotated[int, Field(ge=-(1 << 50), le=1 << 50)]
SHORTEST = TICKS_PER_SECOND // 5
LONGEST_FADE = 120 * TICKS_PER_SECOND
SOFTEST, LOUDEST = -36.0, 12.0
"""Levels in dB between which points are drawn and dragged."""


class DragSong(Edit):
    """A song dragged by `by` ticks of the film: its `body` moves it; its `start` trims it; its `end` trims it, or loops it to a length;
    `fade_in` and `fade_out` lengthen or shorten those; a `point` of its level moves, also by `louder` dB. `snap`: its start or end comes
    to lie on a boundary between scenes within so many ticks."""

    id: Id
    part: Literal["body", "start", "end", "fade_in", "fade_out", "point"]
    by: FilmTicks = 0
    louder: Annotated[float, Field(ge=-200, le=200, allow_inf_nan=False)] = 0.0
    point: Id | None = None
    snap: Ticks = 0


def drag_song(document: Document, edit: DragSong) -> Document:
    song = song_of(document, edit.id)
    start, end = next((a, b) for key, a, b in placed_songs(document, timeline_of(document)) if key == edit.id)
    length, by = end - start, edit.by
    if edit.part == "body":
        by = _snapped(document, edit.snap, by, start, end)
        update: dict[str, Any] = {"at": max(0, start + by), "over": None}
    elif edit.part == "start":
        by = max(-song.trim_start, -start, min(_snapped(document, edit.snap, by, start), length - SHORTEST))
        update = {"trim_start": song.trim_start + by, "at": start + by, "over": None, "length": None if song.length is None and not song.over else length - by}
    elif edit.part == "end":
        update = {"at": start if song.over else song.at, "over": None, "length": max(SHORTEST, length + _snapped(document, edit.snap, by, end))}
    elif edit.part == "point":
        update = {"points": {**song.points, str(edit.point): _moved_point(song, edit, length)}}
    else:
        was, way = getattr(song, edit.part), by if edit.part == "fade_in" else -by
        update = {edit.part: max(0, min(was + way, length, LONGEST_FADE))}
    return _with_song(document, edit.id, song, update)


def _moved_point(song: Song, edit: DragSong, length: int) -> LevelPoint:
    point = song.points.get(edit.point or "")
    if point is None:
        raise refused("edit.no_point", f"songs.{edit.id}.points.{edit.point}", "There is no such point of the song's level; it may have been deleted.")
    return LevelPoint(at=max(0, min(point.at + edit.by, length)), level=_drawn(point.level + edit.louder))


def _drawn(level: float) -> float:
    return round(min(max(level, SOFTEST), LOUDEST), 2)


def _snapped(document: Document, snap: int, by: int, *edges: int) -> int:
    """`by`, or what brings one of the edges onto the nearest boundary between scenes within `snap` ticks."""
    timeline = timeline_of(document)
    lines = [0, *(boundary_of(span) for span in timeline.spans[1:]), timeline.length]
    ways = [line - edge for edge in edges for line in lines if abs(line - edge - by) <= snap]
    return min(ways, key=lambda way: abs(way - by), default=by) if snap else by


class AddLevelPoint(Edit):
    """A point of a song's level, `at` ticks after it began in the film, in dB."""

    id: Id
    point: Id
    at: Ticks
    level: Annotated[float, Field(ge=-200, le=200, allow_inf_nan=False)]


def add_level_point(document: Document, edit: AddLevelPoint) -> Document:
    song = song_of(document, edit.id)
    fresh(song.points, (edit.point,), f"songs.{edit.id}.points")
    return _with_song(document, edit.id, song, {"points": {**song.points, edit.point: LevelPoint(at=edit.at, level=_drawn(edit.level))}})


def _with_song(document: Document, key: str, song: Song, update: dict[str, Any]) -> Document:
    return document.model_copy(update={"songs": {**document.songs, key: merged(song, update, f"songs.{key}")}})


SONG_DRAG_EDITS = (
    EditSpec("drag_song", "Move a song", DragSong, drag_song),
    EditSpec("add_level_point", "Set a point of the level", AddLevelPoint, add_level_point),
)
