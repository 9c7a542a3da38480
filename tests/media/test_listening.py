"""Sound files taken in: all the usual formats, odd and broken ones; what is exported is in step."""

import io
import wave
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest

from oak_lens.core.errors import InvalidSound
from oak_lens.core.time import ticks
from oak_lens.media.blobs import FolderBlobs
from oak_lens.media.listening import KeptSamples, listen


def sound_file(path: Path, codec: str, seconds: float = 4.0, rate: int = 48_000, layout: str = "stereo", level: float = 0.4) -> Path:
    channels = 1 if layout == "mono" else 2
    tone = level * np.sin(2 * np.pi * 440 * np.arange(int(seconds * rate)) / rate)
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=rate, layout=layout)
        frame = av.AudioFrame.from_ndarray(np.tile(tone.astype(np.float32), (channels, 1)), format="fltp", layout=layout)
        frame.sample_rate, frame.pts, frame.time_base = rate, 0, Fraction(1, rate)
        context = stream.codec_context
        context.open()
        resampler = av.AudioResampler(format=context.format.name, layout=layout, rate=rate, frame_size=context.frame_size or 0)
        for part in [*resampler.resample(frame), *resampler.resample(None)]:
            container.mux(stream.encode(part))
        container.mux(stream.encode(None))
    return path


def heard(path: Path) -> Any:
    blobs = FolderBlobs(path.parent)
    with blobs.writing(f"{path.stem}.npy") as peaks, blobs.writing(f"{path.stem}.s16") as samples:
        return listen(path, samples, peaks)


@pytest.mark.parametrize(
    ("name", "codec", "rate", "layout"),
    [
        ("a.wav", "pcm_s16le", 48_000, "stereo"), ("a.flac", "flac", 96_000, "stereo"), ("a.mp3", "libmp3lame", 44_100, "stereo"),
        ("a.m4a", "aac", 48_000, "stereo"), ("a.opus", "libopus", 48_000, "stereo"), ("tiny.wav", "pcm_s16le", 8_000, "mono"),
    ],
)  # fmt: skip
def test_usual_formats_are_heard(tmp_path: Path, name: str, codec: str, rate: int, layout: str) -> None:
    found = heard(sound_file(tmp_path / name, codec, rate=rate, layout=layout))
    assert found.length / ticks(1) == pytest.approx(4.0, abs=0.1) and found.rate == rate and not found.cut_off
    assert found.channels == (1 if layout == "mono" else 2)
    assert found.loudness == pytest.approx(-8.5 if layout == "stereo" else -11.5, abs=1.5)
    kept = KeptSamples(lambda _: (tmp_path / name).with_suffix(".s16")).read("x", -100, 48_000)
    assert not kept[:100].any() and np.abs(kept[20_000:]).max() == pytest.approx(0.4 if layout == "stereo" else 0.28, abs=0.05)
    assert len(np.load((tmp_path / name).with_suffix(".npy"))) == pytest.approx(4 * 48_000 / 256, abs=20)


def test_odd_files_are_taken_and_broken_ones_refused(tmp_path: Path) -> None:
    silent = heard(sound_file(tmp_path / "silent.wav", "pcm_s16le", level=0.0))
    assert silent.loudness is None and silent.beats is None
    whole = sound_file(tmp_path / "whole.mp3", "libmp3lame", seconds=8).read_bytes()
    (tmp_path / "cut.mp3").write_bytes(whole[: len(whole) // 2])
    cut = heard(tmp_path / "cut.mp3")
    assert cut.cut_off or cut.length < ticks(5)
    for name, data, code in (
        ("words.mp3", b"These are words, and no sound at all." * 40, "sound.format"),
        ("empty.wav", b"", "sound.format"),
        ("short.wav", _wav(50), "sound.short"),
    ):
        (tmp_path / name).write_bytes(data)
        with pytest.raises(InvalidSound) as refusal:
            heard(tmp_path / name)
        assert refusal.value.code == code and not (tmp_path / name).with_suffix(".s16").exists()


def test_a_full_disk_leaves_nothing_half_written(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = sound_file(tmp_path / "a.wav", "pcm_s16le")

    def full(*_: Any) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(np, "save", full)
    with pytest.raises(OSError):
        heard(path)
    assert [p.name for p in tmp_path.iterdir()] == ["a.wav"]


def _wav(samples: int) -> bytes:
    buffer = io.BytesIO()
    with wave.open(buffer, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(8000)
        file.writeframes(b"\0\1" * samples)
    return buffer.getvalue()
