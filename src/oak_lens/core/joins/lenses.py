"""Joins by what a lens can do: out of focus, through, around."""

from math import pi, sin

from ..draw import Composition, Picturing, Plate
from .catalogue import JoinSpec
from .plates import scaled
from .settings import JoinSettings


def _blur(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    blur = 0.06 * settings.amount * sin(pi * progress)
    return Composition("#000000", (Plate(before, blur=blur), Plate(after, opacity=_late(progress), blur=blur)))


def _zoom(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    """Into the scene before until the next one stands there; both grow alike in the middle, so the way is one."""
    nearer = 1.0 + 1.6 * settings.amount * progress**2
    farther = 1.0 + 1.6 * settings.amount * (1.0 - progress) ** 2
    rush = 0.10 * settings.amount * sin(pi * progress)
    return Composition(
        "#000000", (Plate(before, scaled(nearer)), Plate(after, scaled(farther), opacity=_late(progress))), travel=scaled(1.0 + rush)
    )


def _spin(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    x, y = settings.way()
    turn = pi * (x + y)
    grown = 1.0 + 1.1 * sin(pi * progress)
    return Composition(
        "#000000",
        (
            Plate(before, scaled(grown, turn * progress), goes_on=True),
            Plate(after, scaled(grown, turn * (progress - 1.0)), opacity=_late(progress), goes_on=True),
        ),
        travel=scaled(1.0, 0.22 * turn * sin(pi * progress)),
    )


def _late(progress: float) -> float:
    """The share of the next scene: it comes in the middle third."""
    share = min(max((progress - 1 / 3) * 3.0, 0.0), 1.0)
    return share * share * (3.0 - 2.0 * share)


BLUR = JoinSpec(
    "blur", 1, "Blur through", "Out of focus, and into focus on the next", "lens", _blur, ("amount", "ease"), words="focus soft defocus"
)
ZOOM = JoinSpec("zoom", 1, "Zoom through", "Into this scene and out in the next", "lens", _zoom, ("amount", "ease"), words="closer rush")
SPIN = JoinSpec("spin", 1, "Spin", "Half a turn, with the streaks of it", "lens", _spin, ("direction", "ease"), words="rotate turn")
