"""Where a layer stands, and the window through which a photo is seen."""

from typing import Literal

from pydantic import Field

from ..looks.parameters import Parameters, number
from .records import Record


class Placement(Parameters):
    """Where a layer stands. Signs: `space/conventions.md`."""

    x: float = number(
        "Across", -10, 10, 0.0, step=0.01, help="Fraction of the frame’s width from its middle, right positive", usual=(-1.0, 1.0)
    )
    y: float = number(
        "Down", -10, 10, 0.0, step=0.01, help="Fraction of the frame’s height from its middle, down positive", usual=(-1.0, 1.0)
    )
    z: float = number("Depth", -20, 5, 0.0, step=0.01, help="Frame heights towards the viewer", usual=(-2.0, 1.0))
    size: float = number(
        "Size",
        0.01,
        20,
        1.0,
        step=0.01,
        unit="×",
        factor=True,
        usual=(0.05, 3.0),
        help="1 is as the fit shows it, or as it just fits the frame",
    )
    turn: float = number("Turn", -3600, 3600, 0.0, step=0.5, unit="°", help="Clockwise", usual=(-180.0, 180.0))
    tip: float = number("Tip", -3600, 3600, 0.0, step=0.5, unit="°", help="About the horizontal axis, top away", usual=(-75.0, 75.0))
    swing: float = number(
        "Swing", -3600, 3600, 0.0, step=0.5, unit="°", help="About the vertical axis, right edge away", usual=(-75.0, 75.0)
    )


class Window(Record):
    """The opening through which a photo is seen. `aspect` = width / height; None: the picture's own.

    With a window the placement moves the window and the views move the picture in it; without one the views move the photo with its
    mount, as if the camera did. `outline` cuts out a shape that just fits the window.
    """

    aspect: float | None = Field(None, ge=0.02, le=50, allow_inf_nan=False)
    outline: Literal["rectangle", "ellipse", "polygon"] = "rectangle"
    sides: int = Field(6, ge=3, le=24)
