"""The mount: what surrounds a photo. Border, mat, card, edge, tape, paper."""

from typing import Literal

from .parameters import Parameters, choice, number, percentage, swatch

HUNDREDTHS = "in hundredths of the frame's height"


class Mount(Parameters):
    """Lengths are in frame heights on the screen at zoom 1. From the photo outwards: mat, border, and the foot below.

    In a window they are those of a window whose shorter side is 0.6 frame heights; smaller windows have them smaller.
    """

    border: float = number("Border", 0, 0.2, 0.018, step=0.1, unit="%", scale=0.01, help=f"Width of the border, {HUNDREDTHS}")
    colour: str = swatch("Colour", "#f8f4ea")
    foot: float = number(
        "Foot",
        0,
        0.3,
        0.0,
        step=0.1,
        unit="%",
        scale=0.01,
        help=f"How much wider the border is below, where the caption stands, {HUNDREDTHS}",
    )
    radius: float = number("Corners", 0, 0.5, 0.0, step=0.1, unit="%", scale=0.01, help=f"Radius of the outer corners, {HUNDREDTHS}")
    mat: float = number(
        "Mat", 0, 0.15, 0.0, step=0.1, unit="%", scale=0.01, help=f"Width of the mat between photo and border, {HUNDREDTHS}"
    )
    mat_colour: str = swatch("Mat colour", "#efe9db")
    edge: Literal["straight", "deckle"] = choice(
        "Edge", (("straight", "Straight"), ("deckle", "Deckle")), "straight", help="Deckle is the uneven edge of hand-made paper"
    )
    tape: Literal["none", "corners", "top"] = choice("Tape", (("none", "None"), ("corners", "Corners"), ("top", "Top")), "none")
    tape_colour: str = swatch("Tape colour", "#e9dcae", when=("tape", ("corners", "top")))
    paper: Literal["none", "under", "over"] = choice(
        "Paper grain",
        (("none", "None"), ("under", "Mount"), ("over", "All")),
        "none",
        help="Paper's own texture on the mount, or on the photo, too",
    )
    paper_strength: float = percentage("Paper strength", 0, 1, 0.4, when=("paper", ("under", "over")))
    ink: str = swatch("Caption ink", "#3a352e", help="Colour of the caption, which is written by hand below the photo")
