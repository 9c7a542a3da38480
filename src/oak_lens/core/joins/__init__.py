"""Joins: what happens between two scenes. To add one: copy a file, add a line to BUILTIN."""

from ..draw import Picturing
from .catalogue import JoinSpec, catalogue
from .lenses import BLUR, SPIN, ZOOM
from .lights import BURN, LEAK
from .plain import ADDITIVE, CUT, DIP, DISSOLVE
from .settings import JoinSettings
from .travels import COVER, PUSH, SLIDE, UNCOVER, WHIP
from .turns import DOOR, FOLD, TURN
from .wipes import BLINDS, CLOCK, CLOUDS, IRIS, PART, WIPE

BUILTIN = catalogue(
    CUT, DISSOLVE, ADDITIVE, DIP,
    PUSH, SLIDE, COVER, UNCOVER, WHIP,
    WIPE, IRIS, CLOCK, PART, BLINDS, CLOUDS,
    BLUR, ZOOM, SPIN,
    TURN, FOLD, DOOR,
    LEAK, BURN,
)  # fmt: skip

JOINS = {spec.id: spec for spec in BUILTIN}

FAMILIES = (
    ("plain", "Plain"), ("travel", "Travelling"), ("wipe", "Wipes"), ("lens", "Lens"), ("turn", "In depth"), ("light", "Light"),
)  # fmt: skip


def joined(kind: str, before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    """What a join shows `progress` (0 to 1) of its time on: at 0 the scene before and at 1 the one after, exactly."""
    if progress <= 0.0:
        return before
    if progress >= 1.0 or JOINS[kind].instant:
        return after
    return JOINS[kind].compose(before, after, settings.eased(progress, JOINS[kind].ease), settings)


__all__ = ["BUILTIN", "FAMILIES", "JOINS", "JoinSettings", "JoinSpec", "joined"]
