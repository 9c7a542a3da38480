"""What is to be set: runs of one appearance, how they are set, and in which box."""

from dataclasses import dataclass
from functools import cached_property

from ..looks import Setting
from .fonts import Choice

LONGEST_TEXT = 10_000
"""Characters that one text may have."""


@dataclass(frozen=True, slots=True)
class Run:
    """A stretch of text in one appearance. `size`: times that of the setting; `colour` `#rrggbb`, None for the ink's.

    `sources`: for each character, the character of the text as it was written that it comes from; None: the same, from `first` on.
    """

    text: str
    choice: Choice
    size: float = 1.0
    colour: str | None = None
    underline: bool = False
    first: int = 0
    sources: tuple[int, ...] | None = None


@dataclass(frozen=True)
class Block:
    """A text ready to be set. `width`, `height`: of its box in ems, None where there is none. `setting` is kept for what it says beyond face and
    size, which each run has."""

    runs: tuple[Run, ...]
    setting: Setting
    width: float | None = None
    height: float | None = None
    language: str = "en"

    @cached_property
    def _hash(self) -> int:
        return hash((self.runs, self.setting, self.width, self.height, self.language))

    def __hash__(self) -> int:
        # Many things are kept by it, and it is asked for them with every frame.
        return self._hash

    @property
    def text(self) -> str:
        return "".join(run.text for run in self.runs)


def cased(run: Run, case: str) -> Run:
    """The run in capitals or small letters, every character still knowing which one it comes from.

    >>> cased(Run("Straße", Choice("inter", 400, False)), "upper").text
    'STRASSE'
    """
    if case == "typed" or not run.text:
        return run
    changed = [c.upper() if case == "upper" else c.lower() for c in run.text]
    sources = run.sources or tuple(range(run.first, run.first + len(run.text)))
    places = tuple(source for source, piece in zip(sources, changed, strict=True) for _ in piece)
    return Run("".join(changed), run.choice, run.size, run.colour, run.underline, run.first, places)
