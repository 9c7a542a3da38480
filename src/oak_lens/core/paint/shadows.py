"""Shadows: a blurred outline, computed small and warped into place."""

from dataclasses import dataclass
from functools import lru_cache
from math import ceil, log2
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import Content, ShadowItem
from ..looks.colours import rgb_of
from ..space import Matrix3, box_corners
from .dither import noise_across
from .effects import in_pixels
from .hiding import Hidden, hidden_spans
from .kernels import words
from .outlines import rounded_coverage
from .scratch import scratch
from .shading import around, seen, shade
from .sprites import Sprite
from .streaks import SHARP_BELOW_PX as STREAK_PX
from .streaks import passes_for, streak_px, streaked
from .warps import box_around, inverse, touched_spans, warped

BLUR_PX = 5.0
SHARPEST_LONG_SIDE_PX = 1600

STEPS_PX = ((4, 8.0), (2, 2.6))
"""(step, softness): a shadow at least so soft, in pixels, is warped at a step of so many pixels."""

MARGIN_PX = 1.5
"""How far its softened edge may reach beyond its outline, in pixels of the frame."""


@dataclass(frozen=True, slots=True)
class ShadowSprite:
    """`coverage` (h, w) float32 0..1; `sprite_from_plane` maps the layer's plane to its pixels."""

    coverage: NDArray[np.float32]
    sprite_from_plane: Matrix3


def resolution(content: Content, softness: float, seen: float) -> float:
    """Pixels per unit of the plane at which a shadow is computed: as its softness allows, and no finer than it is seen.

    `seen`: frame pixels per unit of the plane; steps of the root of two above it, so that a slow zoom computes few shadows.
    """
    left, top, right, bottom = content.sheet
    finest: float = min(SHARPEST_LONG_SIDE_PX / max(right - left, bottom - top), 2.0 ** (ceil(2.0 * log2(max(seen, 1.0))) / 2.0))
    return min(BLUR_PX / softness, finest) if softness > 0.0 else finest


def rectangle_shadow(content: Content, radius: float, softness: float, spread: float, per_unit: float) -> ShadowSprite:
    """The shadow of a rectangle with round corners, `spread` larger on every side, blurred by a Gaussian."""
    left, top, right, bottom = content.sheet
    sigma = softness * per_unit
    pad = ceil(3.5 * sigma) + 2
    width, height = (right - left + 2 * spread) * per_unit, (bottom - top + 2 * spread) * per_unit
    columns, rows = ceil(width) + 2 * pad, ceil(height) + 2 * pad
    coverage = rounded_coverage(columns, rows, float(pad), pad + width, pad + height, (radius + spread if radius else 0.0) * per_unit)
    if sigma > 0.05:
        coverage = cv2.GaussianBlur(coverage, (0, 0), sigma, borderType=cv2.BORDER_CONSTANT)  # type: ignore[assignment]
    x, y = (spread - left) * per_unit + pad, (spread - top) * per_unit + pad
    return ShadowSprite(coverage, np.array(((per_unit, 0.0, x), (0.0, per_unit, y), (0.0, 0.0, 1.0))))


def outline_shadow(sprite: Sprite, softness: float, spread: float, per_unit: float) -> ShadowSprite:
    """The shadow of whatever a sprite covers: it follows the shape of a cut-out."""
    per_unit = min(per_unit, float(sprite.sprite_from_plane[0, 0]))
    sigma, grow = softness * per_unit, spread * per_unit
    pad = ceil(3.5 * sigma + grow) + 2
    reduction = per_unit / sprite.sprite_from_plane[0, 0]
    alpha = sprite.pixels[..., 3]
    columns, rows = ceil(alpha.shape[1] * reduction), ceil(alpha.shape[0] * reduction)
    shrunk = cv2.resize(alpha, (columns, rows), interpolation=cv2.INTER_AREA if reduction < 1.0 else cv2.INTER_LINEAR)
    coverage: NDArray[Any] = cv2.copyMakeBorder(shrunk, pad, pad, pad, pad, cv2.BORDER_CONSTANT, value=0).astype(np.float32) / np.float32(
        255.0
    )
    if grow >= 0.5:
        side = 2 * round(grow) + 1
        coverage = cv2.dilate(coverage, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side)))
    if sigma > 0.05:
        coverage = cv2.GaussianBlur(coverage, (0, 0), sigma, borderType=cv2.BORDER_CONSTANT)
    exact_x, exact_y = columns / alpha.shape[1], rows / alpha.shape[0]
    small = np.array(((exact_x, 0.0, float(pad)), (0.0, exact_y, float(pad)), (0.0, 0.0, 1.0)))
    return ShadowSprite(np.ascontiguousarray(coverage, np.float32), small @ sprite.sprite_from_plane)


@lru_cache(256)
def _ink(colour: str) -> NDArray[np.float32]:
    return np.array(rgb_of(colour), np.float32)


def shadow_corners(item: ShadowItem) -> NDArray[np.float64]:
    """(4, 2) of its plane: beyond them there is none of it."""
    left, top, right, bottom = item.content.sheet
    reach = 3.5 * item.softness + item.spread + item.content.reach
    return box_corners(left - reach, top - reach, right + reach, bottom + reach)


def lay_shadow(
    canvas: NDArray[np.uint8], item: ShadowItem, sprite: ShadowSprite, pixel_from_plane: Matrix3, corners_px: NDArray[np.float64], density: float,
    hidden: Hidden, to_pixels: Matrix3, opaque: bool,
) -> None:  # fmt: skip
    """A shadow over the frame, but where it is `hidden`. `corners_px`: its corners as they are seen; `density`: pixels of the frame per
    unit of its plane; `opaque`: whether the canvas is."""
    height_px, width_px = canvas.shape[:2]
    box = box_around(corners_px, width_px, height_px, 2, 0)
    if box is None:
        return
    left_px, top_px, right_px, bottom_px = box
    sprite_from_pixel = sprite.sprite_from_plane @ inverse(pixel_from_plane)
    softness_px = item.softness * density
    step = next((s for s, softest in STEPS_PX if softness_px >= softest), 1)
    # Soft shadows are band-limited: a part of the resolution holds all of one. The grid starts on a multiple of the step so that it does not
    # move with the shadow.
    grid = box if step == 1 else (left_px // step - 1, top_px // step - 1, right_px // step + 3, bottom_px // step + 3)
    coverage = scratch("coverage", (grid[3] - grid[1], grid[2] - grid[0]), np.float32)
    beneath = hidden_spans(hidden.way, box) if hidden.way else None
    pixels_on = None if item.travel is None else in_pixels(item.travel, to_pixels)
    far = 0.0 if pixels_on is None else streak_px(pixels_on, corners_px, width_px, height_px)
    if pixels_on is not None and far > max(STREAK_PX, softness_px / 2):
        warped(sprite.coverage, sprite_from_pixel @ np.diag((float(step), float(step), 1.0)), grid, into=coverage)
        scale = np.diag((1.0 / step, 1.0 / step, 1.0))
        on_grid = scale @ pixels_on @ np.linalg.inv(scale)
        coverage = streaked(coverage, on_grid, passes_for(far / step), grid)
        rows = bottom_px - top_px
        ranges = around((np.zeros(rows, np.int64), np.full(rows, right_px - left_px)), beneath)
    else:
        ranges = around(hidden.trimmed(touched_spans(corners_px, box, MARGIN_PX), box), beneath)
        seen(sprite.coverage, sprite_from_pixel, step, grid, top_px, left_px, ranges, coverage)
    target = canvas[top_px:bottom_px, left_px:right_px]
    noise = noise_across(right_px - left_px)
    shade(words(target), coverage, step, grid[0], grid[1], _ink(item.colour), item.opacity, noise, left_px, top_px, ranges, opaque)
