"""Sound of clips: read, mixed for a film, coded."""

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray

from ..core.errors import Fault, InvalidPicture
from ..core.sound import ClipSound
from ..core.time import TICKS_PER_SECOND

RATE = 48_000
CODED_SAMPLES = 1024
BITS_PER_SECOND = 192_000

Samples = NDArray[np.float32]


def samples_at(ticks: int) -> int:
    """Number of samples before a moment."""
    return ticks * RATE // TICKS_PER_SECOND


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


def mixed(sounds: tuple[ClipSound, ...], path_of: Callable[[str], Path], start: int, end: int) -> Samples | None:
    """(n, 2) float32 of the film from `start` to `end` (ticks); None if nothing is heard. Raises InvalidPicture."""
    heard = [s for s in sounds if s.end > start and s.start < end]
    if not heard:
        return None
    film = np.zeros((samples_at(end) - samples_at(start), 2), np.float32)
    kept: dict[str, Samples] = {}
    for sound in heard:
        if sound.media not in kept:
            kept[sound.media] = read_sound(path_of(sound.media))
        first, last = samples_at(max(sound.start, start)), samples_at(min(sound.end, end))
        at = np.arange(first, last) - samples_at(sound.start)
        part = _looped(kept[sound.media], sound, at) * _faded(sound, at)[:, None]
        film[first - samples_at(start) : last - samples_at(start)] += part
    return np.clip(film, -1.0, 1.0)


def _looped(samples: Samples, sound: ClipSound, at: NDArray[np.int64]) -> Samples:
    """What a clip sounds like `at` so many samples after it began: again from its start, or silent after its end."""
    begin, over = (samples_at(t) for t in sound.clip.trimmed)
    length = max(over - begin, 1)
    index = begin + (at % length if sound.clip.loop else at)
    heard = (index < min(over, len(samples))) & (index >= 0)
    part = np.zeros((len(at), 2), np.float32)
    part[heard] = samples[index[heard]]
    return part


def _faded(sound: ClipSound, at: NDArray[np.int64]) -> Samples:
    """0..1: the square root of the share of the join, so that two sounds together stay as loud as one."""
    length = samples_at(sound.end) - samples_at(sound.start)
    rise = np.clip(at / max(samples_at(sound.fade_in), 1), 0, 1) if sound.fade_in else 1.0
    fall = np.clip((length - at) / max(samples_at(sound.fade_out), 1), 0, 1) if sound.fade_out else 1.0
    return np.asarray(np.sqrt(rise * fall) * np.ones(len(at)), np.float32)


class SoundCoder:
    """Codes sound as AAC into an open container, up to a moment at a time, so that picture and sound lie side by side in the file."""

    def __init__(self, container: av.container.OutputContainer, samples: Samples):
        self._container, self._samples, self._at = container, samples, 0
        self._stream = container.add_stream("aac", rate=RATE)
        self._stream.codec_context.layout = "stereo"
        self._stream.codec_context.bit_rate = BITS_PER_SECOND

    def write_until(self, seconds: Fraction) -> None:
        while self._at < len(self._samples) and self._at < seconds * RATE:
            part = self._samples[self._at : self._at + CODED_SAMPLES]
            frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(part.T), format="fltp", layout="stereo")
            frame.sample_rate, frame.pts, frame.time_base = RATE, self._at, Fraction(1, RATE)
            self._container.mux(self._stream.encode(frame))
            self._at += len(part)

    def finish(self) -> None:
        self.write_until(Fraction(len(self._samples), RATE) + 1)
        self._container.mux(self._stream.encode(None))
