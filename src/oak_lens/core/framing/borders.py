"""Finding the dark or light borders around scans."""

import numpy as np
from numpy.typing import NDArray

from ..document import Area

DARK, LIGHT = 46.0, 212.0
SPREAD = 22.0
"""Levels that a border's pixels may differ from its own middle."""

STEP = 12.0
"""Levels by which at least half of a border's last line must differ from the picture's first lines."""

CLEAN_SHARE = 0.97
LEAST_BORDER = 0.006
LEAST_PICTURE = 0.25


def borders_in(pixels: NDArray[np.uint8]) -> Area | None:
    """What is left of a picture (h, w, 3) uint8 without plain dark or light borders, in its fractions; None if it has none.

    From each side inwards, lines belong to the border as long as nearly all of their pixels are about as dark (or light) as its rim.
    """
    grey = pixels.astype(np.float32) @ np.array((0.2126, 0.7152, 0.0722), np.float32)
    height, width = grey.shape
    top, bottom = _depth(grey), _depth(grey[::-1])
    middle = grey[top : height - bottom] if top + bottom < height else grey
    left, right = _depth(middle.T), _depth(middle.T[::-1])
    # Lines of the long sides alone may have kept rows that are border between the found columns.
    inner = grey[:, left : width - right]
    top, bottom = max(top, _depth(inner)), max(bottom, _depth(inner[::-1]))
    found = [(top, height), (bottom, height), (left, width), (right, width)]
    if all(depth < LEAST_BORDER * side for depth, side in found):
        return None
    # One line more each: scanning softens the edge.
    x, y = (left + (1 if left else 0)) / width, (top + (1 if top else 0)) / height
    right_edge, bottom_edge = 1.0 - (right + (1 if right else 0)) / width, 1.0 - (bottom + (1 if bottom else 0)) / height
    if right_edge - x < LEAST_PICTURE or bottom_edge - y < LEAST_PICTURE:
        return None
    return Area(x=x, y=y, width=right_edge - x, height=bottom_edge - y)


def _depth(grey: NDArray[np.float32]) -> int:
    """How many lines from the first on are border."""
    rim = float(np.median(grey[0]))
    if DARK < rim < LIGHT:
        return 0
    clean = (np.abs(grey - rim) <= SPREAD).mean(axis=1) >= CLEAN_SHARE
    depth = int(np.argmin(clean)) if not clean.all() else len(clean)
    if not 0 < depth < len(clean) * 0.6:
        return 0
    # A scan's border ends at a step; a pale sky or a dark ground goes over little by little.
    step = np.abs(grey[min(depth + 2, len(grey) - 1)] - grey[max(depth - 3, 0)])
    return depth if float(np.median(step)) >= STEP else 0
