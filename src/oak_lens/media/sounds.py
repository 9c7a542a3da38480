"""The sound of a film: read, mixed, coded."""

import struct
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any, cast

import av
import numpy as np
from numpy.typing import NDArray

from ..core.document import Document
from ..core.errors import Fault, InvalidPicture
from ..core.evaluate import Timeline
from ..core.sound import ClipSound, Samples, clip_sounds, final_gain, heard_songs, mixed, samples_at
from ..core.sound.loudness import LoudnessMeter
from ..core.sound.mixing import RATE, ReadSong
from .publishing import published

PIECE_SAMPLES = 10 * RATE
READ_PARTS = 48
"""So many coded parts are mixed at a time."""


def read_sound(path: Path) -> Samples:
    """(n, 2) float32 at `RATE`: all sound of a file, from the moment of its first picture. Raises InvalidPicture."""
    parts: list[Samples] = []
    try:
        with av.open(str(path), "r", metadata_errors="ignore") as container:
            stream = container.streams.audio[0]
            video = container.streams.video[0] if container.streams.video else None
            begins = float((video.start_time or 0) * (video.time_base or 0)) if video else 0.0
            resampler = av.AudioResampler(format="flt", layout="stereo", rate=RATE)
            first: float | None = None
            for frame in container.decode(stream):
                first = float(frame.time or 0.0) if first is None else first
                parts += [np.asarray(f.to_ndarray(), np.float32).reshape(-1, 2) for f in resampler.resample(frame)]
            parts += [np.asarray(f.to_ndarray(), np.float32).reshape(-1, 2) for f in resampler.resample(None)]
    except (av.FFmpegError, IndexError, ValueError) as error:
        raise InvalidPicture([Fault("picture.damaged", "", f"The sound of the clip cannot be read ({str(error)[:80]}).")]) from None
    sound = np.concatenate(parts) if parts else np.zeros((0, 2), np.float32)
    late = round(((first or 0.0) - begins) * RATE)
    return np.concatenate([np.zeros((late, 2), np.float32), sound]) if late > 0 else sound[-late:]


class Soundtrack:
    """The sound of a film from `start` to `end` (ticks), read piece by piece at its final level."""

    def __init__(self, document: Document, timeline: Timeline, start: int, end: int, read_song: ReadSong, path_of: Callable[[str], Path]):
        self._document, self._read_song, self._path_of = document, read_song, path_of
        self._first, self.count = samples_at(start), samples_at(end) - samples_at(start)
        self._songs = tuple(s for s in heard_songs(document, timeline) if s.end > start and s.start < end)
        self._clips = tuple(c for c in clip_sounds(document, timeline) if c.end > start and c.start < end)
        self._kept: dict[str, Samples] = {}
        self._gain: float | None = None

    @property
    def is_silent(self) -> bool:
        """Whether there is nothing to hear at all."""
        return not self._songs and not self._clips

    def read(self, first: int, last: int) -> Samples:
        """(last - first, 2) float32: samples counted from `start`. Raises InvalidPicture, InvalidSound."""
        if self._gain is None:
            self._gain = self._measured()
        return np.asarray(np.clip(self._mixed(first, last) * np.float32(self._gain), -1.0, 1.0), np.float32)

    def _measured(self) -> float:
        """The factor that brings all of it to the film's target."""
        meter = LoudnessMeter()
        heard = [*((s.start, s.end) for s in self._songs), *((c.start, c.end) for c in self._clips)]
        for first in range(0, self.count, PIECE_SAMPLES):
            last = min(first + PIECE_SAMPLES, self.count)
            # Silence counts for nothing (it is gated): long stretches of it are passed over.
            if any(samples_at(end) > self._first + first and samples_at(start) < self._first + last for start, end in heard):
                meter.hear(self._mixed(first, last))
        return final_gain(self._document.mix, meter.integrated, meter.true_peak)

    def _mixed(self, first: int, last: int) -> Samples:
        return mixed(self._document, self._songs, self._clips, self._first + first, self._first + last, self._read_song, self._clip)

    def _clip(self, clip: ClipSound, since: NDArray[np.int64]) -> Samples:
        if clip.media not in self._kept:
            self._kept[clip.media] = read_sound(self._path_of(clip.media))
        return _looped(self._kept[clip.media], clip, since)


def _looped(samples: Samples, sound: ClipSound, at: NDArray[np.int64]) -> Samples:
    """What a clip sounds like `at` so many samples after it began: again from its start, or silent after its end."""
    begin, over = (samples_at(t) for t in sound.clip.trimmed)
    length = max(over - begin, 1)
    exact = at * sound.speed
    after = np.floor(exact).astype(np.int64)
    index = begin + (after % length if sound.clip.loop else after)
    last = min(over, len(samples)) - 1
    heard = (index <= last) & (index >= 0)
    part = np.zeros((len(at), 2), np.float32)
    part[heard] = samples[index[heard]]
    if sound.speed != 1.0:
        between = (exact - after)[heard, None].astype(np.float32)
        part[heard] += between * (samples[np.minimum(index[heard] + 1, last)] - part[heard])
    return part


@dataclass(frozen=True, slots=True)
class SoundCoding:
    """A coder of sound: its sample `format`, the `samples` it codes at a time, its bits a second (0: as they come)."""

    codec: str
    format: str
    samples: int
    bits_per_second: int = 0


AAC = SoundCoding("aac", "fltp", 1024, 192_000)
OPUS = SoundCoding("libopus", "flt", 960, 160_000)
PCM = SoundCoding("pcm_s24le", "s32", 4096)

LARGEST_RIFF = 0xFFFFFFF0
MOST_TITLE_BYTES = 1000


class SoundCoder:
    """Codes sound into an open container, up to a moment at a time, so that picture and sound lie side by side in the file."""

    def __init__(self, container: av.container.OutputContainer, track: Soundtrack, coding: SoundCoding):
        self._container, self._track, self._coding, self._at = container, track, coding, 0
        self._stream = cast(av.AudioStream, container.add_stream(coding.codec, rate=RATE))
        self._stream.codec_context.layout, self._stream.codec_context.format = "stereo", coding.format
        if coding.bits_per_second:
            self._stream.codec_context.bit_rate = coding.bits_per_second

    def write_until(self, seconds: Fraction) -> None:
        step = self._coding.samples
        while self._at < self._track.count and self._at < seconds * RATE:
            piece = self._track.read(self._at, min(self._at + READ_PARTS * step, self._track.count))
            for first in range(0, len(piece), step):
                frame = av.AudioFrame.from_ndarray(self._sampled(piece[first : first + step]), format=self._coding.format, layout="stereo")
                frame.sample_rate, frame.pts, frame.time_base = RATE, self._at, Fraction(1, RATE)
                self._container.mux(self._stream.encode(frame))
                self._at += min(step, len(piece) - first)

    def _sampled(self, part: Samples) -> NDArray[Any]:
        if self._coding.format == "fltp":
            return np.ascontiguousarray(part.T)
        if self._coding.format == "flt":
            return np.ascontiguousarray(part.reshape(1, -1))
        return np.rint(part.reshape(1, -1).astype(np.float64) * (2**31 - 256)).astype(np.int32)

    def finish(self) -> None:
        self.write_until(Fraction(self._track.count, RATE) + 1)
        self._container.mux(self._stream.encode(None))


def write_wave(path: Path, track: Soundtrack, title: str) -> None:
    """The track as WAV: 24 bits in the plain format that every reader knows (RF64, EBU Tech 3306, beyond 4 GB); published whole.

    Raises ExportFailed.
    """
    with published(path) as part, part.open("wb") as file:
        file.write(wave_header(track.count, title))
        for first in range(0, track.count, PIECE_SAMPLES):
            samples = track.read(first, min(first + PIECE_SAMPLES, track.count))
            whole = np.rint(samples.astype(np.float64) * (2**23 - 1)).astype("<i4")
            file.write(whole.reshape(-1, 1).view(np.uint8)[:, :3].tobytes())


def wave_header(count: int, title: str) -> bytes:
    """All that comes before `count` samples of two channels at 48 kHz in 24 bits: format, title, and how many bytes follow."""
    frame = 2 * 3
    size = count * frame
    name = title.encode("utf-8", "replace")[:MOST_TITLE_BYTES] + b"\0"
    name += b"\0" * (len(name) % 2)
    listed = b"INFO" + b"INAM" + struct.pack("<I", len(name)) + name
    shape = b"fmt " + struct.pack("<IHHIIHH", 16, 1, 2, RATE, RATE * frame, frame, 24)
    told = b"LIST" + struct.pack("<I", len(listed)) + listed
    whole = 4 + len(shape) + len(told) + 8 + size
    if whole + 36 < LARGEST_RIFF:
        return b"RIFF" + struct.pack("<I", whole) + b"WAVE" + shape + told + b"data" + struct.pack("<I", size)
    large = b"ds64" + struct.pack("<IQQQI", 28, whole + 36, size, count, 0)
    return b"RF64" + struct.pack("<I", 0xFFFFFFFF) + b"WAVE" + large + shape + told + b"data" + struct.pack("<I", 0xFFFFFFFF)
