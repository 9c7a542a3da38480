"""Suggested views and enlargement."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.framing import chosen_fit, enlargement, limited_view, picture_polygon, suggested_views
from oak_lens.core.space import map_points, similarity

aspects = st.floats(0.3, 4.0)


@given(aspects, aspects, st.integers(0, 50))
def test_suggested_views_move_and_need_no_correction_of_what_is_seen(picture: float, frame: float, variation: int) -> None:
    fit = chosen_fit("auto", picture, frame)
    opening, closing = (limited_view(v, fit, picture, frame) for v in suggested_views(fit, picture, frame, variation))
    assert opening != closing
    if fit == "fill":
        for view in (opening, closing):
            polygon = picture_polygon(view, fit, picture, frame)
            assert polygon.min() >= -1e-9 and polygon.max() <= 1 + 1e-9


def test_neighbours_are_suggested_different_moves() -> None:
    for fit, picture in (("fill", 1.5), ("whole", 0.7), ("fill", 3.0)):
        moves = [suggested_views(fit, picture, 16 / 9, i) for i in range(6)]  # type: ignore[arg-type]
        assert all(a != b for a, b in itertools.pairwise(moves))


def test_a_panorama_is_travelled_along() -> None:
    opening, closing = (limited_view(v, "fill", 3.2, 16 / 9) for v in suggested_views("fill", 3.2, 16 / 9, 0))
    left, right = (picture_polygon(v, "fill", 3.2, 16 / 9)[:, 0] for v in (opening, closing))
    assert left.min() == pytest.approx(0, abs=0.13) and right.max() == pytest.approx(1, abs=0.13) and right.min() > left.min() + 0.3


@given(st.floats(0.2, 5), st.floats(-180, 180), st.floats(0, 0.15), st.floats(0, 0.15))
def test_enlargement_is_the_farthest_two_neighbouring_pixels_are_pulled_apart(
    scale: float, turn: float, across: float, down: float
) -> None:
    matrix = similarity(scale, turn, 0.1, -0.2)
    matrix[2, 0], matrix[2, 1] = across, down
    width, height, pixels = 1.5, 1.0, 3000
    step = width / pixels
    places = np.array([(x, y) for x in (-0.75, 0, 0.75) for y in (-0.5, 0, 0.5)])
    directions = [(np.cos(a), np.sin(a)) for a in np.linspace(0, np.pi, 90)]
    stretched = max(
        float(
            np.linalg.norm(
                map_points(matrix, places + np.array(d) * step / 2) - map_points(matrix, places - np.array(d) * step / 2), axis=1
            ).max()
        )
        for d in directions
    )
    assert enlargement(matrix, width, height, pixels, 1080) == pytest.approx(stretched * 1080, rel=0.01)
