"""Frame rates as exact fractions, and the frames of a stretch of time."""

from dataclasses import dataclass
from fractions import Fraction

from .ticks import TICKS_PER_SECOND, TickRange


@dataclass(frozen=True, slots=True)
class FrameRate:
    """`num / den` frames a second; a frame lasts a whole number of ticks."""

    num: int
    den: int
    label: str

    @property
    def frame_ticks(self) -> int:
        """Length of one frame in ticks."""
        return TICKS_PER_SECOND * self.den // self.num

    @property
    def fraction(self) -> Fraction:
        return Fraction(self.num, self.den)


RATES = (
    FrameRate(10, 1, "10"),
    FrameRate(12, 1, "12"),
    FrameRate(15, 1, "15"),
    FrameRate(24000, 1001, "23.976"),
    FrameRate(24, 1, "24"),
    FrameRate(25, 1, "25"),
    FrameRate(30000, 1001, "29.97"),
    FrameRate(30, 1, "30"),
    FrameRate(50, 1, "50"),
    FrameRate(60, 1, "60"),
)


def rate_named(label: str) -> FrameRate:
    """The rate with this label; raises KeyError for any other.

    >>> rate_named("29.97").frame_ticks
    23543520
    """
    for rate in RATES:
        if rate.label == label:
            return rate
    raise KeyError(label)


def frame_count(length: int, rate: FrameRate) -> int:
    """Frames of a film `length` ticks long: every frame that starts before its end."""
    return -(-length // rate.frame_ticks)


def frame_start(index: int, rate: FrameRate) -> int:
    """Time at which frame `index` (from 0) is sampled, in ticks."""
    return index * rate.frame_ticks


def frames_in(span: TickRange, rate: FrameRate) -> range:
    """Indexes of the frames that start inside `span`."""
    return range(frame_count(span.start, rate), frame_count(span.end, rate))
