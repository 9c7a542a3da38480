"""Texts as pixels: outlines through their homographies, covered exactly; panel below, then glow, outline, letters, underline."""

from dataclasses import dataclass
from functools import cached_property, lru_cache
from math import ceil, floor, hypot, log2
from typing import Any

import cv2
import numpy as np
import uharfbuzz as hb
from numpy.typing import NDArray

from ..draw import Lettering, Numbers9, ShadowItem, matrix_of
from ..letters import (
    ColourGlyph,
    Layout,
    Pieces,
    colour_glyphs,
    lay_out,
    letter_pieces,
    octave_for,
    outline_pieces,
    panel_pieces,
    underline_pieces,
)
from ..looks.colours import rgb_of
from ..space import Matrix3, box_corners, map_points
from .areas import cover_areas, paint_areas
from .cache import ByteCache
from .dither import noise_across
from .kernels import over, words
from .shading import everywhere, shade
from .softening import SHARP_BELOW_PX
from .warps import box_around, density, warped

Box = tuple[int, int, int, int]
Matrices = NDArray[np.float64]
"""(n, m, 3, 3): for each piece, at each moment of the exposure, ems to pixels."""

MOMENT_PX = 1.5
MOST_MOMENTS = 64
"""Letters in motion are covered at moments so far apart, and at so many at most."""

GLOW_STEPS_PX = ((8, 16.0), (4, 6.0), (2, 2.6))
"""(step, spread): light and shadow of at least such a spread, in pixels, are covered at so many pixels a step."""

MOST_STEPS, WIDEST_PX = 40, 4096.0
"""A spread is at most so many steps, and pixels."""

EMOJI_PX = (32, 1024)
"""Letters with colours are drawn between these sizes."""


@dataclass(frozen=True)
class Standing:
    """A text as the frame sees it: `at_rest` (m, 3, 3) of all of it, `by_cluster` (clusters, m, 3, 3) where parts move by themselves."""

    content: Lettering
    at_rest: Matrices
    by_cluster: Matrices | None
    per_em: float

    @cached_property
    def extent(self) -> NDArray[np.float64]:
        """(n, 2): pixel positions around all that the text paints, sharp; not finite where some of it lies behind the eye and may be seen anywhere."""
        return _extent(self)

    @property
    def octave(self) -> int:
        return octave_for(self.per_em)

    @property
    def together(self) -> tuple[Any, ...]:
        """What each cluster moves as."""
        return self.content.parts

    def matrices(self, pieces: Pieces) -> Matrices:
        """Of each piece; those of no cluster stay where the text is."""
        if self.by_cluster is None or not len(pieces.clusters):
            return np.broadcast_to(self.at_rest, (len(pieces.clusters), *self.at_rest.shape))
        found = self.by_cluster[np.maximum(pieces.clusters, 0)]
        if (pieces.clusters < 0).any():
            found[pieces.clusters < 0] = self.at_rest
        return found

    def opacities(self, pieces: Pieces) -> NDArray[np.float64]:
        if not self.content.parts:
            return np.ones(len(pieces.clusters))
        each = np.array([part.opacity for part in self.content.parts])
        return each[pieces.clusters]

    def blurs(self, pieces: Pieces) -> NDArray[np.float64]:
        """Standard deviation of each piece's blur, pixels."""
        if not self.content.parts:
            return np.zeros(len(pieces.clusters))
        return np.array([part.blur for part in self.content.parts])[pieces.clusters] * self.per_em


def standing(content: Lettering, pixel_from_plane: Matrix3, pixels_on: Matrix3 | None = None) -> Standing:
    """`pixels_on`: where the pixels of its plane are when the shutter closes; None: where they are."""
    from_em = pixel_from_plane @ np.diag((content.size, content.size, 1.0))
    closes = None if pixels_on is None else pixels_on @ from_em
    moves = closes is not None or any(part.closes is not None for part in content.parts)
    layout = lay_out(content.block)
    corners = box_corners(*layout.box)
    count = 1
    if moves:
        count = _moments(content, from_em, from_em if closes is None else closes, corners)
    at_rest = _way(from_em, from_em if closes is None else closes, count)
    by_cluster = None
    largest = 1.0
    if content.parts:
        moved = np.array([part.moved for part in content.parts]).reshape(-1, 3, 3)
        opening = from_em @ moved
        if count > 1:
            closing = np.array([part.closes or part.moved for part in content.parts]).reshape(-1, 3, 3)
            closing = (from_em if closes is None else closes) @ closing
            by_cluster = np.stack([_way(a, b, count) for a, b in zip(opening, closing, strict=True)])
        else:
            by_cluster = opening[:, None]
        largest = max((_growth(part.moved) for part in content.parts if part.opacity > 0.0), default=1.0)
    # As fine as its largest letter is seen, at the nearest corner.
    middle = corners.mean(axis=0)
    seen = max(density(from_em, (float(x), float(y))) for x, y in (*corners, middle))
    return Standing(content, at_rest, by_cluster, max(seen * largest, 1e-3))


def _growth(moved: Numbers9) -> float:
    return max(hypot(moved[0], moved[3]), hypot(moved[1], moved[4])) / max(abs(moved[8]), 1e-3)


def _way(first: Matrix3, last: Matrix3, count: int) -> Matrices:
    """(count, 3, 3): even moments from one to the other, in the middle of each share of the time."""
    if count == 1:
        return np.asarray(first)[None]
    scale = last[2, 2] / first[2, 2] if abs(first[2, 2]) > 1e-12 and abs(last[2, 2]) > 1e-12 else 1.0
    share = ((np.arange(count) + 0.5) / count)[:, None, None]
    return np.asarray(first * (1.0 - share) + last / scale * share)


def _moments(content: Lettering, first: Matrix3, last: Matrix3, corners: NDArray[np.float64]) -> int:
    """How many moments the longest way of a letter takes."""
    ways = [(first, last)]
    for part in content.parts:
        if part.opacity > 0.0:
            ways.append((first @ matrix_of(part.moved), last @ matrix_of(part.closes or part.moved)))
    farthest = 0.0
    for a, b in ways:
        gone = map_points(b, corners) - map_points(a, corners)
        if np.isfinite(gone).all():
            farthest = max(farthest, float(np.hypot(*gone.T).max()))
    return int(min(max(ceil(farthest / MOMENT_PX), 1), MOST_MOMENTS)) if farthest > 0.6 else 1


def paint_text(text: Standing, drawn: NDArray[np.uint8], box: Box, cache: ByteCache) -> None:
    """The text over `drawn` (h, w, 4) uint8 premultiplied, which is `box` of the frame."""
    content, ink = text.content, text.content.ink
    block, octave, rests = content.block, text.octave, not content.parts
    left, top = box[0], box[1]
    if content.panel.kind != "none" and content.panel.opacity * content.panel_opacity > 0.0:
        pieces = panel_pieces(block, content.panel, content.band / content.size)
        opacities = np.full(len(pieces.clusters), content.panel.opacity * content.panel_opacity)
        _paint(drawn, pieces, text.matrices(pieces), opacities, _flat(pieces, content.panel.colour), left, top)
    letters = letter_pieces(block, octave, text.together)
    if ink.glow > 0.0:
        _glow(text, letters, drawn, box)
    outline = outline_pieces(block, octave, text.together, ink) if ink.outline > 0.0 else None
    if outline is not None and ink.outline_place == "outside":
        _lay(text, outline, drawn, box, ink.outline_colour, 1.0)
    if ink.fill != "none":
        _lay(text, letters, drawn, box, None, ink.fill_opacity)
    if outline is not None and ink.outline_place != "outside":
        _lay(text, outline, drawn, box, ink.outline_colour, 1.0)
    if ink.underline or any(run.underline for run in block.runs):
        _lay(text, underline_pieces(block, ink.underline, rests), drawn, box, None, ink.fill_opacity if ink.fill != "none" else 1.0)
    for glyph in colour_glyphs(block):
        _paint_colour(text, glyph, drawn, box, cache)


def _lay(text: Standing, pieces: Pieces, drawn: NDArray[np.uint8], box: Box, colour: str | None, opacity: float) -> None:
    """Pieces in a colour, or (None) in the ink's, or their run's or part's own; those that are blurred, blurred."""
    if not len(pieces.clusters):
        return
    if len(text.at_rest) > 1 and text.by_cluster is None and not any(run.colour for run in text.content.block.runs):
        # What moves as one is exposed as one: where a letter was and the next one is, their light adds up.
        pieces = Pieces(pieces.segments, pieces.starts[[0, -1]], pieces.clusters[:1], pieces.runs[:1])
    colours = _colours(text, pieces) if colour is None else _flat(pieces, colour)
    matrices, opacities, blurs = text.matrices(pieces), text.opacities(pieces) * opacity, text.blurs(pieces)
    soft = blurs > SHARP_BELOW_PX
    slope, seconds = (_slope(text), _seconds(text, pieces)) if colour is None else (np.zeros(3), colours)
    _paint(drawn, pieces, matrices, np.where(soft, 0.0, opacities), colours, box[0], box[1], slope, seconds)
    for index in np.flatnonzero(soft & (opacities > 0.0)):
        one = _only(pieces, int(index))
        _soft(drawn, one, matrices[index : index + 1], opacities[index : index + 1], colours[index], float(blurs[index]), box)


def _paint(
    drawn: NDArray[np.uint8],
    pieces: Pieces,
    matrices: Matrices,
    opacities: NDArray[np.float64],
    colours: NDArray[np.float32],
    left: int,
    top: int,
    slope: NDArray[np.float64] | None = None,
    seconds: NDArray[np.float32] | None = None,
) -> None:
    slope = np.zeros(3) if slope is None else slope
    firsts = np.ascontiguousarray(matrices[:, 0]) if len(matrices) else np.zeros((0, 3, 3))
    backs = firsts
    if slope.any():
        singular = np.abs(np.linalg.det(firsts)) < 1e-12
        backs = np.linalg.inv(np.where(singular[:, None, None], np.eye(3), firsts))
    paint_areas(
        drawn, pieces.segments, pieces.starts, np.ascontiguousarray(matrices), opacities, colours,
        colours if seconds is None else seconds, np.ascontiguousarray(backs), slope, left, top,
    )  # fmt: skip


def _only(pieces: Pieces, index: int) -> Pieces:
    first, last = pieces.starts[index], pieces.starts[index + 1]
    return Pieces(pieces.segments[first:last], np.array((0, last - first)), pieces.clusters[index : index + 1], pieces.runs[index : index + 1])


def _flat(pieces: Pieces, colour: str) -> NDArray[np.float32]:
    return np.tile(np.array(rgb_of(colour), np.float32), (max(len(pieces.clusters), 1), 1))


def _colours(text: Standing, pieces: Pieces) -> NDArray[np.float32]:
    """(n, 3): of each piece, its part's colour, or its run's, or the ink's."""
    content, own = text.content, [run.colour for run in text.content.block.runs]
    parts = content.parts
    return np.array(
        [
            rgb_of((parts[c].colour if parts and c >= 0 else None) or own[r] or content.ink.colour)
            for c, r in zip(pieces.clusters, pieces.runs, strict=True)
        ],
        np.float32,
    ).reshape(-1, 3)


def _seconds(text: Standing, pieces: Pieces) -> NDArray[np.float32]:
    """The second colour of a gradient; runs of their own colour have none."""
    if text.content.ink.fill != "linear":
        return _colours(text, pieces)
    own = [run.colour for run in text.content.block.runs]
    return np.array([rgb_of(own[r] or text.content.ink.second_colour) for r in pieces.runs], np.float32).reshape(-1, 3)


def _slope(text: Standing) -> NDArray[np.float64]:
    """A gradient's share of the second colour over the text's box: x, y (ems), constant; it just reaches the box's corners."""
    ink = text.content.ink
    if ink.fill != "linear":
        return np.zeros(3)
    left, top, right, bottom = lay_out(text.content.block).box
    angle = np.radians(ink.angle)
    dx, dy = float(np.sin(angle)), float(-np.cos(angle))
    reach = max(abs(dx) * (right - left) / 2 + abs(dy) * (bottom - top) / 2, 1e-6)
    middle = (left + right) / 2 * dx + (top + bottom) / 2 * dy
    return np.array((dx / (2 * reach), dy / (2 * reach), 0.5 - middle / (2 * reach)))


def _grid(box: Box, step: int, sigma_px: float) -> Box:
    """A box of the frame in steps, with room for what is blurred; on multiples of the step, so that it does not move with what is in it."""
    room = ceil(3.2 * sigma_px / step) + 2
    left, top, right, bottom = box
    return floor(left / step) - room, floor(top / step) - room, ceil(right / step) + room + 1, ceil(bottom / step) + room + 1


def _covered(pieces: Pieces, matrices: Matrices, opacities: NDArray[np.float64], grid: Box, step: int, sigma_px: float) -> NDArray[np.float32]:
    """(h, w) float32: the pieces covered on a grid of `step` pixels, blurred: exact areas are what a coarse grid asks for."""
    to_grid = np.array(((1.0 / step, 0.0, -grid[0]), (0.0, 1.0 / step, -grid[1]), (0.0, 0.0, 1.0)))
    coverage = np.zeros((grid[3] - grid[1], grid[2] - grid[0]), np.float32)
    cover_areas(coverage, pieces.segments, pieces.starts, np.ascontiguousarray(to_grid @ matrices), opacities)
    sigma = sigma_px / step
    if sigma > 0.05:
        side = 2 * ceil(3.2 * sigma) + 1
        coverage = np.asarray(cv2.GaussianBlur(coverage, (side, side), sigma, borderType=cv2.BORDER_CONSTANT), np.float32)
    return coverage


def _spread(
    target: NDArray[np.uint8], coverage: NDArray[np.float32], grid: Box, step: int, colour: Any, opacity: float, left: int, top: int, opaque: bool
) -> None:
    """A covered grid in a colour over `target`, whose first pixel is (left, top) of the frame."""
    if step == 1:
        coverage = np.ascontiguousarray(
            coverage[top - grid[1] : top - grid[1] + target.shape[0], left - grid[0] : left - grid[0] + target.shape[1]]
        )
    noise, ranges = noise_across(target.shape[1]), everywhere(*target.shape[:2])
    shade(words(target), coverage, step, grid[0], grid[1], np.asarray(colour, np.float32), opacity, noise, left, top, ranges, opaque)


def _stepped(sigma_px: float) -> tuple[int, float]:
    """(step, spread) in pixels for light and shadow of a spread: near the camera one is wider than any frame, and so may the steps be."""
    sigma_px = min(sigma_px, WIDEST_PX)
    step = next((step for step, softest in GLOW_STEPS_PX if sigma_px >= softest), 1)
    while sigma_px > MOST_STEPS * step:
        step *= 2
    return step, sigma_px


def _soft(
    drawn: NDArray[np.uint8], piece: Pieces, matrices: Matrices, opacities: NDArray[np.float64], colour: Any, sigma_px: float, box: Box
) -> None:
    """One piece, blurred, over `drawn`: only where it can be seen."""
    around = _seen(piece, matrices[0, 0], ceil(3.2 * sigma_px) + 2, box)
    if around is None:
        return
    step = 2 ** max(0, floor(log2(max(sigma_px / 1.5, 1.0))))
    grid = _grid(around, step, sigma_px)
    coverage = _covered(piece, matrices, opacities, grid, step, sigma_px)
    part = drawn[around[1] - box[1] : around[3] - box[1], around[0] - box[0] : around[2] - box[0]]
    _spread(part, coverage, grid, step, colour, 1.0, around[0], around[1], False)


def _seen(piece: Pieces, matrix: Matrix3, margin: int, box: Box) -> Box | None:
    points = map_points(matrix, np.concatenate((piece.segments[:, :2], piece.segments[:, 2:])))
    points = points[np.isfinite(points).all(axis=1)]
    if not len(points):
        return None
    (x0, y0), (x1, y1) = np.clip(points.min(axis=0), -1e6, 1e6), np.clip(points.max(axis=0), -1e6, 1e6)
    found = (
        max(floor(x0) - margin, box[0]), max(floor(y0) - margin, box[1]), min(ceil(x1) + margin, box[2]), min(ceil(y1) + margin, box[3]),
    )  # fmt: skip
    return found if found[0] < found[2] and found[1] < found[3] else None


def _glow(text: Standing, letters: Pieces, drawn: NDArray[np.uint8], box: Box) -> None:
    ink = text.content.ink
    step, sigma_px = _stepped(ink.glow_softness * text.per_em / 2.0)
    grid = _grid(box, step, sigma_px)
    coverage = _covered(letters, text.matrices(letters), text.opacities(letters), grid, step, sigma_px)
    # Light adds up around thin letters: twice what a blurred letter has, full at most.
    _spread(drawn, np.minimum(coverage * 2.0, 1.0), grid, step, rgb_of(ink.glow_colour), ink.glow, box[0], box[1], False)


def shade_text(canvas: NDArray[np.uint8], item: ShadowItem, content: Lettering, pixel_from_plane: Matrix3, pixels_on: Matrix3 | None, opaque: bool) -> None:
    """The shadow of a text: its letters (and panel) where they are thrown to, grown, blurred."""
    height_px, width_px = canvas.shape[:2]
    seen = density(pixel_from_plane)
    if seen <= 0.0:
        return
    text = standing(content, pixel_from_plane, pixels_on)
    step, sigma_px = _stepped(item.softness * seen)
    box = box_of(text, width_px, height_px, ceil(3.2 * sigma_px + item.spread * seen) + 2, 0)
    if box is None:
        return
    grid = _grid(box, step, sigma_px)
    spread = item.spread / content.size
    pieces = [letter_pieces(content.block, text.octave, text.together)]
    ink = content.ink
    width = max(spread, ink.outline if ink.outline_place != "inside" else 0.0)
    if width > 0.0:
        line = ink.model_copy(update={"outline": min(width, 0.5), "outline_place": "outside", "fill": "colour", "fill_opacity": 1.0})
        pieces.append(outline_pieces(content.block, text.octave, text.together, line))
    total = np.zeros((grid[3] - grid[1], grid[2] - grid[0]), np.float32)
    for each in pieces:
        # Where outline and letters both lie, there is one shadow.
        np.maximum(total, _covered(each, text.matrices(each), text.opacities(each), grid, step, sigma_px), out=total)
    if content.panel.kind != "none" and content.panel.opacity * content.panel_opacity > 0.0:
        panel = panel_pieces(content.block, content.panel, content.band / content.size)
        opacities = np.full(len(panel.clusters), content.panel.opacity * content.panel_opacity)
        np.maximum(total, _covered(panel, text.matrices(panel), opacities, grid, step, sigma_px), out=total)
    _spread(canvas[box[1] : box[3], box[0] : box[2]], total, grid, step, rgb_of(item.colour), item.opacity, box[0], box[1], opaque)


@lru_cache(maxsize=128)
def _cells(layout: Layout, room: float) -> NDArray[np.float64]:
    """(clusters, 4, 3): corners of the boxes around clusters, with some room, in ems and homogeneous."""
    boxes = []
    for cluster in layout.clusters:
        line = layout.lines[cluster.line]
        over, under = line.baseline - line.ascent - room, line.baseline + line.descent + room
        first, last = cluster.x0 - room, cluster.x1 + room
        boxes.append(box_corners(over, first, under, last) if layout.vertical else box_corners(first, over, last, under))
    return np.concatenate((np.array(boxes).reshape(-1, 4, 2), np.ones((len(boxes), 4, 1))), axis=2)


def _extent(text: "Standing") -> NDArray[np.float64]:
    content = text.content
    layout = lay_out(content.block)
    room = content.reach / content.size
    left, top, right, bottom = layout.box
    points = [map_points(matrix, box_corners(left - room, top - room, right + room, bottom + room)) for matrix in text.at_rest[[0, -1]]]
    if text.by_cluster is not None:
        room = 0.6 + 2.0 * content.ink.outline + (3.0 * content.ink.glow_softness if content.ink.glow > 0.0 else 0.0)
        # In steps, so that few of them are kept while letters turn sharp.
        room += ceil(3.2 * max((part.blur for part in content.parts), default=0.0) * 8.0) / 8.0
        there = np.array([part.opacity > 0.0 for part in content.parts])
        corners = _cells(layout, room)[there]
        for moment in {0, text.by_cluster.shape[1] - 1}:
            seen = np.einsum("nij,nkj->nki", text.by_cluster[there, moment], corners)
            depth = np.where(seen[..., 2] < 1e-3, np.nan, seen[..., 2])
            points.append((seen[..., :2] / depth[..., None]).reshape(-1, 2))
    return np.concatenate(points)


def box_of(text: Standing, width_px: int, height_px: int, margin: int, beyond: int) -> Box | None:
    """The pixels that the text may touch within `margin`, and `beyond` the frame; None if there are none."""
    points = text.extent
    if not np.isfinite(points).all():
        return -beyond, -beyond, width_px + beyond, height_px + beyond
    return box_around(points, width_px, height_px, margin, beyond)


def _paint_colour(text: Standing, glyph: ColourGlyph, drawn: NDArray[np.uint8], box: Box, cache: ByteCache) -> None:
    """A letter with colours of its own: a picture, as fine as it is seen."""
    part = text.content.parts[glyph.cluster] if text.content.parts else None
    opacity = 1.0 if part is None else part.opacity
    if opacity <= 0.0:
        return
    size = int(np.clip(2 ** ceil(log2(max(text.per_em * glyph.scale, 1.0))), *EMOJI_PX))
    pixels, origin = cache.get(("letter", glyph.font, glyph.glyph, size), lambda: _rastered(glyph, size), lambda made: int(made[0].nbytes))
    matrix = text.at_rest[0] if text.by_cluster is None else text.by_cluster[glyph.cluster, 0]
    # Pixels of the picture to ems of the text.
    em = glyph.scale / size
    placed = np.array(((em, 0.0, glyph.x - origin[0] * em), (0.0, em, glyph.y - origin[1] * em), (0.0, 0.0, 1.0)))
    pixel_from_sprite = matrix @ placed
    corners = box_corners(0.0, 0.0, float(pixels.shape[1]), float(pixels.shape[0]))
    points = map_points(pixel_from_sprite, corners)
    if not np.isfinite(points).all() or abs(np.linalg.det(pixel_from_sprite)) < 1e-12:
        return
    left, top = (max(floor(v) - 1, b) for v, b in zip(points.min(axis=0), box[:2], strict=True))
    right, bottom = (min(ceil(v) + 1, b) for v, b in zip(points.max(axis=0), box[2:], strict=True))
    if left >= right or top >= bottom:
        return
    seen = np.ascontiguousarray(warped(pixels, np.asarray(np.linalg.inv(pixel_from_sprite)), (left, top, right, bottom)))
    target = drawn[top - box[1] : bottom - box[1], left - box[0] : right - box[0]]
    over(target, seen, round(opacity * 255))


def _rastered(glyph: ColourGlyph, size: int) -> tuple[NDArray[np.uint8], tuple[float, float]]:
    """((h, w, 4) uint8 premultiplied, where its origin is) of a letter with colours, `size` pixels an em."""
    font = glyph.font
    extents = font.font.get_glyph_extents(glyph.glyph)
    scale = size / font.upem
    if extents is None or not extents.width or not extents.height:
        return np.zeros((1, 1, 4), np.uint8), (0.0, 0.0)
    left, top = floor(extents.x_bearing * scale) - 2, ceil(extents.y_bearing * scale) + 2
    width, height = ceil(extents.width * scale) + 4, ceil(-extents.height * scale) + 4
    paint = hb.RasterPaint()
    paint.transform = (scale, 0.0, 0.0, scale, 0.0, 0.0)
    paint.extents = hb.RasterExtents(left, top - height, width, height)
    paint.paint_glyph(font.font, glyph.glyph)
    image = paint.render()
    rows = np.frombuffer(image.buffer, np.uint8).reshape(image.extents.height, -1)[:, : image.extents.width * 4].reshape(image.extents.height, -1, 4)
    pixels = np.ascontiguousarray(rows[::-1, :, (2, 1, 0, 3)])
    return pixels, (float(-left), float(top))
