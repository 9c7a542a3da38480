"""Runs of a text to shaped clusters: bidi, scripts, faces that stand in, features."""

from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import accumulate
from unicodedata import east_asian_width

import regex
import uharfbuzz as hb
from fontTools.unicodedata import script
from icu4py.breakers import LineBreaker

from .bidi import levels_of
from .block import Block, Run, cased
from .fonts import Font, family_for_han, font_for, lacks

CURSIVE = frozenset(("Arab", "Syrc", "Nkoo", "Mong", "Adlm", "Rohg", "Mand", "Phag"))
"""Scripts whose letters are joined: no space between them, and no letter moves without its word."""

MARK_GAP, MARK_ROOM = 0.5, 1.25
"""Ems between a list's mark and its paragraph; and the room its paragraphs leave for a mark at least."""

MARK = "•"
UNSEEN = regex.compile(r"[\p{Cc}\p{Cs}--[\t]]", regex.V1)
"""What has no letter and no meaning here: control characters and halves of surrogate pairs."""

_script_of = lru_cache(maxsize=8192)(script)


@dataclass(slots=True)
class Group:
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


@dataclass(slots=True)
class Paragraph:
    """What stands on a line of its own. `start`: in the text as it was written; `stops`: where, in the paragraph as it is shown, a line may end."""

    start: int
    groups: list[Group]
    stops: frozenset[int]


@dataclass(slots=True)
class Paragraphs:
    """A text shaped, before lines are broken. `indent`: of its list, ems; `first`: its first font; `han`: the family its Han letters are in."""

    each: list[Paragraph]
    indent: float
    missing: str
    stood_in: str
    first: Font
    han: str


@lru_cache(maxsize=256)
def _shaped_block(block: Block, vertical: bool) -> tuple[Paragraphs, ...]:
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
        labels = {label_of(setting.marks, n) for n, p in enumerate(each) if p.groups}
        widest = max((measured(label, runs[0], han) for label in labels), default=0.0)
    return (Paragraphs(each, max(widest + MARK_GAP, MARK_ROOM), "".join(missing), "".join(stood_in), font, han),)


def paragraphs_of(block: Block, vertical: bool) -> Paragraphs:
    bare = replace(block, width=None, height=None)
    return _shaped_block(bare, vertical)[0]


def label_of(marks: str, number: int) -> str:
    return {"marks": MARK, "numbers": f"{number + 1}."}.get(marks, "")


def measured(text: str, run: Run, han: str) -> float:
    return sum(item[1] for item in label_items(text, run, han)) * run.size


@lru_cache(maxsize=256)
def label_items(text: str, run: Run, han: str) -> tuple[tuple[int, float, float, float], ...]:
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
) -> Paragraph:
    begins, characters = paragraph
    text = "".join(c for c, _, _ in characters)
    if not text:
        return Paragraph(begins, [], frozenset())
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
    groups: list[Group] = []
    for start, stop, level, tag, font, run, upright in stretches:
        features = _features(setting, tag)
        direction = "ttb" if upright else ("rtl" if level & 1 else "ltr")
        items = _shape(text, start, stop, tag, font, features, block.language, direction)
        own = {item[0] for item in items}
        stretch: list[Group] = []
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
                Group(source, until, at, end, 1, run, font, level, tag, space, runs[run].size, gap * runs[run].size, turned=vertical and not upright)
            )
        _give_items(stretch, items, runs[run].size)
        groups.extend(stretch)
    return Paragraph(begins, groups, frozenset(accumulate(len(part) for part in LineBreaker(text, block.language))))


def _give_items(stretch: list[Group], items: list[tuple[int, int, float, float, float]], size: float) -> None:
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
