"""A camera that travels from stop to stop."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from ..time import TICKS_PER_SECOND

Coordinate = Annotated[float, Field(ge=-50, le=50, allow_inf_nan=False)]
LONGEST = 3600 * TICKS_PER_SECOND


class Stop(BaseModel):
    """A place where the camera stays: before the layer named, or at (x, y, z) if none is.

    `fills`: share of the frame that the layer fills; `x`, `y` (fractions of the frame as seen there) shift the view from the layer's
    middle. `stay` in ticks. `level`: keeps the camera upright instead of turning with the layer.
    """

    model_config = ConfigDict(frozen=True, extra="allow")

    order: str = Field("V", pattern=r"^[0-9A-Za-z]{1,200}$")
    layer: str | None = Field(None, pattern=r"^[A-Za-z0-9_-]{1,64}$")
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    fills: float = Field(0.86, ge=0.05, le=4, allow_inf_nan=False)
    stay: int = Field(TICKS_PER_SECOND, ge=0, le=LONGEST)
    level: bool = False


class Travel(BaseModel):
    """Stops in order. What time the stays leave goes to the ways between, longer ways taking longer.

    `draws_back`: how far the camera rises between two stops, as a share of the way.
    """

    model_config = ConfigDict(frozen=True, extra="allow")

    stops: dict[str, Stop] = Field(min_length=1)
    draws_back: float = Field(0.15, ge=0, le=2, allow_inf_nan=False)
