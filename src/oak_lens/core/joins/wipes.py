"""Wipes: an edge runs over the frame and shows the next scene behind it."""

from collections.abc import Callable

from ..draw import Composition, Matte, MatteKind, Picturing, Plate
from .catalogue import JoinSpec
from .settings import JoinSettings


def _through(kind: MatteKind) -> Callable[[Picturing, Picturing, float, JoinSettings], Picturing]:
    def compose(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
        x, y = settings.way()
        angle = settings.angle if kind in ("edge", "clock") else 0.0 if x > 0 else 180.0 if x < 0 else 90.0 if y > 0 else -90.0
        matte = Matte(kind, progress, angle, settings.softness, settings.count, settings.seed)
        return Composition("#000000", (Plate(before), Plate(after, matte=matte)))

    return compose


WIPE = JoinSpec(
    "wipe", 1, "Wipe", "A straight edge at any angle", "wipe", _through("edge"), ("angle", "softness", "ease"), words="edge line diagonal"
)
IRIS = JoinSpec("iris", 1, "Iris", "A circle opens from the middle", "wipe", _through("iris"), ("softness", "ease"), words="circle round")
CLOCK = JoinSpec(
    "clock", 1, "Clock", "A hand sweeps round", "wipe", _through("clock"), ("angle", "softness", "ease"), words="radial hand round"
)
PART = JoinSpec(
    "part",
    1,
    "Part",
    "From the middle to both sides",
    "wipe",
    _through("part"),
    ("direction", "softness", "ease"),
    words="split barn curtain",
)
BLINDS = JoinSpec(
    "blinds",
    1,
    "Blinds",
    "Many strips at once",
    "wipe",
    _through("blinds"),
    ("direction", "count", "softness", "ease"),
    words="strips venetian",
)
CLOUDS = JoinSpec(
    "clouds", 1, "Clouds", "In drifting patches", "wipe", _through("clouds"), ("softness", "seed", "ease"), {"softness": 0.5},
    words="noise organic patches dissolve",
)  # fmt: skip
