"""Dissolve: one scene melts evenly into the next."""

from ..draw import DrawList, Mixture, Picturing
from .catalogue import JoinSpec


def compose(before: DrawList, after: DrawList, progress: float) -> Picturing:
    if progress <= 0.0:
        return before
    if progress >= 1.0:
        return after
    return Mixture(below=before, above=after, amount=progress)


DISSOLVE = JoinSpec(id="dissolve", version=1, label="Dissolve", help="One scene melts into the next", compose=compose)
