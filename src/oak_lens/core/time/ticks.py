"""Ticks: the whole-number unit of all times."""

from dataclasses import dataclass

TICKS_PER_SECOND = 705_600_000
"""Divides 24, 25, 30, 50, 60 and their 1000/1001 kin, 44.1 kHz and 48 kHz without remainder."""


def ticks(seconds_: float) -> int:
    """Nearest whole tick of a time in seconds.

    >>> ticks(0.5)
    352800000
    """
    return round(seconds_ * TICKS_PER_SECOND)


def seconds(ticks_: int) -> float:
    """Seconds of a time in ticks."""
    return ticks_ / TICKS_PER_SECOND


@dataclass(frozen=True, slots=True)
class TickRange:
    """Time from `start` (inclusive) to `end` (exclusive), in ticks."""

    start: int
    end: int

    def __post_init__(self) -> None:
        if self.end < self.start:
            raise ValueError(f"a range cannot end ({self.end}) before it starts ({self.start})")

    @property
    def length(self) -> int:
        return self.end - self.start

    def holds(self, at: int) -> bool:
        return self.start <= at < self.end
