"""The film's sound: songs and clips laid over each other."""

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..document import Document, Mix
from ..time import TICKS_PER_SECOND
from .clips import ClipSound
from .songs import HeardSong, Pass

RATE = 48_000
EVEN_LUFS = -18.0
"""Loudness that sources are brought to before their levels, where they are made even."""

Samples = NDArray[np.float32]
ReadSong = Callable[[str, int, int], Samples]
"""(sound, first, last) -> (last - first, 2): samples of a sound file; silence beyond its ends."""

ReadClip = Callable[[ClipSound, NDArray[np.int64]], Samples]
"""(clip, samples since it began) -> (n, 2): what is heard of a clip."""


def samples_at(ticks: int) -> int:
    """Number of samples before a moment."""
    return ticks * RATE // TICKS_PER_SECOND


def gain_of(decibels: Any) -> Any:
    """Factor of a level in dB."""
    return 10.0 ** (np.asarray(decibels) / 20.0)


def mixed(
    document: Document,
    songs: tuple[HeardSong, ...],
    clips: tuple[ClipSound, ...],
    first: int,
    last: int,
    read_song: ReadSong,
    read_clip: ReadClip,
) -> Samples:
    """(last - first, 2) float32: samples `first` to `last` of the film's sound, before its final level."""
    mix = document.mix
    film = np.zeros((last - first, 2), np.float32)
    at = np.arange(first, last)
    down = stepped_down(mix, clips, at)
    for song in songs:
        start, end = samples_at(song.start), samples_at(song.end)
        if end <= first or start >= last:
            continue
        low, high = max(start, first), min(end, last)
        here = slice(low - first, high - first)
        loudness = document.sounds[song.sound].loudness
        even = EVEN_LUFS - loudness if mix.even and loudness is not None else 0.0
        level = (level_at(song, at[here] - start) * gain_of(mix.music + even + song.level) * down[here]).astype(np.float32)
        film[here] += _song(song, low - start, high - start, read_song) * level[:, None]
    for clip in clips:
        start, end = samples_at(clip.start), samples_at(clip.end)
        low, high = max(start, first), min(end, last)
        if high > low:
            since = np.arange(low, high) - start
            level = (clip_fade(clip, since) * gain_of(mix.clips)).astype(np.float32)
            film[low - first : high - first] += read_clip(clip, since) * level[:, None]
    return film


def _song(song: HeardSong, low: int, high: int, read: ReadSong) -> Samples:
    """Samples `low` to `high` since the song began, its passes faded into each other."""
    made = np.zeros((high - low, 2), np.float32)
    for part in song.passes:
        start, end = samples_at(part.start), samples_at(part.end)
        a, b = max(start, low), min(end, high)
        if b > a:
            source = samples_at(part.source)
            made[a - low : b - low] += read(song.sound, source + a - start, source + b - start) * _pass_level(part, np.arange(a, b) - start)
    return made


def _pass_level(part: Pass, since: NDArray[np.int64]) -> Samples:
    """(n, 1): equal power at the seams."""
    length = samples_at(part.end) - samples_at(part.start)
    rise = np.clip(since / samples_at(part.fade_in), 0.0, 1.0) if part.fade_in else np.ones(len(since))
    fall = np.clip((length - since) / samples_at(part.fade_out), 0.0, 1.0) if part.fade_out else np.ones(len(since))
    return np.asarray(np.sin(rise * np.pi / 2) * np.sin(fall * np.pi / 2), np.float32)[:, None]


def level_at(song: HeardSong, since: NDArray[np.int64]) -> NDArray[np.float64]:
    """(n,): fades and envelope of a song, as a factor, at samples since it began."""
    length = samples_at(song.end) - samples_at(song.start)
    level = np.ones(len(since))
    for ticks, left in ((song.fade_in, since), (song.fade_out, length - since)):
        if ticks:
            share = np.clip(left / max(samples_at(ticks), 1), 0.0, 1.0)
            level *= {"even": share, "power": np.sin(share * np.pi / 2), "gentle": share * share * (3.0 - 2.0 * share)}[song.curve]
    if song.points:
        places = [samples_at(p.at) for p in song.points]
        level *= gain_of(np.interp(since, places, [p.level for p in song.points]))
    return level


def stepped_down(mix: Mix, clips: tuple[ClipSound, ...], at: NDArray[np.int64]) -> NDArray[np.float64]:
    """(n,): the factor of music where clips are heard: down when one begins, up again when it is over, even in dB."""
    depth = np.zeros(len(at))
    for clip in clips:
        start, end = samples_at(clip.start), samples_at(clip.end)
        rise = np.clip(1.0 - (start - at) / max(samples_at(mix.step_in), 1), 0.0, 1.0)
        fall = np.clip(1.0 - (at - end) / max(samples_at(mix.step_out), 1), 0.0, 1.0)
        np.maximum(depth, np.minimum(rise, fall), out=depth)
    return np.asarray(gain_of(-mix.step_down * depth))


def clip_fade(clip: ClipSound, since: NDArray[np.int64]) -> NDArray[np.float64]:
    """(n,): the square root of the share of the join, so that two sounds together stay as loud as one."""
    length = samples_at(clip.end) - samples_at(clip.start)
    rise = np.clip(since / max(samples_at(clip.fade_in), 1), 0, 1) if clip.fade_in else np.ones(len(since))
    fall = np.clip((length - since) / max(samples_at(clip.fade_out), 1), 0, 1) if clip.fade_out else np.ones(len(since))
    return np.asarray(np.sqrt(rise * fall))


def final_gain(mix: Mix, loudness: float | None, peak: float) -> float:
    """The factor that brings a film of this loudness (LUFS) and true peak (dBTP) to its target, never beyond its ceiling."""
    if loudness is None:
        return 1.0
    return float(gain_of(min(mix.target - loudness, mix.ceiling - peak)))
