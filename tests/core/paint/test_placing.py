"""Layers in one pass: what the rows of machine vectors give is what the formulas say."""

import numpy as np
import pytest

from oak_lens.core.paint.edges import edges_of
from oak_lens.core.paint.kernels import mix, rgba_to_yuv420
from oak_lens.core.paint.placing import place
from oak_lens.core.paint.sprites import Sprite
from oak_lens.core.paint.warps import touched_spans
from oak_lens.core.space import map_points
from tests.conftest import mounted

WIDTH, HEIGHT, OPAQUE = 90, 60, 2
BOX = (7, 5, 7 + WIDTH, 5 + HEIGHT)


def sprite(rng: np.random.Generator, columns: int, rows: int, of: tuple[float, float]) -> Sprite:
    """Random premultiplied pixels of a plane's rectangle, some opaque, with a transparent gutter."""
    alpha = np.clip(rng.integers(0, 256 * OPAQUE, (rows, columns, 1)), 0, 255)
    pixels = np.zeros((rows + 4, columns + 4, 4), np.uint8)
    pixels[2:-2, 2:-2] = np.concatenate([np.minimum(rng.integers(0, 256, (rows, columns, 3)), alpha), alpha], axis=2)
    placed = np.diag((columns / of[0], rows / of[1], 1.0))
    placed[:2, 2] = columns / 2 + 2, rows / 2 + 2
    return Sprite(pixels, placed)


def spline(x: np.ndarray) -> np.ndarray:
    """Catmull and Rom's, at a distance from a sample."""
    d = np.abs(x)
    return np.where(d < 1, 1.5 * d**3 - 2.5 * d**2 + 1, np.where(d < 2, -0.5 * d**3 + 2.5 * d**2 - 4 * d + 2, 0.0))


def expected(below: np.ndarray, seen: list[tuple[Sprite, float]], plane_from_pixel: np.ndarray, opacity: float, sharp: bool) -> np.ndarray:
    """Interpolation, linear or by a cubic spline, mixed, over: in 64 bits."""
    y, x = np.mgrid[BOX[1] : BOX[3], BOX[0] : BOX[2]] + 0.5
    total = np.zeros((HEIGHT, WIDTH, 4))
    for one, weight in seen:
        w, h = one.pixels.shape[1], one.pixels.shape[0]
        at = np.stack([x, y, np.ones_like(x)], axis=2) @ (one.sprite_from_plane @ plane_from_pixel).T
        edge, weigh = (1, spline) if sharp else (0, lambda x: np.maximum(1 - np.abs(x), 0.0))
        u, v = (np.clip(at[..., k] / at[..., 2] - 0.5, 0, size - 1.001) for k, size in enumerate((w, h)))
        i, j = u.astype(int), v.astype(int)
        for down in range(-edge, edge + 2):
            for across in range(-edge, edge + 2):
                share = weigh(u - i - across) * weigh(v - j - down)
                total += weight * share[..., None] * one.pixels[np.clip(j + down, 0, h - 1), np.clip(i + across, 0, w - 1)]
    total[..., 3] = np.clip(total[..., 3], 0.0, 255.0)
    total = np.clip(total, 0.0, total[..., 3:])
    total *= opacity
    return np.asarray(total + below * (1 - total[..., 3:] / 255))


@pytest.mark.parametrize("sharp", [False, True])
def test_five_hundred_layers_are_what_the_formulas_say_to_their_roundings(sharp: bool) -> None:
    rng = np.random.default_rng(18)
    for turn in range(500):
        of = (rng.uniform(0.2, 1.5), rng.uniform(0.2, 1.5))
        fine = sprite(rng, int(rng.integers(4, 90)), int(rng.integers(4, 90)), of)
        share = float(rng.uniform()) if turn % 2 else 0.0
        seen = [(fine, 1.0)]
        if share:
            seen = [(fine, 1.0 - share), (sprite(rng, int(rng.integers(3, 60)), int(rng.integers(3, 60)), of), share)]
        angle, size = rng.uniform(0, 7), rng.uniform(8, 90)
        pixel_from_plane = np.array((
            (size * np.cos(angle), -size * np.sin(angle), BOX[0] + rng.uniform(0, WIDTH)),
            (size * np.sin(angle), size * np.cos(angle), BOX[1] + rng.uniform(0, HEIGHT)),
            (0.4 * rng.uniform(-1, 1), 0.4 * rng.uniform(-1, 1), 1.0),
        ))  # fmt: skip
        opacity = 1.0 if turn % 3 else float(rng.integers(0, 256) / 255)
        canvas = np.zeros((HEIGHT, WIDTH, 4), np.uint8) if turn % 5 == 0 else sprite(rng, WIDTH - 4, HEIGHT - 4, (1.0, 1.0)).pixels.copy()
        below = canvas.astype(float)
        left, top = of[0] / 2 + 2 / fine.sprite_from_plane[0, 0], of[1] / 2 + 2 / fine.sprite_from_plane[1, 1]
        corners = map_points(pixel_from_plane, np.array(((-left, -top), (left, -top), (left, top), (-left, top))))
        back = np.linalg.inv(pixel_from_plane)
        # The gutters of two levels differ: what is seen of the coarser may reach further.
        spans = touched_spans(corners, BOX, 1.5 if not share else 40.0)
        place(canvas, BOX, seen, back, spans, opacity=opacity, sharp=sharp)
        off = np.abs(canvas - expected(below, seen, back, opacity, sharp))
        assert off.max() <= 2.5, (turn, off.max(), np.unravel_index(off.argmax(), off.shape))
        assert off.mean() < 0.6
        for y, (first, last) in enumerate(zip(*spans, strict=True)):
            assert (canvas[y, :first] == below[y, :first]).all() and (canvas[y, last:] == below[y, last:]).all()


@pytest.mark.parametrize("horizon", [0.0, 0.9])
def test_what_a_picture_covers_wholly_is_what_it_would_be_over_what_lies_below(horizon: float) -> None:
    """A photo with a border, seen flat and nearly up to the horizon: where nothing of what is below shows, it need not be read."""
    rng = np.random.default_rng(3)
    photo = mounted("p", 0.9, 0.6)
    picture = np.full((70, 100, 4), 255, np.uint8)
    picture[..., :3] = rng.integers(0, 256, (70, 100, 3))
    seen = [(Sprite(picture, np.array(((96 / 0.9, 0.0, 50.0), (0.0, 66 / 0.6, 35.0), (0.0, 0.0, 1.0)))), 1.0)]
    pixel_from_plane = np.array(((60.0, 9.0, 50.0), (-9.0, 60.0, 35.0), (horizon, 0.3, 1.0)))
    edges = edges_of(photo, pixel_from_plane, BOX)
    canvases = [np.full((HEIGHT, WIDTH, 4), 255, np.uint8) for _ in range(2)]
    for canvas, solid in zip(canvases, (False, True), strict=True):
        place(canvas, BOX, seen, np.linalg.inv(pixel_from_plane), edges.reach, edges, solid=solid)
    assert (canvases[0] == canvases[1]).all() and (canvases[0] != 255).any()


def test_planes_and_mixes_are_what_the_formulas_say_at_every_width() -> None:
    rng = np.random.default_rng(5)
    for width in (2, 4, 10, 16, 18, 34, 50):
        rgba = rng.integers(0, 256, (4, width, 4), np.uint8)
        luma, blue, red = np.empty((4, width), np.uint8), np.empty((2, width // 2), np.uint8), np.empty((2, width // 2), np.uint8)
        rgba_to_yuv420(rgba, luma, blue, red)
        r, g, b = (rgba[..., c] / 255 for c in range(3))
        y = 0.2126 * r + 0.7152 * g + 0.0722 * b
        assert np.abs(luma - (16 + 219 * y)).max() <= 0.51
        for plane, chroma in ((blue, (b - y) / 1.8556), (red, (r - y) / 1.5748)):
            padded = np.pad(chroma, ((0, 0), (1, 0)), mode="edge")
            across = (padded[:, 0:width:2] + 2 * padded[:, 1 : width + 1 : 2] + padded[:, 2 : width + 1 : 2]) / 4
            assert np.abs(plane - (128 + 224 * (across[::2] + across[1::2]) / 2)).max() <= 0.52
        above, mixed = rng.integers(0, 256, (4, width, 4), np.uint8), rgba.copy()
        amount = int(rng.integers(0, 65537))
        mix(mixed, above, amount)
        assert np.abs(mixed - (rgba + (above.astype(float) - rgba) * amount / 65536)).max() <= 0.52
