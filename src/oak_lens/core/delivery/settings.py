"""Settings of an export."""

from dataclasses import dataclass

from pydantic import BaseModel, ConfigDict, field_validator

from ..document import Document
from ..document.models import EvenPixels, RateLabel, Ticks
from ..time import FrameRate, frame_count, rate_named, seconds


@dataclass(frozen=True, slots=True)
class Quality:
    """`crf`: the H.264 coder's constant rate factor, lower is finer. `bits_per_pixel`: what our demo film came to at 1080p30."""

    id: str
    label: str
    help: str
    crf: int
    bits_per_pixel: float


QUALITIES = (
    Quality("draft", "Draft", "Small, for a first look", 27, 0.020),
    Quality("good", "Good", "For screens and sharing", 20, 0.055),
    Quality("best", "Best", "For projection and further work", 15, 0.130),
)

SIZES = (("480", 480), ("720", 720), ("1080", 1080), ("1440", 1440), ("2160", 2160))
"""(id, shorter side in pixels) of ready sizes; the shape is the project's."""


class ExportSettings(BaseModel):
    """MP4 with H.264. Size in even pixels; `start` and `end` in ticks of the film (end None: to its end)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    width: EvenPixels
    height: EvenPixels
    rate: RateLabel = "30"
    quality: str = "good"
    start: Ticks = 0
    end: Ticks | None = None

    @field_validator("quality")
    @classmethod
    def _known_quality(cls, value: str) -> str:
        if value not in {q.id for q in QUALITIES}:
            raise ValueError("must be one of " + ", ".join(q.id for q in QUALITIES))
        return value

    @property
    def frame_rate(self) -> FrameRate:
        return rate_named(self.rate)

    @property
    def quality_spec(self) -> Quality:
        return next(q for q in QUALITIES if q.id == self.quality)


def even_size(document: Document, shorter_side_px: int) -> tuple[int, int]:
    """(width, height) in even pixels of the project's shape with this shorter side."""
    aspect = document.frame.aspect
    if aspect >= 1.0:
        return 2 * round(shorter_side_px * aspect / 2), 2 * round(shorter_side_px / 2)
    return 2 * round(shorter_side_px / 2), 2 * round(shorter_side_px / aspect / 2)


def estimated_bytes(settings: ExportSettings, length: int) -> int:
    """About how large the film will be; `length` in ticks. Experience, not a promise: quiet pictures come out smaller."""
    frames = frame_count(length, settings.frame_rate)
    # Small frames hold more detail per pixel, and what lies between close frames is alike.
    per_pixel = settings.quality_spec.bits_per_pixel * (1920 * 1080 / (settings.width * settings.height)) ** 0.25
    per_pixel *= (30 * seconds(settings.frame_rate.frame_ticks)) ** 0.5
    return int(frames * settings.width * settings.height * per_pixel / 8) + 20_000
