"""Letters as pixels: exact areas, outlines of their width, motion below a hundredth of a pixel, cut off at the eye."""

from typing import Any

import cv2
import numpy as np
import pytest

from oak_lens.core.draw import REST, ColourItem, DrawItem, DrawList, LayerItem, Lettering, LetterPart, ShadowItem
from oak_lens.core.letters import Block, Choice, Run
from oak_lens.core.looks import Ink, Mask, Panel, Setting
from oak_lens.core.paint import Painter

WIDTH, HEIGHT = 480, 270


class NoPictures:
    def size(self, picture: object) -> tuple[int, int]:
        raise AssertionError

    def level(self, picture: object, level: int) -> np.ndarray:
        raise AssertionError


PAINTER = Painter(NoPictures())


def text(words: str, family: str = "source-serif-4", size: float = 0.3, ink: Ink | None = None, panel: Panel | None = None, **more: Any) -> Lettering:
    return Lettering(Block((Run(words, Choice(family, 500, False)),), Setting()), size, ink or Ink(colour="#ffffff"), panel or Panel(), band=3.0, **more)


def at(x: float = 0.0, y: float = 0.0, size: float = 1.0, lean: float = 0.0) -> tuple[float, ...]:
    return (size, 0.0, x, 0.0, size, y, lean, 0.0, 1.0)


def painted(*items: DrawItem, width: int = WIDTH, height: int = HEIGHT) -> np.ndarray:
    """(h, w) float 0..1 of what stands over black."""
    drawn = PAINTER.paint(DrawList(width / height, (ColourItem("#000000"), *items)), width, height)
    return drawn[..., 1].astype(np.float64) / 255.0


def letters(content: Lettering, where: tuple[float, ...] = REST, **more: Any) -> LayerItem:
    return LayerItem(content, where, 1.0, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize(("words", "size"), [("Rhamp & glow", 0.24), ("first light, 2026", 0.1), ("क्षत्रिय", 0.3)])
def test_every_pixel_has_the_share_that_is_covered(words: str, size: float) -> None:
    content = text(words, size=size)
    seen = painted(letters(content, at(0.0013, 0.0007)))
    fine = painted(letters(content, at(0.0013, 0.0007)), width=WIDTH * 8, height=HEIGHT * 8)
    # Sharp at eight times the size, then averaged: an eighth of each pixel is a sample.
    reference = (fine > 0.5).astype(np.float64).reshape(HEIGHT, 8, WIDTH, 8).mean(axis=(1, 3))
    error = float(np.mean((seen - reference) ** 2))
    assert seen.sum() > 300 and 10 * np.log10(1.0 / error) > 44.0


@pytest.mark.parametrize("place", ["outside", "middle", "inside"])
def test_an_outline_is_as_wide_as_it_says(place: Any) -> None:
    width = 0.04
    scale = 6
    size = (WIDTH * scale, HEIGHT * scale)
    filled = painted(letters(text("Rg", size=0.6)), width=size[0], height=size[1]) > 0.5
    ink = Ink(fill="none", outline=width, outline_place=place, outline_colour="#ffffff")
    line = painted(letters(text("Rg", size=0.6, ink=ink)), width=size[0], height=size[1]).sum()
    # How far each pixel lies from the letters' edge says which of them the line covers.
    away = cv2.distanceTransform((~filled).astype(np.uint8), cv2.DIST_L2, 5)
    within = cv2.distanceTransform(filled.astype(np.uint8), cv2.DIST_L2, 5)
    px = width * 0.6 * size[1]
    outer, inner = {"outside": (px, 0.0), "middle": (px / 2, px / 2), "inside": (0.0, px)}[place]
    wanted = ((~filled) & (away <= outer)).sum() + (filled & (within <= inner)).sum()
    assert line == pytest.approx(wanted, rel=0.03)


def test_letters_that_move_a_tenth_of_a_pixel_move_just_that() -> None:
    content, found = text("l", size=0.4), []
    for step in range(24):
        seen = painted(letters(content, at(step * 0.1 / HEIGHT)))
        found.append(float((seen.sum(axis=0) * np.arange(WIDTH)).sum() / seen.sum()))
    steps = np.diff(found)
    assert abs(steps - 0.1).max() < 0.01 and np.sqrt(np.mean((steps - 0.1) ** 2)) < 0.005


def test_what_crosses_the_eye_is_cut_off_and_the_rest_stays() -> None:
    # The plane leans so that its left end lies behind the eye.
    leaning = painted(letters(text("Ossel Ridge", size=0.3), at(lean=1.4)))
    assert 0.01 < leaning.mean() < 0.9
    right = painted(letters(text("Ossel Ridge", size=0.3), at(lean=0.0)))
    assert right[:, WIDTH // 2 :].sum() > 0 and leaning[:, WIDTH // 2 :].sum() > 0
    assert painted(letters(text("Ossel Ridge", size=0.3), (1, 0, 0, 0, 1, 0, 0, 0, -1.0))).sum() == 0


def test_gradient_panel_underline_glow_and_shadow_are_seen() -> None:
    plain = painted(letters(text("dome")))
    down = PAINTER.paint(DrawList(WIDTH / HEIGHT, (ColourItem("#000000"), letters(text("dome", ink=Ink(fill="linear", colour="#ff0000", second_colour="#0000ff"))))), WIDTH, HEIGHT)
    rows = down.astype(float).sum(axis=1)
    top, bottom = (rows[a:b].sum(axis=0) for a, b in ((90, 130), (145, 180)))
    assert top[0] > top[2] and bottom[2] > bottom[0]
    panel = painted(letters(text("dome", panel=Panel(kind="whole", colour="#ffffff", opacity=1.0, pad_across=0.2, pad_down=0.0, radius=0.1))))
    assert panel[HEIGHT // 2, WIDTH // 2 - 100] == 1.0 and panel.mean() > 2 * plain.mean()
    assert painted(letters(text("dome", ink=Ink(colour="#ffffff", underline=True)))).sum() > plain.sum() * 1.05
    assert painted(letters(text("dome", ink=Ink(colour="#ffffff", glow=1.0, glow_colour="#ffffff")))).sum() > plain.sum() * 1.2
    shadow = painted(ShadowItem(text("dome"), at(0.02, 0.02), 0.01, 0.0, "#ffffff", 0.8))  # type: ignore[arg-type]
    assert 0.5 < shadow.sum() / plain.sum() < 1.1 and shadow.max() < 0.85


def test_a_mask_cuts_blur_softens_and_motion_smears_without_losing_light() -> None:
    content = text("dome")
    plain = painted(letters(content))
    half = painted(letters(text("dome", mask=Mask(outline="rectangle", x=0.25, width=0.5, height=2.0, feather=0.0))))
    assert half[:, : WIDTH // 2 - 4].sum() < 1 and half.sum() == pytest.approx(plain[:, WIDTH // 2 :].sum(), rel=0.05)
    rest = LetterPart(REST)
    soft = painted(letters(text("dome", parts=(LetterPart(REST, blur=0.12), rest, rest, rest))))
    assert soft.sum() == pytest.approx(plain.sum(), rel=0.03) and np.abs(soft - plain)[:, : WIDTH // 2].max() > 0.3
    smeared = painted(letters(content, travel=at(0.4)))
    assert smeared.sum() == pytest.approx(plain.sum(), rel=0.03) and smeared.max() < 1.0
    gone = painted(letters(text("dome", parts=tuple(LetterPart(REST, opacity=0.0) for _ in range(4)))))
    assert gone.sum() == 0


def test_joined_scripts_have_no_seams_and_emoji_their_colours() -> None:
    # Half there, letters that touch are still one: nothing is darker or lighter where they meet.
    seen = painted(LayerItem(text("مشمس", "noto-naskh-arabic", 0.4), REST, 0.5))
    levels = np.unique(np.rint(seen * 255))
    assert levels.max() <= 128 and (np.rint(seen * 255) == 128).sum() + (np.rint(seen * 255) == 127).sum() > 0.6 * (seen > 0.1).sum()
    colours = PAINTER.paint(DrawList(WIDTH / HEIGHT, (ColourItem("#000000"), letters(text("🇨🇭")))), WIDTH, HEIGHT)
    red = (colours[..., 0] > 180) & (colours[..., 1] < 90)
    assert red.sum() > 2000
