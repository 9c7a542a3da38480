"""Whole-tick time: ticks, frame rates, ranges."""

from .rates import RATES, FrameRate, frame_count, frame_start, frames_in, rate_named
from .ticks import TICKS_PER_SECOND, TickRange, seconds, ticks

__all__ = [
    "RATES",
    "TICKS_PER_SECOND",
    "FrameRate",
    "TickRange",
    "frame_count",
    "frame_start",
    "frames_in",
    "rate_named",
    "seconds",
    "ticks",
]
