"""How large a playing film is painted: no frame late on a machine that can show it smaller, and as large as asked again when it has calmed."""

import itertools

from oak_lens.api.played_size import PlayedSize

FRAME = 1 / 30


def played(seconds_at_full: list[float]) -> list[tuple[int, int]]:
    """(width, frames ahead) of each frame, on a machine that paints two at once; the first five are there before the clock starts."""
    size, painted, got = PlayedSize(960, FRAME), 0.0, []
    for index, full in enumerate(seconds_at_full):
        width = size.width
        seconds = full * (width / 960) ** 2
        started = painted
        # Never more than a second ahead.
        painted = max(painted + seconds / 1.6, (index - 30 - 5) * FRAME)
        ahead = round(index - max(0.0, painted - 5 * FRAME) / FRAME) if started >= 0 else 0
        got.append((width, min(ahead, 30)))
        size.heed(width, seconds, min(ahead, 30))
    return got


def test_what_is_quick_enough_is_as_large_as_asked() -> None:
    assert {width for width, _ in played([0.03] * 300)} == {960}


def test_a_heavy_minute_is_smaller_and_then_large_again() -> None:
    seen = played([0.02] * 60 + [0.2] * 120 + [0.02] * 240)
    widths = [width for width, _ in seen]
    assert set(widths) == {960, 640, 480} and widths[30] == widths[-1] == 960
    # It changes now and then, not to and fro.
    assert sum(a != b for a, b in itertools.pairwise(widths)) <= 8
    assert min(ahead for _, ahead in seen[5:]) > -3
