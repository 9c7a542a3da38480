"""Shadows: a blurred outline, computed small and warped into place."""

from dataclasses import dataclass
from math import ceil, log2
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import Content
from ..space import Matrix3
from .outlines import rounded_coverage
from .sprites import Sprite

BLUR_PX = 5.0
SHARPEST_LONG_SIDE_PX = 1600


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
