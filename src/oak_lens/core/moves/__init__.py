"""Moves: reusable motion, relative to what it moves. One constant a move, listed in `BUILTIN`."""

from . import cameras, drifts, entrances, landings, letters, swells, turns
from .motion import (
    FACTORS,
    PATHS,
    Offsets,
    Slot,
    add,
    joined,
    lane_offsets,
    offsets_within,
    paced_moment,
    use_moment,
    use_offsets,
    used_length,
)
from .move import BEYOND, Move, MoveUse, Side
from .paces import PACES, clocked
from .spread import ORDERS, UNITS, Order, Spread, Unit, chance, progress

BUILTIN: tuple[tuple[str, Move], ...] = (
    ("drift", drifts.DRIFT),
    ("sweep", drifts.SWEEP),
    ("arc", drifts.ARC),
    ("float", drifts.FLOAT),
    ("push-in", swells.PUSH),
    ("pull-out", swells.PULL),
    ("breathe", swells.BREATHE),
    ("lift", swells.LIFT),
    ("sway", turns.SWAY),
    ("lean", turns.LEAN),
    ("settle", turns.SETTLE),
    ("fall", landings.FALL),
    ("toss", landings.TOSS),
    ("slide", entrances.SLIDE),
    ("spring-in", entrances.SPRING_IN),
    ("drop", entrances.DROP),
    ("grow", entrances.GROW),
    ("spin", entrances.SPIN),
    ("fade", entrances.FADE),
    ("unfold", entrances.UNFOLD),
    ("approach", entrances.APPROACH),
    ("come-into-focus", entrances.FOCUS),
    *letters.LETTER_MOVES,
    ("dolly-in", cameras.DOLLY_IN),
    ("dolly-out", cameras.DOLLY_OUT),
    ("track", cameras.TRACK),
    ("orbit", cameras.ORBIT),
    ("pan", cameras.PAN),
    ("crane", cameras.CRANE),
    ("zoom", cameras.DRAW_IN),
    ("roll", cameras.ROLL),
    ("by-hand", cameras.BY_HAND),
)
"""(id, move) of the shipped moves."""

SHIPPED = dict(BUILTIN)
if len(SHIPPED) != len(BUILTIN):
    raise ValueError("the ids of shipped moves must differ")

__all__ = [
    "BEYOND",
    "BUILTIN",
    "FACTORS",
    "PATHS",
    "SHIPPED",
    "Move",
    "MoveUse",
    "ORDERS",
    "Offsets",
    "Order",
    "Side",
    "Slot",
    "Spread",
    "UNITS",
    "Unit",
    "add",
    "chance",
    "joined",
    "lane_offsets",
    "offsets_within",
    "PACES",
    "clocked",
    "paced_moment",
    "progress",
    "use_moment",
    "use_offsets",
    "used_length",
]
