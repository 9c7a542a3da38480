"""Views on a picture, and their lane."""

from pydantic import Field

from ..curves import Keyframe, Lane
from .records import Record


class View(Record):
    """A rectangle of the frame's shape (or of the window's, if the photo has one) on a picture.

    `x`, `y`: its centre, in fractions of the picture's width and height from the picture's centre.
    `zoom`: 1 shows what the fit shows (whole picture or filled frame), 2 half of that. `turn`: degrees clockwise.
    """

    x: float = Field(0.0, ge=-5, le=5, allow_inf_nan=False)
    y: float = Field(0.0, ge=-5, le=5, allow_inf_nan=False)
    zoom: float = Field(1.0, ge=0.05, le=50, allow_inf_nan=False)
    turn: float = Field(0.0, ge=-3600, le=3600, allow_inf_nan=False)


class ViewLane(Lane[View]):
    """The animated view; keys `opening` and `closing` are its ends."""


def view_lane(opening: View, closing: View) -> ViewLane:
    """A lane from an opening view at the start of the span to a closing view at its end."""
    return ViewLane(keys={"opening": Keyframe[View](anchor="start", value=opening), "closing": Keyframe[View](anchor="end", value=closing)})
