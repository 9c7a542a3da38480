"""Joins: what happens between two scenes. To add one: copy a file, add a line to BUILTIN."""

from .catalogue import JoinSpec, catalogue
from .cut import CUT
from .dissolve import DISSOLVE
from .push import PUSHES

BUILTIN = catalogue(CUT, DISSOLVE, *PUSHES)

JOINS = {spec.id: spec for spec in BUILTIN}

__all__ = ["BUILTIN", "JOINS", "JoinSpec"]
