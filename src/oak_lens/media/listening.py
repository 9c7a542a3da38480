"""Sound files heard through once: kept as plain samples, with their peaks, loudness and beats."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray

from ..core.errors import Fault, InvalidSound
from ..core.sound import Samples
from ..core.sound.beats import BeatSearch, FoundBeats
from ..core.sound.loudness import LoudnessMeter
from ..core.sound.mixing import RATE
from ..core.sound.peaks import FINEST_SAMPLES, finest_peaks
from ..core.time import TICKS_PER_SECOND

SHORTEST_SECONDS = 0.1
LONGEST_SECONDS = 4 * 3600
CHUNK_SAMPLES = 10 * RATE
CUT_OFF = 0.97


@dataclass(frozen=True, slots=True)
class Heard:
    """What a file sounds like. `length` in ticks, `loudness` in LUFS (None: silent), `peak` in dBTP; `cut_off`: it ends before it should."""

    length: int
    channels: int
    rate: int
    loudness: float | None
    peak: float
    beats: FoundBeats | None
    cut_off: bool


def record_of(sha256: str, name: str, heard: dict[str, Any]) -> dict[str, Any]:
    """What a document says of a sound file."""
    plain_name = Path(name.replace("\\", "/")).name[:300] or "sound"
    beats = heard["beats"]
    if beats is not None:
        times = sorted({round(t * TICKS_PER_SECOND) for t in beats["times"] if t * TICKS_PER_SECOND <= heard["length"]})
        beats = {**beats, "times": times}
    kept = {k: heard[k] for k in ("length", "channels", "rate", "loudness", "peak")}
    return {"name": Path(plain_name).stem[:300] or plain_name, "file": plain_name, "sha256": sha256, **kept, "beats": beats}


def note_of(heard: dict[str, Any]) -> str:
    """What a person should know of the file, or nothing."""
    if heard["cut_off"]:
        return f"The file is damaged or cut off: its first {heard['length'] / TICKS_PER_SECOND:.1f} s can be heard and are kept."
    return "The file is silent." if heard["loudness"] is None else ""


def check(path: Path) -> None:
    """Whether a file can be listened to, without hearing it through. Raises InvalidSound."""
    next(decoded(path, {}), None)


def decoded(path: Path, facts: dict[str, Any]) -> Iterator[Samples]:
    """(n, 2) float32 at 48 kHz, piece by piece. `facts` hears channels, rate and seconds as the file states them. Raises InvalidSound."""
    try:
        with av.open(str(path), "r", metadata_errors="ignore") as container:
            if not container.streams.audio:
                raise InvalidSound([Fault("sound.none", "", "There is no sound in this file.")])
            stream = container.streams.audio[0]
            facts.update(channels=stream.channels, rate=stream.rate)
            facts["seconds"] = float(container.duration or 0) / av.time_base
            if facts["seconds"] > LONGEST_SECONDS:
                raise InvalidSound([Fault("sound.long", "", "The file is longer than four hours. Cut it into parts.")])
            resampler = av.AudioResampler(format="flt", layout="stereo", rate=RATE)
            try:
                for frame in container.decode(stream):
                    yield from (np.asarray(f.to_ndarray(), np.float32).reshape(-1, 2) for f in resampler.resample(frame))
            except av.FFmpegError:
                # What came before the damage can be heard.
                facts["damaged"] = True
            yield from (np.asarray(f.to_ndarray(), np.float32).reshape(-1, 2) for f in resampler.resample(None))
    except (av.FFmpegError, ValueError, OSError) as error:
        raise InvalidSound(
            [Fault("sound.format", "", f"This is no sound file we can read ({str(error)[:80]}). WAV, FLAC, MP3, AAC, Ogg and Opus are.")]
        ) from None


def listen(path: Path, samples_to: Path, peaks_to: Path, on_share: Callable[[float], None] = lambda share: None) -> Heard:
    """Hears a file: writes its samples ((n, 2) int16 at 48 kHz) and its finest peaks.

    `on_share` hears how much is done, 0 to 1, and may raise to stop. Raises InvalidSound; OSError where they cannot be written.
    """
    facts: dict[str, Any] = {}
    meter, beats, peaks = LoudnessMeter(), BeatSearch(), []
    rest, count = np.zeros(0, np.float32), 0
    with samples_to.open("wb") as file:
        for samples in _gathered(decoded(path, facts)):
            samples = np.nan_to_num(samples, nan=0.0, posinf=1.0, neginf=-1.0)
            meter.hear(samples)
            file.write(np.rint(np.clip(samples, -1.0, 1.0) * 32767.0).astype("<i2").tobytes())
            mono = np.concatenate([rest, samples.mean(axis=1)])
            whole = len(mono) // FINEST_SAMPLES * FINEST_SAMPLES
            peaks.append(finest_peaks(mono[:whole]))
            beats.hear(mono[:whole].reshape(-1, 2).mean(axis=1))
            rest, count = mono[whole:], count + len(samples)
            on_share(min(count / RATE / max(facts["seconds"], 1e-3), 1.0))
    if count < SHORTEST_SECONDS * RATE:
        raise InvalidSound(
            [Fault("sound.short", "", "There is nothing to hear in this file: it is empty, or cut off at its very start.")]
        )
    peaks.append(finest_peaks(rest))
    with peaks_to.open("wb") as file:
        np.save(file, np.concatenate(peaks))
    cut_off = "damaged" in facts or (facts["seconds"] > 1 and count / RATE < CUT_OFF * facts["seconds"])
    return Heard(
        count * TICKS_PER_SECOND // RATE, min(facts["channels"], 64), facts["rate"], meter.integrated, meter.true_peak, beats.found(), cut_off
    )


def _gathered(parts: Iterator[Samples]) -> Iterator[Samples]:
    """The same in larger pieces."""
    held: list[Samples] = []
    count = 0
    for part in parts:
        held.append(part)
        count += len(part)
        if count >= CHUNK_SAMPLES:
            yield np.concatenate(held)
            held, count = [], 0
    if held:
        yield np.concatenate(held)


class KeptSamples:
    """Samples of sound files, mapped from where `path_of` says."""

    def __init__(self, path_of: Callable[[str], Path]):
        self._path_of = path_of
        self._mapped: dict[str, NDArray[np.int16]] = {}

    def read(self, sound: str, first: int, last: int) -> Samples:
        """(last - first, 2): silence beyond the ends. Raises InvalidSound."""
        mapped = self._mapped.get(sound)
        if mapped is None:
            mapped = self._mapped[sound] = np.memmap(self._path_of(sound), "<i2", "r").reshape(-1, 2)
        made = np.zeros((last - first, 2), np.float32)
        a, b = max(first, 0), min(last, len(mapped))
        if b > a:
            made[a - first : b - first] = mapped[a:b] / np.float32(32767.0)
        return made
