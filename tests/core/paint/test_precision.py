"""Precision: where a mark is painted, how a fine chart shrinks, edges at every angle."""

from collections.abc import Callable

import numpy as np
import pytest
from PIL import Image

from oak_lens.core.draw import ColourItem, DrawList, PhotoItem, homography_of
from oak_lens.core.paint import Painter
from oak_lens.core.space import Camera, Matrix3, frame_from_world, map_points, plane_homography, similarity, swung, tipped, turned
from tests.conftest import Pictures

W, H = 1280, 720
ASPECT = W / H


def shown(source: Pictures, matrix: Matrix3, width: float = 1.5, height: float = 1.0, **mount: object) -> np.ndarray:
    item = PhotoItem(
        "p", homography_of(matrix), width, height, **{"border": 0.0, "border_colour": "#ffffff", "radius": 0.0, "opacity": 1.0, **mount}
    )  # type: ignore[arg-type]
    return Painter(source).paint(DrawList(ASPECT, (ColourItem("#000000"), item)), W, H)


def perspective(swing: float, tip: float, turn: float) -> Matrix3:
    return plane_homography(frame_from_world(Camera(), ASPECT) @ turned(turn) @ tipped(tip) @ swung(swing))


MOVES: dict[str, Callable[[int], Matrix3]] = {
    "pan": lambda i: similarity(1.0, 0.0, i * 0.1 / H, i * 0.03 / H),
    "zoom": lambda i: similarity(1.0 + i * 0.0005, 0.0, 0.0, 0.0),
    "turn": lambda i: similarity(1.0, i * 0.05, 0.0, 0.0),
    "perspective": lambda i: perspective(10 + i * 0.02, -6.0, i * 0.01),
}


@pytest.mark.parametrize("move", MOVES)
def test_slow_moves_put_a_mark_where_mathematics_does(move: str) -> None:
    height, width, sigma = 1080, 1620, 14.0
    y, x = np.mgrid[:height, :width] + 0.5
    mark = np.array((950.3, 470.6))
    glow = 250 * np.exp(-((x - mark[0]) ** 2 + (y - mark[1]) ** 2) / (2 * sigma**2))
    source = Pictures(p=np.dstack([glow, glow, glow, np.full_like(glow, 255)]).round().astype(np.uint8))
    on_plane = np.array([[mark[0] / width * 1.5 - 0.75, mark[1] / height - 0.5]])
    errors = []
    for i in range(0, 60, 3):
        matrix = MOVES[move](i)
        pixels = shown(source, matrix)[..., 0].astype(float)
        expected = map_points(matrix, on_plane)[0] * H + (W / 2, H / 2)
        left, top = (expected - 55).astype(int)
        window = pixels[top : top + 110, left : left + 110]
        yy, xx = np.mgrid[top : top + 110, left : left + 110] + 0.5
        errors += [(window * xx).sum() / window.sum() - expected[0], (window * yy).sum() / window.sum() - expected[1]]
    drift = np.array(errors).reshape(-1, 2)
    if move == "perspective":
        # Perspective makes the blot itself lopsided by a constant part of a pixel; what matters is that it does not jump.
        drift = drift - np.linspace(drift[0], drift[-1], len(drift))
    assert np.sqrt((drift**2).mean()) <= 0.01 and np.abs(drift).max() <= 0.03


def test_a_shrunken_chart_is_as_good_as_a_lanczos_reference() -> None:
    side = 2400
    y, x = np.mgrid[:side, :side].astype(float)
    chart = 127.5 + 127.5 * np.sin(((x - side / 2) ** 2 + (y - side / 2) ** 2) * np.pi / side / 1.2)
    picture = np.dstack([chart, chart, chart, np.full_like(chart, 255)]).round().astype(np.uint8)
    scale = 0.15
    size = round(side * scale)
    pixels = shown(Pictures(p=picture), similarity(1.0, 0.0, 0.0, 0.0), width=size / H, height=size / H)
    left, top = (W - size) // 2, (H - size) // 2
    ours = pixels[top + 2 : top + size - 2, left + 2 : left + size - 2, 0].astype(float)
    reference = np.asarray(Image.fromarray(picture[..., 0]).resize((size, size), Image.Resampling.LANCZOS)).astype(float)[2:-2, 2:-2]
    psnr = 10 * np.log10(255**2 / ((ours - reference) ** 2).mean())
    assert psnr >= 31.0


@pytest.mark.parametrize("angle", [0.0, 3.0, 17.0, 45.0])
def test_edges_are_smooth_at_every_angle(angle: float) -> None:
    white = np.full((600, 900, 4), 255, np.uint8)
    small = shown(Pictures(p=white), similarity(0.5, angle, 0.0013, 0.0007))[..., 0].astype(float)
    # The area of the white quad, pixel by pixel, from 16 x 16 samples.
    inverse = np.linalg.inv(similarity(0.5, angle, 0.0013, 0.0007))
    samples = (np.arange(16) + 0.5) / 16
    rows, columns = slice(150, 570), slice(330, 950)
    yy, xx = np.mgrid[rows, columns]
    covered = np.zeros(yy.shape)
    for dy in samples:
        for dx in samples:
            points = np.dstack([(xx + dx - W / 2) / H, (yy + dy - H / 2) / H]).reshape(-1, 2)
            u, v = map_points(inverse, points).T
            covered += ((np.abs(u) < 0.75) & (np.abs(v) < 0.5)).reshape(yy.shape)
    error = small[rows, columns] - covered / 256 * 255
    edge = (covered > 0) & (covered < 256)
    assert np.sqrt((error[edge] ** 2).mean()) < 14.0 and np.abs(error[~edge]).mean() < 0.6


def test_a_border_is_even_on_all_sides_of_a_turned_photo() -> None:
    grey = np.dstack([np.full((900, 600), 90)] * 3 + [np.full((900, 600), 255)]).astype(np.uint8)
    for angle in (0.0, 12.0):
        pixels = shown(Pictures(p=grey), similarity(0.6, angle, 0.0, 0.0), width=2 / 3, height=1.0, border=0.03)
        unit = np.array((np.cos(np.radians(angle)), np.sin(np.radians(angle))))
        widths = []
        for direction, reach in ((unit, 0.2), (-unit, 0.2), (np.array((-unit[1], unit[0])), 0.3), (np.array((unit[1], -unit[0])), 0.3)):
            along = np.arange(reach * H - 20, reach * H + 40, 0.05)
            places = np.array((W / 2, H / 2)) + along[:, None] * direction
            values = pixels[places[:, 1].astype(int), places[:, 0].astype(int), 0]
            widths.append((values > 172).sum() * 0.05)
        assert np.ptp(widths) < 1.5 and np.mean(widths) == pytest.approx(0.03 * 0.6 * H, abs=1.0)
