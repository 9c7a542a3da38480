"""Titles on something: a label, a plaque, a page."""

from ..looks import Form, Shadow
from .title import Title, rule, shape, text, use

CARD = Shadow(opacity=0.45, distance=0.008, softness=0.014)

TITLES = (
    Title(
        "museum-label", "Museum label", "A white card beside the picture: what it is, and a few words on it",
        (
            shape(Form(outline="rectangle", aspect=1.5, colour="#f7f3ea"), 0, 0, 0.34, use("fade", 0.8), use("fade", 0.6), shadow=CARD),
            text("What it is", "museum-label", -0.115, -0.115, use("dawn", 0.9, 0.4), use("dawn", 0.5),
                 {"size": 0.042, "weight": 650, "wrap": "none", "down": "top"}, None, {"kind": "none"}, {"opacity": 0.0}),
            text("When, and where from", "museum-label", -0.115, -0.045, use("dawn", 0.9, 0.6), use("dawn", 0.5),
                 {"size": 0.028, "italic": True, "down": "top"}, {"colour": "#6a6255"}, {"kind": "none"}, {"opacity": 0.0}),
            text("A few words about it, in two or three lines.", "museum-label", 0, 0.065, use("dawn", 1.2, 0.8), use("dawn", 0.5),
                 {"size": 0.027, "wrap": "shrink", "box_width": 0.23, "box_height": 0.15, "down": "top"}, None, {"kind": "none"}, {"opacity": 0.0}),
        ), ("museum-label",), x=0.3, y=0.2, words="card exhibition caption white description",
    ),
    Title(
        "slate-plaque", "Slate plaque", "Letters cut into a dark plate, a place and a height",
        (
            shape(Form(outline="rectangle", aspect=3.4, radius=0.06, colour="#2a3136", stroke=0.004, stroke_colour="#4a545a"), 0, 0, 0.46,
                  use("drop", 1.0), use("fade", 0.6), shadow=Shadow(opacity=0.6, distance=0.012, softness=0.016)),
            text("A place", "slate-plaque", 0, -0.03, use("dawn", 1.0, 0.7), use("dawn", 0.5), {"size": 0.068}, None, {"kind": "none"}, {"opacity": 0.0}),
            text("Its height", "slate-plaque", 0, 0.05, use("dawn", 1.0, 0.9), use("dawn", 0.5),
                 {"size": 0.034, "weight": 400, "figures": "tabular"}, {"colour": "#8d999f"}, {"kind": "none"}, {"opacity": 0.0}),
        ), ("slate-plaque",), words="stone plate summit sign",
    ),
    Title(
        "field-notes", "Field notes", "A page from a notebook: a heading and a line in a quick hand",
        (
            shape(Form(outline="rectangle", aspect=1.35, colour="#f3ead2"), 0, 0, 0.44, use("slide", 0.9, side="bottom"),
                  use("slide", 0.7, side="bottom"), shadow=CARD, turn=-2.5),
            shape(rule("#b5563f", 0.0032), 0, -0.055, 0.3, use("grow", 0.6, 0.8), use("fade", 0.4), turn=-2.5),
            text("Heading", "field-notes", -0.125, -0.085, use("key-by-key", 0.9, 0.7), use("dawn", 0.5),
                 {"size": 0.085, "down": "bottom"}, None, {"kind": "none"}, {"opacity": 0.0}, turn=-2.5),
            text("Seen from the ridge,\nshortly after dusk.", "field-notes", -0.12, 0.055, use("key-by-key", 1.6, 1.2), use("dawn", 0.5),
                 {"size": 0.058, "weight": 450}, None, {"kind": "none"}, {"opacity": 0.0}, turn=-2.5),
        ), ("field-notes",), x=-0.22, y=0.16, words="notebook paper handwriting diary",
    ),
    Title(
        "typed-slip", "Typed slip", "A slip of paper from a machine, with the date and the hour",
        (
            shape(Form(outline="rectangle", aspect=6.0, colour="#ece4d0"), 0, 0, 0.5, use("slide", 0.7, side="right"), use("slide", 0.6, side="right"), shadow=CARD, turn=1.2),
            text("date, hour, place", "observing-log", 0, 0, use("key-by-key", 1.8, 0.6), use("fade", 0.4),
                 {"size": 0.045, "across": "middle", "family": "special-elite"}, {"colour": "#2d2a25"}, None, {"opacity": 0.0}, turn=1.2),
        ), ("observing-log",), x=0.22, y=0.36, words="typewriter log date time location",
    ),
)  # fmt: skip
