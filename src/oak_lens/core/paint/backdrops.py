"""Backdrops: pictures, surfaces and gradients covering the frame, prepared once for as long as they stay the same."""

from dataclasses import dataclass
from math import floor, log2
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import BackdropItem, Grade, GradientItem, SurfaceItem, matrix_of
from ..looks.colours import rgb_of
from ..space import Matrix3
from .corrections import corrected
from .dither import blue_noise
from .forms import gradient_share
from .kernels import quantise
from .levels import coarsest_level
from .sources import PictureSource
from .surfaces import ROWS, surface_texture
from .warps import nearest_level, pixel_from_frame, warped

BLUR_PX = 6.0
"""Blurring happens at a resolution where the standard deviation is about this many pixels: the result holds no finer detail."""

NATURAL_HEIGHT = 1.15
"""Of a texture at scale 1, in frame heights: not a whole frame, or one frame would look like the next."""

LUMA = (0.2126, 0.7152, 0.0722)

HAZE_FROM, HAZE_TO = 4.0, 9.0
"""Depths, in home distances of the camera, between which a surface passes into its mean colour."""


@dataclass(frozen=True, slots=True)
class Ground:
    """A backdrop before its own move: `colour` (h, w, 3) float32 0..255 and the map from frame pixels to its pixels."""

    colour: NDArray[np.float32]
    ground_from_pixel: Matrix3


def graded(colour: NDArray[Any], grade: Grade) -> NDArray[Any]:
    """Colours (h, w, 3) float32 0..255 with a grade's saturation, brightness and tint."""
    grey = colour @ np.array(LUMA, np.float32)
    colour = (grey[..., None] + (colour - grey[..., None]) * np.float32(grade.saturation)) * np.float32(grade.brightness)
    if grade.tint_amount > 0.0:
        tint = np.array(rgb_of(grade.tint), np.float32)
        # The tint keeps light and dark: it is mixed in as the tinted grey of each pixel.
        middle = np.float32(max(float(tint @ np.array(LUMA, np.float32)), 1.0))
        tinted = np.minimum(grey[..., None] * np.float32(grade.brightness) * tint / middle, 255.0)
        colour = colour + (tinted - colour) * np.float32(grade.tint_amount)
    return colour


def picture_ground(item: BackdropItem, width_px: int, height_px: int, source: PictureSource) -> Ground:
    """A picture covering the frame, blurred and graded. Beyond its edges it is mirrored, so no rim can bleed in."""
    blur_px = item.blur * height_px
    reduction = 2 ** max(0, floor(log2(blur_px / BLUR_PX))) if blur_px >= BLUR_PX else 1
    reduction = min(reduction, 32)
    small = (-(-width_px // reduction), -(-height_px // reduction))
    sigma = blur_px / reduction
    reach = 0.0 if item.move is None else max(abs(item.move[1]), abs(item.move[2]), 0.0) * height_px / reduction
    margin = int(3 * sigma + reach) + 2
    full_width, full_height = source.size(item.picture)
    shown = np.eye(3) if item.picture_from_shown is None else matrix_of(item.picture_from_shown)
    in_pixels = np.diag((full_width, full_height, 1.0)) @ shown
    shown_width, shown_height = (float(np.hypot(*in_pixels[:2, i])) for i in (0, 1))
    # Frame pixels per picture pixel when the picture covers the frame, and is enlarged beyond that.
    scale = max(width_px / shown_width, height_px / shown_height) * item.zoom
    level = nearest_level(scale / reduction, 1.0, coarsest_level(full_width, full_height))
    picture = corrected(source.level(item.picture, level), item.corrections, plain=True)
    level_height, level_width = picture.shape[:2]
    step_x, step_y = reduction / scale / shown_width, reduction / scale / shown_height
    shown_from_small = np.array(
        (
            (step_x, 0.0, 0.5 - step_x * (margin + width_px / reduction / 2.0)),
            (0.0, step_y, 0.5 - step_y * (margin + height_px / reduction / 2.0)),
            (0.0, 0.0, 1.0),
        )
    )
    picture_from_small = np.diag((level_width, level_height, 1.0)) @ shown @ shown_from_small
    box = (0, 0, small[0] + 2 * margin, small[1] + 2 * margin)
    colour: NDArray[Any] = warped(np.ascontiguousarray(picture[..., :3]), picture_from_small, box, cv2.BORDER_REFLECT).astype(np.float32)
    if sigma > 0.05:
        colour = cv2.GaussianBlur(colour, (0, 0), sigma, borderType=cv2.BORDER_REFLECT)
    ground_from_pixel = np.array(((1.0 / reduction, 0.0, float(margin)), (0.0, 1.0 / reduction, float(margin)), (0.0, 0.0, 1.0)))
    return Ground(np.ascontiguousarray(graded(colour, item.grade), np.float32), ground_from_pixel)


def backdrop_pixels(item: BackdropItem, ground: Ground, width_px: int, height_px: int) -> NDArray[np.uint8]:
    """(h, w, 4) uint8 opaque: the ground as its own move shows it."""
    matrix = ground.ground_from_pixel
    if item.move is not None:
        matrix = matrix @ moved_back(item.move, width_px, height_px)
    if np.array_equal(matrix[:2, :2], np.eye(2)):
        left, top = int(matrix[0, 2]), int(matrix[1, 2])
        colour: NDArray[Any] = ground.colour[top : top + height_px, left : left + width_px]
    else:
        colour = warped(ground.colour, matrix, (0, 0, width_px, height_px), cv2.BORDER_REFLECT)
    pixels = np.empty((height_px, width_px, 4), np.uint8)
    quantise(pixels, np.ascontiguousarray(colour, np.float32), blue_noise())
    return pixels


def moved_back(move: tuple[float, float, float], width_px: int, height_px: int) -> Matrix3:
    """(3, 3): frame pixels to frame pixels before a move (magnification about the middle, then x, y in frame heights)."""
    closer, x, y = move
    middle_x, middle_y = width_px / 2, height_px / 2
    return np.array(
        (
            (1 / closer, 0.0, middle_x - (middle_x + x * height_px) / closer),
            (0.0, 1 / closer, middle_y - (middle_y + y * height_px) / closer),
            (0.0, 0.0, 1.0),
        )
    )


def graded_surface(item: SurfaceItem, height_px: int) -> NDArray[np.uint8]:
    """(h, w, 4) uint8 opaque: the surface's texture, graded, reduced so that it is shown without shimmer."""
    texture = surface_texture(item.surface)
    wanted = height_px * item.scale * NATURAL_HEIGHT * item.closer / ROWS
    reduction = 2.0 ** -max(0, floor(-2 * log2(max(wanted, 1e-3))) / 2)
    if reduction < 0.999:
        size = (round(texture.shape[1] * reduction), round(texture.shape[0] * reduction))
        texture = np.asarray(cv2.resize(texture, size, interpolation=cv2.INTER_AREA), np.uint8)
    pixels = np.empty((*texture.shape[:2], 4), np.uint8)
    quantise(pixels, np.ascontiguousarray(graded(texture.astype(np.float32), item.grade), np.float32), blue_noise())
    return pixels


def surface_pixels(item: SurfaceItem, texture: NDArray[np.uint8], width_px: int, height_px: int) -> NDArray[np.uint8]:
    """(h, w, 4) uint8 opaque: an endless surface; the same point of it always looks the same.

    Under a camera, what lies far away passes into the surface's mean colour, as does what lies beyond its horizon.
    """
    per_height = texture.shape[0] / item.scale / NATURAL_HEIGHT
    texture_from_plane = np.array(
        (
            (per_height / item.closer, 0.0, item.x * per_height + texture.shape[1] / 2),
            (0.0, per_height / item.closer, item.y * per_height + texture.shape[0] / 2),
            (0.0, 0.0, 1.0),
        )
    )
    plane_from_pixel = np.asarray(np.linalg.inv(surface_homography(item, width_px, height_px)))
    box = (0, 0, width_px, height_px)
    pixels = np.ascontiguousarray(warped(texture, texture_from_plane @ plane_from_pixel, box, cv2.BORDER_WRAP), np.uint8)
    if item.frame_from_plane is None:
        return pixels
    row = plane_from_pixel[2]
    edges = np.array(((0, 0, 1), (width_px, 0, 1), (width_px, height_px, 1), (0, height_px, 1)), np.float64) @ row
    if edges.min() < 1.0 / HAZE_FROM:
        x, y = np.arange(width_px, dtype=np.float32)[None, :] + 0.5, np.arange(height_px, dtype=np.float32)[:, None] + 0.5
        nearness = np.float32(row[0]) * x + np.float32(row[1]) * y + np.float32(row[2])
        clear = np.clip((nearness - 1.0 / HAZE_TO) / (1.0 / HAZE_FROM - 1.0 / HAZE_TO), 0.0, 1.0)[..., None]
        mean = texture.reshape(-1, 4).mean(axis=0, dtype=np.float64).astype(np.float32)
        pixels = np.ascontiguousarray(np.rint(mean + (pixels - mean) * clear), np.uint8)
    return pixels


def surface_homography(item: SurfaceItem, width_px: int, height_px: int) -> Matrix3:
    """(3, 3): the surface's plane, in frame heights, to pixels."""
    to_pixels = pixel_from_frame(width_px, height_px)
    return to_pixels if item.frame_from_plane is None else to_pixels @ matrix_of(item.frame_from_plane)


def gradient_pixels(item: GradientItem, width_px: int, height_px: int) -> NDArray[np.uint8]:
    """(h, w, 4) uint8 opaque, dithered."""
    x, y = (np.arange(width_px) + 0.5 - width_px / 2)[None, :], (np.arange(height_px) + 0.5 - height_px / 2)[:, None]
    grow = 2**0.5 if item.radial else 1.0
    share = gradient_share(x, y, width_px / 2 * grow, height_px / 2 * grow, item.angle, item.radial)[..., None]
    first, second = np.array(rgb_of(item.first)), np.array(rgb_of(item.second))
    pixels = np.empty((height_px, width_px, 4), np.uint8)
    quantise(pixels, np.ascontiguousarray(first + (second - first) * share, np.float32), blue_noise())
    return pixels
