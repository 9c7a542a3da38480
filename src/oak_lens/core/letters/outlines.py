"""Outlines of glyphs: contours made one, drawn along by a line, joined, flattened into closed polylines. In ems, y down.

What is painted sums signed areas, so contours must not overlap: they are united first (variable fonts overlap their strokes).
"""

from collections.abc import Iterable
from contextlib import suppress
from functools import lru_cache
from typing import Literal

import numpy as np
import pathops
from numpy.typing import NDArray

from .fonts import Font

Segments = NDArray[np.float64]
"""(n, 4): from (x, y) to (x, y), contour after contour, each closed."""

STRAY_PX = 0.02
"""Flattened curves stray so far from true ones at most, at the size they are flattened for."""

MOST_SEGMENTS = 50_000
"""A glyph of more is drawn coarser; one that is still of more is left out."""

NOTHING: Segments = np.empty((0, 4))
NOTHING.setflags(write=False)

Place = Literal["outside", "middle", "inside"]


@lru_cache(maxsize=8192)
def _united(font: Font, glyph: int) -> pathops.Path:
    """A glyph's contours as one, in font units, y up."""
    path = pathops.Path()
    font.font.draw_glyph_with_pen(glyph, path.getPen())
    # Contours that cannot be united are drawn as they are: where they overlap, edges show.
    with suppress(pathops.PathOpsError):
        path.simplify(fix_winding=True)
    return path


def _stroked(path: pathops.Path, width: float, place: Place, filled: bool) -> pathops.Path:
    """A line of a width (path units) along a path. Outside of what is `filled` it lies below that, and need not be cut out."""
    line = pathops.Path(path)
    line.stroke(width if place == "middle" else 2.0 * width, pathops.LineCap.ROUND_CAP, pathops.LineJoin.ROUND_JOIN, 4)
    # The path operations know no conics, which round joins are made of.
    line.convertConicsToQuads(0.5)
    try:
        line.simplify(fix_winding=True)
        if place == "inside":
            return pathops.op(line, path, pathops.PathOp.INTERSECTION, fix_winding=True)
        if place == "outside" and not filled:
            return pathops.op(line, path, pathops.PathOp.DIFFERENCE, fix_winding=True)
    except pathops.PathOpsError:
        pass
    return line


@lru_cache(maxsize=8192)
def glyph_segments(font: Font, glyph: int, octave: int) -> Segments:
    """The outline of a glyph in ems, fine enough for up to 2^octave pixels an em."""
    return _flat(_united(font, glyph), font.upem, octave)


@lru_cache(maxsize=2048)
def line_segments(font: Font, glyph: int, octave: int, width: float, place: Place, filled: bool) -> Segments:
    """A line `width` ems wide along a glyph's outline."""
    return _flat(_stroked(_united(font, glyph), width * font.upem, place, filled), font.upem, octave)


Laid = tuple[Font, int, float, float, float, bool]
"""(font, glyph, x, y, scale, turned): a glyph as it lies in a text."""


@lru_cache(maxsize=512)
def joined_segments(glyphs: tuple[Laid, ...], octave: int, width: float = 0.0, place: Place = "outside", filled: bool = True) -> Segments:
    """The outlines of several glyphs as one, where they lie: nothing shows where they touch. `width`: of a line along it instead."""
    if not glyphs:
        return NOTHING
    unit = 1000.0
    builder = pathops.OpBuilder(fix_winding=True)
    for font, glyph, x, y, scale, turned in glyphs:
        s = unit * scale / font.upem
        path = _united(font, glyph)
        placed = path.transform(0.0, -s, s, 0.0, x * unit, -y * unit) if turned else path.transform(s, 0.0, 0.0, s, x * unit, -y * unit)
        builder.add(placed, pathops.PathOp.UNION)
    try:
        whole = builder.resolve()
    except pathops.PathOpsError:
        pieces = [moved(glyph_segments(font, glyph, octave), x, y, scale, turned) for font, glyph, x, y, scale, turned in glyphs]
        return np.concatenate(pieces)
    if width > 0.0:
        whole = _stroked(whole, width * unit, place, filled)
    return _flat(whole, unit, octave)


def moved(segments: Segments, x: float, y: float, scale: float, turned: bool = False) -> Segments:
    """Segments of a glyph where it lies."""
    if turned:
        # A quarter clockwise, y down: (x, y) becomes (-y, x).
        segments = np.column_stack((-segments[:, 1], segments[:, 0], -segments[:, 3], segments[:, 2]))
    return segments * scale + (x, y, x, y)


def rounded_box(left: float, top: float, right: float, bottom: float, radius: float) -> Segments:
    """A rectangle with round corners, in 16 chords a corner."""
    radius = min(max(radius, 0.0), (right - left) / 2.0, (bottom - top) / 2.0)
    if right <= left or bottom <= top:
        return NOTHING
    turns = np.linspace(0.0, np.pi / 2.0, 17 if radius > 0.0 else 1)
    points = []
    for corner, (cx, cy) in enumerate(
        ((right - radius, top + radius), (right - radius, bottom - radius), (left + radius, bottom - radius), (left + radius, top + radius))
    ):
        angles = turns + (corner - 1) * np.pi / 2.0
        points.append(np.column_stack((cx + radius * np.cos(angles), cy + radius * np.sin(angles))))
    ring = np.concatenate(points)
    return np.column_stack((ring, np.roll(ring, -1, axis=0)))


def _flat(path: pathops.Path, upem: float, octave: int) -> Segments:
    pieces: list[tuple[tuple[float, float], ...]] = []
    first, at = (0.0, 0.0), (0.0, 0.0)
    for verb, points in path:
        if verb == pathops.PathVerb.MOVE:
            if at != first:
                pieces.append(((1.0, 0.0), at, first, (0.0, 0.0), (0.0, 0.0)))
            first = at = points[0]
            continue
        if verb == pathops.PathVerb.CLOSE:
            if at != first:
                pieces.append(((1.0, 0.0), at, first, (0.0, 0.0), (0.0, 0.0)))
            at = first
            continue
        whole = (at, *points)
        pieces.append(((len(whole) - 1.0, 0.0), *whole, *((0.0, 0.0),) * (4 - len(whole))))
        at = points[-1]
    if at != first:
        pieces.append(((1.0, 0.0), at, first, (0.0, 0.0), (0.0, 0.0)))
    if not pieces:
        return NOTHING
    curves = np.array(pieces).reshape(-1, 5, 2)
    if not np.isfinite(curves).all():
        return NOTHING
    curves[:, 1:] *= np.array((1.0, -1.0)) / upem
    for coarser in range(4):
        found = flattened(curves, STRAY_PX / 2.0 ** (octave - 2 * coarser))
        if len(found) <= MOST_SEGMENTS:
            found.setflags(write=False)
            return found
    return NOTHING


def flattened(curves: NDArray[np.float64], tolerance: float) -> Segments:
    """(n, 5, 2) degree and up to four points, to segments that stray by `tolerance` at most.

    n chords stray by d (d - 1) / 8 of the largest second difference, over n squared (Wang 1984).
    """
    degrees = curves[:, 0, 0].astype(np.int64)
    counts = np.ones(len(curves), np.int64)
    for j in (1, 2):
        bends = degrees > j
        away = np.hypot(*(curves[bends, j] - 2.0 * curves[bends, j + 1] + curves[bends, j + 2]).T)
        d = degrees[bends]
        needed = np.ceil(np.sqrt(away * d * (d - 1) / 8.0 / tolerance)).astype(np.int64)
        counts[bends] = np.maximum(counts[bends], np.minimum(needed, 512))
    curve = np.repeat(np.arange(len(curves)), counts)
    step = np.arange(len(curve)) - np.repeat(np.cumsum(counts) - counts, counts)
    starts = _points_at(curves[curve], degrees[curve], step / counts[curve])
    stops = _points_at(curves[curve], degrees[curve], (step + 1) / counts[curve])
    # Chords meet exactly: each begins where the one before ends.
    last = step + 1 == counts[curve]
    stops[last] = curves[curve[last], 1 + degrees[curve[last]]]
    inner = np.flatnonzero(step > 0)
    starts[inner] = stops[inner - 1]
    starts[step == 0] = curves[:, 1]
    return np.column_stack((starts, stops))


def _points_at(curves: NDArray[np.float64], degrees: NDArray[np.int64], t: NDArray[np.float64]) -> NDArray[np.float64]:
    """Points of Bezier curves of degree 1 to 3, by de Casteljau."""
    found = np.empty((len(curves), 2))
    for degree in (1, 2, 3):
        these = degrees == degree
        points = curves[these, 1 : 2 + degree]
        u = t[these][:, None, None]
        while points.shape[1] > 1:
            points = points[:, :-1] * (1.0 - u) + points[:, 1:] * u
        found[these] = points[:, 0]
    return found


def octave_for(pixels_per_em: float) -> int:
    """The size that outlines are flattened for: the next power of two, within bounds."""
    return int(np.clip(np.ceil(np.log2(max(pixels_per_em, 1e-3))), 3, 12))


def bounds(pieces: Iterable[Segments]) -> tuple[float, float, float, float] | None:
    """(left, top, right, bottom) around all of them; None if there is nothing."""
    found = [s for s in pieces if len(s)]
    if not found:
        return None
    points = np.concatenate([s.reshape(-1, 2) for s in found])
    left, top = points.min(axis=0)
    right, bottom = points.max(axis=0)
    return float(left), float(top), float(right), float(bottom)
