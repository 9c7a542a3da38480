"""The shadow a photo casts; its light is fixed in the world."""

from math import cos, radians, sin

from pydantic import BaseModel, ConfigDict

from .parameters import colour, number


class Shadow(BaseModel):
    """Lengths are in frame heights on the screen at zoom 1."""

    model_config = ConfigDict(frozen=True, extra="allow")

    opacity: float = number("Strength", 0, 1, 0.5, step=1, unit="%", scale=0.01)
    light_from: float = number(
        "Light from", 0, 360, 315, step=1, unit="°", help="Where the light comes from: 0 is above, 90 the right, clockwise"
    )
    distance: float = number(
        "Distance", 0, 0.3, 0.018, step=0.1, unit="%", scale=0.01, help="How far the shadow falls, in hundredths of the frame's height"
    )
    softness: float = number(
        "Softness",
        0,
        0.2,
        0.022,
        step=0.1,
        unit="%",
        scale=0.01,
        help="Spread of the blur (standard deviation), in hundredths of the frame's height",
    )
    colour: str = colour("Colour", "#100c08")


def shadow_offset(shadow: Shadow) -> tuple[float, float]:
    """(x, y) from photo to shadow in frame heights: away from the light, whatever way the photo is turned.

    >>> shadow_offset(Shadow(light_from=0, distance=0.1))
    (-0.0, 0.1)
    """
    angle = radians(shadow.light_from)
    return (-sin(angle) * shadow.distance, cos(angle) * shadow.distance)
