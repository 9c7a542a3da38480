"""Cut and dissolves: no picture moves."""

from ..draw import Composition, Mixture, Picturing, Plate
from .catalogue import JoinSpec
from .settings import JoinSettings


def _cut(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    return after


def _dissolve(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    return Mixture(below=before, above=after, amount=progress)


def _additive(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    """Their light is added: in the middle both stand there whole."""
    leaving, coming = min(1.0, 2.0 - 2.0 * progress), min(1.0, 2.0 * progress)
    return Composition("#000000", (Plate(before, opacity=leaving), Plate(after, opacity=coming, adds=True)))


def _dip(before: Picturing, after: Picturing, progress: float, settings: JoinSettings) -> Picturing:
    shown, amount = (before, 1.0 - 2.0 * progress) if progress < 0.5 else (after, 2.0 * progress - 1.0)
    return Composition(settings.colour, (Plate(shown, opacity=amount),))


CUT = JoinSpec("cut", 1, "Cut", "The next scene follows at once", "plain", _cut, (), instant=True, words="none hard")
DISSOLVE = JoinSpec("dissolve", 2, "Dissolve", "One scene melts into the next", "plain", _dissolve, ease="none", words="fade mix")
ADDITIVE = JoinSpec(
    "additive", 1, "Additive dissolve", "Their light adds up on the way: a bright moment", "plain", _additive, words="fade glow bright"
)
DIP = JoinSpec("dip", 1, "Dip to colour", "Out into a colour, and in again", "plain", _dip, ("colour", "ease"), words="fade black white")
