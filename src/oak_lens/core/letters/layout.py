"""Text to placed glyphs, clusters and lines: bidi, scripts, faces that stand in, shaping, wrapping, alignment.

Lengths are in ems (the setting's size), y down. The origin is the middle of the box; of text without one, the point that it hangs on.
A cluster is what a reader calls a letter (or several that are one sign): carets stand between clusters, and clusters are animated.
"""

from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import accumulate
from unicodedata import east_asian_width

import regex
import uharfbuzz as hb
from fontTools.unicodedata import script
from icu4py.breakers import LineBreaker

from .bidi import levels_of, visual_order
from .block import Block, Run, cased
from .fonts import Font, family_for_han, font_for, lacks

CURSIVE = frozenset(("Arab", "Syrc", "Nkoo", "Mong", "Adlm", "Rohg", "Mand", "Phag"))
"""Scripts whose letters are joined: no space between them, and no letter moves without its word."""

JOINED = CURSIVE | {"Deva", "Beng", "Guru", "Tibt"}
"""Scripts whose letters touch: drawn one over the other there would be seams."""

SHRINK_STEPS = 14
LEAST_SHRINK = 0.05
"""A text that is shrunk into its box stays at least so large."""

MARK_GAP, MARK_ROOM = 0.5, 1.25
"""Ems between a list's mark and its paragraph; and the room its paragraphs leave for a mark at least."""

MARK = "•"
UNSEEN = regex.compile(r"[\p{Cc}\p{Cs}--[\t]]", regex.V1)
"""What has no letter and no meaning here: control characters and halves of surrogate pairs."""

_script_of = lru_cache(maxsize=8192)(script)


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
    """Characters `start` to `stop` of the written text, in a box `x0`..`x1` along their line (`y0`..`y1` in columns). `level` odd: from right to
    left; carets divide the box evenly by `letters`. `word` and `line` count in reading order; `run`: of the block's; `joined`: its script's
    letters touch, and cannot move one by one."""

    start: int
    stop: int
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
    def word_count(self) -> int:
        return max((c.word for c in self.clusters), default=-1) + 1


@dataclass(slots=True)
class _Group:
    """A cluster before it has its place. `start` to `stop` of the text as it was written, `at` to `end` of its paragraph as it is shown;
    `advance` and `items` (glyph, advance, x, y) in ems of the block."""

    start: int
    stop: int
    at: int
    end: int
    letters: int
    run: int
    font: Font
    level: int
    script: str
    space: bool
    scale: float
    advance: float = 0.0
    items: tuple[tuple[int, float, float, float], ...] = ()
    turned: bool = False
    ends_word: bool = False


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
    paragraphs = _paragraphs(block, vertical)
    lines: list[tuple[int, int, list[_Group], float, str, bool]] = []
    for number, paragraph in enumerate(paragraphs.each):
        label = _label(setting.marks, number) if paragraph.groups else ""
        indent = paragraphs.indent if setting.marks != "none" else 0.0
        room = max((width or 0.0) - indent, 0.0) if wraps else None
        pieces = _wrapped(paragraph, room, setting.letter_spacing)
        for at, piece in enumerate(pieces):
            first = piece[0].start if piece else paragraph.start
            last = piece[-1].stop if piece else paragraph.start
            lines.append((first, last, piece, indent, label if at == 0 else "", at == len(pieces) - 1))
    return _placed(block, lines, paragraphs, scale, width, vertical)


@dataclass(slots=True)
class _Paragraph:
    start: int
    groups: list[_Group]
    stops: frozenset[int]


@dataclass(slots=True)
class _Paragraphs:
    each: list[_Paragraph]
    indent: float
    missing: str
    stood_in: str
    first: Font
    han: str


@lru_cache(maxsize=256)
def _shaped_block(block: Block, vertical: bool) -> tuple[_Paragraphs, ...]:
    setting = block.setting
    han = family_for_han(block.text)
    missing: dict[str, None] = {}
    stood_in: dict[str, None] = {}
    runs = [cased(run, setting.case) for run in block.runs]
    font, _ = font_for("x", runs[0].choice, han) if runs else (None, False)
    assert font is not None
    each = []
    for characters in _by_paragraph(runs):
        each.append(_paragraph(characters, runs, block, han, vertical, missing, stood_in))
    widest = 0.0
    if setting.marks != "none":
        labels = {_label(setting.marks, n) for n, p in enumerate(each) if p.groups}
        widest = max((_measured(label, runs[0], han) for label in labels), default=0.0)
    return (_Paragraphs(each, max(widest + MARK_GAP, MARK_ROOM), "".join(missing), "".join(stood_in), font, han),)


def _paragraphs(block: Block, vertical: bool) -> _Paragraphs:
    bare = replace(block, width=None, height=None)
    return _shaped_block(bare, vertical)[0]


def _label(marks: str, number: int) -> str:
    return {"marks": MARK, "numbers": f"{number + 1}."}.get(marks, "")


def _measured(text: str, run: Run, han: str) -> float:
    return sum(item[1] for item in _label_items(text, run, han)) * run.size


@lru_cache(maxsize=256)
def _label_items(text: str, run: Run, han: str) -> tuple[tuple[int, float, float, float], ...]:
    font, _ = font_for(text[0], run.choice, han)
    return tuple(item[1:] for item in _shape(text, 0, len(text), "Latn", font, (), "en", "ltr"))


Character = tuple[str, int, int]
"""(character, where it comes from in the written text, run)."""


def _by_paragraph(runs: list[Run]) -> list[tuple[int, list[Character]]]:
    """(where it begins in the written text, its characters) of each paragraph; what has no meaning in a text is left out."""
    found: list[tuple[int, list[Character]]] = [(0, [])]
    for index, run in enumerate(runs):
        sources = run.sources or range(run.first, run.first + len(run.text))
        for c, source in zip(run.text, sources, strict=True):
            if c in "\n\u2028\u2029\x0b\x0c":
                found.append((source + 1, []))
            elif c == "\t":
                found[-1][1].append((" ", source, index))
            elif not UNSEEN.match(c):
                found[-1][1].append((c, source, index))
    return found


def _paragraph(
    paragraph: tuple[int, list[Character]],
    runs: list[Run],
    block: Block,
    han: str,
    vertical: bool,
    missing: dict[str, None],
    stood_in: dict[str, None],
) -> _Paragraph:
    begins, characters = paragraph
    text = "".join(c for c, _, _ in characters)
    if not text:
        return _Paragraph(begins, [], frozenset())
    setting = block.setting
    levels = [0] * len(text) if vertical else levels_of(text)
    letters: list[tuple[int, str]] = []
    for match in regex.finditer(r"\X", text):
        # A letter that lies in two runs is two.
        at = match.start()
        for n in range(match.start() + 1, match.end()):
            if characters[n][2] != characters[at][2]:
                letters.append((at, text[at:n]))
                at = n
        letters.append((at, text[at : match.end()]))
    stretches = _stretches(letters, characters, levels, runs, han, vertical, missing, stood_in)
    groups: list[_Group] = []
    for start, stop, level, tag, font, run, upright in stretches:
        features = _features(setting, tag)
        direction = "ttb" if upright else ("rtl" if level & 1 else "ltr")
        items = _shape(text, start, stop, tag, font, features, block.language, direction)
        own = {item[0] for item in items}
        stretch: list[_Group] = []
        for at, letter in ((a, s) for a, s in letters if start <= a < stop):
            end = at + len(letter)
            source, until = characters[at][1], characters[end - 1][1] + 1
            # Letters without a glyph of their own are one with the letter before: a ligature.
            if stretch and not own.intersection(range(at, at + len(letter))):
                stretch[-1].stop, stretch[-1].end, stretch[-1].letters = until, end, stretch[-1].letters + 1
                continue
            space = letter.isspace()
            gap = setting.letter_spacing * (tag not in CURSIVE) + setting.word_spacing * space
            stretch.append(
                _Group(source, until, at, end, 1, run, font, level, tag, space, runs[run].size, gap * runs[run].size, turned=vertical and not upright)
            )
        _give_items(stretch, items, runs[run].size)
        groups.extend(stretch)
    return _Paragraph(begins, groups, frozenset(accumulate(len(part) for part in LineBreaker(text, block.language))))


def _give_items(stretch: list[_Group], items: list[tuple[int, int, float, float, float]], size: float) -> None:
    """Glyphs to the cluster that their character is in."""
    holding = {at: group for group in stretch for at in range(group.at, group.end)}
    for at, glyph, advance, x, y in items:
        group = holding.get(at, stretch[-1])
        group.advance += advance * size
        group.items = (*group.items, (glyph, advance * size, x * size, y * size))


def _stretches(
    letters: list[tuple[int, str]],
    characters: list[Character],
    levels: list[int],
    runs: list[Run],
    han: str,
    vertical: bool,
    missing: dict[str, None],
    stood_in: dict[str, None],
) -> list[tuple[int, int, int, str, Font, int, bool]]:
    """(start, stop, level, script, font, run, upright) of what is shaped in one go: letters of no script take that before them."""
    found: list[tuple[int, int, int, str, Font, int, bool]] = []
    for at, letter in letters:
        own, level, run = _script_of(letter[0]), levels[at], characters[at][2]
        before = found[-1] if found else None
        font, chosen = font_for(letter, runs[run].choice, han)
        if lacks(letter, font):
            missing[letter] = None
        elif not chosen and not font.colour:
            stood_in[letter] = None
        upright = vertical and _stands_upright(letter)
        tag = before[3] if before is not None and own in ("Zyyy", "Zinh") else own
        if before is not None and (before[2], before[5], before[6]) == (level, run, upright) and before[4] is font and before[3] in (tag, "Zyyy"):
            found[-1] = (before[0], at + len(letter), level, tag, font, run, upright)
        else:
            found.append((at, at + len(letter), level, own if own != "Zinh" else tag, font, run, upright))
    return found


def _stands_upright(letter: str) -> bool:
    """Whether a letter stands upright in a column: wide ones do (a reading of UAX 50 by UAX 11, which agree but for some signs)."""
    return east_asian_width(letter[0]) in ("W", "F") or "\ufe0f" in letter


Features = tuple[tuple[str, int], ...]


def _features(setting: object, tag: str) -> Features:
    found: list[tuple[str, int]] = []
    spacing, ligatures = getattr(setting, "letter_spacing", 0.0), getattr(setting, "ligatures", True)
    if (spacing or not ligatures) and tag not in CURSIVE:
        found += [("liga", 0), ("clig", 0)]
    figures, alternates = getattr(setting, "figures", "face"), getattr(setting, "alternates", 0)
    if figures != "face":
        found.append(({"tabular": "tnum", "old": "onum"}[figures], 1))
    if alternates:
        found.append((f"ss{alternates:02d}", 1))
    return tuple(found)


def _shape(
    text: str, start: int, stop: int, tag: str, font: Font, features: Features, language: str, direction: str
) -> list[tuple[int, int, float, float, float]]:
    """(character, glyph, advance, x, y) in ems of a stretch, from left to right or top to bottom; y down."""
    buffer = hb.Buffer()
    buffer.add_codepoints([ord(c) for c in text], start, stop - start)
    buffer.cluster_level = hb.BufferClusterLevel.MONOTONE_CHARACTERS
    buffer.direction, buffer.script, buffer.language = direction, tag if tag not in ("Zinh", "Zzzz") else "Zyyy", language
    hb.shape(font.font, buffer, {name: bool(on) for name, on in features})
    u = font.upem
    found = []
    for info, position in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
        advance = -position.y_advance if direction == "ttb" else position.x_advance
        found.append((info.cluster, info.codepoint, advance / u, position.x_offset / u, -position.y_offset / u))
    return found


def _wrapped(paragraph: _Paragraph, room: float | None, spacing: float) -> list[list[_Group]]:
    """The lines of a paragraph, each as full as it may be; `room` None: one. What cannot be parted is parted anywhere if it is longer than
    a whole line."""
    if room is None or not paragraph.groups:
        return [paragraph.groups]
    lines: list[list[_Group]] = []
    line: list[_Group] = []
    tail: list[_Group] = []
    used = 0.0
    for group in paragraph.groups:
        tail.append(group)
        if group.end not in paragraph.stops and group is not paragraph.groups[-1]:
            continue
        solid = sum(g.advance for g in _without_spaces(tail)) - spacing
        if line and used + solid > room:
            lines.append(line)
            line, used = [], 0.0
        if solid > room and len(tail) > 1:
            for piece in tail:
                if line and used + piece.advance - spacing > room and not piece.space:
                    lines.append(line)
                    line, used = [], 0.0
                line.append(piece)
                used += piece.advance
        else:
            line += tail
            used += sum(g.advance for g in tail)
        tail = []
    return [*lines, line]


def _without_spaces(groups: list[_Group]) -> list[_Group]:
    last = max((n + 1 for n, g in enumerate(groups) if not g.space), default=0)
    return groups[:last]


def _placed(
    block: Block,
    lines: list[tuple[int, int, list[_Group], float, str, bool]],
    paragraphs: _Paragraphs,
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
        seen = _without_spaces(groups)
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
            pen = across - indent + MARK_GAP if right_to_left else x - MARK_GAP - _measured(label, block.runs[0], paragraphs.han)
            font, _ = font_for(label[0], block.runs[0].choice, paragraphs.han)
            for glyph, advance, dx, dy in _label_items(label, block.runs[0], paragraphs.han):
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
                    group.start, group.stop, number, words[n], x, x + advance, group.level, group.letters, group.run, group.space, joined
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


def _extent(groups: list[_Group], spacing: float) -> float:
    seen = _without_spaces(groups)
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
    paragraphs: _Paragraphs,
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

