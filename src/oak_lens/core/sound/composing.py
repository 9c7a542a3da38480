"""Music made to length: chords, bass, plucks and soft drums from mood, pace and intensity; the stand-in for a music library."""

from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field

RATE = 48_000
Samples = NDArray[np.float32]
Mood = Literal["calm", "bright", "wondering", "driving"]


class Wish(BaseModel):
    """Music that lasts so many `seconds`, in whole bars: as near to `tempo`, in beats a minute, as they allow."""

    model_config = ConfigDict(extra="forbid")

    mood: Mood = "calm"
    tempo: float = Field(90, ge=50, le=170, allow_inf_nan=False)
    intensity: float = Field(0.4, ge=0, le=1, allow_inf_nan=False)
    seconds: float = Field(60, ge=4, le=900, allow_inf_nan=False)
    seed: int = Field(1, ge=0, le=9999)


# Chords of each mood, a bar each, as half tones above the key: all in one scale, so that any melody of it fits.
CHORDS: dict[Mood, tuple[tuple[int, ...], ...]] = {
    "calm": ((0, 4, 7), (9, 12, 16), (5, 9, 12), (7, 11, 14)),
    "bright": ((0, 4, 7), (7, 11, 14), (9, 12, 16), (5, 9, 12)),
    "wondering": ((9, 12, 16), (5, 9, 12), (0, 4, 7), (2, 5, 9)),
    "driving": ((9, 12, 16), (9, 12, 16), (5, 9, 12), (7, 11, 14)),
}
SCALE = (0, 2, 4, 7, 9)
KEY_HZ = 130.81
BEATS_PER_BAR = 4
ROOM_SECONDS = 1.6


@dataclass(frozen=True, slots=True)
class Composed:
    """(n, 2) float32 at 48 kHz, its beats a minute, and the seconds of its beats; every fourth begins a bar."""

    samples: Samples
    tempo: float
    beats: tuple[float, ...]


def composed(mood: Mood, tempo: float, intensity: float, seconds: float, seed: int) -> Composed:
    """Music of `seconds`, to the sample, that can follow itself without a seam; the same for the same seed.

    `tempo` in beats a minute: it goes a little slower or faster, so that whole bars fill the time. `intensity` 0..1: more and louder
    voices.
    """
    rng = np.random.default_rng(seed)
    bars = max(1, round(seconds * tempo / 60.0 / BEATS_PER_BAR))
    beat = seconds / (bars * BEATS_PER_BAR)
    count = round(seconds * RATE)
    key = KEY_HZ * 2.0 ** (rng.integers(-4, 5) / 12.0)
    dry = np.zeros((count, 2), np.float32)
    melody = _melody(rng)
    for bar in range(bars):
        chord = CHORDS[mood][bar % 4]
        start = bar * BEATS_PER_BAR * beat
        for number, tone in enumerate(chord):
            _add(dry, start, _pad(key * 2.0 ** (tone / 12.0), beat * BEATS_PER_BAR), 0.10, (number - 1) * 0.5)
        for step in (0.0, 2.0) if intensity < 0.6 else (0.0, 1.5, 2.0, 3.5):
            _add(dry, start + step * beat, _bass(key / 2 * 2.0 ** (chord[0] / 12.0), beat * 1.4), 0.20, 0.0)
        for place, tone in melody[bar % len(melody)]:
            if rng.random() < 0.35 + 0.6 * intensity:
                pitch = key * 2.0 * 2.0 ** (tone / 12.0)
                _add(dry, start + place * beat, _pluck(pitch, beat * 2), 0.15, float(rng.uniform(-0.6, 0.6)))
        for number in range(BEATS_PER_BAR):
            at = start + number * beat
            # Every beat is marked, if softly; bars more.
            _add(dry, at, _pluck(key * 4 * 2.0 ** (chord[number % 3] / 12.0), beat), 0.05 + 0.05 * (number == 0), 0.3)
            if number in (0, 2):
                _add(dry, at, _kick(), 0.16 + 0.24 * intensity, 0.0)
            if intensity > 0.35 and number in (1, 3):
                _add(dry, at, _brush(rng, 0.16), 0.05 + 0.13 * intensity, 0.15)
            if intensity > 0.55:
                _add(dry, at + beat / 2, _brush(rng, 0.05), 0.06 * intensity, -0.25)
    samples = _in_a_room(dry, rng)
    samples *= np.float32(0.7 / max(float(np.abs(samples).max()), 1e-6))
    return Composed(samples, 60.0 / beat, tuple(float(b * beat) for b in range(bars * BEATS_PER_BAR)))


def _melody(rng: np.random.Generator) -> list[list[tuple[float, int]]]:
    """Two phrases of a bar, each note (beat, half tones), moving by steps of the scale."""
    phrases = []
    place = int(rng.integers(0, len(SCALE)))
    for _ in range(2):
        phrase = []
        for step in range(8):
            place = int(np.clip(place + rng.integers(-1, 2), 0, 9))
            phrase.append((step / 2, SCALE[place % 5] + 12 * (place // 5)))
        phrases.append(phrase)
    return phrases


def _add(into: Samples, seconds: float, sound: Samples, level: float, side: float) -> None:
    """A sound laid in at a moment, going round at the end; `side` -1 left to 1 right."""
    angle = (side + 1.0) * np.pi / 4
    sides = np.array((np.cos(angle), np.sin(angle))) * level * 1.414
    at, done = round(seconds * RATE) % len(into), 0
    while done < len(sound):
        fits = min(len(sound) - done, len(into) - at)
        into[at : at + fits] += sound[done : done + fits, None] * sides.astype(np.float32)
        at, done = 0, done + fits


def _time(seconds: float) -> NDArray[np.float64]:
    return np.arange(round(seconds * RATE)) / RATE


@lru_cache(maxsize=64)
def _pad(hz: float, seconds: float) -> Samples:
    """Slow strings: three voices a little apart, overlapping the next chord."""
    t = _time(seconds + 0.8)
    voices = sum(np.sin(2 * np.pi * hz * d * k * t + k * d) / k**1.7 for d in (0.997, 1.0, 1.0034) for k in (1, 2, 3, 4))
    rise, fall = np.clip(t / 0.7, 0, 1), np.clip((t[-1] - t) / 0.8, 0, 1)
    return np.asarray(voices * rise * fall / 3.0, np.float32)


@lru_cache(maxsize=64)
def _bass(hz: float, seconds: float) -> Samples:
    t = _time(seconds)
    body = np.sin(2 * np.pi * hz * t) + 0.35 * np.sin(4 * np.pi * hz * t) * np.exp(-t * 5)
    return np.asarray(body * np.exp(-t * 1.8) * np.clip(t / 0.006, 0, 1) * np.clip((t[-1] - t) / 0.03, 0, 1), np.float32)


@lru_cache(maxsize=64)
def _pluck(hz: float, seconds: float) -> Samples:
    """A struck bar: partials that die away the faster the higher they are."""
    t = _time(seconds)
    body = sum(a * np.sin(2 * np.pi * hz * r * t) * np.exp(-t * d) for r, a, d in ((1.0, 1.0, 3.2), (2.0, 0.45, 5.0), (4.0, 0.22, 11.0)))
    return np.asarray(body * np.clip(t / 0.002, 0, 1) * np.clip((t[-1] - t) / 0.03, 0, 1), np.float32)


def _kick() -> Samples:
    t = _time(0.32)
    phase = 2 * np.pi * (48.0 * t + 34.0 * (1 - np.exp(-t * 28)) / 28 * 3)
    return np.asarray(np.sin(phase) * np.exp(-t * 11) * np.clip(t / 0.0015, 0, 1), np.float32)


def _brush(rng: np.random.Generator, seconds: float) -> Samples:
    t = _time(seconds)
    noise = np.diff(rng.standard_normal(len(t) + 1))
    return np.asarray(noise * np.exp(-t * 5.5 / seconds) * np.clip(t / 0.001, 0, 1) * 0.4, np.float32)


def _in_a_room(dry: Samples, rng: np.random.Generator) -> Samples:
    """With the sound of a room, which goes round at the end too."""
    t = _time(min(ROOM_SECONDS, len(dry) / RATE))
    wet = np.empty_like(dry)
    for channel in range(2):
        tail = rng.standard_normal(len(t)) * np.exp(-t * 4.2) * np.clip(t / 0.02, 0, 1)
        tail = (np.convolve(tail, np.ones(6) / 6, "same") * 0.018).astype(np.float32)
        long = _convolved(dry[:, channel], tail)
        # What lasts beyond the end goes round.
        wet[:, channel] = long[: len(dry)]
        wet[: len(tail) - 1, channel] += long[len(dry) :]
    return np.asarray(dry + wet, np.float32)


def _convolved(sound: Samples, tail: NDArray[Any]) -> Samples:
    """(n + m - 1,): in blocks that fit a processor's cache, added where they overlap."""
    size = 1 << (2 * len(tail) - 1).bit_length()
    block = size - len(tail) + 1
    spectrum = np.fft.rfft(tail, size)
    made = np.zeros(len(sound) + size, np.float32)
    for first in range(0, len(sound), block):
        made[first : first + size] += np.fft.irfft(np.fft.rfft(sound[first : first + block], size) * spectrum, size)
    return made[: len(sound) + len(tail) - 1]
