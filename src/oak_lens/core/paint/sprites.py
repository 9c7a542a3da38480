"""Sprites: what a layer shows at one resolution, ready to be warped.

Premultiplied, with a transparent gutter, so that the warp's own interpolation smooths the edges at every angle.
"""

from dataclasses import dataclass
from math import ceil, log2

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import Content, DrawnForm, Lettering, MountedPhoto
from ..looks.colours import rgb_of
from ..space import Matrix3
from .corrections import corrected
from .forms import LARGEST_SIDE_PX, form_pixels
from .levels import coarsest_level
from .mounting import GUTTER_PX, density_of, mounted_pixels, unmounted_pixels
from .outlines import corner_blocks, edge_coverage
from .sources import PictureSource

FINEST_ENLARGED = -10
"""Mounted photos are drawn at most 2^5 times finer than their pictures, so that borders and captions stay sharp."""

LARGEST_MOUNTED_PX = 5000


@dataclass(frozen=True, slots=True)
class Sprite:
    """`pixels` (h, w, 4) uint8 premultiplied; `sprite_from_plane` maps the layer's plane to sprite pixels."""

    pixels: NDArray[np.uint8]
    sprite_from_plane: Matrix3


def is_simple(photo: MountedPhoto) -> bool:
    """Whether the photo is the file's whole picture in a plain mount: then its pixels are taken over without resampling."""
    return photo.is_plain and photo.picture_from_plane is None


def level_range(content: Content, source: PictureSource) -> tuple[float, int, int]:
    """(pixels per unit of the plane at level 0, finest level, coarsest level) of a content's sprites."""
    if isinstance(content, DrawnForm):
        # Level 0 of a drawn shape is as large as a shape may be; every level is drawn anew.
        side = max(content.width, content.height, 0.05) + content.stroke
        finest = LARGEST_SIDE_PX / side
        return finest, 0, max(int(2 * log2(LARGEST_SIDE_PX / 24)), 0)
    if isinstance(content, Lettering):
        raise TypeError("texts are painted by their outlines: they have no sprites")
    coarsest = coarsest_level(*source.size(content.picture))
    base = density_of(content, source)
    left, top, right, bottom = content.sheet
    # However near a camera comes, no sprite is drawn larger than this.
    affordable = ceil(2.0 * log2(base * max(right - left, bottom - top) / LARGEST_MOUNTED_PX))
    return base, 0 if is_simple(content) else min(max(FINEST_ENLARGED, affordable), 0), coarsest


def sprite_of(content: Content, level: float, source: PictureSource) -> Sprite:
    """The sprite of a content at a level, for simple photos a whole one. Raises MissingPicture."""
    if isinstance(content, DrawnForm):
        finest, _, _ = level_range(content, source)
        return Sprite(*form_pixels(content, finest * 2.0 ** (-level / 2.0)))
    if isinstance(content, Lettering):
        raise TypeError("texts are painted by their outlines: they have no sprites")
    if is_simple(content):
        return _simple_sprite(content, round(level), source)
    return Sprite(*mounted_pixels(content, level, source))


def picture_sprite(photo: MountedPhoto, level: float, source: PictureSource, filled: bool) -> Sprite:
    """The picture of a photo alone; `filled`: whether none of the photo lies beyond its picture."""
    if photo.picture_from_plane is not None:
        return Sprite(*unmounted_pixels(photo, level, source, filled))
    pixels = corrected(source.level(photo.picture, round(level)), photo.corrections)
    height, width = pixels.shape[:2]
    # As it is: what lays it over the frame goes on at its edges. The few pixels of a tiny one have room around them for any look-up.
    gutter = GUTTER_PX if min(height, width) < GUTTER_PX else 0
    if gutter:
        pixels = np.asarray(cv2.copyMakeBorder(pixels, gutter, gutter, gutter, gutter, cv2.BORDER_REPLICATE), np.uint8)
    per_unit_x, per_unit_y = width / photo.width, height / photo.height
    placed = ((per_unit_x, 0.0, gutter + width / 2.0), (0.0, per_unit_y, gutter + height / 2.0), (0.0, 0.0, 1.0))
    return Sprite(pixels, np.array(placed))


def _simple_sprite(photo: MountedPhoto, level: int, source: PictureSource) -> Sprite:
    picture = corrected(source.level(photo.picture, level), photo.corrections)
    height, width = picture.shape[:2]
    per_unit_x, per_unit_y = width / photo.width, height / photo.height
    border = photo.rim
    border_x, border_y = border * per_unit_x, border * per_unit_y
    pad = ceil(max(border_x, border_y)) + GUTTER_PX
    pixels = np.zeros((height + 2 * pad, width + 2 * pad, 4), np.uint8)
    if border > 0.0:
        _paint_border(pixels, pad, width, height, border_x, border_y, photo.mount.colour)
        inner = pixels[pad : pad + height, pad : pad + width]
        keep = 255 - picture[..., 3:].astype(np.uint16)
        if keep.any():
            inner[:] = picture + ((inner * keep + 127) // 255).astype(np.uint8)
        else:
            inner[:] = picture
    else:
        pixels[pad : pad + height, pad : pad + width] = picture
    radius = photo.radius * (per_unit_x + per_unit_y) / 2
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
