"""Settings of an export."""

from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel, ConfigDict, ValidationInfo, field_validator

from ..document import Document
from ..document.models import EvenPixels, RateLabel
from ..document.records import Ticks
from ..looks.controls import time_control
from ..time import RATES, FrameRate, frame_count, rate_named, seconds
from .kinds import KINDS, Kind, kind_named


@dataclass(frozen=True, slots=True)
class Quality:
    """How finely a coder that leaves something out keeps the pictures."""

    id: str
    label: str
    help: str


QUALITIES = (
    Quality("draft", "Draft", "Small, for a first look"),
    Quality("good", "Good", "For screens and sharing"),
    Quality("best", "Best", "For projection and further work"),
)

SIZES = (("480", 480), ("720", 720), ("1080", 1080), ("1440", 1440), ("2160", 2160))
"""(id, shorter side in pixels) of ready sizes; the shape is the project's."""

Dither = Literal["spread", "even", "none"]
"""How colours beyond the palette are shown: errors spread to the pixels around, an even pattern, the nearest colour."""


class ExportSettings(BaseModel):
    """A `kind` of `KINDS`. Size in even pixels; `start` and `end` in ticks of the film (end None: to its end).

    `transparent`: nothing stays see-through instead of black. `repeat`: the animation begins again at its end, for ever. A setting that
    the kind does not use is ignored, but transparency is refused where it would be lost.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: str = "mp4"
    width: EvenPixels
    height: EvenPixels
    rate: RateLabel = "30"
    quality: str = "good"
    start: Ticks = 0
    end: Ticks | None = None
    transparent: bool = False
    dither: Dither = "spread"
    repeat: bool = True

    @field_validator("kind")
    @classmethod
    def _known_kind(cls, value: str) -> str:
        if value not in {k.id for k in KINDS}:
            raise ValueError("must be one of " + ", ".join(k.id for k in KINDS))
        return value

    @field_validator("quality")
    @classmethod
    def _known_quality(cls, value: str) -> str:
        if value not in {q.id for q in QUALITIES}:
            raise ValueError("must be one of " + ", ".join(q.id for q in QUALITIES))
        return value

    @field_validator("transparent")
    @classmethod
    def _kept_by_kind(cls, value: bool, info: ValidationInfo) -> bool:
        kind = info.data.get("kind")
        if value and kind is not None and "transparent" not in kind_named(kind).uses:
            able = ", ".join(k.label for k in KINDS if "transparent" in k.uses)
            raise ValueError(f"transparency cannot be kept as {kind_named(kind).label}; these keep it: {able}")
        return value

    @property
    def frame_rate(self) -> FrameRate:
        """The rate asked for, or the highest at which no frame is shorter than the kind allows."""
        wished = rate_named(self.rate)
        if _lasts_ms(wished) >= self.kind_spec.shortest_ms:
            return wished
        return next(
            r for r in reversed(RATES) if _lasts_ms(r) >= self.kind_spec.shortest_ms and wished.num * r.den % (wished.den * r.num) == 0
        )

    @property
    def kind_spec(self) -> Kind:
        return kind_named(self.kind)

    @property
    def quality_index(self) -> int:
        """Place in `QUALITIES`."""
        return [q.id for q in QUALITIES].index(self.quality)


def _lasts_ms(rate: FrameRate) -> float:
    return float(1000 / rate.fraction)


def notes_on(settings: ExportSettings) -> tuple[str, ...]:
    """What a person should know of an export beforehand: sentences."""
    if settings.frame_rate.label == settings.rate:
        return ()
    kind = settings.kind_spec
    return (
        f"{kind.label}: {settings.frame_rate.label} frames a second instead of {settings.rate}, since most viewers show frames shorter than "
        f"{kind.shortest_ms} ms slower.",
    )


def even_size(document: Document, shorter_side_px: int) -> tuple[int, int]:
    """(width, height) in even pixels of the project's shape with this shorter side."""
    aspect = document.frame.aspect
    if aspect >= 1.0:
        return 2 * round(shorter_side_px * aspect / 2), 2 * round(shorter_side_px / 2)
    return 2 * round(shorter_side_px / 2), 2 * round(shorter_side_px / aspect / 2)


def estimated_bytes(settings: ExportSettings, length: int) -> int:
    """About how large the file will be; `length` in ticks. Experience, not a promise: quiet pictures come out smaller."""
    kind = settings.kind_spec
    frames = {"all": frame_count(length, settings.frame_rate), "one": 1, "none": 0}[kind.frames]
    per_pixel = kind.bits_per_pixel[settings.quality_index if "quality" in kind.uses else 0]
    if "quality" in kind.uses:
        # Small frames hold more detail per pixel, and what lies between close frames is alike.
        per_pixel *= (1920 * 1080 / (settings.width * settings.height)) ** 0.25
        per_pixel *= (30 * seconds(settings.frame_rate.frame_ticks)) ** 0.5
    sound = kind.sound_bits * seconds(length)
    return int((frames * settings.width * settings.height * per_pixel + sound) / 8) + 20_000


CONTROLS = (
    time_control("stretch.start", ExportSettings, "start", "From", (0, 300)),
    time_control("stretch.end", ExportSettings, "end", "To", (0, 300)),
)
