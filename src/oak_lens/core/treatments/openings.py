"""Treatments that begin or end a film."""

from ..looks import Backdrop, Form, Mount, Shadow
from ..moves.lanes import from_to
from .treatment import (
    SQUARE,
    UPRIGHT,
    Part,
    Shipped,
    colour,
    face,
    follows,
    percent,
    photo,
    picture_zone,
    shape,
    sheet,
    surface_dial,
    text,
    text_zone,
    use,
)

PLAIN = {"kind": "none"}
FLAT = {"opacity": 0.0}


def _wall_text(picture: tuple[float, float, float, float], words: tuple[float, float, float], letters: tuple[float, float]) -> tuple[Part, ...]:
    """A picture (across, down, size, shape) on a wall, and words (across, down, width) of two sizes beside or below it."""
    x, y, size, aspect = picture
    across, down, wide = words
    return (
        Part({"a": photo("a", x, y, size, shape=aspect, mount=Mount(border=0.014, colour="#3b2c20", mat=0.045, mat_colour="#f4f0e6"), shadow=Shadow(opacity=0.5, light_from=345, distance=0.02, softness=0.024, second=True),
                         entrance=use("fade", 1.4, 0.3), links={"mount.colour": follows("wood")}),
              "title": text("The title", "museum-label", across, down - 0.1, zone="title", setting={"size": letters[0], "weight": 600, "wrap": "shrink", "box_width": wide, "box_height": 0.28, "down": "bottom", "across": "left"}, panel=PLAIN, shadow=FLAT,
                            entrance=use("rise-up", 1.6, 0.6), links={"ink.colour": follows("title-ink"), "setting.family": follows("face")}),
              "line": text("A line below", "museum-label", across, down + 0.13, zone="line", setting={"size": letters[1], "wrap": "shrink", "box_width": wide, "box_height": 0.2, "down": "top", "across": "left"}, panel=PLAIN, shadow=FLAT,
                           entrance=use("dawn", 1.4, 1.4), links={"ink.colour": follows("title-ink")})},
             Backdrop(kind="surface", surface="plaster", brightness=0.92, saturation=0.9), hold=6, least=4, most=14, lanes={"camera.dolly": from_to(0.0, 0.06)}, links={"backdrop.surface": follows("table")}),
    )  # fmt: skip


WALL_TEXT = Shipped(
    "wall-text", "Wall text", "A title set on the wall of a room, a framed picture beside it", "title opening gallery exhibition wall frame quiet begin",
    {"a": picture_zone("Framed picture", 0.8), "title": text_zone("Title", 40), "line": text_zone("Line below", 120, required=False)},
    {"table": surface_dial("plaster", "Wall"), "wood": colour("Wood", "#3b2c20"), "face": face("Face", "eb-garamond", group="Words"), "title-ink": colour("Ink", "#2b2721", group="Words")},
    _wall_text((0.24, 0.0, 0.68, 0.8), (-0.2, 0.0, 0.44), (0.105, 0.042)),
    kind="opening", moods=("calm",),
    others={SQUARE: _wall_text((0.24, 0.0, 0.56, 0.75), (-0.22, 0.0, 0.44), (0.08, 0.034)), UPRIGHT: _wall_text((0.0, -0.14, 0.8, 0.85), (0.0, 0.34, 0.8), (0.058, 0.026))},
)  # fmt: skip


def _halved(picture: tuple[float, float, float], words: tuple[float, float, float], letters: tuple[float, float], beside: bool = True) -> tuple[Part, ...]:
    """A picture (across, down, shape) over half of the frame, and words (across, down, width) of two sizes in the other half."""
    x, y, aspect = picture
    across, down, wide = words
    side = "right" if beside else "top"
    return (
        Part({"a": photo("a", x, y, 1.02, shape=aspect, opening=(0.0, 0.0, 1.12), closing=(0.0, 0.0, 1.0), entrance=use("slide", 0.9, 0.0, side)),
              "rule": shape(Form(outline="line", stroke=0.014, stroke_colour="#d9623b"), across - wide / 2 + 0.06, down + 0.035, 0.12, entrance=use("grow", 0.6, 0.9), links={"form.stroke_colour": follows("accent")}),
              "title": text("The title", "museum-label", across, down - 0.14, zone="title", setting={"size": letters[0], "weight": 700, "line_spacing": 1.05, "wrap": "shrink", "box_width": wide, "box_height": 0.26, "down": "bottom", "across": "left"}, panel=PLAIN, shadow=FLAT,
                            entrance=use("rise-up", 0.8, 0.4), links={"ink.colour": follows("title-ink"), "setting.family": follows("face")}),
              "line": text("A line below", "museum-label", across, down + 0.15, zone="line", setting={"size": letters[1], "wrap": "shrink", "box_width": wide, "box_height": 0.16, "down": "top", "across": "left"}, panel=PLAIN, shadow=FLAT,
                           entrance=use("dawn", 0.8, 1.0), links={"ink.colour": follows("title-ink"), "setting.family": follows("face")})},
             Backdrop(kind="colour", colour="#f2ece0"), hold=4, least=3, most=12, links={"backdrop.colour": follows("ground")}),
    )  # fmt: skip


HALVED = Shipped(
    "half-and-half", "Half and half", "A title on plain ground, a picture sliding in over the other half", "title opening modern bold light half quick begin",
    {"a": picture_zone("Picture", 0.89), "title": text_zone("Title", 40), "line": text_zone("Line below", 80, required=False)},
    {"ground": colour("Ground", "#f2ece0"), "accent": colour("Rule", "#d9623b"), "face": face("Face", "montserrat", group="Words"), "title-ink": colour("Ink", "#22303a", group="Words")},
    _halved((0.25, 0.0, 0.89), (-0.24, 0.02, 0.42), (0.11, 0.042)),
    kind="opening", moods=("lively",),
    others={SQUARE: _halved((0.25, 0.0, 0.5), (-0.24, 0.02, 0.42), (0.078, 0.034)), UPRIGHT: _halved((0.0, -0.22, 1.0), (0.0, 0.28, 0.84), (0.056, 0.026), beside=False)},
)  # fmt: skip


def _seen_off(thanks: float, more: float) -> tuple[Part, ...]:
    """Words of two sizes over a picture that draws back."""
    return (
        Part({"a": photo("a", shape=None, size=1.04, opening=(0.0, 0.0, 1.12), closing=(0.0, 0.0, 1.0)),
              "veil": sheet("#080c12", 0.0, links={"form.fill_opacity": follows("end-veil", 0.0, 0.9)}).model_copy(update={"entrance": use("fade", 2.0, 0.6)}),
              "thanks": text("Thank you", "frontispiece", 0.0, -0.03, zone="thanks", setting={"size": thanks, "wrap": "shrink", "box_width": 0.84, "box_height": 0.24}, entrance=use("dawn", 1.6, 1.2), links={"ink.colour": follows("end-ink"), "setting.family": follows("face")}),
              "more": text("Where to find more", "museum-label", 0.0, 0.16, zone="more", setting={"across": "middle", "size": more, "wrap": "shrink", "box_width": 0.84, "box_height": 0.14}, panel=PLAIN, shadow=FLAT, entrance=use("dawn", 1.4, 2.0), links={"ink.colour": follows("end-ink")})},
             Backdrop(kind="colour", colour="#080c12"), hold=6, least=4, most=15),
    )  # fmt: skip


SEEN_OFF = Shipped(
    "last-look", "Last look", "The last picture draws back and darkens; thanks over it", "end closing thanks picture over dark finish",
    {"a": picture_zone("Last picture", 1.78), "thanks": text_zone("Last words", 40), "more": text_zone("Where to find more", 80, required=False)},
    {"end-veil": percent("Veil at the end", 0.6), "face": face("Face", "playfair-display", group="Words"), "end-ink": colour("Ink at the end", "#f4efe4", group="Words")},
    _seen_off(0.11, 0.042),
    kind="closing", moods=("calm", "grand", "warm"),
    others={SQUARE: _seen_off(0.092, 0.036), UPRIGHT: _seen_off(0.064, 0.027)},
)  # fmt: skip

TREATMENTS = (WALL_TEXT, HALVED, SEEN_OFF)
