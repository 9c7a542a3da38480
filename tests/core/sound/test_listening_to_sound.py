"""What is found in sound: beats of tracks whose beats are known, loudness beside a second meter, peaks at every zoom; music made."""

from fractions import Fraction
from typing import Any

import av
import numpy as np
import pytest

from oak_lens.core.sound import composed
from oak_lens.core.sound.beats import RATE as BEAT_RATE
from oak_lens.core.sound.beats import BeatSearch, found_beats
from oak_lens.core.sound.loudness import FILTER, LoudnessMeter
from oak_lens.core.sound.peaks import between, finest_peaks, pyramid

RATE = 48_000


def track(tempo: float, swing: float = 0.5, noise: float = 0.0, seconds: float = 30.0) -> tuple[Any, Any]:
    """(mono at 24 kHz, seconds of its beats): drums, a bass and off-beats, `swing` of a beat after it."""
    rng = np.random.default_rng(round(tempo * 100 + swing * 10))
    sound = np.zeros(int(seconds * BEAT_RATE), np.float32)
    t = np.arange(int(0.25 * BEAT_RATE)) / BEAT_RATE
    kick = np.sin(2 * np.pi * 60 * t) * np.exp(-t * 18)
    hat = rng.standard_normal(len(t)) * np.exp(-t * 70)
    tone = np.sin(2 * np.pi * 220 * t) * np.exp(-t * 6)
    beats = np.arange(0.37, seconds - 0.5, 60 / tempo)
    for number, beat in enumerate(beats):
        for at, voice, level in ((beat, kick if number % 2 == 0 else tone, 0.8), (beat, hat, 0.35), (beat + swing * 60 / tempo, hat, 0.25)):
            first = int(at * BEAT_RATE)
            part = voice[: max(len(sound) - first, 0)]
            sound[first : first + len(part)] += np.float32(level) * part.astype(np.float32)
    return sound + np.float32(noise) * rng.standard_normal(len(sound)).astype(np.float32), beats


def f_measure(found: Any, known: Any, within: float = 0.07) -> float:
    hits = sum(np.abs(np.asarray(found) - k).min() < within for k in known)
    right = sum(np.abs(np.asarray(known) - f).min() < within for f in found)
    return float(2 * hits * right / max(len(found) * hits + len(known) * right, 1e-9))


@pytest.mark.parametrize(("swing", "noise"), [(0.5, 0.0), (0.66, 0.0), (0.5, 0.05)])
@pytest.mark.parametrize("tempo", [72, 96, 120, 128])
def test_beats_are_found_within_70_ms(tempo: float, swing: float, noise: float) -> None:
    sound, known = track(tempo, swing, noise)
    found = found_beats(sound)
    assert found is not None and f_measure(found.times, known) >= 0.9
    # Each beat is known to a hundredth of a second; all of them together tell the tempo much better.
    assert found.tempo == pytest.approx(tempo, abs=0.05 if swing == 0.5 else 0.2) and found.confidence > 0.3


@pytest.mark.parametrize(("tempo", "silence"), [(96, 0.0), (120, 25.0)])
def test_beats_of_long_music_are_one_row_without_a_seam(tempo: float, silence: float) -> None:
    sound, known = track(tempo, seconds=100.0)
    sound[40 * BEAT_RATE : int((40 + silence) * BEAT_RATE)] = 0.0
    known = known[(known < 40) | (known >= 40 + silence)]
    search = BeatSearch(stretch=25.0)
    for piece in np.array_split(sound, 37):
        search.hear(piece)
    found = search.found()
    assert found is not None and f_measure(found.times, known) >= 0.95 and found.tempo == pytest.approx(tempo, rel=0.02)
    assert np.diff(found.times).min() > 0.8 * 60 / tempo and found.times[-1] > 98
    assert BeatSearch().found() is None


def test_nothing_pulses_in_silence_or_noise() -> None:
    assert found_beats(np.zeros(10 * BEAT_RATE, np.float32)) is None and found_beats(np.ones(100, np.float32)) is None
    hiss = found_beats(np.random.default_rng(1).standard_normal(20 * BEAT_RATE).astype(np.float32) * 0.2)
    steady = found_beats(track(100)[0])
    assert steady is not None and (hiss is None or hiss.confidence < 0.6 * steady.confidence)


def second_meter(samples: Any) -> tuple[float, float]:
    """(LUFS, dBTP) by FFmpeg's ebur128."""
    graph = av.filter.Graph()
    source = graph.add_abuffer(format="flt", sample_rate=RATE, layout="stereo", time_base=Fraction(1, RATE))
    meter, sink = graph.add("ebur128", "metadata=1:peak=true"), graph.add("abuffersink")
    source.link_to(meter)
    meter.link_to(sink)
    graph.configure()
    said: dict[str, str] = {}
    for first in range(0, len(samples), RATE):
        frame = av.AudioFrame.from_ndarray(
            np.ascontiguousarray(samples[first : first + RATE].reshape(1, -1)), format="flt", layout="stereo"
        )
        frame.sample_rate, frame.pts = RATE, first
        graph.push(frame)
        while True:
            try:
                said.update(graph.pull().metadata)
            except (av.BlockingIOError, av.EOFError):
                break
    peak = max(float(said[f"lavfi.r128.true_peaks_ch{n}"]) for n in (0, 1))
    return float(said["lavfi.r128.I"]), 20 * np.log10(peak)


@pytest.mark.parametrize("kind", ["music", "tone", "steps", "noise"])
def test_loudness_and_true_peak_agree_with_a_second_meter(kind: str) -> None:
    t = np.arange(12 * RATE) / RATE
    if kind == "music":
        samples = composed("bright", 104, 0.7, 12, 5).samples[: 12 * RATE]
    elif kind == "tone":
        # Its peaks lie between the samples.
        samples = np.repeat(0.5 * np.sin(2 * np.pi * RATE / 4 * t + np.pi / 4)[:, None], 2, 1).astype(np.float32)
    elif kind == "noise":
        samples = np.random.default_rng(3).uniform(-0.9, 0.9, (12 * RATE, 2)).astype(np.float32)
    else:
        level = np.where(t < 6, 0.3, 0.002)
        samples = np.stack([level * np.sin(2 * np.pi * 997 * t), 0.5 * level * np.sin(2 * np.pi * 440 * t)], 1).astype(np.float32)
    meter = LoudnessMeter()
    for first in range(0, len(samples), 70_001):
        meter.hear(samples[first : first + 70_001])
    loudness, peak = second_meter(samples)
    assert meter.integrated == pytest.approx(loudness, abs=0.5)
    # The other meter interpolates by a longer filter of its own, which overshoots where a tone begins.
    assert meter.true_peak == pytest.approx(peak, abs=0.6)
    if kind == "tone":
        assert meter.true_peak == pytest.approx(20 * np.log10(0.5), abs=0.1)
    # By the standard's filter, wherever in the sound it is loudest.
    between = [np.abs(np.convolve(samples[:, c], phase)).max() for c in (0, 1) for phase in FILTER]
    assert meter.true_peak == pytest.approx(20 * np.log10(max(*between, np.abs(samples).max())), abs=1e-3)


def test_silence_has_no_loudness() -> None:
    meter = LoudnessMeter()
    meter.hear(np.zeros((RATE, 2), np.float32))
    assert meter.integrated is None and meter.true_peak == -200.0


def test_peaks_hold_what_is_loudest_at_every_zoom() -> None:
    mono = (np.random.default_rng(2).standard_normal(400_000) * 0.1).clip(-1, 1).astype(np.float32)
    mono[123_456] = 0.9
    levels = pyramid(finest_peaks(mono))
    for count in (1, 7, 300, 1500):
        found = between(levels, 0, len(mono), count)
        assert found.shape == (count, 2) and found[:, 1].max() == np.ceil(np.float32(0.9) * 127)
        assert abs(int(found[:, 1].argmax()) - 123_456 * count // 400_000) <= 1
    assert not between(pyramid(finest_peaks(np.zeros(0, np.float32))), 0, 100, 5).any()


@pytest.mark.parametrize("mood", ["calm", "bright", "wondering", "driving"])
def test_music_is_made_to_length_with_its_beats_and_no_seam(mood: Any) -> None:
    made = composed(mood, 96, 0.6, 21, 4)
    # To the sample, in eight whole bars: a little slower than was asked for.
    assert len(made.samples) == 21 * RATE and len(made.beats) == 4 * 8 and made.tempo == pytest.approx(60 * 32 / 21)
    assert np.abs(made.samples).max() <= 0.71 and made.samples.std() > 0.02
    assert (composed(mood, 96, 0.6, 21, 4).samples == made.samples).all() and (composed(mood, 96, 0.6, 21, 5).samples != made.samples).any()
    steps = np.abs(np.diff(made.samples[:, 0]))
    assert abs(made.samples[0, 0] - made.samples[-1, 0]) <= steps.max(), "it clicks where it begins again"
    mono = made.samples.mean(axis=1)
    found = found_beats(mono[: len(mono) // 2 * 2].reshape(-1, 2).mean(axis=1).astype(np.float32))
    assert found is not None and f_measure(found.times, made.beats) >= 0.9
