"""The backdrop behind the layers of a scene."""

from typing import Literal

from .parameters import Parameters, When, choice, number, percentage, picture, swatch
from .surfaces import SURFACES

PICTURED: When = ("kind", ("blur", "picture"))
GRADED: When = ("kind", ("blur", "picture", "surface"))
COLOURED: When = ("kind", ("colour", "gradient"))


class Backdrop(Parameters):
    """A blurred copy of the scene's lowest photo, another picture or clip, a colour, a gradient or a surface; it covers the frame.

    `none` leaves the frame transparent: black in a film, visible as a chequered ground on the easel if wanted.
    """

    kind: Literal["blur", "picture", "colour", "gradient", "surface", "none"] = choice(
        "Kind",
        (
            ("blur", "Its own photo"),
            ("picture", "Another picture"),
            ("colour", "Colour"),
            ("gradient", "Gradient"),
            ("surface", "Surface"),
            ("none", "None"),
        ),
        "blur",
    )
    media: str | None = picture("Picture or clip", when=("kind", ("picture",)))
    blur: float = number(
        "Blur",
        0,
        0.3,
        0.045,
        step=0.1,
        unit="%",
        scale=0.01,
        when=PICTURED,
        help="Spread of the blur (standard deviation), in hundredths of the frame's height",
    )
    surface: Literal["oak", "walnut", "linen", "slate", "felt", "cork", "kraft", "plaster"] = choice(
        "Surface", SURFACES, "oak", when=("kind", ("surface",))
    )
    surface_scale: float = number(
        "Scale",
        0.2,
        4,
        1.0,
        step=0.05,
        unit="×",
        when=("kind", ("surface",)),
        help="1 shows about a frame's height of it at its natural size",
    )
    runs_on: Literal["no", "same", "right", "left", "down", "up"] = choice(
        "Runs on",
        (
            ("no", "Its own"),
            ("same", "Same place"),
            ("right", "To the right"),
            ("left", "To the left"),
            ("down", "Downwards"),
            ("up", "Upwards"),
        ),
        "no",
        when=("kind", ("surface",)),
        help="Goes on from the surface of the scene before: the same place of it, or the part that lies next to it in a direction",
    )
    brightness: float = percentage("Brightness", 0, 2, 0.72, when=GRADED)
    saturation: float = percentage("Saturation", 0, 2, 0.9, when=GRADED)
    tint: str = swatch("Tint", "#8a6a42", when=GRADED)
    tint_amount: float = percentage("Tint strength", 0, 1, 0.0, when=GRADED)
    zoom: float = number(
        "Enlarge", 1, 4, 1.15, step=0.01, unit="×", when=PICTURED, help="How far the picture is enlarged beyond covering the frame"
    )
    colour: str = swatch("Colour", "#2c2822", when=COLOURED)
    second_colour: str = swatch("Second colour", "#7d6a52", when=("kind", ("gradient",)))
    gradient: Literal["linear", "radial"] = choice(
        "Form", (("linear", "Straight"), ("radial", "Round")), "linear", when=("kind", ("gradient",))
    )
    angle: float = number(
        "Angle", 0, 360, 180, step=1, unit="°", when=("kind", ("gradient",)), help="Towards the second colour: 0 is up, 90 right"
    )
    move: Literal["still", "closer", "away", "left", "right", "up", "down"] = choice(
        "Own move",
        (("still", "Still"), ("closer", "Closer"), ("away", "Away"), ("left", "Left"), ("right", "Right"), ("up", "Up"), ("down", "Down")),
        "still",
        when=GRADED,
        help="A slow move of the backdrop over the scene's whole time",
    )
    move_by: float = percentage(
        "How far", 0, 0.5, 0.08, when=("move", ("closer", "away", "left", "right", "up", "down")), help="In frame heights, or of its size"
    )
