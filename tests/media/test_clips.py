"""Clips: facts, frames by moment whatever the rate, sound; bad ones refused with a sentence."""

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest

from oak_lens.core.delivery import ExportSettings
from oak_lens.core.document import Document
from oak_lens.core.draw import Picture
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidPicture
from oak_lens.core.evaluate import timeline_of
from oak_lens.core.sound import clip_sounds
from oak_lens.core.sound.mixing import RATE
from oak_lens.core.time import ticks
from oak_lens.media.clips import ClipReader, clip_facts
from oak_lens.media.films import join_segments, write_segment
from oak_lens.media.folders import picture_record
from oak_lens.media.intake import media_facts
from oak_lens.media.pyramids import Pyramids
from oak_lens.media.sounds import Soundtrack, read_sound


def make_clip(path: Path, times: list[Fraction], tone: float | None = None) -> Path:
    """Frames whose grey tells their number, shown at these seconds; with a tone of so many hertz."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=30)
        stream.width, stream.height, stream.pix_fmt = 160, 90, "yuv420p"
        stream.codec_context.time_base = Fraction(1, 3000)
        stream.codec_context.gop_size = 12
        sound = container.add_stream("aac", rate=RATE, layout="stereo") if tone else None
        for number, at in enumerate(times):
            frame = av.VideoFrame.from_ndarray(np.full((90, 160, 3), 20 + 5 * number, np.uint8), format="rgb24")
            frame.pts, frame.time_base = int(at * 3000), Fraction(1, 3000)
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
        if sound and tone:
            wave = (0.4 * np.sin(2 * np.pi * tone * np.arange(int(times[-1] * RATE) + RATE // 30) / RATE)).astype(np.float32)
            for start in range(0, len(wave), 1024):
                part = av.AudioFrame.from_ndarray(np.tile(wave[start : start + 1024], (2, 1)), format="fltp", layout="stereo")
                part.sample_rate, part.pts = RATE, start
                container.mux(sound.encode(part))
            container.mux(sound.encode(None))
    return path


EVEN = [Fraction(n, 30) for n in range(40)]
UNEVEN = [Fraction(n * n, 300) for n in range(30)]


@pytest.mark.parametrize("times", [EVEN, UNEVEN], ids=["constant rate", "variable rate"])
def test_every_moment_shows_its_frame_in_whatever_order_one_asks(tmp_path: Path, times: list[Fraction]) -> None:
    path = make_clip(tmp_path / "clip.mp4", times)
    facts = clip_facts(path)
    assert (facts.width, facts.height, facts.frames, facts.sound) == (160, 90, len(times), False)
    assert facts.length > ticks(float(times[-1]))
    reader = ClipReader(path)
    rng = np.random.default_rng(2)
    for number in [*range(len(times)), *rng.integers(0, len(times), 40)]:
        moment = ticks(float(times[number])) + 10
        grey = float(reader.frame(reader.index_at(moment))[45, 80, 0])
        assert grey == pytest.approx(20 + 5 * number, abs=4)
    reader.close()


def test_a_clip_has_levels_like_a_picture(tmp_path: Path) -> None:
    path = make_clip(tmp_path / "clip.mp4", EVEN)
    source, shown = Pyramids(lambda key: path), Picture("k", 160, 90, True, ticks(1.0))
    assert source.level(shown, 2).shape == (45, 80, 4)
    assert source.level(shown, 2)[20, 40, 0] == pytest.approx(20 + 5 * 30, abs=4)


def test_what_is_no_clip_is_refused_with_a_sentence(tmp_path: Path) -> None:
    good = make_clip(tmp_path / "good.mp4", EVEN, 440).read_bytes()
    only_sound = tmp_path / "sound.mp4"
    with av.open(str(only_sound), "w") as container:
        stream = container.add_stream("aac", rate=RATE, layout="stereo")
        frame = av.AudioFrame.from_ndarray(np.zeros((2, 1024), np.float32), format="fltp", layout="stereo")
        frame.sample_rate = RATE
        container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    cases = {
        "picture.no_frames": only_sound.read_bytes(),
        "picture.damaged": good[: len(good) // 2],
        "picture.format": b"not a clip at all, nor a picture",
    }
    for code, data in cases.items():
        path = tmp_path / "bad.mp4"
        path.write_bytes(data)
        with pytest.raises(InvalidPicture) as caught:
            media_facts(path)
        assert caught.value.code == code and caught.value.faults[0].message.endswith(".")


def film_with_clip(path: Path, **clip: object) -> Document:
    record = picture_record(path, "c", path.name)
    edits = [
        {"edit": "set_defaults", "hold": ticks(1.5), "join": {"kind": "dissolve", "length": ticks(0.5)}},
        {"edit": "add_pictures", "pictures": [record, {**record, "id": "still", "kind": "picture", "clip": None}]},
        {"edit": "add_scenes", "scenes": [{"id": "a", "media": "still"}, {"id": "b", "media": "c"}, {"id": "d", "media": "still"}]},
    ]
    if clip:
        edits.append({"edit": "set_pictures", "ids": ["c"], "clip": clip})
    return apply_edits(Document(), parse_edits(edits))


def loudness(samples: np.ndarray, start: float, end: float) -> float:
    return float(np.sqrt((samples[round(start * RATE) : round(end * RATE)] ** 2).mean()))


def nothing(sound: str, first: int, last: int) -> Any:
    return np.zeros((last - first, 2), np.float32)


def heard_in(document: Document, path: Path) -> Any:
    """All sound of a film at its final level."""
    timeline = timeline_of(document)
    track = Soundtrack(document, timeline, 0, timeline.length, nothing, lambda _: path)
    return track.read(0, track.count)


def test_a_clip_is_heard_where_it_is_seen_swells_with_the_join_and_begins_again(tmp_path: Path) -> None:
    path = make_clip(tmp_path / "clip.mp4", EVEN, 440)
    document = film_with_clip(path)
    timeline = timeline_of(document)
    sound = heard_in(document, path)
    assert len(sound) == round(timeline.length / 705_600_000 * RATE)
    # On screen from 1.5 s to 4.0 s, joins of half a second at both ends; the clip itself lasts 1.33 s.
    assert loudness(sound, 0, 1.5) == 0 and loudness(sound, 4.0, 5.5) == 0
    assert loudness(sound, 2.1, 3.4) > 0.08
    assert loudness(sound, 1.5, 1.6) < 0.5 * loudness(sound, 2.0, 2.1)
    assert loudness(sound, 3.0, 3.4) == pytest.approx(loudness(sound, 2.1, 2.5), rel=0.1), "it begins again"
    once = film_with_clip(path, loop=False)
    assert loudness(heard_in(once, path), 3.0, 3.4) == 0
    assert not clip_sounds(film_with_clip(path, muted=True), timeline)
    assert Soundtrack(Document(), timeline_of(Document()), 0, 10, nothing, lambda _: path).is_silent


def test_a_clip_in_a_scene_twice_as_fast_sounds_an_octave_higher(tmp_path: Path) -> None:
    path = make_clip(tmp_path / "clip.mp4", EVEN, 440)
    for speed in (0.5, 1.0, 2.0):
        document = apply_edits(film_with_clip(path), parse_edits([{"edit": "set_scenes", "ids": ["b"], "speed": speed}]))
        (clip,) = clip_sounds(document, timeline_of(document))
        sound = heard_in(document, path)
        first = round((clip.start / 705_600_000 + 0.5) * RATE)
        heard = sound[first : first + RATE // 4, 0]
        crossings = np.count_nonzero(np.diff(np.signbit(heard))) * 2
        assert crossings == pytest.approx(440 * speed, rel=0.04)


def test_an_exported_film_carries_the_sound_in_step(tmp_path: Path) -> None:
    settings = ExportSettings(width=64, height=64)
    segment = tmp_path / "segment.mp4"
    write_segment(segment, [np.full((64, 64, 4), 99, np.uint8)] * 60, settings)

    class Click:
        count = 2 * RATE

        def read(self, first: int, last: int) -> Any:
            at = np.arange(first, last)
            return np.repeat(((at >= RATE) & (at < RATE + 400))[:, None] * np.float32(0.8), 2, axis=1)

    join_segments([(segment, 60)], tmp_path / "film.mp4", settings, "Film", sound=Click())  # type: ignore[arg-type]
    heard = read_sound(tmp_path / "film.mp4")
    assert len(heard) == pytest.approx(2 * RATE, abs=2100)
    assert np.flatnonzero(np.abs(heard[:, 0]) > 0.3)[0] == pytest.approx(RATE, abs=60)
    with av.open(str(tmp_path / "film.mp4")) as container:
        assert sum(1 for _ in container.decode(video=0)) == 60
