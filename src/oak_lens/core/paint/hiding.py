"""What an opaque photo hides: nothing painted there below it would be seen."""

import numpy as np
from numpy.typing import NDArray

from ..draw import LayerItem, MountedPhoto, matrix_of
from ..space import Matrix3, box_corners, map_points
from .effects import in_pixels
from .streaks import way_of
from .warps import Spans, covered_spans, density

Way = list[NDArray[np.float64]]
"""Corners (4, 2), in pixels of the frame, clockwise, of what hides at each moment of the exposure: none where nothing does."""

EDGE_PX = 3.0
"""The softened edge of a photo, and something to spare."""


def way_hidden(item: LayerItem, to_pixels: Matrix3) -> Way:
    """Of a layer whose photo is an opaque rectangle but for round corners: what it hides wholly."""
    content = item.content
    if item.opacity < 1.0 or item.blend != "normal" or item.clip is not None or item.blur or item.focus or not isinstance(content, MountedPhoto):
        return []
    pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane)
    inset = content.radius + EDGE_PX / max(density(pixel_from_plane), 1e-6)
    left, top, right, bottom = content.sheet
    if right - left <= 2 * inset or bottom - top <= 2 * inset:
        return []
    corners = map_points(pixel_from_plane, box_corners(left + inset, top + inset, right - inset, bottom - inset))
    # What moves hides only what it hides all along: a straight way does where it does at its ends.
    way = [corners] if item.travel is None else way_of(in_pixels(item.travel, to_pixels), corners)
    return way if np.isfinite(way).all() else []


def hidden_spans(way: Way, box: tuple[int, int, int, int]) -> Spans:
    """The pixels of each row of a box of the frame that are hidden all along; an empty span stands at the row's end."""
    left, top, right, bottom = box
    if not way:
        none = np.full(bottom - top, right - left, np.int64)
        return none, none
    if len(way) == 1:
        return covered_spans(way[0], box)
    spans = [covered_spans(at, box) for at in way]
    first, last = np.maximum.reduce([s[0] for s in spans]), np.minimum.reduce([s[1] for s in spans])
    empty = last <= first
    first[empty] = last[empty] = right - left
    return first, last
