"""Title settings: texts with shapes around them, already in motion, to be put on a scene as a group. One function a setting, listed in `BUILTIN`."""

from . import charts, labels, lines
from .title import Piece, Title

BUILTIN: tuple[Title, ...] = (*lines.TITLES, *labels.TITLES, *charts.TITLES)
"""To add one: a `Title` in one of the modules' tuples; the picker and the tests follow."""

TITLES = {title.id: title for title in BUILTIN}
if len(TITLES) != len(BUILTIN):
    raise ValueError("the ids of title settings must differ")

__all__ = ["BUILTIN", "TITLES", "Piece", "Title"]
