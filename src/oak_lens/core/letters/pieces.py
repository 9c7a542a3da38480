"""A text as pieces to be painted: each the outline of what moves as one, in ems, lowest first."""

from collections.abc import Hashable, Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import groupby

import numpy as np
from numpy.typing import NDArray

from ..looks import Ink, Panel
from .block import Block
from .fonts import Font
from .layout import Glyph, Layout, lay_out
from .outlines import NOTHING, Place, Segments, glyph_segments, joined_segments, line_segments, moved, rounded_box

BESIDE = 0.62
"""Ems from the middle of a column to the line that marks its letters."""


@dataclass(frozen=True, eq=False)
class Pieces:
    """Outlines of one kind: piece i is segments[starts[i]:starts[i + 1]], part of cluster clusters[i] (-1: of none) and of run runs[i]."""

    segments: Segments
    starts: NDArray[np.int64]
    clusters: NDArray[np.int64]
    runs: NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class ColourGlyph:
    """A glyph with colours of its own."""

    font: Font
    glyph: int
    x: float
    y: float
    scale: float
    cluster: int


def panel_pieces(block: Block, panel: Panel, band: float) -> Pieces:
    """The boxes behind a text; `band`: half the length, in ems, of one across the frame."""
    layout = lay_out(block)
    across, down = panel.pad_across, panel.pad_down
    boxes: list[Segments] = []
    left, top, right, bottom = layout.box
    if panel.kind == "whole":
        boxes = [rounded_box(left - across, top - down, right + across, bottom + down, panel.radius)]
    elif panel.kind == "band":
        boxes = [rounded_box(-band, top - down, band, bottom + down, 0.0)]
    elif panel.kind == "lines":
        for line in layout.lines:
            if line.width <= 0.0:
                continue
            first, last = line.left - across, line.left + line.width + across
            over, under = line.baseline - line.ascent - down, line.baseline + line.descent + down
            if layout.vertical:
                boxes.append(rounded_box(over, first, under, last, panel.radius))
            else:
                boxes.append(rounded_box(first, over, last, under, panel.radius))
    return _gathered((box, -1, 0) for box in boxes)


@lru_cache(maxsize=256)
def letter_pieces(block: Block, octave: int, together: tuple[Hashable, ...]) -> Pieces:
    """The letters. `together`: for each cluster what it moves as, () if all rest: letters that touch and move as one are one outline."""
    return _gathered(_outlines(block, octave, together, 0.0, "outside", True))


@lru_cache(maxsize=256)
def outline_pieces(block: Block, octave: int, together: tuple[Hashable, ...], ink: Ink) -> Pieces:
    """Lines along the letters."""
    filled = ink.fill != "none" and ink.fill_opacity >= 1.0
    return _gathered(_outlines(block, octave, together, ink.outline, ink.outline_place, filled))


@lru_cache(maxsize=256)
def underline_pieces(block: Block, whole: bool, resting: bool) -> Pieces:
    """Lines below the letters of runs that have them, or of all; one for each stretch, or, where letters move, for each."""
    layout = lay_out(block)
    found = []
    for (line, run, _), clusters in groupby(enumerate(layout.clusters), lambda e: (e[1].line, e[1].run, 0 if resting else e[0])):
        if not (whole or block.runs[run].underline):
            continue
        cells = list(clusters)
        if not resting and cells[0][1].space:
            continue
        font, scale = _font_of_run(layout, run)
        if font is None:
            continue
        drop, thick = font.underline
        base = layout.lines[line].baseline + drop * scale
        x0, x1 = min(c.x0 for _, c in cells), max(c.x1 for _, c in cells)
        if layout.vertical:
            # A line beside the column.
            beside = layout.lines[line].baseline - BESIDE * scale
            box = rounded_box(beside, x0, beside + thick * scale, x1, 0.0)
        else:
            box = rounded_box(x0, base, x1, base + thick * scale, 0.0)
        found.append((box, cells[0][0], run))
    return _gathered(iter(found))


def _font_of_run(layout: Layout, run: int) -> tuple[Font | None, float]:
    return next(((g.font, g.scale) for g in layout.glyphs if layout.clusters[g.cluster].run == run and not g.font.colour), (None, 1.0))


def colour_glyphs(block: Block) -> tuple[ColourGlyph, ...]:
    """Glyphs that have colours of their own: they are pictures, not outlines."""
    return tuple(ColourGlyph(g.font, g.glyph, g.x, g.y, g.scale, g.cluster) for g in lay_out(block).glyphs if g.font.colour)


def _outlines(
    block: Block, octave: int, together: tuple[Hashable, ...], width: float, place: Place, filled: bool
) -> Iterator[tuple[Segments, int, int]]:
    """(outline, cluster, run) of all that moves as one; a line along it where `width` is given."""
    layout = lay_out(block)
    if not layout.clusters:
        return

    def moves_as(entry: tuple[int, Glyph]) -> Hashable:
        index, glyph = entry
        cluster = layout.clusters[min(glyph.cluster, len(layout.clusters) - 1)]
        if not cluster.joined:
            return index
        return (cluster.line, cluster.run, together[glyph.cluster] if together else None)

    drawn = [g for g in layout.glyphs if not g.font.colour]
    for _, entries in groupby(enumerate(drawn), moves_as):
        glyphs = [glyph for _, glyph in entries]
        first = glyphs[0]
        cluster = min(first.cluster, len(layout.clusters) - 1)
        yield _outline(glyphs, octave, width, place, filled), cluster, layout.clusters[cluster].run


def _outline(glyphs: Sequence[Glyph], octave: int, width: float, place: Place, filled: bool) -> Segments:
    if len(glyphs) > 1:
        laid = tuple((g.font, g.glyph, round(g.x, 6), round(g.y, 6), g.scale, g.turned) for g in glyphs)
        return joined_segments(laid, octave, width, place, filled)
    glyph = glyphs[0]
    if width > 0.0:
        segments = line_segments(glyph.font, glyph.glyph, octave, round(width / glyph.scale, 6), place, filled)
    else:
        segments = glyph_segments(glyph.font, glyph.glyph, octave)
    return moved(segments, glyph.x, glyph.y, glyph.scale, glyph.turned)


def _gathered(found: Iterator[tuple[Segments, int, int]]) -> Pieces:
    kept = [(s, c, r) for s, c, r in found if len(s)]
    segments = np.ascontiguousarray(np.concatenate([s for s, _, _ in kept]) if kept else NOTHING)
    starts = np.concatenate(([0], np.cumsum([len(s) for s, _, _ in kept]))).astype(np.int64)
    return Pieces(segments, starts, np.array([c for _, c, _ in kept], np.int64), np.array([r for _, _, r in kept], np.int64))
