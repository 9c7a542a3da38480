"""Treatments that hang pictures on a wall, or pass them by."""

from ..looks import Backdrop, Mount, Shadow
from ..moves.lanes import from_to, through
from ..stage import CameraRig, Light
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
    sheet,
    stops,
    surface_dial,
    text,
    text_zone,
    use,
)

FRAMED = Mount(border=0.014, colour="#3b2c20", mat=0.045, mat_colour="#f4f0e6")
HUNG = Shadow(opacity=0.5, light_from=345, distance=0.02, softness=0.024, second=True)
WALL = Backdrop(kind="surface", surface="plaster", brightness=0.92, saturation=0.9)


def _hung(zone: str, x: float, y: float, size: float, aspect: float):  # type: ignore[no-untyped-def]
    links = {"mount.colour": follows("wood"), "mount.mat": follows("mat", 0.0, 0.1), "mount.border": follows("border", 0.003, 0.03)}
    return photo(zone, x, y, size, shape=aspect, mount=FRAMED, shadow=HUNG, links=links)


WALKED = Shipped(
    "long-wall", "Long wall", "Framed pictures along a wall; the camera walks from one to the next", "wall hang gallery frame museum walk camera several quiet",
    {"a": picture_zone("First on the wall"), "b": picture_zone("Second on the wall", 0.8), "c": picture_zone("Third on the wall"),
     "d": picture_zone("Fourth on the wall", 0.8), "e": picture_zone("Last on the wall")},
    {
        "table": surface_dial("plaster", "Wall"),
        "wood": colour("Wood", "#3b2c20", group="Frames"),
        "border": percent("Width of the wood", 0.4, group="Frames"),
        "mat": percent("Mat", 0.45, help="Paper between picture and wood", group="Frames"),
    },
    (
        Part({"a": _hung("a", -0.9, 0.0, 0.52, 1.5), "b": _hung("b", -0.42, -0.03, 0.6, 0.8), "c": _hung("c", 0.06, 0.02, 0.52, 1.5),
              "d": _hung("d", 0.53, -0.02, 0.6, 0.8), "e": _hung("e", 1.0, 0.0, 0.52, 1.5)},
             WALL, hold=16, least=9, travel=stops(*((z, 0.72) for z in "abcde"), stay=1.3, draws_back=0.12), links={"backdrop.surface": follows("table")}),
    ),
    moods=("calm", "grand"),
)  # fmt: skip


def _card(zone: str, x: float, y: float, size: float, z: float, aspect: float, delay: float):  # type: ignore[no-untyped-def]
    return photo(zone, x, y, size, shape=aspect, z=z, mount=Mount(border=0.006, colour="#f8f4ea"), shadow=Shadow(opacity=0.45, distance=0.03, softness=0.04),
                 entrance=use("come-into-focus", 0.9, delay), links={"mount.border": follows("border", 0.0, 0.02), "mount.colour": follows("edge")})


SHORT = 9 / 16
"""How near the home camera of a square or upright frame stands, in times of that of 16:9: its longer side is what the lens is measured by."""


def _passed(deep: float, *cards: tuple[float, float, float, float]) -> tuple[Part, ...]:
    """Cards (across, down, size, shape), farthest first, the depths of the whole times `deep`."""
    depths = (-3.0, -1.9, -1.0, -0.1)
    hung = {z: _card(z, x, y, size, depth * deep, aspect, 0.2 * n) for n, (z, depth, (x, y, size, aspect)) in enumerate(zip("dcba", depths, cards, strict=True))}
    focus = ((0.0, 0.0), (0.28, -0.1), (0.5, -0.95), (0.72, -1.85), (1.0, -2.9))
    return (
        Part(hung, Backdrop(kind="gradient", gradient="radial", colour="#243042", second_colour="#0c1016"), hold=9, least=5,
             camera=CameraRig(blurred=True, aperture=1.1, focus=-0.1 * deep, focal=42),
             lanes={"camera.dolly": from_to(-0.15 * deep, 2.05 * deep), "camera.focus": through(*((at, z * deep) for at, z in focus))},
             links={"camera.aperture": follows("blur", 8.0, 0.5), "backdrop.second_colour": follows("night")}),
    )  # fmt: skip


PASSED = Shipped(
    "hanging-depths", "Hanging depths", "Pictures hang one behind the other in the dark; the camera pushes past them", "depth parallax push fly space group dark slow camera",
    {"a": picture_zone("Nearest", 1.4), "b": picture_zone("Second", 1.4), "c": picture_zone("Third", 1.4), "d": picture_zone("Farthest", 1.6)},
    {
        "night": colour("Behind", "#10151d"),
        "edge": colour("Edge", "#f8f4ea", group="Pictures"),
        "border": percent("Border", 0.3, group="Pictures"),
        "blur": percent("Blur of depth", 0.55, help="How soft what is nearer or farther than the focus is", group="Lens"),
    },
    _passed(1.0, (0.0, 0.0, 1.5, 1.6), (0.46, -0.1, 0.8, 1.4), (-0.42, 0.1, 0.62, 1.4), (0.28, 0.12, 0.42, 1.4)),
    moods=("grand", "calm"),
    others={
        SQUARE: _passed(SHORT, (0.0, 0.0, 1.5, 1.1), (0.34, -0.22, 0.86, 1.1), (-0.36, 0.2, 0.66, 1.1), (0.24, 0.16, 0.44, 1.1)),
        UPRIGHT: _passed(SHORT, (0.0, 0.0, 1.5, 0.7), (0.3, -0.24, 0.86, 0.75), (-0.32, 0.2, 0.7, 0.75), (0.24, 0.18, 0.5, 0.75)),
    },
)  # fmt: skip


def _lit(aspect: float, size: float) -> tuple[Part, ...]:
    """A picture of this shape in the dark."""
    return (
        Part({"a": photo("a", 0.0, 0.0, size, shape=aspect, mount=Mount(border=0.016, colour="#efe6d2"), shadow=Shadow(opacity=0.7, distance=0.04, softness=0.03), closing=(0.0, 0.0, 1.08))},
             Backdrop(kind="surface", surface="felt", brightness=0.55, saturation=0.8), hold=6, least=3, repeats=True,
             light=Light(x=-0.1, y=-0.15, z=0.55, colour="#ffd9a0", strength=1.35, falloff=0.75, ambient=0.12),
             lanes={"light.x": from_to(-0.6, 0.45), "light.y": through((0.0, -0.25), (0.5, 0.1), (1.0, -0.05))},
             links={"light.colour": follows("lamp"), "light.ambient": follows("dark", 0.6, 0.03), "light.falloff": follows("reach", 0.3, 1.8), "backdrop.surface": follows("table")}),
    )  # fmt: skip


LAMPLIT = Shipped(
    "moving-lamp", "Moving lamp", "One picture in the dark; a lamp passes over it", "light lamp dark single night warm solemn",
    {"a": picture_zone("Picture")},
    {
        "lamp": colour("Light", "#ffd9a0", group="Lamp"),
        "dark": percent("Darkness", 0.8, group="Lamp"),
        "reach": percent("Reach", 0.35, group="Lamp"),
        "table": surface_dial("felt", "Ground"),
    },
    _lit(1.5, 0.74),
    moods=("warm", "grand"),
    others={SQUARE: _lit(1.15, 0.78), UPRIGHT: _lit(0.75, 0.84)},
)  # fmt: skip


def _row(letters: float, y: float = 0.4) -> tuple[Part, ...]:
    """`letters`: size of the words, in frame heights."""
    shade = sheet("#0c0f13", 0.0, links={"form.second_opacity": follows("shade", 0.0, 0.85)})
    form = {"fill": "linear", "fill_opacity": 0.0, "second_colour": "#0c0f13", "second_opacity": 0.42, "angle": 180.0}
    return (
        Part({"a": photo("a", 0.0, 0.0, 1.0, shape=None, opening=(0.0, 0.0, 1.0),
                         lanes={"placement.x": through((0.0, 0.42), (0.55, -0.36), (1.0, 0.0), ease="both"), "placement.size": through((0.0, 1.0), (0.55, 1.0), (1.0, 0.535), ease="both")},
                         links={"placement.size": follows("close", 1.87, 2.4)}),
              "shade": shade.model_copy(update={"form": shade.form.model_copy(update=form), "entrance": use("fade", 1.2, 2.5)}),
              "name": text("Who they are", "lower-line", 0.0, y, zone="name", setting={"across": "middle", "wrap": "shrink", "box_width": 0.86, "box_height": 0.12, "size": letters, "family": "source-serif-4", "weight": 500}, panel={"kind": "none"},
                           entrance=use("dawn", 1.2, 3.2), links={"ink.colour": follows("ink")})},
             Backdrop(kind="blur"), hold=8, least=5, repeats=True),
    )  # fmt: skip


GROUPED = Shipped(
    "along-the-row", "Along the row", "A picture of many people, seen closely along the row, then whole", "group people team wide panorama glide slow single",
    {"a": picture_zone("Group picture", 1.78, help="Of many people or things, side by side"), "name": text_zone("Who they are", 48, required=False)},
    {
        "close": percent("How close", 0.5, help="How near the camera begins"),
        "shade": percent("Shade behind the words", 0.5, group="Words"),
        "ink": colour("Ink", "#f8f4ea", group="Words"),
    },
    _row(0.05),
    moods=("calm", "grand"),
    others={SQUARE: _row(0.046), UPRIGHT: _row(0.032, 0.38)},
)  # fmt: skip

TREATMENTS = (WALKED, PASSED, LAMPLIT, GROUPED)
