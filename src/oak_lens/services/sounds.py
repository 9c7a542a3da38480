"""Sound files taken in, heard, drawn and mixed; music made to length."""

import hashlib
import io
import json
import threading
import wave
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import asdict, dataclass
from pathlib import Path
from time import monotonic
from typing import IO, Any

import numpy as np

from ..core.document import Document
from ..core.errors import Fault, InvalidSound, LimitReached, NotFound, OakError, StorageFull
from ..core.evaluate import Timeline
from ..core.sound import Mood, Samples, clip_sounds, composed, heard_songs, music_end, samples_at
from ..core.sound.mixing import RATE
from ..core.sound.peaks import Peaks, between, pyramid
from ..core.time import TICKS_PER_SECOND
from ..media.blobs import not_kept
from ..media.listening import KeptSamples, check, listen, note_of, record_of
from ..media.sounds import Soundtrack
from . import keys
from .ports import MediaState, MediaStore

LARGEST_BYTES = 4 << 30
MOST_SOUNDS = 200
KEPT_TRACKS = 4
KEPT_PEAKS = 16
HEARD_SECONDS = 24
LIBRARY_LICENCE = "Made by Oak Lens. Free to use for anything."
CANCELLED = "Cancelled."
TOLD_EVERY_SECONDS = 0.5


@dataclass(frozen=True, slots=True)
class Listened:
    """How far listening is, 0 to 1; at its end the record for `add_sounds` (without id), and a sentence about what is odd, or nothing."""

    sha256: str
    share: float
    record: dict[str, Any] | None = None
    note: str = ""


class Sounds:
    """What people do with sound."""

    def __init__(self, store: MediaStore):
        self._store, self._blobs = store, store.blobs
        self._lock = threading.Lock()
        self._tracks: OrderedDict[str, Soundtrack] = OrderedDict()
        self._levels: OrderedDict[str, list[Peaks]] = OrderedDict()

    def take_in(self, document: Document, name: str, stream: IO[bytes]) -> "Listened":
        """One file kept; a worker listens to it, if it was not heard before. Raises InvalidSound, LimitReached; then nothing is kept."""
        sha256 = self._kept(document, stream)
        if not self._blobs.has(keys.heard(sha256)):
            self._store.request_listening(sha256)
        return self.listened(sha256, name)

    def _kept(self, document: Document, stream: IO[bytes]) -> str:
        if len(document.sounds) >= MOST_SOUNDS:
            raise LimitReached([Fault("sound.count", "", f"A project holds at most {MOST_SOUNDS} sound files.")])
        received = self._blobs.receive(stream, LARGEST_BYTES)
        try:
            check(received)
            with received.open("rb") as file:
                sha256 = hashlib.file_digest(file, "sha256").hexdigest()
            self._blobs.keep(received, keys.original(sha256))
        finally:
            received.unlink(missing_ok=True)
        return sha256

    def listened(self, sha256: str, name: str) -> "Listened":
        """How far a worker is with listening to a file, and at the end its record. Raises InvalidSound if it cannot be used, NotFound."""
        if self._blobs.has(keys.heard(sha256)):
            heard = json.loads(self._blobs.local(keys.heard(sha256)).read_text())
            return Listened(sha256, 1.0, record_of(sha256, name, heard), note_of(heard))
        (state,) = self._store.state_of("listen", [sha256]) or (None,)
        if state is None:
            raise NotFound([Fault("sound.not_found", "", "There is no such sound file.")])
        if state.state == "failed":
            raise InvalidSound([Fault(state.code, "", state.message)])
        return Listened(sha256, state.share)

    def cancel_listening(self, sha256: str) -> None:
        """What is not yet heard need not be."""
        if not self._blobs.has(keys.heard(sha256)):
            self._store.set_state("listen", MediaState(sha256, "failed", CANCELLED, code="sound.cancelled"))

    def listen(self, sha256: str) -> None:
        """A worker's part: hear a file through. Failure is recorded, not raised, but for StorageFull: then it is done again."""
        told = monotonic()

        def on_share(share: float) -> None:
            nonlocal told
            if monotonic() - told < TOLD_EVERY_SECONDS:
                return
            told = monotonic()
            if any(s.state == "failed" for s in self._store.state_of("listen", [sha256])):
                raise InvalidSound([Fault("sound.cancelled", "", CANCELLED)])
            self._store.set_state("listen", MediaState(sha256, "working", share=share))

        if any(s.state == "failed" for s in self._store.state_of("listen", [sha256])):
            return
        try:
            if not self._blobs.has(keys.heard(sha256)):
                self._hear(sha256, on_share)
        except StorageFull:
            self._store.set_state("listen", MediaState(sha256, "waiting"))
            raise
        except OakError as error:
            self._store.set_state("listen", MediaState(sha256, "failed", error.faults[0].message, code=error.faults[0].code))
        else:
            self._store.set_state("listen", MediaState(sha256, "ready", share=1.0))

    def _hear(self, sha256: str, on_share: Callable[[float], None] = lambda share: None) -> None:
        """Hears an original through; what it sounds like is kept last, so that where it is, all is."""
        original = self._blobs.local(keys.original(sha256))
        try:
            with self._blobs.writing(keys.peaks(sha256)) as peaks, self._blobs.writing(keys.samples(sha256)) as samples:
                heard = listen(original, samples, peaks, on_share)
            with self._blobs.writing(keys.heard(sha256)) as path:
                path.write_text(json.dumps(asdict(heard)))
        except OSError as error:
            raise not_kept(error) from error

    def make(self, document: Document, mood: Mood, tempo: float, intensity: float, seconds: float, seed: int) -> dict[str, Any]:
        """Music made to length: a record like that of a file, its beats known exactly."""
        made = composed(mood, tempo, intensity, seconds, seed)
        sha256 = self._kept(document, io.BytesIO(wav_of(made.samples)))
        self._hear(sha256)
        record = self.listened(sha256, f"{mood.capitalize()} {round(made.tempo)}.wav").record or {}
        times = [round(t * TICKS_PER_SECOND) for t in made.beats]
        beats = {"tempo": made.tempo, "confidence": 1.0, "times": [t for t in times if t <= record["length"]], "first": 0}
        return {**record, "beats": beats, "licence": LIBRARY_LICENCE}

    def sample_of(self, mood: Mood, tempo: float, intensity: float, seconds: float, seed: int) -> bytes:
        """WAV of how that music begins, `HEARD_SECONDS` of it; nothing is kept."""
        return wav_of(composed(mood, tempo, intensity, seconds, seed).samples[: HEARD_SECONDS * RATE])

    def track(self, document: Document, timeline: Timeline, start: int, end: int, path_of: Callable[[str], Path]) -> Soundtrack:
        """The film's sound between two moments."""
        kept = KeptSamples(lambda s: self._samples(document, s))
        return Soundtrack(document, timeline, start, end, kept.read, path_of)

    def _samples(self, document: Document, sound: str) -> Path:
        """A sound's samples; heard again, if they are gone. Raises InvalidSound."""
        key = keys.samples(document.sounds[sound].sha256)
        if not self._blobs.has(key):
            self._hear_again(document, sound)
        return self._blobs.local(key)

    def _hear_again(self, document: Document, sound: str) -> None:
        sha256 = document.sounds[sound].sha256
        if not self._blobs.has(keys.original(sha256)):
            name = document.sounds[sound].name
            raise InvalidSound(
                [Fault("sound.missing", "", f"The file of “{name}” is missing on this machine's disk. Add it again, or take it out.")]
            )
        self._hear(sha256)

    def piece(self, document: Document, timeline: Timeline, first: int, count: int, path_of: Callable[[str], Path]) -> bytes:
        """WAV of `count` samples of the film's sound at 48 kHz from sample `first` on, as it is exported; fewer at its end."""
        key = _state(document, timeline)
        with self._lock:
            track = self._tracks.get(key)
            if track is None:
                # Music can be listened to before there is a film.
                length = timeline.length or music_end(document, timeline)
                track = self._tracks[key] = self.track(document, timeline, 0, length, path_of)
                while len(self._tracks) > KEPT_TRACKS:
                    self._tracks.popitem(last=False)
            self._tracks.move_to_end(key)
        first = min(max(first, 0), track.count)
        return wav_of(track.read(first, min(first + count, track.count)))

    def peaks(self, document: Document, sound: str, start: int, end: int, count: int) -> list[list[int]]:
        """[[low, high]] in 127ths of `count` even stretches of a sound file between two of its ticks."""
        sha256 = document.sounds[sound].sha256
        with self._lock:
            levels = self._levels.get(sha256)
            if levels is None:
                if not self._blobs.has(keys.peaks(sha256)):
                    self._hear_again(document, sound)
                levels = self._levels[sha256] = pyramid(np.load(self._blobs.local(keys.peaks(sha256))))
                while len(self._levels) > KEPT_PEAKS:
                    self._levels.popitem(last=False)
        return [[int(a), int(b)] for a, b in between(levels, samples_at(start), samples_at(end), count)]


def _state(document: Document, timeline: Timeline) -> str:
    """Names all that the sound of a film depends on."""
    files = {k: (s.sha256, s.loudness) for k, s in document.sounds.items()}
    clips = clip_sounds(document, timeline)
    sources = {c.media: document.media[c.media].sha256 for c in clips}
    return hashlib.sha256(
        repr((heard_songs(document, timeline), clips, sources, files, document.mix, timeline.length)).encode()
    ).hexdigest()


def wav_of(samples: Samples) -> bytes:
    """16-bit WAV of (n, 2) float32 at 48 kHz."""
    buffer = io.BytesIO()
    with wave.open(buffer, "wb") as file:
        file.setnchannels(2)
        file.setsampwidth(2)
        file.setframerate(RATE)
        file.writeframes(np.rint(np.clip(samples, -1.0, 1.0) * 32767.0).astype("<i2").tobytes())
    return buffer.getvalue()
