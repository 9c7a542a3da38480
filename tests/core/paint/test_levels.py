"""Pyramids: sizes, weights, and a reduction as good as a well-kept library's."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from oak_lens.core.paint import coarsest_level, level_size, reduced_level
from oak_lens.core.paint.levels import lanczos_weights
from tests.conftest import Pictures, picture


@given(st.integers(1, 5000), st.integers(1, 5000))
def test_weights_sum_to_one_and_stay_inside(length: int, target: int) -> None:
    target = min(length, target)
    starts, weights = lanczos_weights(length, target)
    assert weights.sum(axis=1) == pytest.approx(np.ones(target), abs=1e-5)
    assert starts.min() >= 0 and (starts + weights.shape[1]).max() <= length


@given(st.integers(1, 20000), st.integers(1, 20000))
def test_levels_shrink_by_the_root_of_two_and_end_where_nothing_is_left(width: int, height: int) -> None:
    last = coarsest_level(width, height)
    sizes = [level_size(width, height, k) for k in range(last + 2)]
    assert sizes[0] == (width, height) and all(a[0] >= b[0] and a[1] >= b[1] for a, b in itertools.pairwise(sizes))
    assert last == 0 or min(sizes[last]) >= 8 > min(sizes[last + 1])


@pytest.mark.parametrize("level", [1, 2])
def test_a_reduction_is_that_of_a_well_kept_library(level: int) -> None:
    # Smooth content: where it does not clip, both are the same filter.
    y, x = np.mgrid[:400, :600]
    smooth = np.dstack([128 + 90 * np.sin(x / 9.0), 128 + 90 * np.cos(y / 7.0), 128 + 60 * np.sin((x + y) / 5.0), np.full(x.shape, 255.0)])
    pixels = smooth.round().astype(np.uint8)
    ours = reduced_level((600, 400), level, lambda _: pixels)
    theirs = np.asarray(Image.fromarray(pixels[..., :3]).resize(ours.shape[1::-1], Image.Resampling.LANCZOS))
    assert np.abs(ours[..., :3].astype(int) - theirs).max() <= 1 and (ours[..., 3] == 255).all()


@given(st.integers(0, 255), st.integers(0, 255), st.integers(9, 60), st.integers(9, 60))
def test_flat_colours_stay_flat(grey: int, alpha: int, width: int, height: int) -> None:
    value = min(grey, alpha)
    flat = np.full((height, width, 4), (value, value, value, alpha), np.uint8)
    for level in (1, 2):
        assert (reduced_level((width, height), level, lambda _: flat) == (value, value, value, alpha)).all()


def test_colour_never_exceeds_alpha_at_hard_edges() -> None:
    cut = picture(200, 160, 8).copy()
    cut[:, 90:] = 0
    for level in (1, 2):
        reduced = reduced_level((200, 160), level, lambda _: cut)
        assert (reduced[..., :3] <= reduced[..., 3:]).all()


def test_the_order_of_asking_does_not_matter() -> None:
    pixels = picture(333, 257, 9)
    up, down = Pictures(p=pixels), Pictures(p=pixels)
    for k in range(7):
        up.level("p", k)
    for k in reversed(range(7)):
        assert (down.level("p", k) == up.level("p", k)).all()
