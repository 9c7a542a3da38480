"""A place on a path: cubic stretches travelled at the pace their eases say."""

from bisect import bisect_right
from functools import lru_cache
from itertools import pairwise
from math import atan2, degrees, hypot, sqrt

from .anchoring import key_times
from .keyframes import ORIGIN, PathKeyframe, PathLane, Point
from .sampling import eased

CHORDS = 48
"""Straight pieces by which a bent stretch is measured; a pace read from them is even to about 1 in 5,000."""

Controls = tuple[Point, Point, Point, Point]


def path_point(lane: PathLane, at: int, length: int, aspect: float) -> tuple[Point, float]:
    """(place, heading) on the path at `at` ticks into a span of `length`.

    The eased share of an interval is the share of its *way* (measured in frame heights; `aspect` = width / height of the frame) that has
    been made. `heading`: degrees clockwise from the right, of the direction of travel as seen in the frame; 0 where nothing moves.
    """
    times = key_times(lane.keys, length)
    keys = [lane.keys[name] for _, name in times]
    if len(keys) == 1:
        return keys[0].value, 0.0
    if lane.even:
        return _evenly(times, keys, at, aspect)
    index = bisect_right(times, at, key=lambda entry: entry[0])
    if index == 0:
        return keys[0].value, _heading(controls(keys[0], keys[1]), 0.0, aspect)
    if index == len(keys):
        return keys[-1].value, _heading(controls(keys[-2], keys[-1]), 1.0, aspect)
    start, end = times[index - 1][0], times[index][0]
    share = eased(keys[index - 1], keys[index], (at - start) / (end - start))
    return _on_stretch(controls(keys[index - 1], keys[index]), share, aspect)


def controls(earlier: PathKeyframe, later: PathKeyframe) -> Controls:
    """Control points of the cubic stretch between two keys."""
    return earlier.value, _plus(earlier.value, earlier.tangent_out), _plus(later.value, later.tangent_in), later.value


def stretch_point(stretch: Controls, t: float) -> Point:
    """The cubic Bézier's point at its own parameter `t`."""
    u = 1.0 - t
    a, b, c, d = u * u * u, 3.0 * u * u * t, 3.0 * u * t * t, t * t * t
    x, y, z = (a * p + b * q + c * r + d * s for p, q, r, s in zip(*stretch, strict=True))
    return x, y, z


def _evenly(times: list[tuple[int, str]], keys: list[PathKeyframe], at: int, aspect: float) -> tuple[Point, float]:
    """One pace over all stretches: the first key's and the last key's handles ease the whole way."""
    start, end = times[0][0], times[-1][0]
    stretches = [controls(a, b) for a, b in pairwise(keys)]
    ways = [_measured(s, aspect)[-1] for s in stretches]
    x = 0.0 if at <= start else 1.0 if at >= end else (at - start) / (end - start)
    made = eased(keys[0], keys[-1], x) * sum(ways)
    for index, way in enumerate(ways):
        if made <= way or index == len(ways) - 1:
            return _on_stretch(stretches[index], made / way if way > 0.0 else 1.0, aspect)
        made -= way
    raise AssertionError


def _on_stretch(stretch: Controls, share: float, aspect: float) -> tuple[Point, float]:
    if _is_straight(stretch):
        p, q = stretch[0], stretch[3]
        x, y, z = (a + (b - a) * share for a, b in zip(p, q, strict=True))
        return (x, y, z), _heading(stretch, 0.5, aspect)
    # An overshoot runs on in the direction of the end it passes.
    held = min(max(share, 0.0), 1.0)
    measured = _measured(stretch, aspect)
    wanted = held * measured[-1]
    index = min(max(bisect_right(measured, wanted) - 1, 0), CHORDS - 1)
    step = measured[index + 1] - measured[index]
    t = (index + ((wanted - measured[index]) / step if step > 0.0 else 0.0)) / CHORDS
    point = stretch_point(stretch, t)
    if held != share:
        dx, dy, dz = _direction(stretch, t, aspect)
        beyond = (share - held) * measured[-1]
        point = point[0] + dx / aspect * beyond, point[1] + dy * beyond, point[2] + dz * beyond
    return point, _heading(stretch, t, aspect)


@lru_cache(maxsize=4096)
def _measured(stretch: Controls, aspect: float) -> tuple[float, ...]:
    """(CHORDS + 1,): the way from the start, in frame heights, at even steps of the stretch's parameter."""
    points = [stretch_point(stretch, i / CHORDS) for i in range(CHORDS + 1)]
    found = [0.0]
    for (x0, y0, z0), (x1, y1, z1) in pairwise(points):
        found.append(found[-1] + sqrt(((x1 - x0) * aspect) ** 2 + (y1 - y0) ** 2 + (z1 - z0) ** 2))
    return tuple(found)


def _direction(stretch: Controls, t: float, aspect: float) -> Point:
    """Unit direction of travel in frame heights; zero where the stretch is a point."""
    low, high = max(t - 0.01, 0.0), min(t + 0.01, 1.0)
    (x0, y0, z0), (x1, y1, z1) = stretch_point(stretch, low), stretch_point(stretch, high)
    dx, dy, dz = (x1 - x0) * aspect, y1 - y0, z1 - z0
    size = sqrt(dx * dx + dy * dy + dz * dz)
    return (dx / size, dy / size, dz / size) if size > 1e-12 else ORIGIN


def _heading(stretch: Controls, t: float, aspect: float) -> float:
    dx, dy, _ = _direction(stretch, t, aspect)
    return degrees(atan2(dy, dx)) if hypot(dx, dy) > 1e-9 else 0.0


def _is_straight(stretch: Controls) -> bool:
    return stretch[0] == stretch[1] and stretch[2] == stretch[3]


def _plus(a: Point, b: Point) -> Point:
    return a[0] + b[0], a[1] + b[1], a[2] + b[2]
