"""Text to placed glyphs, clusters and lines: what is shaped and broken, at its place.

Lengths are in ems (the setting's size), y down. The origin is the middle of the box; of text without one, the point that it hangs on.
A cluster is what a reader calls a letter (or several that are one sign): carets stand between clusters, and clusters are animated.
"""

from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import accumulate

from .bidi import visual_order
from .block import Block
from .breaking import without_spaces, wrapped
from .fonts import Font, font_for
from .shaping import CURSIVE, MARK_GAP, Group, Paragraphs, label_items, label_of, measured, paragraphs_of

JOINED = CURSIVE | {"Deva", "Beng", "Guru", "Tibt"}
"""Scripts whose letters touch: drawn one over the other there would be seams."""

SHRINK_STEPS = 14
LEAST_SHRINK = 0.05
"""A text that is shrunk into its box stays at least so large."""


@dataclass(frozen=True, slots=True)
class Glyph:
    """A glyph of a font at (x, y), `scale` ems to an em of the font; `turned`: a quarter clockwise, in a column."""

    font: Font
    glyph: int
    x: float
    y: float
    scale: float
    cluster: int
    turned: bool = False


@dataclass(frozen=True, slots=True)
class Cluster:
    """Characters `start` to `stop` of the written text, `at` so many of its paragraph as it is shown, in a box `x0`..`x1` along their line (`y0`..`y1` in columns). `level` odd: from right to
    left; carets divide the box evenly by `letters`. `word` and `line` count in reading order; `run`: of the block's; `joined`: its script's
    letters touch, and cannot move one by one."""

    start: int
    stop: int
    at: int
    line: int
    word: int
    x0: float
    x1: float
    level: int
    letters: int
    run: int
    space: bool
    joined: bool


@dataclass(frozen=True, slots=True)
class Line:
    """A line of characters `start` to `stop`: its base line and what stands above and below it; of a column, `baseline` is its middle's x."""

    start: int
    stop: int
    baseline: float
    ascent: float
    descent: float
    left: float
    width: float


@dataclass(frozen=True, slots=True, eq=False)
class Layout:
    """A block as it is set; one is made of each, and goes by itself wherever something is kept for it. `box`: (left, top, right, bottom) around its lines, and of its box if it has one; `scale`: how much it was shrunk;
    `missing`: letters that no face has, `stood_in`: that another than the chosen family has."""

    glyphs: tuple[Glyph, ...]
    clusters: tuple[Cluster, ...]
    lines: tuple[Line, ...]
    box: tuple[float, float, float, float]
    scale: float
    vertical: bool
    missing: str = ""
    stood_in: str = ""
    overflows: bool = False

    @property
    def written(self) -> tuple[float, float, float, float]:
        """(left, top, right, bottom) around its lines alone; its box where it has none, or columns."""
        if not self.lines or self.vertical:
            return self.box
        left, right = min(line.left for line in self.lines), max(line.left + line.width for line in self.lines)
        return left, self.lines[0].baseline - self.lines[0].ascent, right, self.lines[-1].baseline + self.lines[-1].descent

    @property
    def word_count(self) -> int:
        return max((c.word for c in self.clusters), default=-1) + 1


@lru_cache(maxsize=512)
def lay_out(block: Block) -> Layout:
    """The block, set. Raises MissingFace where there are no faces at all."""
    if block.setting.wrap != "shrink" or not block.width:
        return _set(block, 1.0)
    whole = _set(block, 1.0)
    if not whole.overflows:
        return whole
    low, high = LEAST_SHRINK, 1.0
    best = None
    for _ in range(SHRINK_STEPS):
        middle = (low + high) / 2.0
        tried = _set(block, middle)
        if tried.overflows:
            high = middle
        else:
            low, best = middle, tried
    return best or _set(block, low)


def _set(block: Block, scale: float) -> Layout:
    setting, vertical = block.setting, block.setting.direction == "down"
    # Everything is set at size 1 in a larger box, then made smaller by `scale`: what is shaped is shaped once.
    width = None if block.width is None else (block.height or 0.0 if vertical else block.width) / scale
    wraps = setting.wrap != "none" and width is not None
    paragraphs = paragraphs_of(block, vertical)
    lines: list[tuple[int, int, list[Group], float, str, bool]] = []
    for number, paragraph in enumerate(paragraphs.each):
        label = label_of(setting.marks, number) if paragraph.groups else ""
        indent = paragraphs.indent if setting.marks != "none" else 0.0
        room = max((width or 0.0) - indent, 0.0) if wraps else None
        pieces = wrapped(paragraph, room, setting.letter_spacing)
        for at, piece in enumerate(pieces):
            first = piece[0].start if piece else paragraph.start
            last = piece[-1].stop if piece else paragraph.start
            lines.append((first, last, piece, indent, label if at == 0 else "", at == len(pieces) - 1))
    return _placed(block, lines, paragraphs, scale, width, vertical)


def _placed(
    block: Block,
    lines: list[tuple[int, int, list[Group], float, str, bool]],
    paragraphs: Paragraphs,
    scale: float,
    width: float | None,
    vertical: bool,
) -> Layout:
    """Everything at its place: base lines, alignment, the box; then shrunk by `scale`."""
    setting, first_font = block.setting, paragraphs.first
    align = {"left": 0.0, "middle": 0.5, "right": 1.0, "both": 0.0}[setting.across]
    down = {"top": 0.0, "middle": 0.5, "bottom": 1.0}[setting.down]
    boxed = width is not None and setting.wrap != "none"
    # The widest line is the width of text without a box.
    extents = [_extent(groups, setting.letter_spacing) + indent for _, _, groups, indent, _, _ in lines]
    across = width if boxed and width is not None else max(extents, default=0.0)
    glyphs: list[Glyph] = []
    clusters: list[Cluster] = []
    made: list[Line] = []
    y, word, bottom, widest = 0.0, 0, 0.0, 0.0
    for number, (first, last, groups, indent, label, ends) in enumerate(lines):
        sizes = [g.scale for g in groups] or [1.0]
        heights = [(g.font.heights[0] * g.scale, g.font.heights[1] * g.scale) for g in groups if not g.font.colour] or [first_font.heights]
        ascent, descent = (0.5, 0.5) if vertical else (max(h[0] for h in heights), max(h[1] for h in heights))
        largest = max(sizes)
        if vertical:
            ascent = descent = largest / 2.0
        y = ascent if number == 0 else y + setting.line_spacing * largest
        seen = without_spaces(groups)
        extent = sum(g.advance for g in seen) - (setting.letter_spacing * seen[-1].scale if seen else 0.0)
        gaps = sum(1 for g in seen if g.space)
        stretch = 0.0
        if setting.across == "both" and boxed and not ends and gaps and across - indent > extent:
            stretch = (across - indent - extent) / gaps
            extent = across - indent
        right_to_left = bool(groups) and min(g.level for g in groups) & 1
        share = (1.0 - align if right_to_left and setting.across == "both" else align)
        x = (across - indent - extent) * share + (0.0 if right_to_left else indent)
        made.append(Line(first, last, y, ascent, descent, x, extent))
        bottom, widest = y + descent, max(widest, extent)
        if label and groups:
            pen = across - indent + MARK_GAP if right_to_left else x - MARK_GAP - measured(label, block.runs[0], paragraphs.han)
            font, _ = font_for(label[0], block.runs[0].choice, paragraphs.han)
            for glyph, advance, dx, dy in label_items(label, block.runs[0], paragraphs.han):
                size = block.runs[0].size
                glyphs.append(Glyph(font, glyph, pen + dx * size, y + dy * size, size, len(clusters)))
                pen += advance * size
        words = list(accumulate((int(g.space and not (n and groups[n - 1].space)) for n, g in enumerate(groups)), initial=word))
        for n in visual_order([g.level for g in groups]):
            group = groups[n]
            advance = group.advance + (stretch if group.space and n < len(seen) else 0.0)
            index = len(clusters)
            joined = group.script in JOINED
            clusters.append(
                Cluster(
                    group.start, group.stop, group.at, number, words[n], x, x + advance, group.level, group.letters, group.run, group.space, joined
                )
            )
            pen = x
            for glyph, own, dx, dy in group.items:
                if group.turned:
                    middle = (group.font.heights[0] - group.font.heights[1]) / 2.0 * group.scale
                    glyphs.append(Glyph(group.font, glyph, -y - middle - dy, pen + dx, group.scale, index, True))
                elif vertical:
                    glyphs.append(Glyph(group.font, glyph, -y + dx, pen + dy, group.scale, index))
                else:
                    glyphs.append(Glyph(group.font, glyph, pen + dx, y + dy, group.scale, index))
                pen += own
            x += advance
        word = words[-1] + (0 if groups and groups[-1].space else 1)
    box_height = None if block.height is None or not boxed else (block.width or 0.0 if vertical else block.height) / scale
    over = boxed and (widest > across + 1e-6 or (box_height is not None and bottom > box_height + 1e-6))
    left = -across * (0.5 if boxed else align)
    top = -bottom * down if box_height is None else -box_height / 2.0 + (box_height - bottom) * down
    return _moved(glyphs, clusters, made, left, top, across, bottom, box_height, boxed, scale, vertical, paragraphs, over)


def _extent(groups: list[Group], spacing: float) -> float:
    seen = without_spaces(groups)
    return sum(g.advance for g in seen) - (spacing * seen[-1].scale if seen else 0.0)


def _moved(
    glyphs: list[Glyph],
    clusters: list[Cluster],
    lines: list[Line],
    left: float,
    top: float,
    across: float,
    bottom: float,
    box_height: float | None,
    boxed: bool,
    scale: float,
    vertical: bool,
    paragraphs: Paragraphs,
    over: bool,
) -> Layout:
    """All of it moved so that its origin lies where it should, and shrunk. Columns run from right to left: what lay down lies across."""
    if vertical:
        # Along a column is down; from column to column is leftwards.
        placed = [replace(g, x=(g.x - top) * scale, y=(g.y + left) * scale, scale=g.scale * scale) for g in glyphs]
        cells = [replace(c, x0=(c.x0 + left) * scale, x1=(c.x1 + left) * scale) for c in clusters]
        columns = [
            replace(n, baseline=-(n.baseline + top) * scale, ascent=n.ascent * scale, descent=n.descent * scale, left=(n.left + left) * scale, width=n.width * scale)
            for n in lines
        ]
        height = bottom if box_height is None else box_height
        y0 = top if box_height is None else -height / 2.0
        box = (-(y0 + height) * scale, left * scale, -y0 * scale, (left + across) * scale)
        return Layout(tuple(placed), tuple(cells), tuple(columns), box, scale, True, paragraphs.missing, paragraphs.stood_in, over)
    placed = [replace(g, x=(g.x + left) * scale, y=(g.y + top) * scale, scale=g.scale * scale) for g in glyphs]
    cells = [replace(c, x0=(c.x0 + left) * scale, x1=(c.x1 + left) * scale) for c in clusters]
    rows = [
        replace(n, baseline=(n.baseline + top) * scale, ascent=n.ascent * scale, descent=n.descent * scale, left=(n.left + left) * scale, width=n.width * scale)
        for n in lines
    ]
    height = bottom if box_height is None else box_height
    y0 = top if box_height is None else -height / 2.0
    box = (left * scale, y0 * scale, (left + across) * scale, (y0 + height) * scale)
    return Layout(tuple(placed), tuple(cells), tuple(rows), box, scale, False, paragraphs.missing, paragraphs.stood_in, over)
