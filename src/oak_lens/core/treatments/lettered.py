"""Treatments of words, with pictures behind or beside them."""

from typing import Any

from ..document import Layer
from ..looks import Backdrop, Correction, Form, Mount, Shadow
from ..moves.lanes import from_to
from .treatment import (
    NO_SHADOW,
    SQUARE,
    UPRIGHT,
    Part,
    Shipped,
    choice,
    colour,
    face,
    follows,
    percent,
    photo,
    picture_zone,
    shape,
    sheet,
    text,
    text_zone,
    use,
)

CALM = Shipped(
    "quiet-frame", "Quiet frame", "One picture, whole, over a soft copy of itself; hardly any movement", "calm single simple slow plain still any",
    {"a": picture_zone("Picture", None, fitting="whole")},
    {
        "border": percent("Border", 0.3), "paper": colour("Paper", "#f8f4ea"), "size": percent("Size", 0.6),
        "behind": percent("Brightness behind", 0.5), "push": percent("Movement", 0.4, help="How far it comes closer"),
    },
    (
        Part({"a": photo("a", 0.0, 0.0, 0.82, shape=None, fit="whole", mount=Mount(border=0.012), shadow=Shadow(opacity=0.5, distance=0.02, softness=0.03),
                         links={"mount.border": follows("border", 0.0, 0.04), "mount.colour": follows("paper"), "placement.size": follows("size", 0.7, 0.9)})},
             Backdrop(kind="blur", blur=0.06, brightness=0.6, move="closer", move_by=0.06), hold=4.5, least=2, repeats=True,
             lanes={"camera.dolly": from_to(0.0, 0.08)}, links={"backdrop.brightness": follows("behind", 0.25, 0.95), "backdrop.move_by": follows("push", 0.0, 0.2)}),
    ),
    moods=("calm",),
)  # fmt: skip

def _veiled(title: float, line: float, rule: float, box: float = 0.8) -> tuple[Part, ...]:
    """A title and a line of these sizes, in frame heights; `rule`: how long the line between them is, `box`: width of the words in the frame's."""
    return (
        Part({"a": photo("a", shape=None, size=1.04, opening=(0.0, 0.0, 1.0), closing=(0.0, 0.0, 1.1), links={"layer.blur": follows("soft", 0.0, 0.03)}),
              "veil": sheet("#0e1620", 0.5, links={"form.colour": follows("tint"), "form.fill_opacity": follows("veil", 0.0, 0.92)}),
              "title": text("The title", "frontispiece", 0.0, -0.04, zone="title", setting={"size": title, "wrap": "shrink", "box_width": box, "box_height": 0.32}, entrance=use("rise-up", 1.6, 0.3), exit=use("dawn", 0.8),
                            links={"setting.family": follows("face"), "ink.colour": follows("ink")}),
              "rule": shape(Form(outline="line", stroke=0.005, stroke_colour="#e2a94a"), 0.0, 0.13, 0.14 * rule, entrance=use("grow", 0.8, 1.0), exit=use("grow", 0.6), links={"form.stroke_colour": follows("accent")}),
              "line": text("A line below", "expedition", 0.0, 0.22, zone="line", setting={"size": line, "italic": True, "wrap": "shrink", "box_width": box - 0.1, "box_height": 0.16}, ink={"outline": 0.0},
                           entrance=use("dawn", 1.2, 1.3), exit=use("dawn", 0.8), links={"ink.colour": follows("ink")})},
             Backdrop(kind="colour", colour="#0e1620"), hold=5, least=3.5, most=12),
    )  # fmt: skip


OVER = Shipped(
    "veiled-title", "Veiled title", "A title over a picture that has been darkened and softened", "title opening heading words over photo card begin chapter",
    {"a": picture_zone("Picture behind", 1.78), "title": text_zone("Title", 40), "line": text_zone("Line below", 70, required=False)},
    {
        "veil": percent("Veil", 0.55, help="How dark the picture is"), "soft": percent("Softness", 0.4), "tint": colour("Colour of the veil", "#0e1620"),
        "face": face("Face", "playfair-display", group="Words"), "ink": colour("Ink", "#f8f4ea", group="Words"), "accent": colour("Rule", "#e2a94a", group="Words"),
    },
    _veiled(0.12, 0.052, 1.0),
    moods=("calm", "grand"),
    others={SQUARE: _veiled(0.098, 0.044, 1.1, 0.86), UPRIGHT: _veiled(0.068, 0.032, 1.6, 0.86)},
)  # fmt: skip


def _listed(picture: tuple[float, float], words: tuple[float, float, float]) -> tuple[Part, ...]:
    """Four lines: where their pictures stand across and how large, where their words do, how wide and of which size."""
    x, size = picture
    across, wide, letters = words
    layers: dict[str, Layer] = {}
    for n, zone in enumerate("abcd"):
        y = -0.3 + 0.2 * n
        layers[zone] = photo(zone, x, y, size, shape=1.5, mount=Mount(border=0.0, radius=0.02), entrance=use("slide", 0.8, 0.2 + 0.7 * n, "left"), links={"mount.radius": follows("round", 0.0, 0.075)})
        layers[f"line-{zone}"] = text(f"Line {n + 1}", "lower-line", across, y, zone=f"line-{zone}", setting={"size": letters, "family": "source-serif-4", "weight": 500, "down": "middle", "wrap": "shrink", "box_width": wide, "box_height": 0.13, "across": "left"}, panel={"kind": "none"},
                                      entrance=use("shuttle", 0.9, 0.5 + 0.7 * n), links={"ink.colour": follows("ink"), "setting.family": follows("face")})
        layers[f"rule-{zone}"] = shape(Form(outline="line", stroke=0.0025, stroke_colour="#5a6670"), 0.0, y + 0.1, 0.86, entrance=use("fade", 0.5, 0.4 + 0.7 * n), links={"form.stroke_colour": follows("rule")})
    return (Part(layers, Backdrop(kind="colour", colour="#1b2229"), hold=8, least=5, links={"backdrop.colour": follows("ground")}),)  # fmt: skip


LISTED = Shipped(
    "four-lines", "Four lines", "A list of four lines, each with a picture beside it", "list programme agenda text rows points words",
    {**{z: picture_zone(f"Picture of line {n + 1}", required=n < 2) for n, z in enumerate("abcd")}, **{f"line-{z}": text_zone(f"Line {n + 1}", 44, required=n < 2) for n, z in enumerate("abcd")}},
    {
        "ground": colour("Ground", "#1b2229"), "ink": colour("Ink", "#f4efe4", group="Words"), "face": face("Face", "source-serif-4", group="Words"),
        "rule": colour("Rules", "#5a6670"), "round": percent("Round pictures", 0.2),
    },
    _listed((-0.33, 0.155), (0.08, 0.62, 0.058)),
    others={SQUARE: _listed((-0.315, 0.23), (0.13, 0.56, 0.046)), UPRIGHT: _listed((-0.255, 0.36), (0.21, 0.44, 0.032))},
)  # fmt: skip


def _said(words: float, who: float, picture: tuple[float, float], box: tuple[float, float, float], beside: bool = True) -> tuple[Part, ...]:
    """Words and a name of these sizes; the picture: how far from the middle, and its shape; the words: how far, how wide and how high. `beside`:
    the two stand side by side, else one above the other."""
    axis = "placement.x" if beside else "placement.y"

    def sides(left: float, right: float | None = None):  # type: ignore[no-untyped-def]
        return {axis: follows("side", values={"left": left, "right": -left if right is None else right})}

    def at(along: float, across: float) -> dict[str, Any]:
        return {"x": along, "y": across} if beside else {"x": 0.0, "y": along}

    (place, aspect), (text_place, wide, high) = picture, box
    name = text_place if beside else text_place + high / 2 + 0.035
    below = None if beside else -text_place + high / 2 + 0.035
    plain: dict[str, Any] = {"panel": {"kind": "none"}, "shadow": {"opacity": 0.0}}
    return (
        Part({"a": photo("a", size=1.02, shape=aspect, opening=(0.0, 0.0, 1.0), closing=(0.0, 0.0, 1.1), correction=Correction(), **at(-place, 0.0),
                         links={**sides(-place), "correction.saturation": follows("grey", 1.0, 0.0)}),
              "words": text("What was said, in a sentence or two, goes here.", "museum-label", zone="words", setting={"size": words, "wrap": "shrink", "box_width": wide, "box_height": high, "down": "middle"},
                            entrance=use("rise-up", 2.0, 0.4), links={**sides(text_place), "ink.colour": follows("ink"), "setting.family": follows("face")}, **at(text_place, -0.05), **plain),
              "who": text("Who said it", "museum-label", zone="who", setting={"size": who, "wrap": "shrink", "box_width": wide, "box_height": 0.1 if beside else 0.05}, entrance=use("dawn", 1.0, 1.6),
                          links={**sides(name, below), "ink.colour": follows("ink")}, **at(name, 0.36), **plain)},
             Backdrop(kind="colour", colour="#efe8da"), hold=7, least=4, links={"backdrop.colour": follows("ground")}),
    )  # fmt: skip


QUOTED = Shipped(
    "said-beside", "Said beside", "A tall picture, and beside it what was said", "quote words portrait person saying text half",
    {"a": picture_zone("Portrait", 0.8), "words": text_zone("What was said", 180), "who": text_zone("Who said it", 40, required=False)},
    {
        "ground": colour("Ground", "#efe8da"), "ink": colour("Ink", "#26303a", group="Words"), "face": face("Face", "eb-garamond", group="Words"),
        "side": choice("Picture stands", "left", (("left", "On the left, or above"), ("right", "On the right, or below"))), "grey": percent("Grey", 0.0, help="How far its colours go"),
    },
    _said(0.07, 0.036, (0.29, 0.76), (0.21, 0.46, 0.56)),
    moods=("calm", "warm"),
    others={SQUARE: _said(0.056, 0.032, (0.27, 0.46), (0.23, 0.44, 0.6)), UPRIGHT: _said(0.038, 0.023, (0.2, 0.95), (0.245, 0.84, 0.23), beside=False)},
)  # fmt: skip


def _last(logo: float, thanks: float, more: float) -> tuple[Part, ...]:
    """A logo, last words and a line of these sizes."""
    return (
        Part({"logo": photo("logo", 0.0, -0.2, logo, shape=2.0, fit="whole", shadow=NO_SHADOW, entrance=use("fade", 1.0, 0.2), links={"placement.size": follows("size", logo * 0.5, logo * 1.5)}),
              "thanks": text("Thank you", "frontispiece", 0.0, 0.09, zone="thanks", setting={"size": thanks, "wrap": "shrink", "box_width": 0.84, "box_height": 0.2}, shadow={"opacity": 0.0}, entrance=use("rise-up", 1.2, 0.6), links={"ink.colour": follows("ink"), "setting.family": follows("face")}),
              "more": text("Where to find more", "museum-label", 0.0, 0.27, zone="more", setting={"across": "middle", "size": more, "wrap": "shrink", "box_width": 0.84, "box_height": 0.18}, panel={"kind": "none"}, shadow={"opacity": 0.0}, entrance=use("dawn", 1.2, 1.2), links={"ink.colour": follows("ink")})},
             Backdrop(kind="gradient", gradient="radial", colour="#f2ede3", second_colour="#dccfb4"), hold=5, least=3, most=15, links={"backdrop.colour": follows("ground"), "backdrop.second_colour": follows("second")}),
    )  # fmt: skip


CLOSING = Shipped(
    "last-page", "Last page", "An end card: a logo, thanks and where to find more", "end closing logo card thanks address credits finish",
    {"logo": picture_zone("Logo", 2.0, takes="logo", fitting="whole", required=False), "thanks": text_zone("Last words", 40), "more": text_zone("Where to find more", 80, required=False)},
    {
        "ground": colour("Ground", "#f2ede3"), "second": colour("Towards", "#dccfb4"), "ink": colour("Ink", "#2b2620", group="Words"), "face": face("Face", "playfair-display", group="Words"), "size": percent("Size of the logo", 0.5),
    },
    _last(0.24, 0.1, 0.042),
    kind="closing",
    moods=("calm", "warm"),
    others={SQUARE: _last(0.44, 0.088, 0.036), UPRIGHT: _last(0.62, 0.062, 0.026)},
)  # fmt: skip

TREATMENTS = (CALM, OVER, LISTED, QUOTED, CLOSING)
