"""Treatments that lay pictures on a table or a map."""

from math import atan2, degrees, hypot

from ..looks import Backdrop, Form, Mount, Shadow
from ..moves.lanes import through
from .treatment import (
    SQUARE,
    UPRIGHT,
    Part,
    Shipped,
    colour,
    follows,
    percent,
    photo,
    picture_zone,
    shape,
    stops,
    surface_dial,
    text,
    text_zone,
    use,
)

PRINT = Mount(border=0.02, colour="#f8f4ea", paper="under", paper_strength=0.25)
LYING = Shadow(opacity=0.5, light_from=320, distance=0.012, softness=0.016, second=True)
TABLE = Backdrop(kind="surface", surface="walnut", brightness=0.9, saturation=0.95)
SURFACE = {"backdrop.surface": follows("table")}
BORDERED = {"mount.border": follows("border", 0.0, 0.045), "mount.colour": follows("paper")}


def _leaning(turn: float, **more: object) -> dict:  # type: ignore[type-arg]
    """Links of a print that leans by so many degrees where its dial stands in the middle."""
    return {**BORDERED, "placement.turn": follows("lean", 0.0, turn * 2), **more}


def _print(zone: str, x: float, y: float, size: float, aspect: float, turn: float, delay: float):  # type: ignore[no-untyped-def]
    return photo(zone, x, y, size, shape=aspect, turn=turn, mount=PRINT, shadow=LYING, entrance=use("fall", 1.1, delay), links=_leaning(turn))


PRINT_DIALS = {
    "table": surface_dial("walnut", "Table"),
    "paper": colour("Paper", "#f8f4ea", group="Prints"),
    "border": percent("Border", 0.45, help="Width of the white around each print", group="Prints"),
    "lean": percent("Lean", 0.5, help="How far prints lie askew", group="Prints"),
}

Spot = tuple[float, float, float, float]
"""Across, down, size and turn."""


def _dealt(four: tuple[Spot, Spot, Spot, Spot], two: tuple[Spot, Spot], one: Spot) -> tuple[Part, ...]:
    """Scenes of four prints, two and one, as they come to lie. Of four, the third is upright and the fourth falls under it."""

    def fallen(zone: str, spot: Spot, delay: float, aspect: float = 1.5):  # type: ignore[no-untyped-def]
        x, y, size, turn = spot
        return _print(zone, x, y, size, aspect, turn, delay)

    a, b, c, d = four
    return (
        Part({"a": fallen("a", a, 0.2), "b": fallen("b", b, 0.9), "d": fallen("d", d, 2.3), "c": fallen("c", c, 1.6, 0.8)}, TABLE, hold=7, least=4.5, repeats=True, links=SURFACE),
        Part({"a": fallen("a", two[0], 0.2), "b": fallen("b", two[1], 1.0)}, TABLE, hold=5.5, least=3.5, repeats=True, optional=True, links=SURFACE),
        Part({"a": fallen("a", one, 0.2)}, TABLE, hold=4.5, least=2.5, repeats=True, optional=True, links=SURFACE),
    )  # fmt: skip


FALLING = Shipped(
    "dealt-prints", "Dealt prints", "Prints fall on a table one after another and come to lie askew", "table fall land pile paper warm lively several",
    {"a": picture_zone("First print"), "b": picture_zone("Second print"), "c": picture_zone("Third print", 0.8), "d": picture_zone("Fourth print", required=False)},
    PRINT_DIALS,
    _dealt(((-0.26, -0.13, 0.5, -7), (0.2, -0.2, 0.46, 5), (0.2, 0.17, 0.6, -4), (-0.17, 0.25, 0.42, 4)), ((-0.2, 0.0, 0.66, -5), (0.24, 0.06, 0.6, 6)), (0.0, 0.0, 0.8, -3)),
    moods=("warm", "lively"),
    others={
        SQUARE: _dealt(((-0.2, -0.24, 0.56, -7), (0.22, -0.25, 0.5, 5), (0.22, 0.19, 0.54, -4), (-0.22, 0.21, 0.5, 4)), ((-0.09, -0.2, 0.74, -5), (0.09, 0.2, 0.7, 6)), (0.0, 0.0, 0.86, -3)),
        UPRIGHT: _dealt(((-0.05, -0.32, 0.8, -7), (0.08, -0.09, 0.76, 5), (0.14, 0.26, 0.66, -4), (-0.16, 0.1, 0.66, 4)), ((-0.02, -0.19, 0.92, -5), (0.02, 0.19, 0.9, 6)), (0.0, 0.0, 0.94, -3)),
    },
)  # fmt: skip

CARD = Mount(border=0.026, foot=0.08, colour="#f7f3ea", radius=0.005, paper="under", paper_strength=0.25)


def _leaf(zone: str, place: int, of: int, turn: float, last: bool, aspect: float, size: float):  # type: ignore[no-untyped-def]
    """A card of a stack: it lies still until its turn comes, then slides off to the left as if by a hand."""
    begins = 0.12 + 0.8 * place / of
    ends = min(begins + 0.62 / of, 1.0)
    lanes = {} if last else {
        "placement.x": through((begins, 0.0), (ends, -1.15), ease="in"),
        "placement.turn": through((begins, 0.0), (ends, -16.0), ease="in"),
        "placement.z": through((begins, 0.0), ((begins + ends) / 2, 0.06), (ends, 0.1), ease="out"),
    }  # fmt: skip
    links = {"mount.border": follows("border", 0.004, 0.05), "mount.colour": follows("card"), "placement.turn": follows("untidy", 0.0, turn * 2), "placement.size": follows("size", size * 0.8, size * 1.2)}
    return photo(zone, 0.0, -0.035, size, shape=aspect, turn=turn, mount=CARD, shadow=LYING, lanes=lanes, links=links)


def _leafed(aspect: float, size: float) -> tuple[Part, ...]:
    """Stacks of four cards, two and one."""
    linen = Backdrop(kind="surface", surface="linen", brightness=0.78, saturation=0.8)

    def stack(*turns: tuple[str, float]):  # type: ignore[no-untyped-def]
        """Lowest first."""
        of = len(turns)
        return {zone: _leaf(zone, of - 1 - n, of, turn, n == 0, aspect, size) for n, (zone, turn) in enumerate(turns)}

    return (
        Part(stack(("d", 2.5), ("c", -3), ("b", 1.5), ("a", -1)), linen, hold=9, least=5, repeats=True, links=SURFACE),
        Part(stack(("b", 2), ("a", -1.5)), linen, hold=5, least=3, repeats=True, optional=True, links=SURFACE),
        Part(stack(("a", -1.5)), linen, hold=3.5, least=2, repeats=True, optional=True, links=SURFACE),
    )


LEAFED = Shipped(
    "leafed-stack", "Leafed stack", "A stack of cards: each in turn slides off and shows the one below", "pile cards leaf through one after another calm",
    {"a": picture_zone("Top card", 1.25), "b": picture_zone("Second card", 1.25), "c": picture_zone("Third card", 1.25), "d": picture_zone("Bottom card", 1.25)},
    {
        "table": surface_dial("linen", "Table"),
        "card": colour("Card", "#f7f3ea", group="Cards"),
        "border": percent("Border", 0.48, group="Cards"),
        "untidy": percent("Untidy", 0.5, help="How far the cards lie askew", group="Cards"),
        "size": percent("Size", 0.5, group="Cards"),
    },
    _leafed(1.25, 0.68),
    moods=("calm", "warm"),
    others={SQUARE: _leafed(1.1, 0.76), UPRIGHT: _leafed(0.8, 0.82)},
)  # fmt: skip

PINNED = Mount(border=0.012, colour="#fdfaf2")
ROUTE = Form(outline="line", stroke=0.007, stroke_colour="#a8452f")
STOPS = ((-0.62, -0.28, -3.0), (-0.2, 0.26, 2.0), (0.26, -0.22, -2.0), (0.66, 0.24, 3.0))


def _way(first: int) -> dict:  # type: ignore[type-arg]
    """The line from one stop of the map to the next, in frame heights."""
    (x0, y0, _), (x1, y1, _) = STOPS[first], STOPS[first + 1]
    dx, dy = (x1 - x0) * 16 / 9, y1 - y0
    links = {"form.stroke_colour": follows("route"), "form.stroke": follows("line", 0.0, 0.016)}
    return {f"way-{first + 1}": shape(ROUTE, (x0 + x1) / 2, (y0 + y1) / 2, hypot(dx, dy) * 9 / 16, turn=degrees(atan2(dy, dx)), links=links)}


def _mark(n: int) -> dict:  # type: ignore[type-arg]
    x, y, _ = STOPS[n]
    return {f"mark-{n + 1}": shape(Form(outline="ellipse", aspect=1.0, colour="#a8452f"), x, y + 0.21, 0.032, links={"form.colour": follows("route")})}


def _stop(n: int) -> dict:  # type: ignore[type-arg]
    x, y, turn = STOPS[n]
    zone = "abcd"[n]
    picture = photo(zone, x, y, 0.36, shape=1.4, turn=turn, z=0.03, mount=PINNED, shadow=LYING, links={"mount.border": follows("border", 0.0, 0.03)})
    name = text(f"Stop {n + 1}", "expedition", x, y + 0.245, zone=f"name-{zone}", setting={"size": 0.038, "wrap": "shrink", "box_width": 0.3, "box_height": 0.06}, ink={"colour": "#4a3520", "outline": 0.0}, shadow={"opacity": 0.0})
    return {f"picture-{n + 1}": picture, f"name-{n + 1}": name}


MAPPED = Shipped(
    "marked-route", "Marked route", "A paper map with a line from stop to stop; the camera follows it", "map journey travel way places route surface camera",
    {**{z: picture_zone(f"Picture at stop {n + 1}", 1.4) for n, z in enumerate("abcd")},
     **{f"name-{z}": text_zone(f"Name of stop {n + 1}", 24, required=False) for n, z in enumerate("abcd")}},
    {
        "table": surface_dial("kraft", "Map"),
        "route": colour("Line", "#a8452f", group="Route"),
        "line": percent("Width of the line", 0.45, group="Route"),
        "border": percent("Border", 0.4, group="Pictures"),
    },
    (
        Part({**_way(0), **_way(1), **_way(2), **_mark(0), **_mark(1), **_mark(2), **_mark(3), **_stop(0), **_stop(1), **_stop(2), **_stop(3)},
             Backdrop(kind="surface", surface="kraft", brightness=1.02, saturation=0.9, surface_scale=0.8), hold=14, least=8,
             travel=stops(("picture-1", 0.5), ("picture-2", 0.5), ("picture-3", 0.5), ("picture-4", 0.5), stay=1.4, draws_back=0.2), links=SURFACE),
    ),
    moods=("warm", "lively"),
)  # fmt: skip

TREATMENTS = (FALLING, LEAFED, MAPPED)
