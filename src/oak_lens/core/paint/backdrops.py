"""Backdrops: a picture covering the frame, blurred once for as long as it stays the same."""

from math import floor, log2
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import BackdropItem
from .dither import blue_noise
from .kernels import quantise
from .levels import coarsest_level
from .sources import PictureSource
from .warps import levels_for, warped

BLUR_PX = 6.0
"""Blurring happens at a resolution where the standard deviation is about this many pixels: the result holds no finer detail."""

LUMA = (0.2126, 0.7152, 0.0722)


def backdrop_pixels(item: BackdropItem, width_px: int, height_px: int, source: PictureSource) -> NDArray[np.uint8]:
    """(h, w, 4) uint8 opaque. Beyond the picture's edges the picture is mirrored, so no rim can bleed in."""
    blur_px = item.blur * height_px
    reduction = 2 ** max(0, floor(log2(blur_px / BLUR_PX))) if blur_px >= BLUR_PX else 1
    reduction = min(reduction, 32)
    small = (-(-width_px // reduction), -(-height_px // reduction))
    sigma = blur_px / reduction
    margin = int(3 * sigma) + 2
    full_width, full_height = source.size(item.media)
    # Frame pixels per picture pixel when the picture covers the frame, and is enlarged beyond that.
    scale = max(width_px / full_width, height_px / full_height) * item.zoom
    density = scale / reduction
    level, _ = max(levels_for(density, 1.0, coarsest_level(full_width, full_height)), key=lambda entry: entry[1])
    picture = source.level(item.media, level)
    level_height, level_width = picture.shape[:2]
    per_x, per_y = full_width / level_width, full_height / level_height
    step_x, step_y = reduction / scale / per_x, reduction / scale / per_y
    picture_from_small = np.array(
        (
            (step_x, 0.0, level_width / 2.0 - step_x * (margin + width_px / reduction / 2.0)),
            (0.0, step_y, level_height / 2.0 - step_y * (margin + height_px / reduction / 2.0)),
            (0.0, 0.0, 1.0),
        )
    )
    box = (0, 0, small[0] + 2 * margin, small[1] + 2 * margin)
    colour: NDArray[Any] = warped(picture[..., :3], picture_from_small, box, cv2.BORDER_REFLECT).astype(np.float32)
    if sigma > 0.05:
        colour = cv2.GaussianBlur(colour, (0, 0), sigma, borderType=cv2.BORDER_REFLECT)
    grey = colour @ np.array(LUMA, np.float32)
    colour = (grey[..., None] + (colour - grey[..., None]) * np.float32(item.saturation)) * np.float32(item.brightness)
    if reduction > 1:
        frame_to_small = np.array(((1.0 / reduction, 0.0, float(margin)), (0.0, 1.0 / reduction, float(margin)), (0.0, 0.0, 1.0)))
        colour = warped(colour, frame_to_small, (0, 0, width_px, height_px), cv2.BORDER_REFLECT)
    else:
        colour = colour[margin : margin + height_px, margin : margin + width_px]
    pixels = np.empty((height_px, width_px, 4), np.uint8)
    quantise(pixels, np.ascontiguousarray(colour, np.float32), blue_noise())
    return pixels
