"""A line of handwriting as coverage."""

from math import ceil

import numpy as np
from numpy.typing import NDArray

from ..letters import Block, Choice, Run, lay_out, letter_pieces, octave_for
from ..looks import Setting
from .areas import cover_areas

HANDWRITING = Choice("kalam", 400.0, False)
ASCENT, DESCENT = 1.1, 0.5
"""Room above and below the base line, in shares of the size."""


LONGEST_LINE_PX = 4000


def line_coverage(text: str, choice: Choice, size_px: float) -> NDArray[np.uint8]:
    """(h, w) uint8 coverage of one line of text in a face, `size_px` high; cut off where it is very long."""
    block = Block((Run(" ".join(text.split()), choice),), Setting(across="left", down="top"))
    layout = lay_out(block)
    width = min(ceil(layout.box[2] * size_px) + ceil(size_px / 2), LONGEST_LINE_PX)
    canvas = np.zeros((ceil(size_px * (ASCENT + DESCENT)), max(width, 1)), np.float32)
    _cover(block, canvas, size_px, size_px / 6.0, size_px * (ASCENT - layout.lines[0].baseline))
    return np.asarray(np.rint(canvas * 255.0), np.uint8)


def _cover(block: Block, canvas: NDArray[np.float32], size: float, x: float, y: float) -> None:
    """The letters of a block at (x, y) of a canvas."""
    pieces = letter_pieces(block, octave_for(size), ())
    matrix = np.array(((size, 0.0, x), (0.0, size, y), (0.0, 0.0, 1.0)))
    matrices = np.ascontiguousarray(np.broadcast_to(matrix, (len(pieces.clusters), 1, 3, 3)))
    cover_areas(canvas, pieces.segments, pieces.starts, matrices, np.ones(len(pieces.clusters)))


def written(text: str, size_px: float, widest_px: float) -> NDArray[np.uint8]:
    """(h, w) uint8 coverage of one line in the handwriting face, its letters `size_px` high, smaller if it is too wide."""
    block = Block((Run(" ".join(text.split()), HANDWRITING),), Setting(across="left", down="top"))
    layout = lay_out(block)
    size = max(4.0, size_px)
    length = layout.box[2] * size
    if length > widest_px:
        size = max(4.0, size * widest_px / length)
        length = layout.box[2] * size
    canvas = np.zeros((ceil(size * (ASCENT + DESCENT)) + 2, ceil(length) + 4), np.float32)
    _cover(block, canvas, size, 2.0, size * (ASCENT - layout.lines[0].baseline))
    return np.asarray(np.rint(canvas * 255.0), np.uint8)
