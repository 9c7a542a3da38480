"""What an opaque photo hides: nothing painted there below it would be seen."""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..draw import LayerItem, MountedPhoto, matrix_of
from ..space import Matrix3, box_corners, map_points
from .effects import in_pixels
from .kernels import compiled
from .streaks import way_of
from .warps import Spans, covered_spans, density, spans_of

Way = list[NDArray[np.float64]]
"""Corners (4, 2), in pixels of the frame, clockwise, of what hides at each moment of the exposure: none where nothing does."""

EDGE_PX = 3.0
"""The softened edge of a photo, and something to spare."""


Box = tuple[int, int, int, int]


class Hiders:
    """What each of the items of a list hides (`ways`), asked for by what lies below it."""

    def __init__(self, ways: list[Way]):
        self._ways = ways
        # (n, 4): left, top, right, bottom of what is hidden; of what hides nothing, none.
        self._bounds, self._corners = np.full((len(ways), 4), np.inf), np.zeros((len(ways), 4, 2))
        for bounds, corners, way in zip(self._bounds, self._corners, ways, strict=True):
            if len(way) == 1:
                corners[:] = way[0]
                bounds[:2], bounds[2:] = way[0].min(axis=0), way[0].max(axis=0)

    def of(self, index: int) -> Way:
        return self._ways[index]

    def trimmed(self, reach: Spans, index: int, box: Box) -> Spans:
        """See `Hidden`; `reach` is changed."""
        left, top, right, bottom = box
        _trim_by(self._corners, self._bounds, index + 1, left, top, right, bottom, reach[0], reach[1])
        return reach


@dataclass(frozen=True, slots=True)
class Hidden:
    """What is hidden of one item of a list."""

    hiders: Hiders
    index: int

    @property
    def way(self) -> Way:
        """By the item itself, of its shadow."""
        return self.hiders.of(self.index)

    def trimmed(self, reach: Spans, box: Box) -> Spans:
        """The pixels of each row of a box that are seen at their ends: what others above it hide there is left out."""
        return self.hiders.trimmed(reach, self.index, box)


@compiled
def _trim_by(corners: Any, bounds: Any, begin: int, left: int, top: int, right: int, bottom: int, first: Any, last: Any) -> None:
    hidden_from, hidden_to = np.empty(first.shape[0], np.int64), np.empty(first.shape[0], np.int64)
    for i in range(begin, bounds.shape[0]):
        if bounds[i, 0] < right and bounds[i, 1] < bottom and bounds[i, 2] > left and bounds[i, 3] > top:
            spans_of(corners[i], left, top, right, hidden_from, hidden_to)
            _trim(first, last, hidden_from, hidden_to)


@compiled
def _trim(first: Any, last: Any, hidden_from: Any, hidden_to: Any) -> None:
    for y in range(first.shape[0]):
        if hidden_from[y] < hidden_to[y] and first[y] < last[y]:
            if hidden_from[y] <= first[y]:
                first[y] = min(max(first[y], hidden_to[y]), last[y])
            elif hidden_to[y] >= last[y]:
                last[y] = max(min(last[y], hidden_from[y]), first[y])


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


def hidden_spans(way: Way, box: Box) -> Spans:
    """The pixels of each row of a box of the frame that are hidden all along a way; an empty span stands at the row's end."""
    left, _, right, _ = box
    if len(way) == 1:
        return covered_spans(way[0], box)
    spans = [covered_spans(at, box) for at in way]
    first, last = np.maximum.reduce([s[0] for s in spans]), np.minimum.reduce([s[1] for s in spans])
    empty = last <= first
    first[empty] = last[empty] = right - left
    return first, last
