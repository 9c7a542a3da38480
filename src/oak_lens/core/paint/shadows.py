"""Shadows: a blurred outline, computed small and warped into place."""

from dataclasses import dataclass
from math import ceil

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import ShadowItem
from ..space import Matrix3
from .outlines import rounded_coverage

BLUR_PX = 5.0
SHARPEST_LONG_SIDE_PX = 1600


@dataclass(frozen=True, slots=True)
class ShadowSprite:
    """`coverage` (h, w) float32 0..1; `sprite_from_plane` maps the layer's plane to its pixels."""

    coverage: NDArray[np.float32]
    sprite_from_plane: Matrix3


def shadow_key(item: ShadowItem) -> tuple[object, ...]:
    """What a shadow sprite depends on."""
    return ("shadow", item.width, item.height, item.radius, item.softness)


def shadow_sprite(item: ShadowItem) -> ShadowSprite:
    """The outline blurred by a Gaussian; its resolution follows its softness."""
    long_side = max(item.width, item.height)
    finest = SHARPEST_LONG_SIDE_PX / long_side
    per_unit = min(BLUR_PX / item.softness if item.softness > 0.0 else finest, finest)
    sigma = item.softness * per_unit
    pad = ceil(3.5 * sigma) + 2
    width, height = item.width * per_unit, item.height * per_unit
    columns, rows = ceil(width) + 2 * pad, ceil(height) + 2 * pad
    coverage = rounded_coverage(columns, rows, float(pad), pad + width, pad + height, item.radius * per_unit)
    if sigma > 0.05:
        coverage = cv2.GaussianBlur(coverage, (0, 0), sigma, borderType=cv2.BORDER_CONSTANT)  # type: ignore[assignment]
    sprite_from_plane = np.array(((per_unit, 0.0, pad + width / 2.0), (0.0, per_unit, pad + height / 2.0), (0.0, 0.0, 1.0)))
    return ShadowSprite(coverage, sprite_from_plane)
