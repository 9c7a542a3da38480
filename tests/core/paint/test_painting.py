"""Painting: formulas, rims, joins, caches, golden frames."""

import hashlib
import json
from math import erf, sqrt
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from oak_lens.core.delivery.segments import CODING_VERSION
from oak_lens.core.document import Document
from oak_lens.core.draw import BackdropItem, ColourItem, DrawList, Grade, LayerItem, Mixture, MountedPhoto, ShadowItem, homography_of
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import film_at, timeline_of
from oak_lens.core.looks import SHIPPED_STYLES, Mount
from oak_lens.core.looks.colours import rgb_of
from oak_lens.core.paint import ByteCache, Painter, yuv420
from oak_lens.core.paint.kernels import mix, over
from oak_lens.core.space import similarity
from oak_lens.core.time import ticks
from oak_lens.media.films import CODINGS
from tests.conftest import Pictures, mounted, named, picture

GOLDEN = Path(__file__).parent / "golden"
IDENTITY = homography_of(similarity(1.0, 0.0, 0.0, 0.0))


def backdrop(media: str, blur: float, zoom: float) -> BackdropItem:
    return BackdropItem(named(media), None, 1.0, (), blur, zoom, Grade(1.0, 1.0))


def square(radius: float) -> MountedPhoto:
    return mounted("square", 1.0, 1.0, mount=Mount(border=0.02, colour="#ffffff", radius=radius))


@given(st.integers(0, 2**32 - 1), st.integers(0, 255))
@settings(max_examples=20, deadline=None)
def test_source_over_follows_the_published_formula(seed: int, opacity: int) -> None:
    rng = np.random.default_rng(seed)

    def layer() -> np.ndarray:
        alpha = rng.integers(0, 256, (8, 8, 1))
        return np.concatenate([np.minimum(rng.integers(0, 256, (8, 8, 3)), alpha), alpha], axis=2).astype(np.uint8)

    below, above = layer(), layer()
    # W3C Compositing Level 1, 5.1, premultiplied: co = cs + cb (1 - as), with the layer's opacity on cs and as.
    share = above / 255 * (opacity / 255)
    expected = share + below / 255 * (1 - share[..., 3:])
    over(below, above, opacity)
    assert np.abs(below / 255 - expected).max() <= 0.51 / 255


def test_a_mix_is_exact_at_its_ends() -> None:
    a, b = picture(64, 48, 1), picture(64, 48, 2)
    for amount, expected in ((0, a), (65536, b)):
        target = a.copy()
        mix(target, b, amount)
        assert (target == expected).all()


@pytest.mark.parametrize("softness", [0.004, 0.02, 0.06])
def test_a_shadow_is_the_outline_under_a_gaussian(softness: float) -> None:
    width, height = 0.8, 0.5
    drawn = DrawList(16 / 9, (ColourItem("#ffffff"), ShadowItem(mounted("p", width, height), IDENTITY, softness, 0.0, "#000000", 1.0)))
    pixels = Painter(Pictures(p=picture(8, 8))).paint(drawn, 960, 540)[270, :, 0].astype(float)
    x = (np.arange(960) + 0.5 - 480) / 540

    def edge(d: float) -> float:
        return 0.5 * (1 + erf(d / (softness * sqrt(2))))

    # The convolution of a box with a Gaussian is a difference of error functions, across and down.
    down = edge(height / 2) - edge(-height / 2)
    expected = np.array([255 * (1 - down * (edge(v + width / 2) - edge(v - width / 2))) for v in x])
    assert np.abs(pixels - expected).max() < 5.0


@pytest.mark.parametrize("blur", [0.0, 0.01, 0.05, 0.3])
@pytest.mark.parametrize("zoom", [1.0, 2.5])
def test_a_backdrop_has_no_rim_at_any_blur(blur: float, zoom: float) -> None:
    flat = np.full((300, 200, 4), (180, 120, 60, 255), np.uint8)
    drawn = DrawList(16 / 9, (backdrop("p", blur, zoom),))
    pixels = Painter(Pictures(p=flat)).paint(drawn, 640, 360)
    assert np.abs(pixels.astype(int) - (180, 120, 60, 255)).max() <= 1


def test_a_blurred_backdrop_is_a_gaussian_of_the_picture(source: Pictures) -> None:
    import cv2

    drawn = DrawList(1.5, (backdrop("wide", 0.03, 1.0),))
    ours = Painter(source).paint(drawn, 600, 400)[..., :3].astype(float)
    full = cv2.resize(source.level(named("wide"), 0)[..., :3].astype(np.float32), (600, 400), interpolation=cv2.INTER_AREA)
    reference = cv2.GaussianBlur(full, (0, 0), 0.03 * 400, borderType=cv2.BORDER_REFLECT)
    assert np.abs(ours - reference).mean() < 1.0 and np.abs(ours - reference).max() < 6.0


def test_what_is_kept_never_shows(document: Document, source: Pictures) -> None:
    document = apply_edits(
        document,
        parse_edits(
            [
                {
                    "edit": "set_layers",
                    "layers": [{"scene": "s-square", "layer": "photo"}],
                    "placement": {"turn": 8, "size": 0.7, "swing": 20},
                    "mount": {"radius": 0.05},
                }
            ]
        ),
    )
    timeline = timeline_of(document)
    moments = [ticks(s) for s in (0, 3.4, 5, 9.2, 12, 15.5)]
    warm = Painter(source)
    for at in [*moments, *reversed(moments)]:
        picturing = film_at(document, timeline, at)
        assert (warm.paint(picturing, 480, 270) == Painter(source, cache_bytes=0).paint(picturing, 480, 270)).all()


def test_leaving_out_what_is_hidden_changes_nothing(source: Pictures, monkeypatch: pytest.MonkeyPatch) -> None:
    frames = {}
    drawings = [
        DrawList(
            16 / 9,
            (
                backdrop("tall", 0.05, 1.1),
                ShadowItem(square(radius), homography_of(similarity(0.8, turn, 0.03, 0.03)), 0.03, 0.0, "#000000", 0.8),
                LayerItem(square(radius), homography_of(similarity(0.8, turn, 0.0, 0.0)), 1.0),
            ),
        )
        for turn, radius in ((0.0, 0.0), (20.0, 0.1), (-64.0, 0.3))
    ]
    # Heaped up, each over parts of others and of their shadows, some of them wholly hidden.
    heap = [(similarity(0.3 + 0.05 * (n % 3), 37 * n, 0.5 * np.sin(2.4 * n), 0.3 * np.cos(1.7 * n)), 0.1 * (n % 2)) for n in range(12)]
    strewn = [
        item
        for place, radius in heap
        for item in (
            ShadowItem(square(radius), homography_of(place), 0.04, 0.0, "#000000", 0.6),
            LayerItem(square(radius), homography_of(place), 1.0),
        )
    ]
    drawings.append(DrawList(16 / 9, (backdrop("tall", 0.05, 1.1), *strewn)))
    for name in ("short", "whole"):
        if name == "whole":
            monkeypatch.setattr(Painter, "_way_hidden", lambda self, item, to_pixels: [])
            monkeypatch.setattr(Painter, "_lowest_seen", lambda *a: 0)
        frames[name] = [Painter(source).paint(d, 640, 360) for d in drawings]
    for short, whole in zip(frames["short"], frames["whole"], strict=True):
        assert (short == whole).all()


def test_transparent_pictures_let_through_what_is_below() -> None:
    half = np.zeros((100, 100, 4), np.uint8)
    half[:, 50:] = (0, 200, 0, 255)
    drawn = DrawList(1.0, (ColourItem("#c80000"), LayerItem(mounted("p", 1.0, 1.0), IDENTITY, 1.0)))
    pixels = Painter(Pictures(p=half)).paint(drawn, 200, 200)
    assert tuple(pixels[100, 40]) == (200, 0, 0, 255) and tuple(pixels[100, 160]) == (0, 200, 0, 255)


def test_a_cache_keeps_within_its_bytes_and_builds_once() -> None:
    cache, built = ByteCache(100), []
    for key in (1, 2, 1, 3, 1, 2):
        cache.get(key, lambda key=key: built.append(key) or key, lambda _: 40)  # type: ignore[misc]
    assert built == [1, 2, 3, 2] and cache.bytes <= 100


def test_colours_for_coding_follow_bt709() -> None:
    colours = np.array([(255, 0, 0), (0, 255, 0), (0, 0, 255), (255, 255, 255), (0, 0, 0), (128, 64, 200)], np.float64)
    for colour in colours:
        flat = np.empty((4, 4, 4), np.uint8)
        flat[:] = (*colour.astype(int), 255)
        planes = yuv420(flat)
        r, g, b = colour / 255
        y = 0.2126 * r + 0.7152 * g + 0.0722 * b
        expected = (16 + 219 * y, 128 + 224 * (b - y) / 1.8556, 128 + 224 * (r - y) / 1.5748)
        assert [int(p[1, 1]) for p in (planes.luma, planes.blue, planes.red)] == pytest.approx(expected, abs=0.6)


TITLE: list[dict[str, Any]] = [
    {"edit": "add_text", "scene": "s-square", "id": "t", "text": "First light\nover the ridge", "style": "frontispiece", "y": -0.28},
    {"edit": "set_layers", "layers": [{"scene": "s-square", "layer": "t"}], "placement": {"swing": -14}},
    {"edit": "use_move", "to": [{"scene": "s-square", "layer": "t"}], "slot": "exit", "move": "rise-up", "use": {"length": ticks(3)}},
    {"edit": "add_text", "scene": "s-square", "id": "line", "text": "A place, 2,912 m — 星の夜", "style": "lower-line", "x": -0.42, "y": 0.4},
]


@pytest.mark.parametrize("name", ["print", "fill", "dissolve", "title"])
def test_golden_frames(name: str, document: Document, source: Pictures) -> None:
    document = apply_edits(
        document,
        parse_edits(
            [
                {
                    "edit": "set_layers",
                    "layers": [{"scene": "s-square", "layer": "photo"}],
                    "placement": {"turn": -7, "size": 0.8, "swing": 18},
                    "mount": {"radius": 0.03, "border": 0.03},
                    "shadow": {"distance": 0.04, "softness": 0.03},
                },
                {
                    "edit": "set_views",
                    "photos": [{"scene": "s-wide", "layer": "photo"}],
                    "opening": {"x": 0, "y": 0, "zoom": 1.02},
                    "closing": {"x": 0.012, "y": -0.01, "zoom": 1.14},
                },
                *(TITLE if name == "title" else []),
            ]
        ),
    )
    at = {"print": 10.0, "fill": 1.0, "dissolve": 7.6, "title": 11.2}[name]
    painted = Painter(source).paint(film_at(document, timeline_of(document), ticks(at)), 480, 270)[..., :3]
    path = GOLDEN / f"{name}.png"
    if not path.exists():
        GOLDEN.mkdir(exist_ok=True)
        Image.fromarray(painted).save(path)
        pytest.fail(f"made {path}; look at it and run again")
    difference = np.abs(painted.astype(int) - np.asarray(Image.open(path)).astype(int))
    # Processors may round a few pixels another way; a change of more than that is a change of the picture.
    assert difference.mean() < 0.05 and difference.max() <= 12


def test_letters_are_read_against_what_lies_behind_them(document: Document, source: Pictures) -> None:
    """Of the shipped styles with a panel: WCAG 2's contrast of their letters to what lies around them, over whatever picture, at the fifth part that has least."""
    painter = Painter(source)
    bare = painter.paint(film_at(document, timeline_of(document), ticks(10.0)), 480, 270)[..., :3].copy()
    for style, least in (("lower-line", 4.5), ("museum-label", 4.5), ("slate-plaque", 4.5)):
        edits = [{"edit": "add_text", "scene": "s-square", "id": "t", "text": "First light over", "style": style}]
        edits.append({"edit": "set_layers", "layers": [{"scene": "s-square", "layer": "t"}], "setting": {"size": 0.12}})
        seen = painter.paint(film_at(apply_edits(document, parse_edits(edits)), timeline_of(document), ticks(10.0)), 480, 270)[..., :3]
        ink = np.array(rgb_of(SHIPPED_STYLES[style].ink.colour))
        # The picture has lines as white as letters.
        letters = (np.abs(seen - ink).max(axis=2) < 12) & (seen != bare).any(axis=2)
        around = (cv2.dilate(letters.astype(np.uint8), np.ones((7, 7))) > 0) & ~(cv2.dilate(letters.astype(np.uint8), np.ones((3, 3))) > 0)
        ratios = contrast(ink[None], seen[around].astype(float))
        assert letters.sum() > 300 and np.percentile(ratios, 20) > least, (style, np.percentile(ratios, 20))


def contrast(a: np.ndarray, b: np.ndarray) -> np.ndarray:
    """WCAG 2.2, contrast ratio of sRGB colours 0..255."""

    def luminance(colour: np.ndarray) -> np.ndarray:
        c = colour / 255.0
        linear = np.where(c <= 0.04045, c / 12.92, ((c + 0.055) / 1.055) ** 2.4)
        return np.asarray(linear @ np.array((0.2126, 0.7152, 0.0722)))

    first, second = luminance(a), luminance(b)
    return np.asarray((np.maximum(first, second) + 0.05) / (np.minimum(first, second) + 0.05))


def test_what_is_coded_otherwise_has_another_coding_version() -> None:
    """Kept segments are reused by their keys: where pictures or coders change, so must the version in the key."""
    digest = hashlib.sha256()
    for path in sorted(GOLDEN.glob("*.png")):
        digest.update(path.read_bytes())
    digest.update(repr(CODINGS).encode())
    now = {"version": CODING_VERSION, "of": digest.hexdigest()}
    told = json.loads((GOLDEN / "coding.json").read_text())
    assert now == told, f"raise CODING_VERSION if it is not raised yet, then write {json.dumps(now)} to golden/coding.json"


def test_half_a_dissolve_from_black_to_white_is_grey(source: Pictures) -> None:
    one = DrawList(1.0, (ColourItem("#000000"),))
    two = DrawList(1.0, (ColourItem("#ffffff"),))
    assert Painter(source).paint(Mixture(one, two, 0.5), 4, 4)[0, 0, 0] == 128
