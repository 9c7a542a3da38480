"""What covers what: planes in space, drawn from the farthest to the nearest, split where they cross."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import inf, sqrt
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..space import Matrix4

EPSILON = 1e-4
"""Frame heights that points may lie beside a plane and still count as on it."""

MOST_PIECES = 64

Points = NDArray[np.float64]
Polygon = list[tuple[float, float]]


@dataclass(frozen=True, slots=True)
class Sheet:
    """Something flat to be drawn: `outline` (n, 2), convex, in its plane. `depth` and `ground` tell what lies at one depth on one and the
    same ground: that keeps its listed order. `whole`: it cannot be split. `clip`: the part of the outline that a piece shows."""

    item: Any
    outline: Points
    world_from_plane: Matrix4
    depth: float
    ground: object
    whole: bool = False
    clip: tuple[tuple[float, float], ...] | None = None

    @property
    def corners(self) -> Points:
        """(n, 3) in the world."""
        corners: Points = self.outline @ self.world_from_plane[:3, :2].T + self.world_from_plane[:3, 3]
        return corners


@dataclass(slots=True)
class _Plane:
    sheet: Sheet
    corners: Points
    normal: Points
    box: tuple[float, float, float, float]
    seen: Polygon | None
    """Its outline in the frame; None where some of it lies behind the eye."""

    def beside(self, points: Points) -> Points:
        """How far points lie on the eye's side of the plane."""
        found: Points = (points - self.corners[0]) @ self.normal
        return found


def drawn_in_order(sheets: Sequence[Sheet], eye: tuple[float, float, float], frame_from_world: Matrix4) -> list[Sheet]:
    """The sheets, farthest first as seen from `eye`; those that cross are split.

    Newell, Newell and Sancha's tests of two planes, 1972; sheets that no test orders keep the order given, and rings of sheets that cover
    each other are split.
    """
    if len(sheets) < 2 or all(_on_one_level(sheets[0], s) for s in sheets[1:]):
        return list(sheets)
    levels = [_level(s) for s in sheets]
    if all(level is not None for level in levels):
        ranks = sorted(range(len(sheets)), key=lambda i: round(levels[i] or 0.0, 6))
        return [sheets[i] for i in ranks]
    point = np.array(eye)

    def plane_of(sheet: Sheet) -> _Plane:
        return _plane(sheet, point, frame_from_world)

    planes = [plane_of(s) for s in sheets]
    index = 0
    while index < len(planes):
        for other in range(len(planes)):
            if (
                other != index
                and len(planes) < MOST_PIECES
                and not planes[index].sheet.whole
                and _relation(planes[index], planes[other], 0) is None
            ):
                pieces = _split(planes[index], planes[other])
                if len(pieces) == 2:
                    planes[index : index + 1] = [plane_of(p) for p in pieces]
                    break
        else:
            index += 1
    return _sorted(planes, plane_of)


def _on_one_level(a: Sheet, b: Sheet) -> bool:
    """Whether two sheets lie at one depth on the same ground, however they are turned there."""
    return a.ground is b.ground and abs(a.depth - b.depth) < 1e-9


def _level(sheet: Sheet) -> float | None:
    """The depth of a sheet that faces the viewer squarely, else None."""
    m = sheet.world_from_plane
    return float(m[2, 3]) if abs(m[2, 0]) < 1e-12 and abs(m[2, 1]) < 1e-12 else None


def _plane(sheet: Sheet, eye: Points, frame_from_world: Matrix4) -> _Plane:
    corners = sheet.corners
    (ax, bx, _, _), (ay, by, _, _), (az, bz, _, _), _ = sheet.world_from_plane.tolist()
    x, y, z = ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx
    length = max(sqrt(x * x + y * y + z * z), 1e-12)
    normal = np.array((x, y, z)) / length
    if (eye - corners[0]) @ normal < 0.0:
        normal = -normal
    seen = (corners @ frame_from_world[:, :3].T + frame_from_world[:, 3]).tolist()
    flat: Polygon | None = None
    if any(w < 1e-3 for _, _, _, w in seen):
        box = (-inf, -inf, inf, inf)
    else:
        flat = [(x / w, y / w) for x, y, _, w in seen]
        across, down = [x for x, _ in flat], [y for _, y in flat]
        box = (min(across), min(down), max(across), max(down))
    return _Plane(sheet, corners, normal, box, flat)


def _relation(a: _Plane, b: _Plane, listed: int) -> int | None:
    """-1: a is drawn before b; 1: after it; `listed` where either will do; None: they cross."""
    if _on_one_level(a.sheet, b.sheet):
        return listed
    if not _touching(a, b):
        return listed
    of_a, of_b = b.beside(a.corners), a.beside(b.corners)
    if np.abs(of_a).max() < EPSILON:
        return listed
    if of_a.max() <= EPSILON or of_b.min() >= -EPSILON:
        return -1
    if of_a.min() >= -EPSILON or of_b.max() <= EPSILON:
        return 1
    return None if not (a.sheet.whole and b.sheet.whole) else listed


def _split(a: _Plane, by: _Plane) -> list[Sheet]:
    """The parts of a sheet behind and before another's plane."""
    side = by.beside(a.corners)
    pieces = []
    for sign in (-1.0, 1.0):
        kept: list[Points] = []
        for i in range(len(side)):
            j = (i + 1) % len(side)
            if side[i] * sign >= 0.0:
                kept.append(a.sheet.outline[i])
            if side[i] * side[j] < 0.0:
                share = side[i] / (side[i] - side[j])
                kept.append(a.sheet.outline[i] + (a.sheet.outline[j] - a.sheet.outline[i]) * share)
        if len(kept) >= 3:
            outline = np.array(kept)
            pieces.append(replace(a.sheet, outline=outline, clip=tuple((float(x), float(y)) for x, y in outline)))
    return pieces


def _sorted(planes: list[_Plane], plane_of: Callable[[Sheet], _Plane]) -> list[Sheet]:
    """Each sheet after all that must be drawn before it; of several that may come next, the one listed first."""
    count = len(planes)
    before: list[set[int]] = [set() for _ in planes]
    for i in range(count):
        for j in range(i + 1, count):
            relation = _relation(planes[i], planes[j], 0)
            if relation == 1:
                before[i].add(j)
            elif relation == -1 or _touching(planes[i], planes[j]):
                before[j].add(i)
    left, found = list(range(count)), list[Sheet]()
    while left:
        chosen = next((i for i in left if not before[i] & set(left)), None)
        if chosen is None:
            # A ring of planes that cover each other: what lies behind the first of them, then it, then what lies before it.
            behind, nearer = _parted([planes[i] for i in left[1:]], planes[left[0]], plane_of)
            return [*found, *_sorted(behind, plane_of), planes[left[0]].sheet, *_sorted(nearer, plane_of)]
        left.remove(chosen)
        found.append(planes[chosen].sheet)
    return found


def _parted(planes: list[_Plane], by: _Plane, plane_of: Callable[[Sheet], _Plane]) -> tuple[list[_Plane], list[_Plane]]:
    """The sheets behind and before another's plane, those that reach through it in two parts (Fuchs, Kedem and Naylor, 1980)."""
    behind: list[_Plane] = []
    nearer: list[_Plane] = []
    for plane in planes:
        beside = by.beside(plane.corners)
        if _on_one_level(plane.sheet, by.sheet) or np.abs(beside).max() < EPSILON or beside.min() >= -EPSILON:
            nearer.append(plane)
        elif beside.max() <= EPSILON:
            behind.append(plane)
        elif plane.sheet.whole or len(planes) >= MOST_PIECES:
            (behind if beside.mean() < 0.0 else nearer).append(plane)
        else:
            for piece, side in zip(_split(plane, by), (behind, nearer), strict=True):
                side.append(plane_of(piece))
    return behind, nearer


def _touching(a: _Plane, b: _Plane) -> bool:
    """Whether two sheets lie over each other as seen."""
    if a.box[2] <= b.box[0] or b.box[2] <= a.box[0] or a.box[3] <= b.box[1] or b.box[3] <= a.box[1]:
        return False
    if a.seen is None or b.seen is None:
        return True
    # Convex outlines lie apart if one of their sides parts them. A few numbers are told by hand sooner than as arrays.
    return not _parts(a.seen, b.seen) and not _parts(b.seen, a.seen)


def _parts(polygon: Polygon, other: Polygon) -> bool:
    """Whether a side of a polygon has all of it on one side, and all of another polygon on the other."""
    for (x0, y0), (x1, y1) in zip(polygon, [*polygon[1:], polygon[0]], strict=True):
        across, down = y0 - y1, x1 - x0
        own, others = [across * x + down * y for x, y in polygon], [across * x + down * y for x, y in other]
        if max(own) <= min(others) or max(others) <= min(own):
            return True
    return False
