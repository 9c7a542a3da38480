"""Layouts that divide the frame: side by side, one large, grids, rows."""

from math import ceil, sqrt

from .catalogue import LayoutSpec, Slot, Wanted

Rectangle = tuple[float, float, float, float]
"""(left, top, right, bottom) in frame heights from the middle of the frame."""


def frame_of(wanted: Wanted) -> Rectangle:
    """The frame less a margin of one gap."""
    x, y = wanted.aspect / 2 - wanted.gap, 0.5 - wanted.gap
    return -x, -y, x, y


def divided(area: Rectangle, shares: list[float], across: bool, gap: float) -> list[Rectangle]:
    """The area cut into parts of these shares, gaps between them; `across` puts them side by side."""
    left, top, right, bottom = area
    start, end = (left, right) if across else (top, bottom)
    room = end - start - gap * (len(shares) - 1)
    parts, at = [], start
    for share in shares:
        length = room * share / sum(shares)
        parts.append((at, top, at + length, bottom) if across else (left, at, right, at + length))
        at += length + gap
    return parts


def slot(area: Rectangle, own_shape: bool = False) -> Slot:
    left, top, right, bottom = area
    return Slot((left + right) / 2, (top + bottom) / 2, right - left, bottom - top, own_shape=own_shape)


def side_by_side(wanted: Wanted) -> list[Slot]:
    return [slot(part) for part in divided(frame_of(wanted), [1.0] * wanted.count, wanted.aspect >= 1.0, wanted.gap)]


def one_large(wanted: Wanted) -> list[Slot]:
    across = wanted.aspect >= 1.0
    large, rest = divided(frame_of(wanted), [0.66, 0.34], across, wanted.gap)
    return [slot(large), *(slot(part) for part in divided(rest, [1.0] * (wanted.count - 1), not across, wanted.gap))]


def grid(wanted: Wanted) -> list[Slot]:
    # As many columns as bring the cells nearest to three by two.
    columns = max(1, min(wanted.count, round(sqrt(wanted.count * wanted.aspect / 1.5))))
    rows = ceil(wanted.count / columns)
    found: list[Slot] = []
    for number, row in enumerate(divided(frame_of(wanted), [1.0] * rows, False, wanted.gap)):
        in_row = wanted.count // rows + (1 if number < wanted.count % rows else 0)
        found += [slot(part) for part in divided(row, [1.0] * in_row, True, wanted.gap)]
    return found


def large_cell(wanted: Wanted) -> list[Slot]:
    """The first photo takes two thirds of the frame both ways; the others stand beside and below it."""
    beside = max(1, round((wanted.count - 1) * (0.45 if wanted.aspect >= 1.0 else 0.4)))
    below = wanted.count - 1 - beside
    left, right = divided(frame_of(wanted), [2.0, 1.0], True, wanted.gap)
    if below <= 0:
        return [slot(left), *(slot(part) for part in divided(right, [1.0] * beside, False, wanted.gap))]
    large, low = divided(left, [2.0, 1.0], False, wanted.gap)
    return [
        slot(large),
        *(slot(part) for part in divided(right, [1.0] * beside, False, wanted.gap)),
        *(slot(part) for part in divided(low, [1.0] * below, True, wanted.gap)),
    ]


def _row_breaks(wanted: Wanted) -> list[list[int]]:
    """Indices of the pictures of each row, so that all rows together come nearest to filling the frame's height."""
    best: tuple[float, list[list[int]]] | None = None
    for rows in range(1, wanted.count + 1):
        target = sum(wanted.aspects) / rows
        lines: list[list[int]] = [[]]
        width = 0.0
        for index, aspect in enumerate(wanted.aspects):
            left = rows - len(lines)
            if lines[-1] and left > 0 and (width + aspect / 2 > target or wanted.count - index <= left):
                lines.append([])
                width = 0.0
            lines[-1].append(index)
            width += aspect
        height = sum(wanted.aspect / sum(wanted.aspects[i] for i in line) for line in lines)
        miss = abs(height - 1.0)
        if best is None or miss < best[0]:
            best = miss, lines
    assert best is not None
    return best[1]


def rows(wanted: Wanted) -> list[Slot]:
    """Rows whose photos stand as high as lets them keep about their own shapes."""
    lines = _row_breaks(wanted)
    heights = [1.0 / sum(wanted.aspects[i] for i in line) for line in lines]
    found: dict[int, Slot] = {}
    for line, area in zip(lines, divided(frame_of(wanted), heights, False, wanted.gap), strict=True):
        for index, part in zip(line, divided(area, [wanted.aspects[i] for i in line], True, wanted.gap), strict=True):
            found[index] = slot(part)
    return [found[i] for i in range(wanted.count)]


SIDE_BY_SIDE = LayoutSpec("side-by-side", "Side by side", "Equal parts along the frame's longer side", side_by_side, most=6)
ONE_LARGE = LayoutSpec("one-large", "One large", "One photo takes two thirds, the others share the rest", one_large, most=6)
GRID = LayoutSpec("grid", "Grid", "Rows of equal cells that fill the frame", grid)
LARGE_CELL = LayoutSpec(
    "large-cell", "Grid with a large cell", "A large photo in a corner, small ones beside and below it", large_cell, least=3, most=12
)
ROWS = LayoutSpec("rows", "Rows", "Rows in which every photo keeps about its own shape", rows)
