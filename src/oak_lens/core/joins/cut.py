"""Cut: the next scene stands there at once."""

from ..draw import DrawList, Picturing
from .catalogue import JoinSpec


def compose(before: DrawList, after: DrawList, progress: float) -> Picturing:
    return after if progress > 0.0 else before


CUT = JoinSpec(id="cut", version=1, label="Cut", help="The next scene follows at once", compose=compose, instant=True)
