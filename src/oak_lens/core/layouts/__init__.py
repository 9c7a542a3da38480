"""Layouts of several photos in one scene. To add one: write its function and spec, add the spec to BUILTIN."""

from .arranging import Arranged, arranged, matched
from .catalogue import LayoutSpec, Slot, Wanted, catalogue
from .prints import FAN, LINE, PILE, STEPS, TABLE, WALL
from .splits import GRID, LARGE_CELL, ONE_LARGE, ROWS, SIDE_BY_SIDE

BUILTIN = catalogue(SIDE_BY_SIDE, ONE_LARGE, LARGE_CELL, GRID, ROWS, WALL, LINE, TABLE, PILE, FAN, STEPS)

LAYOUTS = {spec.id: spec for spec in BUILTIN}

__all__ = ["BUILTIN", "LAYOUTS", "Arranged", "LayoutSpec", "Slot", "Wanted", "arranged", "catalogue", "matched"]
