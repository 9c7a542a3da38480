"""Ticks and rates: everything that matters is a whole number."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.time import RATES, TICKS_PER_SECOND, TickRange, frame_count, frame_start, frames_in, rate_named, seconds, ticks


@pytest.mark.parametrize("rate", RATES, ids=lambda r: r.label)
def test_a_frame_lasts_a_whole_number_of_ticks(rate: object) -> None:
    assert Fraction(TICKS_PER_SECOND) / rate.fraction == rate.frame_ticks  # type: ignore[attr-defined]
    assert rate_named(rate.label) is rate  # type: ignore[attr-defined]


@pytest.mark.parametrize("samples", [44_100, 48_000, 96_000])
def test_a_sample_of_sound_lasts_a_whole_number_of_ticks(samples: int) -> None:
    assert TICKS_PER_SECOND % samples == 0


@given(st.integers(0, 10**13), st.sampled_from(RATES))
def test_frames_start_inside_the_film_and_none_is_missing(length: int, rate: object) -> None:
    count = frame_count(length, rate)  # type: ignore[arg-type]
    assert count == 0 or frame_start(count - 1, rate) < length  # type: ignore[arg-type]
    assert frame_start(count, rate) >= length  # type: ignore[arg-type]
    assert frames_in(TickRange(0, length), rate) == range(count)  # type: ignore[arg-type]


@given(st.floats(0, 10_000))
def test_seconds_survive_as_ticks(value: float) -> None:
    assert seconds(ticks(value)) == pytest.approx(value, abs=1e-8)


def test_ranges_end_before_their_end() -> None:
    span = TickRange(10, 20)
    assert span.length == 10 and span.holds(10) and span.holds(19) and not span.holds(20) and not span.holds(9)
    with pytest.raises(ValueError, match="cannot end"):
        TickRange(2, 1)
    with pytest.raises(KeyError):
        rate_named("31")
