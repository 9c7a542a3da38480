"""The shadow a layer casts; its light is fixed in the world."""

from dataclasses import dataclass
from math import cos, radians, sin
from typing import Literal

from .parameters import Parameters, choice, number, percentage, swatch, switch

HUNDREDTHS = "in hundredths of the frame's height"


class Shadow(Parameters):
    """Lengths are in frame heights on the screen at zoom 1."""

    opacity: float = percentage("Strength", 0, 1, 0.5)
    light: Literal["direction", "position"] = choice(
        "Light",
        (("direction", "Far away"), ("position", "In the scene")),
        "direction",
        help="A lamp in the scene throws every shadow away from itself",
    )
    light_from: float = number(
        "Light from",
        0,
        360,
        315,
        step=1,
        unit="°",
        help="Where the light comes from: 0 is above, 90 the right, clockwise",
        when=("light", ("direction",)),
    )
    light_x: float = percentage(
        "Lamp across", -2, 2, -0.3, help="Fraction of the frame's width from its middle", when=("light", ("position",))
    )
    light_y: float = percentage(
        "Lamp down", -2, 2, -0.4, help="Fraction of the frame's height from its middle", when=("light", ("position",))
    )
    light_height: float = percentage("Lamp height", 0.2, 5, 0.8, help="Above the scene, in frame heights", when=("light", ("position",)))
    distance: float = number("Distance", 0, 0.3, 0.018, step=0.1, unit="%", scale=0.01, help=f"How far the shadow falls, {HUNDREDTHS}")
    softness: float = number(
        "Softness", 0, 0.2, 0.022, step=0.1, unit="%", scale=0.01, help=f"Spread of the blur (standard deviation), {HUNDREDTHS}"
    )
    spread: float = number(
        "Spread", 0, 0.1, 0.0, step=0.1, unit="%", scale=0.01, help=f"How much larger than the layer the shadow is, {HUNDREDTHS}"
    )
    colour: str = swatch("Colour", "#100c08")
    second: bool = switch(
        "Second shadow", False, help="One more, of the same light and colour: close and dark under the edge, or wide and faint"
    )
    second_opacity: float = percentage("Its strength", 0, 1, 0.45, when=("second", (True,)))
    second_distance: float = number("Its distance", 0, 0.3, 0.004, step=0.1, unit="%", scale=0.01, when=("second", (True,)))
    second_softness: float = number("Its softness", 0, 0.2, 0.004, step=0.1, unit="%", scale=0.01, when=("second", (True,)))


@dataclass(frozen=True, slots=True)
class Cast:
    """One cast of a shadow: `distance`, `softness`, `spread` in frame heights, `opacity` 0..1."""

    opacity: float
    distance: float
    softness: float
    spread: float


def casts_of(shadow: Shadow) -> tuple[Cast, ...]:
    """What is painted of a shadow, lowest first; nothing that cannot be seen."""
    found = [Cast(shadow.opacity, shadow.distance, shadow.softness, shadow.spread)]
    if shadow.second:
        found.append(Cast(shadow.second_opacity, shadow.second_distance, shadow.second_softness, 0.0))
    return tuple(c for c in found if c.opacity > 0.0)


def shadow_offset(shadow: Shadow, distance: float) -> tuple[float, float]:
    """(x, y) from layer to shadow in frame heights for a light far away, whatever way the layer is turned.

    >>> shadow_offset(Shadow(light_from=0), 0.1)
    (-0.0, 0.1)
    """
    angle = radians(shadow.light_from)
    return (-sin(angle) * distance, cos(angle) * distance)


def shadow_growth(shadow: Shadow, distance: float) -> float:
    """How much larger than the layer the shadow of a lamp in the scene is, seen from the lamp's foot.

    A lamp at height l over a surface throws the shadow of a point at height d from its foot l / (l - d) times as far (similar triangles).

    >>> shadow_growth(Shadow(light="position", light_height=1.0), 0.2)
    1.25
    """
    return shadow.light_height / (shadow.light_height - min(distance, 0.9 * shadow.light_height))
