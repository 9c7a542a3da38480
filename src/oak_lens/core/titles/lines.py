"""Titles of lines alone, or with a rule."""

from ..looks import Form
from .title import Title, rule, shape, text, use

TITLES = (
    Title(
        "frontispiece", "Frontispiece", "A title in high contrast over a fine rule, with a line below",
        (
            text("Title", "frontispiece", 0, -0.045, use("draw-together", 1.8), use("dawn", 0.9)),
            shape(rule("#e2a94a"), 0, 0.055, 0.16, use("grow", 0.9, 0.7), use("grow", 0.6)),
            text("A line below", "expedition", 0, 0.115, use("dawn", 1.2, 1.0), use("dawn", 0.8), {"size": 0.056, "letter_spacing": 0.02}, {"outline": 0.0}),
        ), ("frontispiece", "expedition"), words="opening classic serif line",
    ),
    Title(
        "lower-line", "Lower line", "A name and what it is, at the foot of the frame on the left",
        (
            text("A name", "lower-line", 0, 0, use("shuttle", 0.8), use("shuttle", 0.6), {"down": "bottom"}),
            text("What it is", "lower-line", 0, 0.008, use("shuttle", 0.8, 0.2), use("shuttle", 0.6),
                 {"size": 0.03, "weight": 400, "down": "top"}, None, {"colour": "#a8741f", "opacity": 0.92}),
        ), ("lower-line",), x=-0.42, y=0.34, words="name caption person place strap",
    ),
    Title(
        "first-light", "First light", "Letters light up one by one over the dark, wide apart",
        (
            text("First light", "star-chart", 0, -0.03, use("embers", 2.2), use("mist", 1.0), {"size": 0.085}),
            text("A place, a year", "star-chart", 0, 0.08, use("dawn", 1.2, 1.3), use("dawn", 0.8), {"size": 0.036, "letter_spacing": 0.3}, {"glow": 0.0}),
        ), ("star-chart",), words="night sky stars opening glow",
    ),
    Title(
        "wall-poster", "Wall poster", "Two tall lines that fill the frame",
        (
            text("Upper", "poster-wall", 0, -0.02, use("hail", 1.0), use("hail", 0.7), {"size": 0.3, "down": "bottom"}),
            text("and lower", "poster-wall", 0, 0.02, use("hail", 1.0, 0.3), use("hail", 0.7), {"size": 0.155, "letter_spacing": 0.06, "down": "top"}, {"colour": "#f2c46d"}),
        ), ("poster-wall",), words="big headline bold two lines",
    ),
    Title(
        "chapter", "Chapter", "A number above a chapter's name, between two rules",
        (
            text("{scene}", "signature", 0, -0.13, use("rise-up", 1.0), use("dawn", 0.7), {"size": 0.11}, {"colour": "#e2a94a"}),
            shape(rule("#f8f4ea", 0.0036), 0, -0.055, 0.3, use("grow", 0.9, 0.3), use("grow", 0.6)),
            text("The chapter’s name", "frontispiece", 0, 0.012, use("rise-up", 1.2, 0.5), use("dawn", 0.7), {"size": 0.075}),
            shape(rule("#f8f4ea", 0.0036), 0, 0.08, 0.3, use("grow", 0.9, 0.3), use("grow", 0.6)),
        ), ("signature", "frontispiece"), words="number section part rules",
    ),
    Title(
        "broadside", "Broadside", "A fat word on a band across the frame",
        (
            shape(Form(outline="rectangle", aspect=16.0, colour="#2a1d0c", fill_opacity=0.85), 0, 0, 1.12, use("slide", 0.8), use("slide", 0.6, side="right")),
            text("One word", "broadside", 0, 0, use("buds", 1.1, 0.4), use("buds", 0.7), {"size": 0.085}),
        ), ("broadside",), words="band strip announcement",
    ),
)  # fmt: skip
