"""Precision: where a mark is painted, how a fine chart shrinks, edges at every angle. Measured as `./oak bench` measures."""

import numpy as np
import pytest
from bench.precision import HEIGHT, MOVES, WIDTH, chart_psnr, displacement, painter_of, shown

from oak_lens.core.space import map_points, similarity


@pytest.mark.parametrize("move", MOVES)
def test_slow_moves_put_a_mark_where_mathematics_does(move: str) -> None:
    found = displacement(move)
    assert found.rms <= 0.008 and found.largest <= 0.02


def test_a_shrunken_chart_is_as_good_as_a_lanczos_reference() -> None:
    assert chart_psnr() >= 32.0


@pytest.mark.parametrize("angle", [0.0, 3.0, 17.0, 45.0])
def test_edges_are_smooth_at_every_angle(angle: float) -> None:
    white = np.full((600, 900, 4), 255, np.uint8)
    small = shown(painter_of(white), similarity(0.5, angle, 0.0013, 0.0007))[..., 0].astype(float)
    # The area of the white quad, pixel by pixel, from 16 x 16 samples where an edge is near.
    inverse = np.linalg.inv(similarity(0.5, angle, 0.0013, 0.0007))
    offsets = np.stack(np.meshgrid(*[(np.arange(16) + 0.5) / 16] * 2), axis=-1).reshape(1, -1, 2)
    pixels = np.stack(np.meshgrid(np.arange(330, 950), np.arange(150, 570)), axis=-1).reshape(-1, 1, 2)

    def beyond(offset: np.ndarray, where: np.ndarray) -> np.ndarray:
        """Film pixels by which points lie outside the quad."""
        points = (where + offset - (WIDTH / 2, HEIGHT / 2)) / HEIGHT
        u, v = np.moveaxis(map_points(inverse, points.reshape(-1, 2)).reshape(points.shape), -1, 0)
        return np.maximum(np.abs(u) - 0.75, np.abs(v) - 0.5) * HEIGHT / 2

    middle = beyond(np.array((0.5, 0.5)), pixels)[:, 0]
    covered = (middle < 0).astype(float)
    near = np.abs(middle) < 1.5
    covered[near] = (beyond(offsets, pixels[near]) < 0).mean(axis=1)
    error = small[150:570, 330:950].ravel() - covered * 255
    edge = (covered > 0) & (covered < 1)
    assert np.sqrt((error[edge] ** 2).mean()) < 10.0 and np.abs(error[~edge]).mean() < 0.1


def test_a_border_is_even_on_all_sides_of_a_turned_photo() -> None:
    grey = np.dstack([np.full((900, 600), 90)] * 3 + [np.full((900, 600), 255)]).astype(np.uint8)
    for angle in (0.0, 12.0):
        pixels = shown(painter_of(grey), similarity(0.6, angle, 0.0, 0.0), width=2 / 3, height=1.0, border=0.03)
        unit = np.array((np.cos(np.radians(angle)), np.sin(np.radians(angle))))
        widths = []
        for direction, reach in ((unit, 0.2), (-unit, 0.2), (np.array((-unit[1], unit[0])), 0.3), (np.array((unit[1], -unit[0])), 0.3)):
            along = np.arange(reach * HEIGHT - 20, reach * HEIGHT + 40, 0.05)
            places = np.array((WIDTH / 2, HEIGHT / 2)) + along[:, None] * direction
            values = pixels[places[:, 1].astype(int), places[:, 0].astype(int), 0]
            widths.append((values > 172).sum() * 0.05)
        assert np.ptp(widths) < 1.5 and np.mean(widths) == pytest.approx(0.03 * 0.6 * HEIGHT, abs=1.0)
