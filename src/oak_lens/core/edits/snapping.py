"""Lines that layers snap to: the frame, its thirds, the title-safe area, guides, other layers."""

from dataclasses import dataclass
from typing import Literal

from ..evaluate import Placed, Staged, bounds_of

SAFE_SHARE = 0.9
"""Share of the frame, both ways, in which titles are safe to be seen on every screen."""

NEAR = 0.014
"""How near, in frame heights, a layer must come to a line to snap to it."""

Bounds = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class SnapLine:
    """A line that something snapped to. `at`: fraction of the frame from its left (axis x) or top (axis y) edge."""

    axis: Literal["x", "y"]
    at: float


def lines_of(stage: Staged, moving: frozenset[tuple[str, str]]) -> tuple[list[float], list[float]]:
    """(x lines, y lines) in frame coordinates, of all but the layers that move."""
    document, aspect = stage.document, stage.document.frame.aspect
    xs = [aspect * share for share in (-0.5, -1 / 6, 0.0, 1 / 6, 0.5, -SAFE_SHARE / 2, SAFE_SHARE / 2)]
    ys = [-0.5, -1 / 6, 0.0, 1 / 6, 0.5, -SAFE_SHARE / 2, SAFE_SHARE / 2]
    xs += [(guide.at - 0.5) * aspect for guide in document.guides if guide.axis == "x"]
    ys += [guide.at - 0.5 for guide in document.guides if guide.axis == "y"]
    for placed in stage.every_layer:
        if (placed.container, placed.layer_id) in moving or placed.layer.hidden or placed.layer.parent is not None:
            continue
        left, top, right, bottom = bounds_of(placed)
        xs += [left, (left + right) / 2, right]
        ys += [top, (top + bottom) / 2, bottom]
    return xs, ys


def snapped_offset(bounds: Bounds, offset: tuple[float, float], xs: list[float], ys: list[float]) -> tuple[float, float]:
    """The offset changed by as little as lets an edge or the middle of the moved bounds lie on a line, where one is near."""
    left, top, right, bottom = bounds
    dx, dy = offset

    def nearest(own: tuple[float, ...], lines: list[float]) -> float:
        return min((line - place for place in own for line in lines), key=abs, default=1.0)

    x = nearest((left + dx, (left + right) / 2 + dx, right + dx), xs)
    y = nearest((top + dy, (top + bottom) / 2 + dy, bottom + dy), ys)
    return dx + (x if abs(x) <= NEAR else 0.0), dy + (y if abs(y) <= NEAR else 0.0)


def touched_lines(stage: Staged, placed: Placed) -> list[SnapLine]:
    """The lines on which an edge or the middle of a layer lies: to be shown while it is dragged."""
    xs, ys = lines_of(stage, frozenset({(placed.container, placed.layer_id)}))
    left, top, right, bottom = bounds_of(placed)
    aspect = stage.document.frame.aspect
    found = {SnapLine("x", round(x / aspect + 0.5, 6)) for x in xs if any(abs(x - own) < 1e-6 for own in (left, (left + right) / 2, right))}
    found |= {SnapLine("y", round(y + 0.5, 6)) for y in ys if any(abs(y - own) < 1e-6 for own in (top, (top + bottom) / 2, bottom))}
    return sorted(found, key=lambda line: (line.axis, line.at))
