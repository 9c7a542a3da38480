"""Treatments that set pictures edge to edge."""

from ..looks import Backdrop, Correction, Form, Mask, Mount, Shadow
from ..moves.lanes import from_to, through
from .treatment import Part, Shipped, colour, follows, percent, photo, picture_zone, shape, text, text_zone, use

GROUND = Backdrop(kind="colour", colour="#ece6da")


def _strip(zone: str, x: float, down: bool, delay: float, aspect: float = 0.58):  # type: ignore[no-untyped-def]
    views = ((0.0, -0.12, 1.25), (0.0, 0.12, 1.25))
    return photo(zone, x, 0.0, 0.94, shape=aspect, opening=views[down], closing=views[not down], entrance=use("slide", 1.0, delay, "top" if down else "bottom"),
                 links={"placement.size": follows("gap", 1.0, 0.86)})


TALL = Shipped(
    "tall-windows", "Tall windows", "Three tall pictures side by side, drifting against each other", "strips columns upright side by side three modern light",
    {"a": picture_zone("Left", 0.58), "b": picture_zone("Middle", 0.58), "c": picture_zone("Right", 0.58)},
    {"ground": colour("Ground", "#ece6da"), "gap": percent("Gap", 0.4)},
    (
        Part({"a": _strip("a", -0.325, False, 0.1), "b": _strip("b", 0.0, True, 0.35), "c": _strip("c", 0.325, False, 0.6)}, GROUND, hold=6, least=3, repeats=True, links={"backdrop.colour": follows("ground")}),
        Part({"a": _strip("a", -0.245, False, 0.1, 0.86), "b": _strip("b", 0.245, True, 0.35, 0.86)}, GROUND, hold=5, least=3, repeats=True, optional=True, links={"backdrop.colour": follows("ground")}),
        Part({"a": photo("a", 0.0, 0.0, 0.94, shape=1.74, opening=(0.0, 0.04, 1.12), closing=(0.0, -0.04, 1.12), entrance=use("slide", 1.0, 0.1, "bottom"), links={"placement.size": follows("gap", 1.0, 0.86)})},
             GROUND, hold=4, least=2, repeats=True, optional=True, links={"backdrop.colour": follows("ground")}),
    ),
)  # fmt: skip


def _running(zone: str, n: int):  # type: ignore[no-untyped-def]
    return photo(zone, (n - 2) * 0.52, 0.0, 0.68, shape=1.25, mount=Mount(border=0.0, radius=0.02), shadow=Shadow(opacity=0.0), links={"mount.radius": follows("round", 0.0, 0.08), "placement.size": follows("size", 0.5, 0.84)})


RUNNING = Shipped(
    "running-band", "Running band", "Five pictures run through the frame in one band", "film strip row band horizontal movement rhythm lively",
    {z: picture_zone(f"Picture {n + 1}", 1.25) for n, z in enumerate("abcde")},
    {"ground": colour("Ground", "#1d2a33"), "rule": colour("Rules", "#e2a94a"), "size": percent("Height", 0.53), "round": percent("Round corners", 0.25)},
    (
        Part({**{z: _running(z, n) for n, z in enumerate("abcde")},
              "above": shape(Form(outline="line", stroke=0.004, stroke_colour="#e2a94a"), 0.0, -0.42, 3.2, z=0.0, links={"form.stroke_colour": follows("rule")}),
              "below": shape(Form(outline="line", stroke=0.004, stroke_colour="#e2a94a"), 0.0, 0.42, 3.2, z=0.0, links={"form.stroke_colour": follows("rule")})},
             Backdrop(kind="colour", colour="#1d2a33"), hold=9, least=5, lanes={"camera.x": from_to(-0.98, 0.98, "both")}, links={"backdrop.colour": follows("ground")}),
    ),
)  # fmt: skip

LABEL = {"size": 0.036, "family": "inter", "weight": 600, "letter_spacing": 0.08, "case": "upper"}

COMPARED = Shipped(
    "then-and-now", "Then and now", "Two pictures of one place; a line wipes from the first to the second and back to the middle", "before after compare two slide wipe change",
    {"a": picture_zone("Then", 1.78), "b": picture_zone("Now", 1.78), "then": text_zone("Word for the first", 20, required=False), "now": text_zone("Word for the second", 20, required=False)},
    {"line": colour("Line", "#f8f4ea"), "width": percent("Width of the line", 0.35), "tone": percent("Old tone", 0.0, help="How brown the first picture is")},
    (
        Part({"a": photo("a", shape=1.7778, size=1.0, correction=Correction(tone="sepia", tone_amount=0.0), links={"correction.tone_amount": follows("tone")}),
              "b": photo("b", shape=1.7778, size=1.0).model_copy(update={
                  "mask": Mask(outline="rectangle", x=0.5, y=0.0, width=1.0, height=1.0, softness=0.0),
                  "animation": {"mask.x": through((0.0, 0.5), (0.15, 0.5), (0.5, -0.44), (0.68, -0.44), (1.0, 0.0))}}),
              "line": shape(Form(outline="line", stroke=0.005, stroke_colour="#f8f4ea"), 0.0, 0.0, 1.0, turn=90, links={"form.stroke_colour": follows("line"), "form.stroke": follows("width", 0.0, 0.014)}).model_copy(update={
                  "animation": {"placement.x": through((0.0, 0.5), (0.15, 0.5), (0.5, -0.44), (0.68, -0.44), (1.0, 0.0))}}),
              "then": text("Then", "lower-line", -0.45, 0.42, zone="then", setting={**LABEL, "across": "left"}, entrance=use("dawn", 0.8, 0.4)),
              "now": text("Now", "lower-line", 0.45, 0.42, zone="now", setting={**LABEL, "across": "right"}, entrance=use("dawn", 0.8, 1.4))},
             Backdrop(kind="colour", colour="#14181d"), hold=7, least=4, repeats=True),
    ),
)  # fmt: skip


def _tile(zone: str, n: int):  # type: ignore[no-untyped-def]
    x, y = (n % 3 - 1) * 0.315, (n // 3 - 1) * 0.32
    return photo(zone, x, y, 0.3, shape=1.72, entrance=use("unfold", 0.8, 0.15 + 0.22 * ((n * 4) % 9), ("left", "top", "right", "bottom")[n % 4]), links={"placement.size": follows("gap", 0.325, 0.26), "mount.radius": follows("round", 0.0, 0.06)})


TILED = Shipped(
    "turning-tiles", "Turning tiles", "Nine small pictures turn over one by one until the field is full", "grid mosaic nine many overview tiles turn summary",
    {z: picture_zone(f"Tile {n + 1}", 1.72, required=n < 4) for n, z in enumerate("abcdefghi")},
    {"ground": colour("Ground", "#22303a"), "gap": percent("Gap", 0.4), "round": percent("Round corners", 0.1)},
    (
        Part({z: _tile(z, n) for n, z in enumerate("abcdefghi")}, Backdrop(kind="colour", colour="#22303a"), hold=6, least=4, repeats=True, links={"backdrop.colour": follows("ground")}),
    ),
)  # fmt: skip

TREATMENTS = (TALL, RUNNING, COMPARED, TILED)
