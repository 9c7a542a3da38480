"""Songs in the film: when each is heard, from where in its file, how loud."""

from bisect import bisect_left
from dataclasses import dataclass

from ..document import Document, LevelPoint, Song, SoundFile, in_order
from ..evaluate import Timeline
from ..time import TICKS_PER_SECOND

SEAM = TICKS_PER_SECOND // 20
"""Ticks over which one pass of a loop gives way to the next where it has beats to meet on; else `LONG_SEAM`."""

LONG_SEAM = TICKS_PER_SECOND
LEAST_PASS = 2 * TICKS_PER_SECOND


@dataclass(frozen=True, slots=True)
class Pass:
    """A stretch of the file: heard from `start` to `end` (ticks since the song began), `source` ticks of the file at `start`; it swells
    over `fade_in` and dies away over `fade_out`, with equal power."""

    start: int
    end: int
    source: int
    fade_in: int
    fade_out: int


@dataclass(frozen=True, slots=True)
class HeardSong:
    """A song as it is heard: `start` and `end` in ticks of the film; fades in ticks; `level` in dB."""

    song: str
    sound: str
    start: int
    end: int
    fade_in: int
    fade_out: int
    curve: str
    level: float
    passes: tuple[Pass, ...]
    points: tuple[LevelPoint, ...]

    @property
    def length(self) -> int:
        return self.end - self.start


@dataclass(frozen=True, slots=True)
class FilmBeat:
    """A beat at a moment of the film (ticks); `bar`: it begins one."""

    at: int
    bar: bool


def heard_songs(document: Document, timeline: Timeline) -> tuple[HeardSong, ...]:
    """All songs that are not muted, in order."""
    placed = placed_songs(document, timeline)
    found = []
    for song_id, start, end in placed:
        song = document.songs[song_id]
        if song.muted or end <= start:
            continue
        sound = document.sounds[song.sound]
        follower = next(
            (s for k, s, _ in placed if s < end and s > start and document.songs[k].at is None and document.songs[k].overlap), None
        )
        joined = document.songs[song_id].overlap if song.at is None and song.over is None and start > 0 else 0
        fade_out = max(song.fade_out if follower is None else end - follower, 0)
        fade_in = max(song.fade_in, joined)
        length = end - start
        points = tuple(p for _, p in sorted(song.points.items(), key=lambda e: e[1].at))
        found.append(
            HeardSong(
                song_id,
                song.sound,
                start,
                end,
                min(fade_in, length),
                min(fade_out, length),
                song.curve,
                song.gain,
                passes_of(song, sound, length),
                points,
            )
        )
    return tuple(found)


def placed_songs(document: Document, timeline: Timeline) -> tuple[tuple[str, int, int], ...]:
    """(song, start, end) of all songs in order, in ticks of the film; muted ones keep their place."""
    placed = []
    at = 0
    for song_id, song in in_order(document.songs):
        left = left_of(song, document.sounds[song.sound])
        spans = [timeline.span_of(scene) for scene in song.over or ()]
        if len(spans) == 2 and spans[0] is not None and spans[1] is not None:
            start, length = spans[0].join_start, max(spans[1].end - spans[0].join_start, 0)
        else:
            start = max(at - song.overlap, 0) if song.at is None else song.at
            length = left if song.length is None else song.length
        placed.append((song_id, start, start + length))
        at = start + length
    return tuple(placed)


def left_of(song: Song, sound: SoundFile) -> int:
    """Ticks of the file between its trims."""
    end = sound.length if song.trim_end is None else min(song.trim_end, sound.length)
    return max(end - song.trim_start, 0)


def passes_of(song: Song, sound: SoundFile, length: int) -> tuple[Pass, ...]:
    """How a song fills its length: once, or again and again from one bar (or else any place) to a like one, with no click."""
    left = left_of(song, sound)
    if length <= left or left < LEAST_PASS:
        return (Pass(0, min(length, left), song.trim_start, 0, 0),) if left else ()
    begin, over = song.trim_start, song.trim_start + left
    seam = min(LONG_SEAM, left // 4)
    again = begin
    beats = sound.beats
    if beats is not None:
        bars = [b for b in (beats.bars if len(beats.bars) > 2 else beats.times) if begin <= b <= over]
        if len(bars) > 2 and bars[-1] - bars[0] >= LEAST_PASS:
            again, over, seam = bars[0], bars[-1], SEAM
    passes = [Pass(0, over - begin, begin, 0, seam)]
    while passes[-1].end < length:
        start = passes[-1].end - seam
        # The seam of a pass lies before its beat: so do the last moments of the pass before.
        source = max(again - seam, 0) if seam == SEAM else again
        passes.append(Pass(start, start + over - source, source, seam, seam))
    last = passes[-1]
    passes[-1] = Pass(last.start, length, last.source, last.fade_in, 0)
    return tuple(passes)


def film_beats(document: Document, timeline: Timeline) -> tuple[FilmBeat, ...]:
    """All beats that are heard, in order, none twice."""
    found: dict[int, bool] = {}
    for heard in heard_songs(document, timeline):
        beats = document.sounds[heard.sound].beats
        if beats is None:
            continue
        bars = frozenset(beats.bars)
        for part in heard.passes:
            low = bisect_left(beats.times, part.source + part.fade_in)
            for time in beats.times[low:]:
                at = part.start + time - part.source
                if at >= part.end - part.fade_out // 2:
                    break
                found[heard.start + at] = found.get(heard.start + at, False) or time in bars
    return tuple(FilmBeat(at, bar) for at, bar in sorted(found.items()))


def music_end(document: Document, timeline: Timeline) -> int:
    """Ticks of the film at which the last song placed by itself ends: those over scenes follow the film."""
    return max((end for k, _, end in placed_songs(document, timeline) if document.songs[k].over is None), default=0)
