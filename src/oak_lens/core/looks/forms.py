"""Forms: what shape layers show, and masks cut out by the same shapes."""

from typing import Literal

from .parameters import Parameters, When, choice, number, percentage, swatch, switch

OUTLINES = (("rectangle", "Rectangle"), ("ellipse", "Ellipse"), ("polygon", "Polygon"))
ROUND_CORNERS: When = ("outline", ("rectangle",))


class Form(Parameters):
    """A drawn shape, `aspect` = width / height; at size 1 it just fits the frame. A sheet covers the frame at size 1."""

    outline: Literal["sheet", "rectangle", "ellipse", "polygon", "line"] = choice(
        "Shape", (("sheet", "Sheet"), *OUTLINES, ("line", "Line")), "rectangle", help="A sheet covers the whole frame"
    )
    aspect: float = number("Width to height", 0.02, 50, 1.5, step=0.01, when=("outline", ("rectangle", "ellipse", "polygon")))
    sides: int = number("Sides", 3, 24, 6, step=1, when=("outline", ("polygon",)), animated=False)
    radius: float = percentage("Corners", 0, 0.5, 0.0, help="Radius, of the shorter side", when=ROUND_CORNERS)
    fill: Literal["none", "colour", "linear", "radial"] = choice(
        "Fill",
        (("none", "None"), ("colour", "Colour"), ("linear", "Gradient"), ("radial", "Round gradient")),
        "colour",
        when=("outline", ("sheet", "rectangle", "ellipse", "polygon")),
    )
    colour: str = swatch("Colour", "#e2a94a", when=("fill", ("colour", "linear", "radial")))
    fill_opacity: float = percentage("Fill opacity", 0, 1, 1.0, when=("fill", ("colour", "linear", "radial")))
    second_colour: str = swatch("Second colour", "#2b2620", when=("fill", ("linear", "radial")))
    second_opacity: float = percentage("Its opacity", 0, 1, 1.0, when=("fill", ("linear", "radial")))
    angle: float = number(
        "Angle", 0, 360, 180, step=1, unit="°", when=("fill", ("linear",)), help="Towards the second colour: 0 is up, 90 right"
    )
    stroke: float = number(
        "Stroke", 0, 0.2, 0.0, step=0.1, unit="%", scale=0.01, help="Width of the outline, in hundredths of the frame's height at size 1"
    )
    stroke_colour: str = swatch("Stroke colour", "#f8f4ea")


class Mask(Parameters):
    """Shows a layer only inside a shape (or outside it); places and sizes are fractions of the layer's own width and height."""

    outline: Literal["rectangle", "ellipse", "polygon"] = choice("Shape", OUTLINES, "ellipse")
    sides: int = number("Sides", 3, 24, 6, step=1, when=("outline", ("polygon",)), animated=False)
    x: float = percentage("Across", -1, 1, 0.0)
    y: float = percentage("Down", -1, 1, 0.0)
    width: float = percentage("Width", 0.01, 3, 0.8)
    height: float = percentage("Height", 0.01, 3, 0.8)
    turn: float = number("Turn", -180, 180, 0.0, step=1, unit="°")
    feather: float = percentage("Feather", 0, 0.5, 0.02, help="Softness of the edge, of the layer's shorter side")
    inverted: bool = switch("Outside instead", False)
