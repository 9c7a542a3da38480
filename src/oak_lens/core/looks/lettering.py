"""How letters look: setting (face, size, spacing, box), ink (colour, outline, glow) and the panel behind them."""

from typing import Any, Literal

from .parameters import Parameters, choice, number, percentage, swatch, switch, typeface

OF_SIZE = "in hundredths of the letters' size"
BOXED = ("wrap", ("box", "shrink"))


class Setting(Parameters):
    """`size` in frame heights at layer size 1; spacings in ems (sizes); line spacing from baseline to baseline, in sizes.

    A box is `box_width` of the frame's width and `box_height` of its height. Without one, text runs on and hangs on the point that
    `across` and `down` name: what is set on the left grows to the right.
    """

    family: str = typeface("Face", "inter")
    weight: float = number("Weight", 100, 900, 500, step=10, help="As far as the face goes: 400 is regular, 700 bold")
    italic: bool = switch("Italic", False)
    size: float = number("Size", 0.004, 1.0, 0.09, step=0.1, unit="%", scale=0.01, help="Of the frame's height", usual=(0.02, 0.3))
    line_spacing: float = number("Line spacing", 0.5, 4.0, 1.2, step=0.05, unit="×", usual=(0.8, 2.0), help="From line to line, in sizes")
    letter_spacing: float = number(
        "Letter spacing", -0.3, 3.0, 0.0, step=0.5, unit="%", scale=0.01, usual=(-0.1, 0.5), help=f"{OF_SIZE.capitalize()}; joined scripts stay joined"
    )
    word_spacing: float = number("Word spacing", -0.5, 5.0, 0.0, step=1, unit="%", scale=0.01, usual=(-0.2, 1.0), help=OF_SIZE.capitalize())
    case: Literal["typed", "upper", "lower"] = choice(
        "Case", (("typed", "As typed"), ("upper", "Capitals"), ("lower", "Small letters")), "typed"
    )
    across: Literal["left", "middle", "right", "both"] = choice(
        "Across", (("left", "Left"), ("middle", "Middle"), ("right", "Right"), ("both", "Both edges")), "middle", help="Where lines begin and end"
    )
    down: Literal["top", "middle", "bottom"] = choice("Down", (("top", "Top"), ("middle", "Middle"), ("bottom", "Bottom")), "middle")
    wrap: Literal["none", "box", "shrink"] = choice(
        "Lines", (("none", "Only where I break them"), ("box", "Wrap in a box"), ("shrink", "Shrink into a box")), "none"
    )
    box_width: float = percentage("Box width", 0.0, 3.0, 0.6, when=BOXED, help="Of the frame's width")
    box_height: float = percentage("Box height", 0.0, 3.0, 0.4, when=BOXED, help="Of the frame's height")
    direction: Literal["across", "down"] = choice(
        "Direction", (("across", "Across"), ("down", "Down")), "across", help="Down: columns from right to left, as in Chinese and Japanese"
    )
    marks: Literal["none", "marks", "numbers"] = choice(
        "List", (("none", "No list"), ("marks", "Marks"), ("numbers", "Numbers")), "none", help="A mark or number before each paragraph"
    )
    figures: Literal["face", "tabular", "old"] = choice(
        "Figures", (("face", "As in the face"), ("tabular", "All equally wide"), ("old", "Old style")), "face", help="Where the face has them"
    )
    ligatures: bool = switch("Ligatures", True)
    alternates: int = number("Alternates", 0, 20, 0, step=1, animated=False, help="Stylistic set of the face, 0 for none")


class Ink(Parameters):
    """Of the letters. Lengths in ems (of the size); the gradient runs over the whole text."""

    fill: Literal["none", "colour", "linear"] = choice("Fill", (("none", "None"), ("colour", "Colour"), ("linear", "Gradient")), "colour")
    colour: str = swatch("Colour", "#f8f4ea", when=("fill", ("colour", "linear")))
    second_colour: str = swatch("Second colour", "#e2a94a", when=("fill", ("linear",)))
    angle: float = number("Angle", 0, 360, 180, step=1, unit="°", when=("fill", ("linear",)), help="Towards the second colour: 0 is up, 90 right")
    fill_opacity: float = percentage("Fill opacity", 0, 1, 1.0, when=("fill", ("colour", "linear")))
    outline: float = number("Outline", 0, 0.5, 0.0, step=0.5, unit="%", scale=0.01, usual=(0.0, 0.15), help=f"Its width, {OF_SIZE}")
    outline_place: Literal["outside", "middle", "inside"] = choice(
        "Its place", (("outside", "Outside"), ("middle", "On the edge"), ("inside", "Inside")), "outside"
    )
    outline_colour: str = swatch("Outline colour", "#1a1713")
    glow: float = percentage("Glow", 0, 1, 0.0, help="Strength of the light around the letters")
    glow_softness: float = number("Glow reach", 0.01, 2.0, 0.2, step=1, unit="%", scale=0.01, usual=(0.02, 0.8), help=OF_SIZE.capitalize())
    glow_colour: str = swatch("Glow colour", "#9fc4d8")
    underline: bool = switch("Underline", False)


class Panel(Parameters):
    """What lies behind the letters; paddings and radius in ems (of the size)."""

    kind: Literal["none", "whole", "lines", "band"] = choice(
        "Panel", (("none", "None"), ("whole", "One box"), ("lines", "A box a line"), ("band", "Across the frame")), "none"
    )
    colour: str = swatch("Panel colour", "#14181d", when=("kind", ("whole", "lines", "band")))
    opacity: float = percentage("Panel opacity", 0, 1, 0.75, when=("kind", ("whole", "lines", "band")))
    pad_across: float = number("Room beside", -0.2, 4.0, 0.5, step=1, unit="%", scale=0.01, when=("kind", ("whole", "lines")), help=OF_SIZE.capitalize())
    pad_down: float = number("Room above", -0.2, 4.0, 0.25, step=1, unit="%", scale=0.01, when=("kind", ("whole", "lines", "band")), help=OF_SIZE.capitalize())
    radius: float = number("Corners", 0.0, 2.0, 0.0, step=1, unit="%", scale=0.01, when=("kind", ("whole", "lines")), help=OF_SIZE.capitalize())


TEXT_PARTS: tuple[tuple[str, str, Any], ...] = (("setting", "Letters", Setting), ("ink", "Ink", Ink), ("panel", "Panel", Panel))
"""(id, label, parameter model) of every part of how letters look."""
