"""A move: motion relative to where a thing stands, so that it fits anything."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..curves import AnyLane
from ..time import TICKS_PER_SECOND
from .paces import Pace
from .spread import Spread

Kind = Literal["move", "entrance", "camera"]
Side = Literal["left", "top", "right", "bottom"]
SHORTEST, LONGEST = TICKS_PER_SECOND // 50, 3600 * TICKS_PER_SECOND

BEYOND = ("beyond.x", "beyond.y")
"""Lanes whose 1 means: just out of the frame, whatever the thing's size and place (right, down)."""


class Move(BaseModel):
    """Lanes by the property they move. Numbers are added to what stands there; factors (size, opacity, focal length) multiply it.

    An `entrance` ends where nothing is changed any more; backwards it is an exit, called `exit_name`. `length` in ticks: how long it takes by itself;
    None: as long as the scene is seen. Written for the side `left`; other sides turn it by quarters.
    `spread`: how it reaches the letters of a text, None: as a whole. Each part goes its own way in the lanes that are `scattered`.
    """

    model_config = ConfigDict(frozen=True, extra="allow")

    name: Annotated[str, Field(min_length=1, max_length=100)]
    exit_name: Annotated[str, Field(max_length=100)] = ""
    help: Annotated[str, Field(max_length=300)] = ""
    kind: Kind = "move"
    sided: bool = False
    length: int | None = Field(None, ge=SHORTEST, le=LONGEST)
    lanes: dict[str, AnyLane] = Field(min_length=1)
    spread: Spread | None = None
    scattered: tuple[str, ...] = ()


class MoveUse(BaseModel):
    """A move on a thing. `strength` scales it, `length` and `delay` (ticks) place it in time, `mirrored` swaps left and right,
    `backwards` plays it from its end. An exit's delay counts back from the end. `pace`: how its time passes, of each part of a text that it
    reaches by itself. `spread`: how it reaches the letters of a text; None: as a whole."""

    model_config = ConfigDict(frozen=True, extra="allow")

    move: str = Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")
    strength: float = Field(1.0, ge=0, le=4, allow_inf_nan=False)
    length: int | None = Field(None, ge=SHORTEST, le=LONGEST)
    delay: int = Field(0, ge=0, le=LONGEST)
    side: Side = "left"
    mirrored: bool = False
    backwards: bool = False
    pace: Pace = "none"
    spread: Spread | None = None
