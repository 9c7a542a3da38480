"""The templates that ship with Oak Lens. One constant a template, listed in `BUILTIN`."""

from . import films, lettered, openings, strips, tables, walls
from .shelf import ShippedShelf
from .treatment import Shipped

BUILTIN: tuple[Shipped, ...] = (*lettered.TREATMENTS, *openings.TREATMENTS, *tables.TREATMENTS, *strips.TREATMENTS, *walls.TREATMENTS, *films.TREATMENTS)
"""To add one: a `Shipped` in one of the modules' tuples; the library and the tests follow."""

if len({s.id for s in BUILTIN}) != len(BUILTIN):
    raise ValueError("the ids of shipped templates must differ")

SHELF = ShippedShelf(BUILTIN)
"""Where they all are."""

__all__ = ["BUILTIN", "SHELF", "Shipped", "ShippedShelf"]
