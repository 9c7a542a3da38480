"""How large a film is painted while it plays: as asked, or smaller for a moment, so that no frame is missed."""

SHARES = (1.0, 2 / 3, 0.5)
"""Of the width that was asked for: a half costs a quarter."""

LOW, HIGH = 8, 20
"""Frames ahead of the page's clock: with fewer it is made smaller before one is late; with more it may be larger again."""

AT_ONCE = 1.6
"""How many frames' worth of painting is done at once, on two processors that do other things too."""

CALM_FRAMES = 30
"""So many frames in a row must have been quick enough before it is made larger."""


class PlayedSize:
    """The width of the frames that are painted next. `asked`: pixels; `frame_seconds`: the film's time of one."""

    def __init__(self, asked: int, frame_seconds: float):
        self.asked, self._budget = asked, frame_seconds * AT_ONCE
        self._step, self._calm = 0, 0

    @property
    def width(self) -> int:
        # Even, as coders of pictures like it.
        return max(2, round(self.asked * SHARES[self._step] / 2) * 2)

    def heed(self, width: int, seconds: float, ahead: int) -> None:
        """A frame of a width took so long, and is so many frames ahead of the page's clock now."""
        slow = seconds * (self.width / width) ** 2 > self._budget
        if ahead < LOW and slow and self._step < len(SHARES) - 1:
            self._step, self._calm = self._step + 1, 0
            return
        larger = self._step > 0 and seconds * (self.asked * SHARES[self._step - 1] / width) ** 2 <= self._budget
        self._calm = self._calm + 1 if larger and ahead >= HIGH else 0
        if self._calm >= CALM_FRAMES:
            self._step, self._calm = self._step - 1, 0
