"""Writing the lanes of shipped moves: keys at fractions of the move's time."""

from ..curves import EASES, Bounce, EaseName, Keyframe, NumberLane, PathKeyframe, PathLane, Point, Spring, eased_keys

_EASES = {e.id: e for e in EASES}


def through(*keys: tuple[float, float], ease: EaseName = "both", follow: Bounce | Spring | None = None) -> NumberLane:
    """(fraction of the time, value) keys with one ease between all of them; `follow` puts a bounce or spring of its own into the first."""
    made = [Keyframe[float](anchor="fraction", at=at, value=value) for at, value in keys]
    spec = _EASES[ease]
    for i in range(len(made) - 1):
        made[i], made[i + 1] = eased_keys(
            made[i], made[i + 1], spec.leave, spec.arrive, spec.hold, follow if follow and i == 0 else spec.follow
        )
    return NumberLane(keys={f"k{i}": key for i, key in enumerate(made)})


def from_to(first: float, last: float, ease: EaseName = "both", follow: Bounce | Spring | None = None) -> NumberLane:
    """One value to another over the whole time."""
    return through((0.0, first), (1.0, last), ease=ease, follow=follow)


def steady(value: float) -> NumberLane:
    """One value all the time."""
    return NumberLane(keys={"k0": Keyframe[float](anchor="fraction", at=0.0, value=value)})


def arc(*points: tuple[Point, Point], turn_along: bool = False) -> PathLane:
    """A bent path through (point, tangent) at one pace, eased at both ends; each tangent leads on, its opposite back."""
    last = len(points) - 1
    keys = {
        f"k{i}": PathKeyframe(
            anchor="fraction",
            at=i / last,
            value=point,
            tangent_out=tangent,
            tangent_in=(-tangent[0], -tangent[1], -tangent[2]),
            smooth=True,
            ease_out=(0.42, 0.0) if i == 0 else (1 / 3, 1 / 3),
            ease_in=(0.42, 0.0) if i == last else (1 / 3, 1 / 3),
        )
        for i, (point, tangent) in enumerate(points)
    }
    return PathLane(keys=keys, even=True, turn_along=turn_along)
