"""Sprites: a photo with its mount at one level of its pyramid, ready to be warped.

Premultiplied, with a transparent gutter, so that the warp's own interpolation smooths the edges at every angle.
"""

from dataclasses import dataclass
from math import ceil

import numpy as np
from numpy.typing import NDArray

from ..draw import PhotoItem
from ..space import Matrix3
from .colours import rgb_of
from .outlines import corner_blocks, edge_coverage
from .sources import PictureSource

GUTTER_PX = 2


@dataclass(frozen=True, slots=True)
class Sprite:
    """`pixels` (h, w, 4) uint8 premultiplied; `sprite_from_plane` maps the layer's plane to sprite pixels."""

    pixels: NDArray[np.uint8]
    sprite_from_plane: Matrix3


def sprite_key(item: PhotoItem, level: int) -> tuple[object, ...]:
    """What a sprite depends on."""
    return ("sprite", item.media, level, item.width, item.height, item.border, item.border_colour, item.radius)


def photo_sprite(item: PhotoItem, level: int, source: PictureSource) -> Sprite:
    """The sprite of a photo at a level."""
    picture = source.level(item.media, level)
    height, width = picture.shape[:2]
    per_unit_x, per_unit_y = width / item.width, height / item.height
    border_x, border_y = item.border * per_unit_x, item.border * per_unit_y
    pad = ceil(max(border_x, border_y)) + GUTTER_PX
    pixels = np.zeros((height + 2 * pad, width + 2 * pad, 4), np.uint8)
    if item.border > 0.0:
        _paint_border(pixels, pad, width, height, border_x, border_y, item.border_colour)
        inner = pixels[pad : pad + height, pad : pad + width]
        keep = 255 - picture[..., 3:].astype(np.uint16)
        if keep.any():
            inner[:] = picture + ((inner * keep + 127) // 255).astype(np.uint8)
        else:
            inner[:] = picture
    else:
        pixels[pad : pad + height, pad : pad + width] = picture
    radius = item.radius * (per_unit_x + per_unit_y) / 2
    if radius > 0.25:
        for rows, columns, coverage in corner_blocks(
            pixels.shape[1], pixels.shape[0], pad - border_x, pad + width + border_x, pad + height + border_y, radius
        ):
            block = pixels[rows, columns]
            alpha = np.minimum(block[..., 3] / 255.0, coverage)
            opaque = block / np.maximum(block[..., 3:], 1)
            pixels[rows, columns] = np.rint(opaque * alpha[..., None] * 255.0).clip(0, 255).astype(np.uint8)
    sprite_from_plane = np.array(((per_unit_x, 0.0, pad + width / 2.0), (0.0, per_unit_y, pad + height / 2.0), (0.0, 0.0, 1.0)))
    return Sprite(pixels, sprite_from_plane)


def _paint_border(pixels: NDArray[np.uint8], pad: int, width: int, height: int, border_x: float, border_y: float, colour: str) -> None:
    """The border's colour over the whole mount, its outer edge covering pixels in part."""
    across = edge_coverage(pixels.shape[1], pad - border_x, pad + width + border_x)
    down = edge_coverage(pixels.shape[0], pad - border_y, pad + height + border_y)
    solid = np.array((*rgb_of(colour), 255.0), np.float32)
    rows, columns = down >= 1.0, across >= 1.0
    pixels[np.ix_(rows, columns)] = solid.astype(np.uint8)
    for y in np.flatnonzero((down > 0.0) & ~rows):
        pixels[y] = np.rint(across[:, None] * down[y] * solid)
    for x in np.flatnonzero((across > 0.0) & ~columns):
        pixels[:, x] = np.rint(down[:, None] * across[x] * solid)
