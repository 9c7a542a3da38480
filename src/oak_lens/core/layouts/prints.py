"""Layouts of prints that keep their shapes: a wall, a line, a pile, a table, a fan, steps."""

from math import ceil, cos, degrees, radians, sin, sqrt

import numpy as np

from .catalogue import LayoutSpec, Slot, Wanted
from .splits import divided, frame_of, rows, slot


def _random(wanted: Wanted, layout: int) -> np.random.Generator:
    """Repeatable: the same seed gives the same numbers, whatever the frame's shape; every layout has its own."""
    return np.random.default_rng((layout, wanted.seed))


def _signed(random: np.random.Generator, low: float, high: float) -> float:
    """A number of this size, to one side or the other."""
    return float(random.choice((-1, 1)) * random.uniform(low, high))


def wall(wanted: Wanted) -> list[Slot]:
    """Hung like pictures on a wall: rows as high as their shapes allow, with room between."""
    airy = Wanted(wanted.aspects, wanted.aspect, wanted.seed, max(wanted.gap * 2.2, 0.05))
    return [Slot(s.x, s.y, s.width * 0.96, s.height * 0.96, own_shape=True) for s in rows(airy)]


def line(wanted: Wanted) -> list[Slot]:
    """In a line, tilted to one side and the other in turn."""
    across = wanted.aspect >= 1.0
    count = wanted.count
    lines = 1 if count <= 5 else 2
    found: list[Slot] = []
    random = _random(wanted, 1)
    for number, strip in enumerate(divided(frame_of(wanted), [1.0] * lines, not across, wanted.gap)):
        in_line = count // lines + (1 if number < count % lines else 0)
        for place, part in enumerate(divided(strip, [1.0] * in_line, across, wanted.gap)):
            cell = slot(part)
            tilt = (1 if (place + number) % 2 else -1) * random.uniform(3.0, 6.0)
            side = min(cell.width, cell.height * 1.5)
            found.append(Slot(cell.x, cell.y, side * 0.92, cell.height * 0.8, tilt, own_shape=True))
    return found


def pile(wanted: Wanted) -> list[Slot]:
    """One on another in the middle, every print a little off."""
    random = _random(wanted, 2)
    side = 0.62 * min(wanted.aspect, 1.35)
    found = []
    for number in range(wanted.count):
        top = number == wanted.count - 1
        spread = 0.02 if top else 0.09
        turn = random.uniform(-4, 4) if top else _signed(random, 4, 17)
        found.append(
            Slot(
                random.uniform(-spread, spread) * wanted.aspect,
                random.uniform(-spread, spread) * 0.7,
                side * 1.25,
                side,
                turn,
                own_shape=True,
            )
        )
    return found


def table(wanted: Wanted) -> list[Slot]:
    """Strewn over a table: everywhere, at every angle, some partly under others and over the frame's edge."""
    random = _random(wanted, 3)
    columns = min(wanted.count, max(1, round(sqrt(wanted.count * wanted.aspect))))
    lines = ceil(wanted.count / columns)
    cells = [(column, row) for row in range(lines) for column in range(columns)]
    # The last line is spread over the whole width, too.
    width, height = wanted.aspect / columns, 1.0 / lines
    side = min(1.28 * sqrt(width * height), 0.95 * min(wanted.aspect, 1.0))
    found = []
    for number in range(wanted.count):
        column, row = cells[number]
        in_line = columns if row < lines - 1 else wanted.count - columns * (lines - 1)
        x = (column + 0.5) * wanted.aspect / in_line - wanted.aspect / 2 + random.uniform(-0.13, 0.13) * width
        y = (row + 0.5) * height - 0.5 + random.uniform(-0.13, 0.13) * height
        found.append(Slot(x * 0.94, y * 0.94, side, side * 0.8, _signed(random, 2, 16), own_shape=True))
    return [found[i] for i in random.permutation(len(found))]


def fan(wanted: Wanted) -> list[Slot]:
    """Held like a hand of cards: turned about a point below the frame."""
    count = wanted.count
    side = 0.6 * min(1.0, wanted.aspect)
    half = radians(min(9.0 * (count - 1), 27.0))
    # The middles of the outermost cards stand so far out that the cards still lie in the frame.
    radius = min(max(wanted.aspect / 2 - 0.58 * side, 0.02), 0.16 * count) / sin(half)
    rise = radius * (1 - cos(half)) / 2
    found = []
    for number in range(count):
        turn = half * (2 * number / (count - 1) - 1)
        found.append(Slot(radius * sin(turn), radius * (1 - cos(turn)) - rise, side, side, degrees(turn), own_shape=True))
    return found


def steps(wanted: Wanted) -> list[Slot]:
    """Down the diagonal, each print a step further and partly over the one before."""
    count = wanted.count
    side = min(0.74, 1.5 / count + 0.3) * min(1.0, wanted.aspect)
    reach_x, reach_y = (wanted.aspect - side * 1.2) * 0.46, (1.0 - side) * 0.44
    return [
        Slot(reach_x * (2 * share - 1), reach_y * (2 * share - 1), side * 1.3, side * 0.88, own_shape=True)
        for share in ((number / (count - 1) if count > 1 else 0.5) for number in range(count))
    ]


WALL = LayoutSpec("wall", "Wall", "Hung side by side in their own shapes", wall)
LINE = LayoutSpec("line", "Line", "In a line, tilted to one side and the other", line, most=12, seeded=True)
PILE = LayoutSpec("pile", "Pile", "One on another, every print a little off", pile, most=24, seeded=True)
TABLE = LayoutSpec("table", "Table", "Strewn all over the frame at every angle", table, seeded=True)
FAN = LayoutSpec("fan", "Fan", "Held like a hand of cards", fan, most=9)
STEPS = LayoutSpec("steps", "Steps", "Down the diagonal, each partly over the one before", steps, most=8)
