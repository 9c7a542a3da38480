"""Kinds of export: what a film can be delivered as."""

from dataclasses import dataclass
from typing import Literal

Frames = Literal["all", "one", "none"]
Use = Literal["quality", "transparent", "dither", "repeat"]


@dataclass(frozen=True, slots=True)
class Kind:
    """`frames`: whether it holds every frame of the range, the one at its start, or sound alone. `uses`: settings it takes.

    `bits_per_pixel`: what our demo film came to at 1080p30 in the qualities of `QUALITIES`; the first holds for kinds without quality.
    `sound_bits`: bits of sound a second. `shorter_side` (pixels) and `rate`: where it starts instead of the project's own. `shortest_ms`:
    what a frame lasts at least, since most viewers show shorter ones for a tenth of a second.
    """

    id: str
    label: str
    help: str
    ending: str
    mime: str
    frames: Frames
    uses: tuple[Use, ...]
    bits_per_pixel: tuple[float, ...]
    sound_bits: int = 0
    shorter_side: int | None = None
    rate: str | None = None
    shortest_ms: int = 0


MP4 = Kind(
    "mp4", "MP4 film", "H.264 with AAC sound: plays everywhere", "mp4", "video/mp4", "all", ("quality",), (0.022, 0.065, 0.170), 192_000
)
WEBM = Kind(
    "webm", "WebM film", "VP9 with Opus sound: open, for web pages", "webm", "video/webm", "all", ("quality",),
    (0.016, 0.040, 0.090), 160_000,
)  # fmt: skip
AV1 = Kind(
    "webm-av1", "WebM film, smaller", "AV1 with Opus sound: the smallest file, for new browsers", "webm", "video/webm", "all",
    ("quality",), (0.010, 0.028, 0.070), 160_000,
)  # fmt: skip
PRORES = Kind(
    "prores", "ProRes 4444", "For editing: every frame whole, 10 bits, with transparency, sound uncompressed", "mov", "video/quicktime",
    "all", ("transparent",), (5.5,), 2_304_000,
)  # fmt: skip
GIF = Kind(
    "gif", "Animated GIF", "256 colours chosen for each part of the film; no sound", "gif", "image/gif", "all",
    ("dither", "repeat", "transparent"), (6.5,), shorter_side=480, rate="15",
    shortest_ms=20,
)  # fmt: skip
WEBP = Kind(
    "webp", "Animated WebP", "Moves in web pages in all colours; no sound", "webp", "image/webp", "all",
    ("quality", "repeat", "transparent"), (0.10, 0.28, 0.60), shorter_side=480, rate="15",
)  # fmt: skip
SEQUENCE = Kind(
    "png", "PNG sequence", "Every frame as a picture, numbered, in one ZIP", "zip", "application/zip", "all", ("transparent",), (9.0,)
)
STILL = Kind("still", "Still", "The frame at the playhead as a PNG", "png", "image/png", "one", ("transparent",), (9.0,))
WAVE = Kind("wav", "Sound only", "WAV, 48 kHz, 24 bits", "wav", "audio/wav", "none", (), (0.0,), 2_304_000)

KINDS = (MP4, WEBM, AV1, PRORES, GIF, WEBP, SEQUENCE, STILL, WAVE)


def kind_named(id_: str) -> Kind:
    """Raises KeyError for an unknown one."""
    return {k.id: k for k in KINDS}[id_]
