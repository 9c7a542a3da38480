"""Bounces and springs against their equations; paths at the pace their eases say."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.curves import (
    Bounce,
    Keyframe,
    NumberLane,
    PathKeyframe,
    PathLane,
    Spring,
    ease_name,
    followed,
    key_times,
    lerp_number,
    path_point,
    sample,
)
from oak_lens.core.curves.follows import _step_response

ASPECT = 16 / 9


@given(st.floats(4, 2000), st.floats(0.5, 100))
def test_a_spring_obeys_its_equation_of_motion(stiffness: float, damping: float) -> None:
    h = 1e-4
    for x in (0.05, 0.2, 0.5, 0.9):
        before, here, after = (_step_response(stiffness, damping, x + d) for d in (-h, 0.0, h))
        speed, force = (after - before) / (2 * h), (after - 2 * here + before) / (h * h)
        assert force == pytest.approx(-stiffness * (here - 1.0) - damping * speed, abs=2e-3 * max(stiffness, 10))
    assert _step_response(stiffness, damping, 0.0) == pytest.approx(0.0, abs=1e-12)


def test_what_is_left_of_a_spring_is_taken_off_evenly() -> None:
    spring = Spring(stiffness=60, damping=2)
    left = 1.0 - _step_response(60, 2, 1.0)
    for x in np.linspace(0.01, 0.99, 9):
        assert followed(spring, float(x)) == pytest.approx(_step_response(60, 2, float(x)) + left * x)
    assert followed(spring, 1.0) == 1.0 and followed(spring, 0.0) == 0.0
    assert max(followed(Spring(), float(x)) for x in np.linspace(0, 1, 200)) > 1.2


@given(st.floats(0.1, 0.9), st.integers(1, 6))
def test_a_bounce_falls_with_one_acceleration_and_loses_speed_at_each_impact(keeps: float, times: int) -> None:
    bounce = Bounce(keeps=keeps, times=times)
    fall = 1.0 / (1.0 + 2.0 * sum(keeps**i for i in range(1, times + 1)))
    x = np.linspace(0, 1, 4001)
    s = np.array([followed(bounce, float(v)) for v in x])
    assert s.min() >= 0.0 and s.max() <= 1.0 + 1e-12 and s[0] == 0.0 and s[-1] == 1.0
    step = x[1]
    bends = (s[2:] - 2 * s[1:-1] + s[:-2]) / step**2
    # Away from the impacts the bend is that of free fall over the first drop: 2 / fall².
    assert np.median(bends) == pytest.approx(2.0 / fall**2, rel=1e-4)
    impacts = [fall + 2 * fall * sum(keeps**i for i in range(1, n)) for n in range(1, times + 1)]
    for n, at in enumerate(impacts, 1):
        height = 1.0 - min(followed(bounce, float(v)) for v in np.linspace(at, at + 2 * keeps**n * fall, 400))
        assert height == pytest.approx(keeps ** (2 * n), rel=1e-2)


def test_a_bounce_and_a_spring_shape_their_interval_only() -> None:
    lane = NumberLane(keys={"a": Keyframe(value=0.0, follow=Bounce()), "b": Keyframe(at=100, value=10.0), "c": Keyframe(at=200, value=0.0)})
    assert sample(lane, 30, 300, lerp_number) == pytest.approx(10 * followed(Bounce(), 0.3))
    assert sample(lane, 150, 300, lerp_number) == 5.0
    assert ease_name(lane.keys["a"], lane.keys["b"]) == "bounce" and ease_name(lane.keys["b"], lane.keys["c"]) == "none"


points = st.tuples(st.floats(-0.5, 0.5), st.floats(-0.5, 0.5), st.floats(-1, 0.5))


def bent(places: list[tuple[float, float, float]], tangents: list[tuple[float, float, float]], even: bool, length: int) -> PathLane:
    keys = {}
    for i, (p, t) in enumerate(zip(places, tangents, strict=True)):
        # The middle keys come early: an even pace must not care.
        at = length * i // (len(places) - 1) if not even or i in (0, len(places) - 1) else length * i // (4 * len(places))
        keys[f"k{i}"] = PathKeyframe(at=at, value=p, tangent_out=t, tangent_in=(-t[0], -t[1], -t[2]), smooth=True)
    return PathLane(keys=keys, even=even)


@given(st.lists(st.tuples(points, points), min_size=2, max_size=4, unique_by=lambda e: e[0]), st.booleans())
def test_a_path_is_travelled_at_one_pace_between_keys_or_over_all_of_it(entries: list[tuple[object, object]], even: bool) -> None:
    length = 12_000
    lane = bent([e[0] for e in entries], [e[1] for e in entries], even, length)  # type: ignore[misc]
    moments = np.linspace(0, length, 400 if even or len(entries) == 2 else 400 * (len(entries) - 1)).astype(int)
    places = np.array([path_point(lane, int(t), length, ASPECT)[0] for t in moments]) * (ASPECT, 1, 1)
    steps = np.linalg.norm(np.diff(places, axis=0), axis=1) / np.diff(moments)
    pieces = [steps] if even or len(entries) == 2 else np.array_split(steps, len(entries) - 1)
    for piece in pieces:
        inner = piece[3:-3]
        # Chords cut corners a little where a path turns sharply.
        assert np.median(np.abs(inner - inner.mean())) <= 0.05 * inner.mean() + 1e-9
    for name, key in lane.keys.items():
        if not even:
            at = next(t for t, n in key_times(lane.keys, length) if n == name)
            assert path_point(lane, at, length, ASPECT)[0] == pytest.approx(key.value, abs=1e-6)


def test_an_ease_sets_the_share_of_the_way_and_the_heading_follows_the_bend() -> None:
    keys = {
        "a": PathKeyframe(value=(0, 0, 0), tangent_out=(0.0, 0.5, 0.0), ease_out=(0.42, 0.0)),
        "b": PathKeyframe(at=1000, value=(0.5, 0.5, 0.0), tangent_in=(-0.3, 0.0, 0.0), ease_in=(0.42, 0.0)),
    }
    lane = PathLane(keys=keys)
    ways = np.linalg.norm(np.diff([path_point(lane, t, 1000, 1.0)[0] for t in range(1001)], axis=0), axis=1).cumsum()
    plain = NumberLane(keys={"a": Keyframe(value=0.0, ease_out=(0.42, 0.0)), "b": Keyframe(at=1000, value=1.0, ease_in=(0.42, 0.0))})
    for t in (200, 500, 800):
        assert ways[t - 1] / ways[-1] == pytest.approx(sample(plain, t, 1000, lerp_number), abs=2e-3)
    headings = [path_point(lane, t, 1000, 1.0)[1] for t in range(0, 1001, 50)]
    assert headings[0] == pytest.approx(90, abs=2) and headings[-1] == pytest.approx(0, abs=2)
    assert all(b <= a + 0.5 for a, b in pairwise(headings))


def test_equal_times_and_a_single_key_are_places_not_faults() -> None:
    same = PathLane(
        keys={"a": PathKeyframe(value=(0, 0, 0)), "b": PathKeyframe(value=(1, 0, 0)), "c": PathKeyframe(at=50, value=(1, 0, 0))}
    )
    assert path_point(same, 0, 100, 1.0)[0] == (1, 0, 0) and path_point(same, 99, 100, 1.0)[0] == (1, 0, 0)
    assert path_point(PathLane(keys={"a": PathKeyframe(value=(0.3, 0, 0))}, even=True), 5, 0, 1.0)[0] == (0.3, 0, 0)
