"""Moves of letters, words and lines: entrances (backwards they are exits) and what letters do while they stand. `letters.x` and `letters.y`
are in ems, along and across the line; `letters.spacing` parts letters from the middle of their line."""

from ..curves import Spring
from ..time import TICKS_PER_SECOND
from .lanes import from_to, through
from .move import Move
from .spread import Spread

SOON = through((0.0, 0.0), (0.35, 1.0), ease="none")
AT_ONCE = through((0.0, 0.0), (0.02, 1.0), ease="none")
LENGTH = round(1.6 * TICKS_PER_SECOND)


def _entrance(name: str, exit_name: str, help: str, lanes: dict[str, object], spread: Spread, **more: object) -> Move:
    return Move.model_validate(
        {"name": name, "exit_name": exit_name, "help": help, "kind": "entrance", "length": LENGTH, "lanes": lanes, "spread": spread, **more}
    )


LETTER_MOVES: tuple[tuple[str, Move], ...] = (
    ("dawn", _entrance(
        "Dawns", "Fades by letters", "Letters appear one after another", {"layer.opacity": from_to(0.0, 1.0)}, Spread(overlap=0.8),
    )),
    ("rise-up", _entrance(
        "Rises", "Sinks", "Letters come up from below their line",
        {"letters.y": from_to(0.6, 0.0, "out"), "layer.opacity": SOON}, Spread(overlap=0.75), sided=False,
    )),
    ("hail", _entrance(
        "Hails down", "Lifts off", "Words drop onto their line, a little too far, and back",
        {"letters.y": from_to(-1.4, 0.0, "overshoot"), "layer.opacity": SOON}, Spread(unit="word", overlap=0.5),
    )),
    ("shuttle", _entrance(
        "Shuttles in", "Shuttles out", "Line by line from the side", {"letters.x": from_to(-3.0, 0.0, "out"), "layer.opacity": SOON},
        Spread(unit="line", overlap=0.6), sided=True,
    )),
    ("mist", _entrance(
        "Out of the mist", "Into the mist", "Letters clear up in any order",
        {"layer.blur": from_to(0.03, 0.0), "layer.opacity": from_to(0.0, 1.0)}, Spread(order="any", overlap=0.85),
    )),
    ("stand-up", _entrance(
        "Stands up", "Lies down", "Letters turn up onto their line",
        {"placement.turn": from_to(-90.0, 0.0, "overshoot"), "letters.y": from_to(0.5, 0.0, "out"), "layer.opacity": SOON}, Spread(overlap=0.7),
    )),
    ("shutters", _entrance(
        "Opens like shutters", "Closes like shutters", "Letters turn to the viewer out of depth",
        {"placement.swing": from_to(90.0, 0.0, "out"), "layer.opacity": AT_ONCE}, Spread(overlap=0.7),
    )),
    ("flaps", _entrance(
        "Flaps over", "Flaps away", "Letters tip forward into place, as on a board of flaps",
        {"placement.tip": from_to(-100.0, 0.0, "overshoot"), "layer.opacity": AT_ONCE}, Spread(overlap=0.6, order="any"),
    )),
    ("buds", _entrance(
        "Buds", "Withers", "Letters grow from the middle of their line outwards",
        {"placement.size": from_to(0.02, 1.0, "overshoot"), "layer.opacity": AT_ONCE}, Spread(order="from_middle", overlap=0.6),
    )),
    ("comets", _entrance(
        "Comes as comets", "Leaves as comets", "Words fly in out of the depth, turning sharp",
        {"placement.z": from_to(-6.0, 0.0, "out"), "layer.opacity": SOON, "layer.blur": from_to(0.012, 0.0)}, Spread(unit="word", overlap=0.5),
    )),
    ("draw-together", _entrance(
        "Draws together", "Drifts apart", "Letters close up to their spacing",
        {"letters.spacing": from_to(0.6, 0.0, "out"), "layer.opacity": from_to(0.0, 1.0)}, Spread(unit="all"),
    )),
    ("key-by-key", _entrance(
        "Key by key", "Taken back", "As written on a machine, letter by letter",
        {"layer.opacity": through((0.0, 0.0), (1.0, 1.0), ease="hold")}, Spread(overlap=0.0),
    )),
    ("gathering", _entrance(
        "Gathers", "Scatters", "Letters come from all about",
        {"letters.x": from_to(4.0, 0.0, "out"), "letters.y": from_to(2.5, 0.0, "out"), "placement.turn": from_to(140.0, 0.0, "out"), "layer.opacity": SOON},
        Spread(order="any", overlap=0.8), scattered=("letters.x", "letters.y", "placement.turn"),
    )),
    ("embers", _entrance(
        "Glows up", "Cools down", "Letters light up like embers, then take their colour",
        {"layer.opacity": SOON, "ink.colour_red": from_to(255.0, 0.0), "ink.colour_green": from_to(-60.0, 0.0), "ink.colour_blue": from_to(-180.0, 0.0)},
        Spread(order="any", overlap=0.75),
    )),
    ("springs", _entrance(
        "Springs up", "Springs away", "Letters swing into place",
        {"letters.y": from_to(0.9, 0.0, follow=Spring()), "layer.opacity": SOON}, Spread(overlap=0.8, order="from_middle"),
    )),
    ("swell", Move(
        name="Swell", help="A wave goes through the letters", kind="move", spread=Spread(overlap=0.75),
        lanes={"letters.y": through((0.0, 0.0), (0.25, -0.16), (0.5, 0.0), (0.75, 0.08), (1.0, 0.0))},
    )),
    ("gleam", Move(
        name="Gleam", help="A light passes over the letters", kind="move", spread=Spread(overlap=0.85),
        lanes={
            "ink.colour_red": through((0.0, 0.0), (0.5, 120.0), (1.0, 0.0)), "ink.colour_green": through((0.0, 0.0), (0.5, 100.0), (1.0, 0.0)),
            "placement.size": through((0.0, 1.0), (0.5, 1.06), (1.0, 1.0)),
        },
    )),
    ("breathing-apart", Move(
        name="Breathes apart", help="The spacing widens and closes slowly", kind="move", spread=Spread(unit="all"),
        lanes={"letters.spacing": through((0.0, 0.0), (0.5, 0.09), (1.0, 0.0))},
    )),
    ("float-words", Move(
        name="Words afloat", help="Words rise and sink, each in its turn", kind="move", spread=Spread(unit="word", overlap=0.6, order="any"),
        lanes={"letters.y": through((0.0, 0.0), (0.3, -0.1), (0.7, 0.06), (1.0, 0.0)), "placement.turn": through((0.0, 0.0), (0.5, 1.4), (1.0, 0.0))},
    )),
)  # fmt: skip
"""(id, move): to add one, add an entry."""
