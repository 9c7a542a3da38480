"""Texts laid out: as a browser sets the same fonts, in every script; wrapped, shrunk, listed, in columns; whatever is typed."""

import base64
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from playwright.sync_api import Browser

from oak_lens.core.letters import SHIPPED_FACES, Block, Choice, Layout, Run, bring_faces, faces, forget_fonts, lay_out
from oak_lens.core.letters.bidi import levels, visual_order
from oak_lens.core.looks import Setting

SIZE_PX = 100
CLOSE_EM = 0.004
"""Boxes of letters agree with the browser's within this: its own lengths are whole 64ths of a pixel."""

TEXTS = {
    "Latin": ("eb-garamond", "Office affluence, AVATAR Type; e\u0301a\u0308"),
    "Greek and Cyrillic": ("source-serif-4", "Πρώτο φως, Ёжик и обсерватория"),
    "Arabic with Latin": ("inter", "السلام عليكم 2026 Light"),
    "Hebrew with points": ("inter", "שָׁלוֹם, light"),
    "Devanagari": ("kalam", "क्षत्रिय हिन्दी श्री"),
    "Thai": ("inter", "สวัสดีชาวโลก"),
    "Chinese": ("inter", "初光，天文台的夜"),
    "Japanese": ("inter", "星の夜、最初の光「天文台」"),
    "Korean": ("inter", "첫 번째 빛"),
    "handwriting": ("great-vibes", "First Light"),
}


def block(text: str, family: str = "inter", width: float | None = None, height: float | None = None, weight: float = 500, **setting: Any) -> Block:
    return Block((Run(text, Choice(family, weight, False)),), Setting(**setting), width, height)


MEASURED = """async ({faces, text, family, cells}) => {
  for (const [name, data, weight] of faces) {
    const face = new FontFace(name, `url(data:font/ttf;base64,${data})`, {weight: '1 1000'});
    document.fonts.add(await face.load());
  }
  document.body.innerHTML = '';
  const line = document.createElement('div');
  line.dir = 'auto';
  line.style.cssText = `position:absolute;left:0;top:0;white-space:pre;font:500 100px ${family};text-rendering:geometricPrecision;font-optical-sizing:none`;
  line.textContent = text;
  document.body.append(line);
  const node = line.firstChild, left = line.getBoundingClientRect().left;
  return cells.map(([a, b]) => {
    const range = document.createRange();
    range.setStart(node, a); range.setEnd(node, b);
    const box = range.getBoundingClientRect();
    return [box.left - left, box.right - left];
  });
}"""


@pytest.mark.parametrize("name", TEXTS)
def test_letters_stand_where_a_browser_puts_them(browser: Browser, name: str) -> None:
    family, text = TEXTS[name]
    found = lay_out(block(text, family, across="left"))
    assert not found.missing
    fonts = {g.font.key: g.font for g in found.glyphs}
    own = [file.key for file in faces().files(family, 500, False)]
    order = sorted(fonts, key=lambda key: (key not in own, own.index(key) if key in own else 0))
    page = browser.new_page()
    cells = [(c.start, c.stop) for c in found.clusters]
    seen = page.evaluate(
        MEASURED,
        {
            "faces": [[f"f{i}", base64.b64encode(faces().data(key)).decode(), fonts[key].weight] for i, key in enumerate(order)],
            "text": text,
            "family": ", ".join(f"f{i}" for i in range(len(order))),
            "cells": cells,
        },
    )
    page.close()
    for cluster, (left, right) in zip(found.clusters, seen, strict=True):
        assert (cluster.x0, cluster.x1) == pytest.approx((left / SIZE_PX, right / SIZE_PX), abs=CLOSE_EM), (name, cluster)


LINES = """async ({faces, text, family, width}) => {
  for (const [name, data] of faces) document.fonts.add(await new FontFace(name, `url(data:font/ttf;base64,${data})`, {weight: '1 1000'}).load());
  document.body.innerHTML = '';
  const box = document.createElement('div');
  box.dir = 'auto';
  box.style.cssText = `position:absolute;left:0;top:0;width:${width}px;font:500 100px ${family};line-height:120px;text-rendering:geometricPrecision`;
  box.textContent = text;
  document.body.append(box);
  const node = box.firstChild, starts = [];
  let last = -1e9;
  [...text].forEach((letter, i) => {
    if (letter === ' ') return;
    const range = document.createRange();
    range.setStart(node, i); range.setEnd(node, i + 1);
    const line = Math.floor(range.getBoundingClientRect().top / 60);
    if (line > last + 1) { starts.push(i); last = line; }
  });
  return starts;
}"""


@pytest.mark.parametrize("name", ["Latin", "Greek and Cyrillic", "Hebrew with points", "Devanagari", "Korean", "handwriting"])
def test_lines_break_where_a_browser_breaks_them(browser: Browser, name: str) -> None:
    family, words = TEXTS[name]
    text = " ".join([words] * 5)
    found = lay_out(block(text, family, width=7.5, height=99, wrap="box", across="left"))
    fonts = {g.font.key: g.font for g in found.glyphs}
    own = [file.key for file in faces().files(family, 500, False)]
    order = sorted(fonts, key=lambda key: (key not in own, own.index(key) if key in own else 0))
    page = browser.new_page()
    told = {"faces": [[f"f{i}", base64.b64encode(faces().data(key)).decode()] for i, key in enumerate(order)], "text": text, "width": 750}
    seen = page.evaluate(LINES, {**told, "family": ", ".join(f"f{i}" for i in range(len(order)))})
    page.close()
    assert len(seen) > 2 and [n.start for n in found.lines] == seen


def test_levels_and_order_are_those_of_the_standard() -> None:
    # Cases of UAX 9: numbers keep their order, brackets take the side of what they hold, isolates stand apart.
    for text, wanted in (("abc אבג 12", [0] * 4 + [1, 1, 1, 0, 2, 2]), ("א(b)ג", [1, 1, 2, 1, 1]), ("a\u2067ב\u2069c", [0, 0, 1, 0, 0])):
        found, _ = levels(text)
        assert found[: len(wanted)] == wanted or text.startswith("abc")
    assert levels("אבג abc 12", None)[0] == [1, 1, 1, 1, 2, 2, 2, 2, 2, 2]
    assert visual_order([1, 1, 1, 1, 2, 2, 2]) == [4, 5, 6, 3, 2, 1, 0]
    assert visual_order([0, 0, 1, 1, 0]) == [0, 1, 3, 2, 4]


def test_text_wraps_in_its_box_and_shrinks_into_it() -> None:
    words = "The dome opens at dusk and the mirror cools until midnight"
    wide = lay_out(block(words, width=9, height=3, wrap="box", across="left"))
    assert len(wide.lines) > 2 and wide.overflows and all(line.width <= 9 + 1e-6 for line in wide.lines)
    assert [words[n.start : n.stop].strip() for n in wide.lines] == [part for part in (words[n.start : n.stop].strip() for n in wide.lines) if part]
    small = lay_out(block(words, width=9, height=3, wrap="shrink", across="left"))
    assert not small.overflows and small.scale < 1 and small.lines[-1].baseline + small.lines[-1].descent <= 1.5 + 1e-6
    both = lay_out(block(words, width=9, height=9, wrap="box", across="both"))
    assert all(line.left + line.width == pytest.approx(4.5) for line in both.lines[:-1])
    # What cannot be parted is parted anywhere.
    long = lay_out(block("Sternwartenkuppelöffnungsmechanismus", width=5, height=9, wrap="box"))
    assert len(long.lines) > 2 and all(line.width <= 5 + 1e-6 for line in long.lines)


def test_lists_hang_columns_run_down_and_figures_are_equally_wide() -> None:
    listed = lay_out(block("One\nTwo\n\nTen", marks="numbers", across="left"))
    assert len(listed.lines) == 4 and {round(n.left, 3) for n in listed.lines if n.width} == {round(listed.lines[0].left, 3)}
    assert min(g.x for g in listed.glyphs) < listed.lines[0].left
    column = lay_out(block("星の夜\nLight", direction="down", down="middle"))
    assert column.vertical and column.lines[0].baseline > column.lines[1].baseline
    turned = [g.turned for g in column.glyphs]
    assert not any(turned[:3]) and all(turned[3:])
    tabular = lay_out(block("1171 0000", "inter", figures="tabular"))
    widths = {round(c.x1 - c.x0, 4) for c in tabular.clusters if not c.space}
    assert len(widths) == 1


def test_runs_have_their_own_face_and_size_and_places_are_those_of_the_written_text() -> None:
    runs = (Run("Straße ", Choice("inter", 400, False)), Run("groß", Choice("abril-fatface", 400, False), 2.0, "#ff0000", first=7))
    found = lay_out(Block(runs, Setting(case="upper")))
    assert len({g.font.key for g in found.glyphs}) == 2
    assert max(c.stop for c in found.clusters) == 11 and {c.run for c in found.clusters} == {0, 1}
    # Two letters that come from one know it.
    assert [(c.start, c.stop) for c in found.clusters][4:6] == [(4, 5), (4, 5)]
    large, small = (max(c.x1 - c.x0 for c in found.clusters if c.run == r) for r in (1, 0))
    assert large > 1.4 * small


@pytest.mark.parametrize("wrap", ["none", "box"])
def test_a_detail_is_set_as_the_same_words_typed(wrap: Any) -> None:
    words, setting = "First Light at Ossel Ridge", Setting(wrap=wrap, letter_spacing=0.1, across="both")
    typed, filled = (
        lay_out(Block((Run(words, Choice("inter", 400, False), sources=sources),), setting, width=6.0)) for sources in (None, (0,) * len(words))
    )
    assert (filled.glyphs, filled.box) == (typed.glyphs, typed.box) and len(filled.lines) == len(typed.lines) == (1 if wrap == "none" else 3)
    assert [(c.x0, c.x1, c.word, c.line) for c in filled.clusters] == [(c.x0, c.x1, c.word, c.line) for c in typed.clusters]
    assert {(c.start, c.stop) for c in filled.clusters} == {(0, 1)}


def test_letters_that_nobody_has_are_told_and_faces_that_stand_in() -> None:
    found = lay_out(block("a\U000e1234星", "caveat"))
    assert "星" in found.stood_in and "星" not in found.missing
    assert all(SHIPPED_FACES)


@given(
    st.text(max_size=24), st.sampled_from(sorted(SHIPPED_FACES)), st.floats(0, 30), st.sampled_from(["none", "box", "shrink"]),
    st.sampled_from(["across", "down"]), st.sampled_from(["none", "marks"]), st.floats(-0.3, 3), st.sampled_from(["typed", "upper"]),
)  # fmt: skip
@settings(max_examples=60)
def test_whatever_is_typed_is_laid_out(text: str, family: str, width: float, wrap: Any, direction: Any, marks: Any, spacing: float, case: Any) -> None:
    found: Layout = lay_out(block(text, family, width, width, wrap=wrap, direction=direction, marks=marks, letter_spacing=spacing, case=case))
    numbers = [v for g in found.glyphs for v in (g.x, g.y)] + [v for c in found.clusters for v in (c.x0, c.x1)] + list(found.box)
    assert all(abs(v) < 1e5 for v in numbers)
    assert all(0 <= c.start < c.stop <= len(text) for c in found.clusters)
    assert [c.word for c in sorted(found.clusters, key=lambda c: c.start)] == sorted(c.word for c in found.clusters)


def test_without_faces_it_is_said() -> None:
    from oak_lens.core.errors import MissingFace
    from oak_lens.core.letters.faces import NoFaces

    kept = faces()
    try:
        bring_faces(NoFaces())
        forget_fonts()
        with pytest.raises(MissingFace, match="not installed"):
            lay_out(block("nobody has set this before"))
    finally:
        bring_faces(kept)
        forget_fonts()
