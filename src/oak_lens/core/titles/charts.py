"""Titles drawn as on charts, maps and instruments."""

from ..looks import Form
from .title import Title, rule, shape, text, use

TITLES = (
    Title(
        "star-chart", "Star chart", "A circle as on a chart of the sky, a name in it and what it is below",
        (
            shape(Form(outline="ellipse", aspect=1.0, fill="none", stroke=0.0034, stroke_colour="#9fc4d8"), 0, 0, 0.5, use("grow", 1.4), use("fade", 0.7)),
            shape(Form(outline="ellipse", aspect=1.0, fill="none", stroke=0.002, stroke_colour="#9fc4d8"), 0, 0, 0.47, use("grow", 1.4, 0.15), use("fade", 0.7)),
            text("Name", "star-chart", 0, -0.015, use("draw-together", 1.4, 0.6), use("mist", 0.8), {"size": 0.07}),
            text("what it is", "star-chart", 0, 0.07, use("dawn", 1.0, 1.2), use("dawn", 0.6), {"size": 0.034}, {"glow": 0.0}),
        ), ("star-chart",), words="circle constellation night sky ring",
    ),
    Title(
        "expedition-map", "Expedition map", "A name in old letters with a route that leads to it",
        (
            shape(rule("#efe0bf", 0.004), -0.26, 0.06, 0.13, use("slide", 1.1), use("fade", 0.5)),
            shape(Form(outline="ellipse", aspect=1.0, colour="#b5563f"), -0.185, 0.06, 0.022, use("grow", 0.6, 0.8), use("fade", 0.5)),
            text("A place on the way", "expedition", -0.16, 0.05, use("rise-up", 1.3, 0.9), use("dawn", 0.7), {"across": "left"}),
            text("day, height, weather", "expedition", -0.158, 0.118, use("dawn", 1.1, 1.3), use("dawn", 0.6),
                 {"across": "left", "size": 0.04, "figures": "old"}, {"outline": 0.0}),
        ), ("expedition",), x=-0.05, y=0.18, words="route travel journey old",
    ),
    Title(
        "readout", "Readout", "Three figures of an instrument, one below the other",
        (
            text("RA   05 34 32", "instrument", 0, -0.075, use("key-by-key", 1.0), use("dawn", 0.5), {"across": "left"}),
            text("DEC +22 00 52", "instrument", 0, 0.0, use("key-by-key", 1.0, 0.4), use("dawn", 0.5), {"across": "left"}),
            text("T     04 C", "instrument", 0, 0.075, use("key-by-key", 1.0, 0.8), use("dawn", 0.5), {"across": "left"}),
        ), ("instrument",), x=-0.4, y=-0.3, words="numbers data display measurement three",
    ),
    Title(
        "gold-plate", "Gold plate", "Letters of metal in a thin frame",
        (
            shape(Form(outline="rectangle", aspect=3.0, fill="none", stroke=0.0035, stroke_colour="#c9974a"), 0, 0, 0.66, use("fade", 1.0), use("fade", 0.6)),
            text("A name", "gold-leaf", 0, -0.025, use("shutters", 1.4, 0.4), use("dawn", 0.7), {"size": 0.13}),
            text("what is honoured", "frontispiece", 0, 0.085, use("dawn", 1.0, 1.1), use("dawn", 0.6),
                 {"size": 0.038, "weight": 400, "letter_spacing": 0.18, "case": "upper"}, {"colour": "#e9d7a8"}),
        ), ("gold-leaf", "frontispiece"), words="award honour frame metal",
    ),
    Title(
        "closing", "Closing", "Thanks and whose it is, for the end",
        (
            text("Thank you", "signature", 0, -0.04, use("mist", 1.8), use("mist", 1.0), {"size": 0.17}),
            text("{author}\n{rights}", "star-chart", 0, 0.12, use("dawn", 1.4, 1.0), use("dawn", 0.8),
                 {"size": 0.038, "letter_spacing": 0.12, "case": "typed", "line_spacing": 1.6}, {"glow": 0.0}),
        ), ("signature", "star-chart"), words="end thanks credits author",
    ),
)  # fmt: skip
