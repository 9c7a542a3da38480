"""Sound files taken in, heard, drawn and mixed; music made to length."""

import hashlib
import io
import json
import os
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
from ..media.listening import KeptSamples, check, listen, note_of, record_of
from ..media.publishing import settle
from ..media.sounds import Soundtrack
from .ports import MediaStore, listening_key

LARGEST_BYTES = 4 << 30
MOST_SOUNDS = 200
KEPT_TRACKS = 4
KEPT_PEAKS = 16
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
        self._store = store
        self._lock = threading.Lock()
        self._tracks: OrderedDict[str, Soundtrack] = OrderedDict()
        self._levels: OrderedDict[str, list[Peaks]] = OrderedDict()

    def take_in(self, document: Document, name: str, stream: IO[bytes]) -> "Listened":
        """One file kept; a worker listens to it, if it was not heard before. Raises InvalidSound, LimitReached; then nothing is kept."""
        sha256 = self._kept(document, stream)
        if not self._store.heard(sha256).is_file():
            self._store.request_listening(sha256)
        return self.listened(sha256, name)

    def _kept(self, document: Document, stream: IO[bytes]) -> str:
        if len(document.sounds) >= MOST_SOUNDS:
            raise LimitReached([Fault("sound.count", "", f"A project holds at most {MOST_SOUNDS} sound files.")])
        received = self._store.receive(stream, LARGEST_BYTES)
        try:
            check(received)
            with received.open("rb") as file:
                sha256 = hashlib.file_digest(file, "sha256").hexdigest()
            self._store.keep(received, sha256)
        finally:
            received.unlink(missing_ok=True)
        return sha256

    def listened(self, sha256: str, name: str) -> "Listened":
        """How far a worker is with listening to a file, and at the end its record. Raises InvalidSound if it cannot be used, NotFound."""
        path = self._store.heard(sha256)
        if path.is_file():
            heard = json.loads(path.read_text())
            return Listened(sha256, 1.0, record_of(sha256, name, heard), note_of(heard))
        (state,) = self._store.state_of([listening_key(sha256)]) or (None,)
        if state is None:
            raise NotFound([Fault("sound.not_found", "", "There is no such sound file.")])
        if state.state == "failed":
            code, _, sentence = state.message.partition(" ")
            raise InvalidSound([Fault(code, "", sentence)])
        return Listened(sha256, float(state.message or 0.0))

    def cancel_listening(self, sha256: str) -> None:
        """What is not yet heard need not be."""
        if not self._store.heard(sha256).is_file():
            self._store.set_state(listening_key(sha256), "failed", f"sound.cancelled {CANCELLED}")

    def listen(self, sha256: str) -> None:
        """A worker's part: hear a file through. Failure is recorded, not raised, but for StorageFull: then it is done again."""
        told = monotonic()

        def on_share(share: float) -> None:
            nonlocal told
            if monotonic() - told < TOLD_EVERY_SECONDS:
                return
            told = monotonic()
            if any(s.state == "failed" for s in self._store.state_of([listening_key(sha256)])):
                raise InvalidSound([Fault("sound.cancelled", "", CANCELLED)])
            self._store.set_state(listening_key(sha256), "listening", f"{share:.3f}")

        if any(s.state == "failed" for s in self._store.state_of([listening_key(sha256)])):
            return
        try:
            if not self._store.heard(sha256).is_file():
                self._hear(sha256, on_share)
        except StorageFull:
            self._store.set_state(listening_key(sha256), "waiting")
            raise
        except OakError as error:
            self._store.set_state(listening_key(sha256), "failed", f"{error.faults[0].code} {error.faults[0].message}")
        else:
            self._store.set_state(listening_key(sha256), "ready")

    def _hear(self, sha256: str, on_share: Callable[[float], None] = lambda share: None) -> None:
        """Hears an original through; what it sounds like is kept last, so that where it is, all is."""
        original = self._store.original(sha256)
        heard = listen(original, self._store.samples(sha256), self._store.peaks(sha256), on_share)
        path = self._store.heard(sha256)
        part = path.with_name(f".{path.name}.{os.getpid()}.{threading.get_ident()}")
        part.write_text(json.dumps(asdict(heard)))
        settle(part, path)

    def make(self, document: Document, mood: Mood, tempo: float, intensity: float, seconds: float, seed: int) -> dict[str, Any]:
        """Music made to length: a record like that of a file, its beats known exactly."""
        made = composed(mood, tempo, intensity, seconds, seed)
        sha256 = self._kept(document, io.BytesIO(wav_of(made.samples)))
        self._hear(sha256)
        record = self.listened(sha256, f"{mood.capitalize()} {round(tempo)}.wav").record or {}
        times = [round(t * TICKS_PER_SECOND) for t in made.beats]
        beats = {"tempo": tempo, "confidence": 1.0, "times": [t for t in times if t <= record["length"]], "first": 0}
        return {**record, "beats": beats, "licence": LIBRARY_LICENCE}

    def track(self, document: Document, timeline: Timeline, start: int, end: int, path_of: Callable[[str], Path]) -> Soundtrack:
        """The film's sound between two moments."""
        kept = KeptSamples(lambda s: self._store.samples(document.sounds[s].sha256), lambda s: self._hear_again(document, s))
        return Soundtrack(document, timeline, start, end, kept.read, path_of)

    def _hear_again(self, document: Document, sound: str) -> None:
        sha256 = document.sounds[sound].sha256
        if not self._store.original(sha256).is_file():
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
                if not self._store.peaks(sha256).is_file():
                    self._hear_again(document, sound)
                levels = self._levels[sha256] = pyramid(np.load(self._store.peaks(sha256)))
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
