"""Pictures travel through the frame."""

from math import pi, sin

from ..draw import Composition, Picturing, Plate
from .catalogue import JoinSpec
from .plates import shifted, spread
from .settings import JoinSettings

TRAVELS = ("direction", "depth", "ease")
BEHIND = 0.35
"""How far the scene below goes while the one above goes all the way."""


def _way(drawn: Picturing, settings: JoinSettings) -> tuple[float, float]:
    """The way of a whole frame, in frame heights."""
    x, y = settings.way()
    return x * drawn.aspect, y


def _both(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> tuple[Picturing, Picturing]:
    """Both scenes with their photos ahead of (and behind) their backdrops."""
    x, y = _way(before, settings)
    gone, left = settings.depth * progress, -settings.depth * (1.0 - progress)
    return spread(before, x * gone, y * gone), spread(after, x * left, y * left)


def _push(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    x, y = _way(before, settings)
    leaving, coming = _both(before, after, progress, settings)
    return Composition(
        "#000000",
        (
            # The lower one goes on beyond its edge, so that no line is seen where they meet.
            Plate(leaving, shifted(x * progress, y * progress), goes_on=True),
            Plate(coming, shifted(x * (progress - 1.0), y * (progress - 1.0))),
        ),
    )


def _slide(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    x, y = _way(before, settings)
    leaving, coming = _both(before, after, progress, settings)
    behind = BEHIND * progress
    return Composition(
        "#000000",
        (
            Plate(leaving, shifted(x * behind, y * behind), goes_on=True, dark=0.45 * progress),
            Plate(coming, shifted(x * (progress - 1.0), y * (progress - 1.0)), shadow=0.05),
        ),
    )


def _cover(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    x, y = _way(before, settings)
    _, coming = _both(before, after, progress, settings)
    return Composition("#000000", (Plate(before), Plate(coming, shifted(x * (progress - 1.0), y * (progress - 1.0)), shadow=0.05)))


def _uncover(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    x, y = _way(before, settings)
    leaving, _ = _both(before, after, progress, settings)
    return Composition("#000000", (Plate(after), Plate(leaving, shifted(x * progress, y * progress), shadow=0.05)))


def _whip(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    x, y = _way(before, settings)
    # Half a shutter of the speed that a sine's way has in the middle, told from how far the join is on.
    streak = 0.22 * settings.amount * sin(pi * progress)
    return Composition(
        "#000000",
        (
            Plate(before, shifted(x * progress, y * progress), goes_on=True),
            Plate(after, shifted(x * (progress - 1.0), y * (progress - 1.0))),
        ),
        travel=shifted(x * streak, y * streak),
    )


PUSH = JoinSpec("push", 2, "Push", "The next scene pushes this one out, edge to edge", "travel", _push, TRAVELS, words="slide move pan")
SLIDE = JoinSpec(
    "slide", 1, "Slide", "The next scene slides over this one, which gives way slowly", "travel", _slide, TRAVELS, words="move"
)
COVER = JoinSpec("cover", 1, "Cover", "The next scene moves in over this one", "travel", _cover, TRAVELS, words="slide in over")
UNCOVER = JoinSpec(
    "uncover", 1, "Uncover", "This scene moves away and shows the next", "travel", _uncover, TRAVELS, words="slide out reveal"
)
WHIP = JoinSpec(
    "whip", 1, "Whip", "A fast swing from one to the other, streaked by its speed", "travel", _whip, ("direction", "amount", "ease"),
    length=352_800_000, words="pan swish fast motion blur",
)  # fmt: skip
