"""How levels are spread, and what is clipped."""

import numpy as np
import pytest

from oak_lens.core.looks import histogram
from oak_lens.core.looks.histogram import BINS


def test_levels_are_counted_and_what_is_clipped_is_told() -> None:
    pixels = np.full((100, 100, 3), 128, np.uint8)
    pixels[:10] = 255
    pixels[10:15, :, 2] = 0
    pixels[50:75, :, 0] = 64
    found = histogram(pixels)
    assert (found.dark, found.light) == (0.05, 0.1)
    red, green, _ = (np.array(c) for c in found.channels)
    assert len(red) == BINS and green[128 * BINS // 256] == 1.0
    assert red[64 * BINS // 256] == pytest.approx(2500 / 9000, abs=1e-3) and red.max() <= 1.0 and red[5] == 0


def test_what_is_clipped_does_not_make_the_rest_invisible() -> None:
    pixels = np.zeros((100, 100, 3), np.uint8)
    pixels[:5] = 90
    found = histogram(pixels)
    assert found.dark == 0.95 and all(channel[0] == 1.0 and channel[90 * BINS // 256] == 1.0 for channel in found.channels)
