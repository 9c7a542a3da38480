"""Treatments that set pictures edge to edge."""

from typing import Any

from ..looks import Backdrop, Correction, Form, Mask, Mount, Shadow
from ..moves.lanes import from_to, through
from .treatment import SQUARE, UPRIGHT, Part, Shipped, colour, follows, percent, photo, picture_zone, shape, text, text_zone, use

GROUND = Backdrop(kind="colour", colour="#ece6da")


def _strip(zone: str, at: float, forth: bool, delay: float, aspect: float, stacked: bool = False):  # type: ignore[no-untyped-def]
    """A picture from edge to edge, beside others or (`stacked`) above and below them, drifting along itself."""
    drift = 0.12 if forth else -0.12
    first, last = ((drift, 0.0, 1.25), (-drift, 0.0, 1.25)) if stacked else ((0.0, drift, 1.25), (0.0, -drift, 1.25))
    sides = ("left", "right") if stacked else ("bottom", "top")
    return photo(zone, 0.0 if stacked else at, at if stacked else 0.0, 0.94, shape=aspect, opening=first, closing=last, entrance=use("slide", 1.0, delay, sides[forth]),
                 links={"placement.size": follows("gap", 1.0, 0.86)})


def _strips(three: float, two: float, one: float, *, apart: float = 0.325, stacked: bool = False) -> tuple[Part, ...]:
    """Scenes of three strips, two and one, of these shapes; the outer of three stand `apart` from the middle."""
    near = apart * 0.754
    ground = {"backdrop.colour": follows("ground")}
    return (
        Part({z: _strip(z, (n - 1) * apart, n == 1, 0.1 + 0.25 * n, three, stacked) for n, z in enumerate("abc")}, GROUND, hold=6, least=3, repeats=True, links=ground),
        Part({z: _strip(z, (n * 2 - 1) * near, n == 1, 0.1 + 0.25 * n, two, stacked) for n, z in enumerate("ab")}, GROUND, hold=5, least=3, repeats=True, optional=True, links=ground),
        Part({"a": _strip("a", 0.0, False, 0.1, one, stacked)}, GROUND, hold=4, least=2, repeats=True, optional=True, links=ground),
    )  # fmt: skip


TALL = Shipped(
    "tall-windows", "Tall windows", "Three tall pictures side by side, drifting against each other; one above the other in an upright film", "strips columns upright side by side three modern light",
    {"a": picture_zone("First", 0.58), "b": picture_zone("Second", 0.58), "c": picture_zone("Third", 0.58)},
    {"ground": colour("Ground", "#ece6da"), "gap": percent("Gap", 0.4)},
    _strips(0.58, 0.86, 1.74),
    moods=("calm", "lively"),
    others={SQUARE: _strips(0.325, 0.49, 1.0), UPRIGHT: _strips(1.74, 1.16, 0.6, stacked=True)},
)  # fmt: skip


def _run(apart: float, size: float, aspect: float, edge: float, *, down: bool = False) -> tuple[Part, ...]:
    """Five pictures `apart` in widths (`down`: heights) of the frame between two lines that far from its middle, and the camera along them."""
    links = {"mount.radius": follows("round", 0.0, 0.08), "placement.size": follows("size", size * 0.735, size * 1.235)}

    def at(along: float, across: float) -> dict[str, Any]:
        return {"x": across, "y": along} if down else {"x": along, "y": across}

    def running(zone: str, n: int):  # type: ignore[no-untyped-def]
        return photo(zone, size=size, shape=aspect, mount=Mount(border=0.0, radius=0.02), shadow=Shadow(opacity=0.0), links=links, **at((n - 2) * apart, 0.0))

    def rule(side: float):  # type: ignore[no-untyped-def]
        turn = {"turn": 90.0} if down else {}
        return shape(Form(outline="line", stroke=0.004, stroke_colour="#e2a94a"), size=10.0 if down else 6.0, links={"form.stroke_colour": follows("rule")}, **turn, **at(0.0, side))

    way = apart * 1.885
    return (
        Part({**{z: running(z, n) for n, z in enumerate("abcde")}, "above": rule(-edge), "below": rule(edge)},
             Backdrop(kind="colour", colour="#1d2a33"), hold=9, least=5, lanes={"camera.y" if down else "camera.x": from_to(-way, way, "both")}, links={"backdrop.colour": follows("ground")}),
    )  # fmt: skip


RUNNING = Shipped(
    "running-band", "Running band", "Five pictures run through the frame in one band", "film strip row band horizontal movement rhythm lively",
    {z: picture_zone(f"Picture {n + 1}", 1.25) for n, z in enumerate("abcde")},
    {"ground": colour("Ground", "#1d2a33"), "rule": colour("Rules", "#e2a94a"), "size": percent("Height", 0.53), "round": percent("Round corners", 0.25)},
    _run(0.52, 0.68, 1.25, 0.42),
    moods=("lively",),
    others={SQUARE: _run(0.86, 0.84, 1.25, 0.42), UPRIGHT: _run(0.47, 0.82, 0.75, 0.47, down=True)},
)  # fmt: skip

LABEL = {"size": 0.036, "family": "inter", "weight": 600, "letter_spacing": 0.08, "case": "upper"}

def _compared(aspect: float, label: float) -> tuple[Part, ...]:
    """Two pictures of the frame's shape and the line between them; `label`: size of the words."""
    way = {"edge": through((0.0, 0.5), (0.15, 0.5), (0.5, -0.44), (0.68, -0.44), (1.0, 0.0))}
    letters = {**LABEL, "size": label}
    return (
        Part({"a": photo("a", shape=aspect, size=1.0, correction=Correction(tone="sepia", tone_amount=0.0), links={"correction.tone_amount": follows("tone")}),
              "b": photo("b", shape=aspect, size=1.0).model_copy(update={
                  "mask": Mask(outline="rectangle", x=0.5, y=0.0, width=1.0, height=1.0, softness=0.0), "animation": {"mask.x": way["edge"]}}),
              "line": shape(Form(outline="line", stroke=0.005, stroke_colour="#f8f4ea"), 0.0, 0.0, max(1.0, 1.02 / aspect), turn=90, links={"form.stroke_colour": follows("line"), "form.stroke": follows("width", 0.0, 0.014)}).model_copy(update={
                  "animation": {"placement.x": way["edge"]}}),
              "then": text("Then", "lower-line", -0.45, 0.42, zone="then", setting={**letters, "across": "left"}, entrance=use("dawn", 0.8, 0.4)),
              "now": text("Now", "lower-line", 0.45, 0.42, zone="now", setting={**letters, "across": "right"}, entrance=use("dawn", 0.8, 1.4))},
             Backdrop(kind="colour", colour="#14181d"), hold=7, least=4, repeats=True),
    )  # fmt: skip


COMPARED = Shipped(
    "then-and-now", "Then and now", "Two pictures of one place; a line wipes from the first to the second and back to the middle", "before after compare two slide wipe change",
    {"a": picture_zone("Then", 1.78), "b": picture_zone("Now", 1.78), "then": text_zone("Word for the first", 20, required=False), "now": text_zone("Word for the second", 20, required=False)},
    {"line": colour("Line", "#f8f4ea"), "width": percent("Width of the line", 0.35), "tone": percent("Old tone", 0.0, help="How brown the first picture is")},
    _compared(1.7778, 0.036),
    moods=("calm",),
    others={SQUARE: _compared(1.0, 0.034), UPRIGHT: _compared(0.5625, 0.026)},
)  # fmt: skip


def _tiles(aspect: float) -> tuple[Part, ...]:
    """Nine tiles of the frame's shape, nearly."""

    def tile(zone: str, n: int):  # type: ignore[no-untyped-def]
        x, y = (n % 3 - 1) * 0.315, (n // 3 - 1) * 0.32
        return photo(zone, x, y, 0.3, shape=aspect, entrance=use("unfold", 0.8, 0.15 + 0.22 * ((n * 4) % 9), ("left", "top", "right", "bottom")[n % 4]),
                     links={"placement.size": follows("gap", 0.325, 0.26), "mount.radius": follows("round", 0.0, 0.06)})

    ground = Backdrop(kind="colour", colour="#22303a")
    return (Part({z: tile(z, n) for n, z in enumerate("abcdefghi")}, ground, hold=6, least=4, repeats=True, links={"backdrop.colour": follows("ground")}),)  # fmt: skip


TILED = Shipped(
    "turning-tiles", "Turning tiles", "Nine small pictures turn over one by one until the field is full", "grid mosaic nine many overview tiles turn summary",
    {z: picture_zone(f"Tile {n + 1}", 1.72, required=n < 4) for n, z in enumerate("abcdefghi")},
    {"ground": colour("Ground", "#22303a"), "gap": percent("Gap", 0.4), "round": percent("Round corners", 0.1)},
    _tiles(1.72),
    moods=("lively",),
    others={SQUARE: _tiles(0.98), UPRIGHT: _tiles(0.552)},
)  # fmt: skip

TREATMENTS = (TALL, RUNNING, COMPARED, TILED)
