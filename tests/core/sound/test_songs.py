"""Songs in film time: loops without a hole, music that steps down under clips, records that hold together."""

from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lens.core.document import Beats, Clip, Mix, Song, SoundFile, parse_document
from oak_lens.core.errors import InvalidDocument
from oak_lens.core.sound import ClipSound, passes_of
from oak_lens.core.sound.mixing import RATE, level_at, mixed, stepped_down
from oak_lens.core.sound.songs import HeardSong
from oak_lens.core.time import ticks

FILE = {"file": "a.wav", "sha256": "a" * 64}


def sound(seconds: float, beats: bool, tempo: float = 100.0) -> SoundFile:
    times = [ticks(t) for t in np.arange(0.2, seconds, 60 / tempo)] if beats else []
    return SoundFile.model_validate({**FILE, "length": ticks(seconds), "beats": {"tempo": tempo, "times": times} if times else None})


@settings(max_examples=100)
@given(seconds=st.floats(0.3, 60), length=st.floats(0.1, 400), start=st.floats(0, 0.5), beats=st.booleans(), tempo=st.floats(60, 180))
def test_passes_fill_the_length_from_within_the_file(seconds: float, length: float, start: float, beats: bool, tempo: float) -> None:
    file = sound(seconds, beats, tempo)
    song = Song(order="a", sound="m", trim_start=ticks(start * seconds))
    passes = passes_of(song, file, ticks(length))
    assert passes[0].start == 0 and passes[0].source == song.trim_start
    for part in passes:
        assert part.start < part.end and part.source >= 0 and part.source + part.end - part.start <= file.length
    for a, b in pairwise(passes):
        # One begins as the other ends, for as long as both fade.
        assert a.end - b.start == a.fade_out == b.fade_in > 0
    left = file.length - song.trim_start
    if length > seconds and left >= ticks(2):
        assert passes[-1].end == ticks(length) and passes[-1].fade_out == 0
    if ticks(length) <= left:
        assert len(passes) == 1 and passes[0].end == ticks(length)


def clip(start: float, end: float) -> ClipSound:
    return ClipSound("c", Clip(length=ticks(9), frames=225), ticks(start), ticks(end), 0, 0)


def test_music_is_down_while_a_clip_is_heard_and_comes_back() -> None:
    mix = Mix(step_down=12.0, step_in=ticks(0.5), step_out=ticks(1))
    at = np.arange(0, 20 * RATE, 480)
    down = 20 * np.log10(stepped_down(mix, (clip(5, 8), clip(8.5, 12)), at))
    seconds = at / RATE

    def level(moment: float) -> float:
        return float(down[np.argmin(np.abs(seconds - moment))])

    assert level(4.4) == 0 and level(4.75) == pytest.approx(-6, abs=0.3) and level(5.0) == pytest.approx(-12)
    assert (down[(seconds > 5) & (seconds < 8)] == pytest.approx(-12)) and level(12.5) == pytest.approx(-6, abs=0.3) and level(13.1) == 0
    assert level(8.25) < -5.9, "between two clips near each other it does not jump up"
    assert (stepped_down(mix, (), at) == 1.0).all()


@pytest.mark.parametrize(("curve", "middle"), [("even", 0.5), ("power", np.sin(np.pi / 4)), ("gentle", 0.5)])
def test_fades_follow_their_curves(curve: str, middle: float) -> None:
    heard = HeardSong("s", "m", 0, ticks(20), ticks(4), ticks(2), curve, 0.0, (), ())
    level = level_at(heard, np.array([0, 2 * RATE, 4 * RATE, 10 * RATE, 19 * RATE, 20 * RATE]))
    assert level == pytest.approx([0.0, middle, 1.0, 1.0, middle, 0.0], abs=1e-6)


def test_sources_are_made_even_before_their_levels() -> None:
    loud, soft = ({**FILE, "length": ticks(9), "loudness": v} for v in (-8.0, -28.0))
    heard = tuple(HeardSong(f"s{n}", f"m{n}", ticks(4 * n), ticks(4 * n + 4), 0, 0, "power", 0.0, passes_of(Song(order="a", sound="m"), sound(9, False), ticks(4)), ())
                  for n in (0, 1))  # fmt: skip
    amplitude = {"m0": 0.4, "m1": 0.04}

    def read(name: str, first: int, last: int) -> Any:
        return np.full((last - first, 2), amplitude[name], np.float32)

    for even, ratio in ((True, 1.0), (False, 10.0)):
        document = parse_document({"schema": 4, "sounds": {"m0": loud, "m1": soft}, "mix": {"even": even}})
        made = mixed(document, heard, (), 0, 8 * RATE, read, lambda c, s: np.zeros((len(s), 2), np.float32))
        assert made[2 * RATE, 0] / made[6 * RATE, 0] == pytest.approx(ratio, rel=1e-3)


@pytest.mark.parametrize(
    ("data", "what"),
    [
        ({"songs": {"s": {"order": "a", "sound": "gone"}}}, "sound is named"),
        ({"sounds": {"m": {**FILE, "length": 9, "beats": {"tempo": 90, "times": [5, 5]}}}}, "follow one another"),
        ({"sounds": {"m": {**FILE, "length": -1}}}, "greater than or equal"),
        ({"mix": {"ceiling": 3}}, "less than or equal"),
        ({"ends": {"beginning": {"kind": "nonsense"}}}, "Must be one of"),
        ({"defaults": {"join": {"softness": float("nan")}}}, "finite"),
    ],
)
def test_what_does_not_hold_together_is_named(data: dict[str, Any], what: str) -> None:
    with pytest.raises(InvalidDocument) as refusal:
        parse_document({"schema": 4, **data})
    assert any(what in f.message for f in refusal.value.faults)


def test_bars_are_counted_from_where_they_begin() -> None:
    beats = Beats(tempo=60, times=tuple(range(0, 100, 10)), bar=3, first=1)
    assert beats.bars == (10, 40, 70)
