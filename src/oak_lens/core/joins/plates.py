"""What joins that move pictures share."""

from dataclasses import replace
from typing import TypeVar

import numpy as np

from ..draw import Composition, DrawItem, GroupItem, LayerItem, Mixture, Numbers9, Picturing, Plate, ShadowItem, homography_of, matrix_of
from ..space import Matrix3, box_corners, map_points

Seen = TypeVar("Seen", LayerItem, ShadowItem)


def shift(x: float, y: float) -> Matrix3:
    """A shift by (x, y) frame heights."""
    return np.array(((1.0, 0.0, x), (0.0, 1.0, y), (0.0, 0.0, 1.0)))


def shifted(x: float, y: float) -> Numbers9:
    return homography_of(shift(x, y))


def scaled(size: float, turn: float = 0.0) -> Numbers9:
    """About the frame's middle; `turn` in radians, clockwise."""
    c, s = size * np.cos(turn), size * np.sin(turn)
    return homography_of(np.array(((c, -s, 0.0), (s, c, 0.0), (0.0, 0.0, 1.0))))


def spread(picturing: Picturing, x: float, y: float) -> Picturing:
    """The scene with all that does not fill its frame moved by (x, y) frame heights more than its backdrop: things at the frame's depth by
    so much, nearer ones by more and farther ones by less, as a travelling camera sees them."""
    if x == 0.0 and y == 0.0:
        return picturing
    if isinstance(picturing, Mixture):
        return replace(picturing, below=spread(picturing.below, x, y), above=spread(picturing.above, x, y))
    if isinstance(picturing, Composition):
        parts = tuple(replace(p, picture=spread(p.picture, x, y)) if isinstance(p, Plate) else p for p in picturing.parts)
        return replace(picturing, parts=parts)
    return replace(picturing, items=tuple(_spread(item, x, y, picturing.aspect) for item in picturing.items))


def _spread(item: DrawItem, x: float, y: float, aspect: float) -> DrawItem:
    if isinstance(item, GroupItem):
        frame = item.frame_from_plane
        moved = None if frame is None else homography_of(shift(x, y) @ matrix_of(frame))
        return replace(item, items=tuple(_spread(i, x, y, aspect) for i in item.items), frame_from_plane=moved)
    if isinstance(item, LayerItem):
        return _moved(item, x, y, aspect)
    if isinstance(item, ShadowItem):
        return _moved(item, x, y, aspect)
    return item


def _moved(item: Seen, x: float, y: float, aspect: float) -> Seen:
    matrix = matrix_of(item.frame_from_plane)
    away = max(float(matrix[2, 2]), 0.2)
    corners = map_points(matrix, box_corners(*item.content.sheet))
    # What fills the frame is a ground of its own: it must not bare its edges.
    if _covers(corners, aspect):
        return item
    by = shift(x / away, y / away)
    travel = None if item.travel is None else homography_of(by @ matrix_of(item.travel) @ np.linalg.inv(by))
    return replace(item, frame_from_plane=homography_of(by @ matrix), travel=travel)


def _covers(corners: Matrix3, aspect: float) -> bool:
    """Whether a convex outline holds the frame's four corners; one that reaches behind the camera is never taken to."""
    if not np.isfinite(corners).all():
        return False
    frame = box_corners(-aspect / 2, -0.5, aspect / 2, 0.5) * 0.999
    following = np.roll(corners, -1, axis=0) - corners
    sides = [(following[:, 0] * (p[1] - corners[:, 1]) - following[:, 1] * (p[0] - corners[:, 0])) for p in frame]
    return all((s >= 0.0).all() for s in sides) or all((s <= 0.0).all() for s in sides)
