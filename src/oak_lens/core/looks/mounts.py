"""The mount: border and corners around a photo."""

from pydantic import BaseModel, ConfigDict

from .parameters import colour, number


class Mount(BaseModel):
    """Border and corner radius in frame heights on the screen at zoom 1, alike for photos of every size."""

    model_config = ConfigDict(frozen=True, extra="allow")

    border: float = number(
        "Border", 0, 0.2, 0.018, step=0.1, unit="%", scale=0.01, help="Width of the border, in hundredths of the frame's height"
    )
    colour: str = colour("Colour", "#f8f4ea")
    radius: float = number(
        "Corners", 0, 0.5, 0.0, step=0.1, unit="%", scale=0.01, help="Radius of the outer corners, in hundredths of the frame's height"
    )
