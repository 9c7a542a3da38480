"""Warps: which pixels a quad touches, covers and hides, and which levels it is drawn from."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.paint.warps import covered_box, covered_spans, covers_frame, density, drawn_level, levels_for, pixel_from_frame, warped
from oak_lens.core.space import map_points, rectangle_corners, similarity
from tests.conftest import picture

WIDTH, HEIGHT = 64, 36
turns = st.floats(-180, 180)
sizes = st.floats(0.1, 3.0)
places = st.floats(-0.6, 0.6)


def inside(corners: np.ndarray, points: np.ndarray) -> np.ndarray:
    """Whether points lie in a clockwise convex quad."""
    held = np.ones(len(points), bool)
    for a, b in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        held &= (b[0] - a[0]) * (points[:, 1] - a[1]) - (b[1] - a[1]) * (points[:, 0] - a[0]) >= -1e-9
    return held


def pixel_corners() -> np.ndarray:
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    return np.stack([np.stack([x + dx, y + dy], axis=-1) for dx, dy in ((0, 0), (1, 0), (1, 1), (0, 1))])


@given(turns, sizes, places, places)
def test_spans_hold_exactly_the_pixels_wholly_inside(turn: float, size: float, x: float, y: float) -> None:
    matrix = pixel_from_frame(WIDTH, HEIGHT) @ similarity(size, turn, x, y)
    corners = map_points(matrix, rectangle_corners(1.2, 0.7))
    wholly = np.ones((HEIGHT, WIDTH), bool)
    for points in pixel_corners():
        wholly &= inside(corners, points.reshape(-1, 2).astype(float)).reshape(HEIGHT, WIDTH)
    first, last = covered_spans(corners, (0, 0, WIDTH, HEIGHT))
    columns = np.arange(WIDTH)
    spans = (columns >= first[:, None]) & (columns < last[:, None])
    # Nothing outside may be left out; at most a rim pixel of rounding may be painted though it is hidden.
    assert not (spans & ~wholly).any() and (wholly & ~spans).sum() <= HEIGHT
    if covers_frame(matrix, rectangle_corners(1.2, 0.7), WIDTH, HEIGHT):
        assert wholly.all() and spans.all()


@given(turns, sizes, places, places)
def test_the_box_holds_every_pixel_a_quad_touches(turn: float, size: float, x: float, y: float) -> None:
    matrix = pixel_from_frame(WIDTH, HEIGHT) @ similarity(size, turn, x, y)
    corners = map_points(matrix, rectangle_corners(1.2, 0.7))
    y0, x0 = np.mgrid[:HEIGHT, :WIDTH]
    touched = inside(corners, np.stack([x0 + 0.5, y0 + 0.5], axis=-1).reshape(-1, 2)).reshape(HEIGHT, WIDTH)
    box = covered_box(matrix, rectangle_corners(1.2, 0.7), WIDTH, HEIGHT)
    if box is None:
        assert not touched.any()
    else:
        left, top, right, bottom = box
        touched[top:bottom, left:right] = False
        assert not touched.any()


@given(st.floats(0.01, 50), st.integers(0, 12))
def test_levels_are_neighbours_whose_weights_sum_to_one(ratio: float, coarsest: int) -> None:
    levels = levels_for(100.0, 100.0 * ratio, coarsest)
    assert sum(w for _, w in levels) == pytest.approx(1.0) and all(0 <= k <= coarsest for k, _ in levels)
    assert len(levels) == 1 or levels[1][0] == levels[0][0] + 1
    for level, _ in levels:
        pixel_ratio = ratio * 2 ** (-level / 2)
        # Neither enlarged by more than half a step nor reduced by more than one and a bit, where there is a choice.
        assert level in (0, coarsest) or 0.69 <= pixel_ratio <= 1.6


def test_passing_from_one_level_to_the_next_never_jumps() -> None:
    def mixed(ratio: float) -> float:
        return sum(k * w for k, w in levels_for(1.0, ratio, 10))

    steps = np.array([mixed(r) for r in np.linspace(1.0, 8.0, 4000)])
    assert (np.diff(steps) >= 0).all() and np.diff(steps).max() < 0.05


def test_density_is_pixels_per_unit() -> None:
    matrix = pixel_from_frame(1920, 1080) @ similarity(0.5, 33, 0.1, 0.2)
    assert density(matrix) == pytest.approx(540)


def test_whole_pixel_moves_move_pixels_and_change_none() -> None:
    pixels = picture(60, 40, 2)
    moved = warped(pixels, similarity(1.0, 0.0, -7.0, 5.0), (0, 0, 60, 40))
    assert (moved[:35, 7:] == pixels[5:, :53]).all() and not moved[:, :7].any() and not moved[35:].any()


@given(st.floats(0.01, 50), st.integers(0, 12))
def test_a_drawn_level_is_just_finer_than_it_is_seen(ratio: float, coarsest: int) -> None:
    level = drawn_level(100.0, 100.0 * ratio, coarsest, -10)
    assert -10 <= level <= coarsest and level * 4 == int(level * 4)
    seen_px = ratio * 2 ** (-level / 2)
    # Pixels of the sprite for one of the frame: one, or less than a fifth more, wherever there is such a level.
    assert level in (-10, coarsest) or 1.0 - 1e-6 <= seen_px < 1.1893
