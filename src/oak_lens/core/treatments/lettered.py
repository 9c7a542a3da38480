"""Treatments of words, with pictures behind or beside them."""

from ..looks import Backdrop, Correction, Form, Mount, Shadow
from ..moves.lanes import from_to
from .treatment import (
    NO_SHADOW,
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
)  # fmt: skip

OVER = Shipped(
    "veiled-title", "Veiled title", "A title over a picture that has been darkened and softened", "title opening heading words over photo card begin chapter",
    {"a": picture_zone("Picture behind", 1.78), "title": text_zone("Title", 40), "line": text_zone("Line below", 70, required=False)},
    {
        "veil": percent("Veil", 0.55, help="How dark the picture is"), "soft": percent("Softness", 0.4), "tint": colour("Colour of the veil", "#0e1620"),
        "face": face("Face", "playfair-display", group="Words"), "ink": colour("Ink", "#f8f4ea", group="Words"), "accent": colour("Rule", "#e2a94a", group="Words"),
    },
    (
        Part({"a": photo("a", shape=None, size=1.04, opening=(0.0, 0.0, 1.0), closing=(0.0, 0.0, 1.1), links={"layer.blur": follows("soft", 0.0, 0.03)}),
              "veil": sheet("#0e1620", 0.5, links={"form.colour": follows("tint"), "form.fill_opacity": follows("veil", 0.0, 0.92)}),
              "title": text("The title", "frontispiece", 0.0, -0.04, zone="title", setting={"wrap": "shrink", "box_width": 0.8, "box_height": 0.32}, entrance=use("rise-up", 1.6, 0.3), exit=use("dawn", 0.8),
                            links={"setting.family": follows("face"), "ink.colour": follows("ink")}),
              "rule": shape(Form(outline="line", stroke=0.005, stroke_colour="#e2a94a"), 0.0, 0.13, 0.14, entrance=use("grow", 0.8, 1.0), exit=use("grow", 0.6), links={"form.stroke_colour": follows("accent")}),
              "line": text("A line below", "expedition", 0.0, 0.22, zone="line", setting={"size": 0.052, "italic": True, "wrap": "box", "box_width": 0.7, "box_height": 0.16}, ink={"outline": 0.0},
                           entrance=use("dawn", 1.2, 1.3), exit=use("dawn", 0.8), links={"ink.colour": follows("ink")})},
             Backdrop(kind="colour", colour="#0e1620"), hold=5, least=3.5, most=12),
    ),
)  # fmt: skip


def _row(n: int) -> dict:  # type: ignore[type-arg]
    y, zone = -0.3 + 0.2 * n, "abcd"[n]
    return {
        zone: photo(zone, -0.33, y, 0.155, shape=1.5, mount=Mount(border=0.0, radius=0.02), entrance=use("slide", 0.8, 0.2 + 0.7 * n, "left"), links={"mount.radius": follows("round", 0.0, 0.075)}),
        f"line-{zone}": text(f"Line {n + 1}", "lower-line", 0.08, y, zone=f"line-{zone}", setting={"size": 0.058, "family": "source-serif-4", "weight": 500, "down": "middle", "wrap": "shrink", "box_width": 0.62, "box_height": 0.13, "across": "left"}, panel={"kind": "none"},
                              entrance=use("shuttle", 0.9, 0.5 + 0.7 * n), links={"ink.colour": follows("ink"), "setting.family": follows("face")}),
        f"rule-{zone}": shape(Form(outline="line", stroke=0.0025, stroke_colour="#5a6670"), 0.0, y + 0.1, 0.86, entrance=use("fade", 0.5, 0.4 + 0.7 * n), links={"form.stroke_colour": follows("rule")}),
    }  # fmt: skip


LISTED = Shipped(
    "four-lines", "Four lines", "A list of four lines, each with a picture beside it", "list programme agenda text rows points words",
    {**{z: picture_zone(f"Picture of line {n + 1}", required=n < 2) for n, z in enumerate("abcd")}, **{f"line-{z}": text_zone(f"Line {n + 1}", 44, required=n < 2) for n, z in enumerate("abcd")}},
    {
        "ground": colour("Ground", "#1b2229"), "ink": colour("Ink", "#f4efe4", group="Words"), "face": face("Face", "source-serif-4", group="Words"),
        "rule": colour("Rules", "#5a6670"), "round": percent("Round pictures", 0.2),
    },
    (Part({**_row(0), **_row(1), **_row(2), **_row(3)}, Backdrop(kind="colour", colour="#1b2229"), hold=8, least=5, links={"backdrop.colour": follows("ground")}),),
)  # fmt: skip

QUOTED = Shipped(
    "said-beside", "Said beside", "A tall picture, and beside it what was said", "quote words portrait person saying text half",
    {"a": picture_zone("Portrait", 0.8), "words": text_zone("What was said", 180), "who": text_zone("Who said it", 40, required=False)},
    {
        "ground": colour("Ground", "#efe8da"), "ink": colour("Ink", "#26303a", group="Words"), "face": face("Face", "eb-garamond", group="Words"),
        "side": choice("Picture stands", "left", (("left", "On the left"), ("right", "On the right"))), "grey": percent("Grey", 0.0, help="How far its colours go"),
    },
    (
        Part({"a": photo("a", -0.29, 0.0, 1.02, shape=0.76, opening=(0.0, 0.0, 1.0), closing=(0.0, 0.0, 1.1), correction=Correction(),
                         links={"placement.x": follows("side", values={"left": -0.29, "right": 0.29}), "correction.saturation": follows("grey", 1.0, 0.0)}),
              "words": text("What was said, in a sentence or two, goes here.", "museum-label", 0.21, -0.05, zone="words", setting={"size": 0.07, "wrap": "shrink", "box_width": 0.46, "box_height": 0.56, "down": "middle"},
                            panel={"kind": "none"}, shadow={"opacity": 0.0}, entrance=use("rise-up", 2.0, 0.4),
                            links={"placement.x": follows("side", values={"left": 0.21, "right": -0.21}), "ink.colour": follows("ink"), "setting.family": follows("face")}),
              "who": text("Who said it", "museum-label", 0.21, 0.36, zone="who", setting={"size": 0.036, "wrap": "box", "box_width": 0.46, "box_height": 0.1}, panel={"kind": "none"}, shadow={"opacity": 0.0}, entrance=use("dawn", 1.0, 1.6),
                          links={"placement.x": follows("side", values={"left": 0.21, "right": -0.21}), "ink.colour": follows("ink")})},
             Backdrop(kind="colour", colour="#efe8da"), hold=7, least=4, links={"backdrop.colour": follows("ground")}),
    ),
)  # fmt: skip

CLOSING = Shipped(
    "last-page", "Last page", "An end card: a logo, thanks and where to find more", "end closing logo card thanks address credits finish",
    {"logo": picture_zone("Logo", 2.0, takes="logo", fitting="whole", required=False), "thanks": text_zone("Last words", 40), "more": text_zone("Where to find more", 80, required=False)},
    {
        "ground": colour("Ground", "#f2ede3"), "second": colour("Towards", "#dccfb4"), "ink": colour("Ink", "#2b2620", group="Words"), "face": face("Face", "playfair-display", group="Words"), "size": percent("Size of the logo", 0.5),
    },
    (
        Part({"logo": photo("logo", 0.0, -0.2, 0.24, shape=2.0, fit="whole", shadow=NO_SHADOW, entrance=use("fade", 1.0, 0.2), links={"placement.size": follows("size", 0.12, 0.36)}),
              "thanks": text("Thank you", "frontispiece", 0.0, 0.09, zone="thanks", setting={"size": 0.1, "wrap": "shrink", "box_width": 0.8, "box_height": 0.2}, shadow={"opacity": 0.0}, entrance=use("rise-up", 1.2, 0.6), links={"ink.colour": follows("ink"), "setting.family": follows("face")}),
              "more": text("Where to find more", "museum-label", 0.0, 0.27, zone="more", setting={"across": "middle", "size": 0.042, "wrap": "box", "box_width": 0.8, "box_height": 0.18}, panel={"kind": "none"}, shadow={"opacity": 0.0}, entrance=use("dawn", 1.2, 1.2), links={"ink.colour": follows("ink")})},
             Backdrop(kind="gradient", gradient="radial", colour="#f2ede3", second_colour="#dccfb4"), hold=5, least=3, most=15, links={"backdrop.colour": follows("ground"), "backdrop.second_colour": follows("second")}),
    ),
    kind="closing",
)  # fmt: skip

TREATMENTS = (CALM, OVER, LISTED, QUOTED, CLOSING)
