"""The backdrop behind the photos of a scene."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from .parameters import choice, colour, number


class Backdrop(BaseModel):
    """A blurred copy of the scene's first photo, or one colour; always covers the frame."""

    model_config = ConfigDict(frozen=True, extra="allow")

    kind: Literal["blur", "colour"] = choice("Kind", (("blur", "Blurred photo"), ("colour", "Colour")), "blur")
    blur: float = number(
        "Blur",
        0,
        0.3,
        0.045,
        step=0.1,
        unit="%",
        scale=0.01,
        when=("kind", "blur"),
        help="Spread of the blur (standard deviation), in hundredths of the frame's height",
    )
    brightness: float = number("Brightness", 0, 2, 0.72, step=1, unit="%", scale=0.01, when=("kind", "blur"))
    saturation: float = number("Saturation", 0, 2, 0.9, step=1, unit="%", scale=0.01, when=("kind", "blur"))
    zoom: float = number(
        "Enlarge", 1, 4, 1.15, step=0.01, unit="×", when=("kind", "blur"), help="How far the copy is enlarged beyond covering the frame"
    )
    colour: str = colour("Colour", "#2c2822", when=("kind", "colour"))
