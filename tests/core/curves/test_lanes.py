"""Lanes: anchoring, holding, overshoot, and what happens when a span is too short."""

from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.curves import Keyframe, NumberLane, ease_name, eased_keys, key_times, lerp_number, sample


def lane(**keys: Keyframe[float]) -> NumberLane:
    return NumberLane(keys=keys)


def test_a_stretched_span_keeps_what_is_anchored_to_its_ends() -> None:
    keys = lane(
        a=Keyframe(at=0, value=0.0),
        b=Keyframe(at=100, value=1.0),
        c=Keyframe(anchor="end", at=-100, value=1.0),
        d=Keyframe(anchor="end", value=0.0),
    )
    for length in (300, 1000, 5000):
        assert sample(keys, 50, length, lerp_number) == 0.5
        assert sample(keys, length - 50, length, lerp_number) == 0.5
        assert sample(keys, length // 2, length, lerp_number) == 1.0


@given(st.integers(1, 250))
def test_a_span_too_short_keeps_the_order_of_keys(length: int) -> None:
    keys = lane(
        a=Keyframe(at=40, value=0.0),
        b=Keyframe(at=100, value=1.0),
        c=Keyframe(anchor="end", at=-100, value=2.0),
        d=Keyframe(anchor="end", at=-10, value=3.0),
    )
    times = key_times(keys.keys, length)
    assert [name for _, name in times] == ["a", "b", "c", "d"]
    assert all(0 <= at <= length for at, _ in times)


def test_values_stand_before_the_first_key_after_the_last_and_during_a_hold() -> None:
    keys = lane(a=Keyframe(at=10, value=5.0, hold=True), b=Keyframe(at=20, value=9.0))
    assert [sample(keys, at, 100, lerp_number) for at in (0, 10, 19, 20, 99)] == [5.0, 5.0, 5.0, 9.0, 9.0]


def test_handles_that_overshoot_leave_the_range_of_the_values() -> None:
    first, second = eased_keys(Keyframe(value=0.0), Keyframe(anchor="end", value=1.0), (0.34, -0.6), (0.34, -0.6))
    values = [sample(lane(a=first, b=second), at, 100, lerp_number) for at in range(101)]
    assert min(values) < -0.05 and max(values) > 1.05 and values[0] == 0.0 and values[100] == 1.0
    assert ease_name(first, second) == "own"
