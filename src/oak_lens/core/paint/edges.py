"""A picture and the border around it, cut out at the frame's own resolution: an edge fades over one pixel of the film, however large the
picture's own pixels are seen, and what reaches to the frame's edge covers it."""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..draw import MountedPhoto
from ..looks.colours import rgb_of
from ..space import Matrix3, box_corners, map_points
from .kernels import compiled
from .warps import Spans, covered_spans, inverse

ROUND_INSET = 0.3
"""A rectangle this share of the radius inside one with round corners lies inside it (1 - 1 / √2)."""

SEEN_BEYOND = 1.3
"""Pixels beyond an edge in which all pixels lie that it covers in part: half of one, and half of its diagonal."""

HAIR_PX = 0.01


@dataclass(frozen=True, slots=True)
class Edges:
    """Where a picture and its border end in a box of the frame.

    `spans` (8, box h) int64, from the box's left edge: of each row, from the outside in, from where to where anything may show, all is
    border or picture, picture may show, all is picture; an empty span's ends meet. `told`: whether that could be found; if not, every pixel is
    looked at. `plane_from_pixel` (3, 3); `sizes` (5,): half the picture's width and height, its corners' radius, the border, its corners'
    radius, in units of the plane; `colour` (3,) of the border, 0..255.
    """

    told: bool
    plane_from_pixel: Matrix3
    sizes: NDArray[np.float64]
    colour: NDArray[np.float64]
    spans: NDArray[np.int64]

    @property
    def reach(self) -> Spans:
        """The pixels of each row that may show anything."""
        return self.spans[0], self.spans[1]


def edges_of(photo: MountedPhoto, pixel_from_plane: Matrix3, box: tuple[int, int, int, int]) -> Edges:
    """The edges of a plain photo in its plane."""
    half_x, half_y, rim, outer = photo.width / 2, photo.height / 2, photo.rim, photo.radius
    inner = max(outer - rim, 0.0)
    plane_from_pixel = inverse(pixel_from_plane)
    pixel = _plane_pixel(plane_from_pixel, box)
    # A pixel wholly inside a rectangle is covered by it; one that is covered in part lies inside a rectangle this much larger.
    larger, round_outer, round_inner = SEEN_BEYOND * pixel, outer * ROUND_INSET, inner * ROUND_INSET
    found = [
        _spans(half_x + by, half_y + by, pixel_from_plane, box)
        for by in (rim + larger, rim - round_outer, larger, -round_inner - HAIR_PX * pixel)
    ]
    # Where the horizon is near, nothing can be told beforehand.
    told = all(spans is not None for spans in found)
    spans = np.array([ends for pair in found for ends in (pair if told and pair is not None else _no_spans(box))])
    if not told:
        spans[0] = 0
    sizes = np.array((half_x, half_y, inner, rim, outer))
    return Edges(told, plane_from_pixel, sizes, np.array(rgb_of(photo.mount.colour), np.float64), spans)


def no_edges(rows: int) -> Edges:
    """What stands for the edges of a sprite that has its own."""
    return Edges(False, np.eye(3), np.zeros(5), np.zeros(3), np.zeros((8, rows), np.int64))


def _plane_pixel(plane_from_pixel: Matrix3, box: tuple[int, int, int, int]) -> float:
    """The most a pixel of the box measures in the plane."""
    left, top, right, bottom = box
    corners = np.array([(x, y, 1.0) for x in (left, right) for y in (top, bottom)]) @ plane_from_pixel.T
    if (corners[:, 2] <= 1e-9).any():
        return np.inf
    flat = corners[:, :2] / corners[:, 2:]
    across = (plane_from_pixel[:2, :2][None] - flat[:, :, None] * plane_from_pixel[2, :2][None, None]) / corners[:, 2, None, None]
    return float(np.linalg.norm(across, axis=2).max())


def _spans(half_x: float, half_y: float, pixel_from_plane: Matrix3, box: tuple[int, int, int, int]) -> Spans | None:
    """The pixels of each row that lie wholly in a rectangle about the origin; None where that cannot be told."""
    if not np.isfinite(half_x):
        return None
    if half_x > 0.0 and half_y > 0.0:
        corners = map_points(pixel_from_plane, box_corners(-half_x, -half_y, half_x, half_y))
        ahead = np.array([(x, y, 1.0) for x in (-half_x, half_x) for y in (-half_y, half_y)]) @ pixel_from_plane[2]
        if not np.isfinite(corners).all() or (ahead <= 1e-9).any():
            return None
        side = np.roll(corners, -1, axis=0) - corners
        turned = side[0, 0] * side[1, 1] - side[0, 1] * side[1, 0]
        return covered_spans(corners if turned > 0 else corners[::-1], box)
    return _no_spans(box)


def _no_spans(box: tuple[int, int, int, int]) -> Spans:
    none = np.full(box[3] - box[1], box[2] - box[0], np.int64)
    return none, none


@compiled
def _share(x: float, y: float, half_x: float, half_y: float, radius: float, per_x: float, per_y: float) -> float:
    """How much of a pixel at (x, y) lies in a rectangle with round corners; `per_x`, `per_y`: what a pixel measures along its axes."""
    beyond_x, beyond_y = abs(x) - half_x + radius, abs(y) - half_y + radius
    if radius > 0.0 and beyond_x > 0.0 and beyond_y > 0.0:
        far = np.sqrt(beyond_x * beyond_x + beyond_y * beyond_y)
        ux, uy = beyond_x / far, beyond_y / far
        per = np.sqrt(ux * ux * per_x * per_x + uy * uy * per_y * per_y)
        return float(min(max(0.5 - (far - radius) / per, 0.0), 1.0))
    # Both sides apart, so that what is thinner than a pixel covers no more than it does.
    across = min(max(0.5 + (half_x - x) / per_x, 0.0), 1.0) + min(max(0.5 + (half_x + x) / per_x, 0.0), 1.0) - 1.0
    down = min(max(0.5 + (half_y - y) / per_y, 0.0), 1.0) + min(max(0.5 + (half_y + y) / per_y, 0.0), 1.0) - 1.0
    return float(max(across, 0.0) * max(down, 0.0))


@compiled
def _fade(
    row: Any,
    first: int,
    last: int,
    fy: float,
    back: Any,
    left: int,
    half_x: float,
    half_y: float,
    inner: float,
    rim: float,
    outer: float,
    colour: Any,
) -> None:
    """Pixels `first` to `last` of a row, each as far as picture and border cover it."""
    for x in range(first, last):
        fx = left + x + 0.5
        w = back[2, 0] * fx + back[2, 1] * fy + back[2, 2]
        part = ground = 0.0
        if w > 1e-9:
            over_w = 1.0 / w
            px = (back[0, 0] * fx + back[0, 1] * fy + back[0, 2]) * over_w
            py = (back[1, 0] * fx + back[1, 1] * fy + back[1, 2]) * over_w
            ax, ay = (back[0, 0] - px * back[2, 0]) * over_w, (back[0, 1] - px * back[2, 1]) * over_w
            bx, by = (back[1, 0] - py * back[2, 0]) * over_w, (back[1, 1] - py * back[2, 1]) * over_w
            per_x, per_y = max(np.sqrt(ax * ax + ay * ay), 1e-12), max(np.sqrt(bx * bx + by * by), 1e-12)
            part = _share(px, py, half_x, half_y, inner, per_x, per_y)
            if rim > 0.0:
                ground = _share(px, py, half_x + rim, half_y + rim, outer, per_x, per_y)
        below = ground * (1.0 - part * row[x, 3] / 255.0)
        row[x, 0] = np.uint8(row[x, 0] * part + colour[0] * below + 0.5)
        row[x, 1] = np.uint8(row[x, 1] * part + colour[1] * below + 0.5)
        row[x, 2] = np.uint8(row[x, 2] * part + colour[2] * below + 0.5)
        row[x, 3] = np.uint8(row[x, 3] * part + 255.0 * below + 0.5)


@compiled
def cut_row(
    row: Any, y: int, start: int, stop: int, left: int, top: int, told: bool, back: Any, sizes: Any, colour: Any, spans: Any
) -> tuple[int, int]:
    """Row y of the box, (w, 4) uint8, of a picture that goes on beyond its edges is cut to them and gets its border, from `start` to `stop`:
    all that may show anything. Gives from where to where it is picture alone."""
    half_x, half_y, inner, rim, outer = sizes[0], sizes[1], sizes[2], sizes[3], sizes[4]
    red, green, blue = np.uint8(colour[0]), np.uint8(colour[1]), np.uint8(colour[2])
    fy = top + y + 0.5
    # Where a span is empty its ends meet: at its own place if it lies inside the next larger one.
    picture_from, picture_to = max(spans[4, y], start), min(spans[5, y], stop)
    if told and picture_from >= picture_to:
        picture_from = picture_to = stop
    sure_from, sure_to = max(spans[6, y], picture_from), min(spans[7, y], picture_to)
    if sure_from >= sure_to:
        sure_from = sure_to = picture_to
    solid_from, solid_to = spans[2, y], spans[3, y]
    if not told or rim <= 0.0 or solid_from >= solid_to:
        solid_from = solid_to = stop
    x = start
    while x < stop:
        if x == sure_from and sure_from < sure_to:
            x = sure_to
        elif solid_from <= x < solid_to and not picture_from <= x < picture_to:
            last = min(solid_to, picture_from if x < picture_from else stop)
            for i in range(x, last):
                row[i, 0], row[i, 1], row[i, 2], row[i, 3] = red, green, blue, np.uint8(255)
            x = last
        else:
            last = stop
            if x < solid_from:
                last = min(last, solid_from)
            if x < sure_from and sure_from < sure_to:
                last = min(last, sure_from)
            if x < picture_to and solid_from < solid_to:
                last = min(last, picture_to)
            _fade(row, x, last, fy, back, left, half_x, half_y, inner, rim, outer, colour)
            x = last
    return sure_from, sure_to
