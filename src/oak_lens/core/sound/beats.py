"""Beats of music: where sound begins anew, how fast it pulses, and the row of beats that fits best (D. Ellis, Beat Tracking by Dynamic
Programming, Journal of New Music Research 36, 2007)."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from math import ceil

import cv2
import numpy as np
from numpy.typing import NDArray

RATE = 24_000
HOP, WINDOW = 256, 1024
FRAMES_PER_SECOND = RATE / HOP
BANDS = 40
SLOWEST, FASTEST, USUAL = 50.0, 200.0, 110.0
TIGHTNESS = 400.0
LEAST_SECONDS = 3.0
TOO_FAST, BETWEEN_BEATS = 132.0, 2.0
"""From this tempo on, every second beat that is so much softer is taken for what lies between two."""

LIKE = 0.3
"""Music that repeats itself so much after a beat is surely music with beats."""

STRETCH_SECONDS, SHARED_SECONDS = 600.0, 8.0
"""Long music is looked into by stretches, so that it fits into memory; each begins in what the one before it heard last."""

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class FoundBeats:
    """`times` in seconds, rising; `tempo` in beats a minute; `confidence` 0..1; `first`: number of the first beat that seems to begin a bar."""

    tempo: float
    times: tuple[float, ...]
    confidence: float
    first: int = 0


def found_beats(mono: NDArray[np.float32]) -> FoundBeats | None:
    """The beats of sound at `RATE`; None where nothing pulses."""
    if len(mono) < LEAST_SECONDS * RATE or float(np.abs(mono).max()) < 1e-4:
        return None
    onsets, low = onset_strength(mono)
    found = _tempo(onsets)
    if found is None:
        return None
    tempo, likeness = found
    beats = _best_row(onsets, tempo)
    strength = _near(onsets, beats)
    # Where every second one is soft, they lie between the beats.
    power = np.array([np.sqrt(np.mean(mono[max(b * HOP - 200, 0) : b * HOP + 2400] ** 2)) for b in beats])
    even, odd = float(power[::2].mean()), float(power[1::2].mean())
    if tempo >= TOO_FAST and max(even, odd) > BETWEEN_BEATS * min(even, odd):
        beats = beats[int(odd > even) :: 2]
        strength = _near(onsets, beats)
    # Silence at either end has no beats.
    smooth = np.convolve(strength, np.ones(5) / 5, "same")
    heard = np.flatnonzero(smooth > 0.3 * np.sqrt(np.mean(strength**2)))
    if len(heard) < 4:
        return None
    beats, strength = beats[heard[0] : heard[-1] + 1], strength[heard[0] : heard[-1] + 1]
    # How much stronger sound begins on the beats than anywhere.
    contrast = float(strength.mean() / (onsets.mean() + 1e-9))
    uneven = float(np.std(np.diff(beats)) / np.mean(np.diff(beats)))
    confidence = float(
        np.clip((contrast - 1.0) / 3.0, 0.0, 1.0) * np.clip(1.0 - 3.0 * uneven, 0.2, 1.0) * np.clip(likeness / LIKE, 0.0, 1.0)
    )
    times = tuple(float(t) for t in (beats * HOP) / RATE)
    return FoundBeats(_tempo_of(times), times, confidence, _bar_start(low, beats))


def _tempo_of(times: Sequence[float]) -> float:
    """Beats a minute of a row: by the line that fits best through all of it, since each beat is known to a hundredth of a second only."""
    steps = np.diff(times)
    counted = np.concatenate([[0.0], np.cumsum(np.maximum(np.rint(steps / np.median(steps)), 1.0))])
    return 60.0 / float(np.polyfit(counted, np.asarray(times), 1)[0])


def _near(onsets: Floats, beats: NDArray[np.int64]) -> Floats:
    """The strongest onset within a frame of each beat."""
    return np.asarray(np.max([onsets[np.clip(beats + d, 0, len(onsets) - 1)] for d in (-1, 0, 1)], axis=0), np.float64)


def onset_strength(mono: NDArray[np.float32]) -> tuple[Floats, Floats]:
    """((frames,), (frames,)): how much sound begins in all bands, and in the low ones, `FRAMES_PER_SECOND` times a second."""
    padded = np.pad(mono.astype(np.float32), (WINDOW // 2, WINDOW))
    frames = np.lib.stride_tricks.sliding_window_view(padded, WINDOW)[::HOP]
    bands, window = _bands(), np.hanning(WINDOW).astype(np.float32)
    parts = []
    for first in range(0, len(frames), 2048):
        spectrum = np.abs(np.fft.rfft(frames[first : first + 2048] * window, axis=1)).astype(np.float32)
        parts.append(np.log1p(20.0 * (spectrum @ bands.T)))
    levels = np.concatenate(parts)
    rises = np.maximum(0.0, levels[2:] - levels[:-2])
    every = _standing_out(np.concatenate([[0.0], rises.mean(axis=1), [0.0]]))
    low = np.concatenate([[0.0], rises[:, :6].mean(axis=1), [0.0]])
    return every, low


def _standing_out(strength: Floats) -> Floats:
    raised = np.maximum(_smooth(strength, 1.0) - _smooth(strength, FRAMES_PER_SECOND * 0.4), 0.0)
    return np.asarray(raised / (raised.std() + 1e-9), np.float64)


def _smooth(values: Floats, sigma: float) -> Floats:
    side = 2 * ceil(4 * sigma) + 1
    return np.asarray(
        cv2.GaussianBlur(np.asarray(values, np.float64)[None], (side, 1), sigma, borderType=cv2.BORDER_REFLECT)[0], np.float64
    )


def _bands() -> NDArray[np.float32]:
    """(bands, bins): triangles even on the mel scale, 30 Hz to 9 kHz."""

    def mel(f: Floats) -> Floats:
        return np.asarray(2595.0 * np.log10(1.0 + f / 700.0))

    edges = 700.0 * (10.0 ** (np.linspace(mel(np.array(30.0)), mel(np.array(9000.0)), BANDS + 2) / 2595.0) - 1.0)
    bins = np.fft.rfftfreq(WINDOW, 1.0 / RATE)
    rising = (bins[None] - edges[:-2, None]) / (edges[1:-1] - edges[:-2])[:, None]
    falling = (edges[2:, None] - bins[None]) / (edges[2:] - edges[1:-1])[:, None]
    return np.maximum(0.0, np.minimum(rising, falling)).astype(np.float32)


def _tempo(onsets: Floats) -> tuple[float, float] | None:
    """(beats a minute by which the onsets repeat themselves best, near the usual ones; how much alike they are then, 0..1)."""
    size = 1 << ceil(np.log2(2 * len(onsets)))
    spectrum = np.fft.rfft(onsets - onsets.mean(), size)
    alike = np.fft.irfft(spectrum * spectrum.conj(), size)[: min(int(FRAMES_PER_SECOND * 6), len(onsets) - 1)]
    alike = alike / (len(onsets) - np.arange(len(alike)))
    lags = np.arange(1, int(FRAMES_PER_SECOND * 1.25) + 2)
    places = np.arange(len(alike))
    comb = alike[lags] + 0.5 * np.interp(2 * lags, places, alike) + 0.25 * np.interp(4 * lags, places, alike)
    tempos = 60.0 * FRAMES_PER_SECOND / lags
    weighed = comb * np.exp(-0.5 * (np.log2(tempos / USUAL) / 0.9) ** 2)
    weighed[(tempos < SLOWEST) | (tempos > FASTEST)] = -np.inf
    best = int(np.argmax(weighed))
    if not np.isfinite(weighed[best]) or weighed[best] <= 0.0 or best == 0 or best == len(comb) - 1:
        return None
    a, b, c = comb[best - 1 : best + 2]
    between = float(np.clip(0.5 * (a - c) / (a - 2 * b + c + 1e-12), -0.5, 0.5))
    return float(60.0 * FRAMES_PER_SECOND / (lags[best] + between)), float(np.clip(alike[lags[best]] / alike[0], 0.0, 1.0))


def _best_row(onsets: Floats, tempo: float) -> NDArray[np.int64]:
    """Frames of the row of beats that best meets strong onsets at even distances."""
    period = 60.0 * FRAMES_PER_SECOND / tempo
    strength = _smooth(onsets, max(1.0, period / 32.0))
    nearest, farthest = round(period * 0.5), round(period * 2)
    offsets = np.arange(-farthest, -nearest + 1)
    cost = -TIGHTNESS * np.log(-offsets / period) ** 2
    score, before = strength.copy(), np.full(len(strength), -1)
    for i in range(len(strength)):
        skipped = max(0, farthest - i)
        if skipped >= len(offsets):
            continue
        reached = score[i + offsets[skipped:]] + cost[skipped:]
        best = int(reached.argmax())
        if reached[best] > 0.0 or i > FRAMES_PER_SECOND * 2:
            score[i] += reached[best]
            before[i] = i + offsets[skipped + best]
    last = len(strength) - int(period) + int(np.argmax(score[len(strength) - int(period) :]))
    row = [last]
    while before[row[-1]] >= 0:
        row.append(int(before[row[-1]]))
    return np.array(row[::-1])


def _bar_start(low: Floats, beats: NDArray[np.int64]) -> int:
    """Which of four beats is strongest in the low bands: most music begins its bars there."""
    near = np.array([low[max(b - 2, 0) : b + 3].max() if b < len(low) else 0.0 for b in beats])
    means = [near[k::4].mean() if len(near[k::4]) else 0.0 for k in range(4)]
    return int(np.argmax(means))


@dataclass(slots=True)
class BeatSearch:
    """Beats of music of any length, heard piece by piece. `stretch`: seconds looked into at a time."""

    stretch: float = STRETCH_SECONDS
    _held: list[NDArray[np.float32]] = field(default_factory=list)
    _count: int = 0
    _from: float = 0.0
    _found: list[tuple[float, FoundBeats]] = field(default_factory=list)

    def hear(self, mono: NDArray[np.float32]) -> None:
        """Goes on with (n,) of sound at `RATE`."""
        self._held.append(mono)
        self._count += len(mono)
        if self._count >= self.stretch * RATE:
            whole = self._look()
            self._from += (len(whole) - int(SHARED_SECONDS * RATE)) / RATE
            self._held, self._count = [whole[-int(SHARED_SECONDS * RATE) :]], int(SHARED_SECONDS * RATE)

    def found(self) -> FoundBeats | None:
        """The beats of all that was heard; nothing more can be heard afterwards."""
        if self._held and (not self._from or self._count > SHARED_SECONDS * RATE):
            self._look()
        return one_row(self._found)

    def _look(self) -> NDArray[np.float32]:
        whole = np.concatenate(self._held).astype(np.float32)
        beats = found_beats(whole)
        if beats is not None:
            self._found.append((self._from, beats))
        return whole


def one_row(stretches: list[tuple[float, FoundBeats]]) -> FoundBeats | None:
    """The beats of stretches of one piece as one row; each comes with the seconds at which it begins. Where two overlap, the later goes
    on from the middle of what both heard. Bars are counted from the first."""
    if len(stretches) < 2:
        return stretches[0][1] if stretches else None
    times: list[float] = []
    for begin, beats in stretches:
        later = [begin + t for t in beats.times]
        if times:
            spacing = 60.0 / beats.tempo
            times = [t for t in times if t < begin + SHARED_SECONDS / 2]
            later = [t for t in later if t >= begin + SHARED_SECONDS / 2 and (not times or t > times[-1] + spacing / 2)]
        times += later
    weights = [len(beats.times) for _, beats in stretches]
    confidence = float(np.average([beats.confidence for _, beats in stretches], weights=weights))
    return FoundBeats(_tempo_of(times), tuple(times), confidence, stretches[0][1].first)
