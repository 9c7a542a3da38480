# mypy: disable-error-code="operator,arg-type,type-var,call-overload"
"""Correcting the light and colour of a picture."""

from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..looks import TONE_COLOURS, Correction
from ..looks.colours import rgb_of
from .fields import soft_noise
from .kernels import compiled

GRAIN_LEVELS = 21.0
SHARPEN_PX = 1.1


def to_linear(encoded: NDArray[Any]) -> NDArray[np.float64]:
    """sRGB 0..1 to linear light (IEC 61966-2-1)."""
    return np.where(encoded <= 0.04045, encoded / 12.92, ((np.maximum(encoded, 0.0) + 0.055) / 1.055) ** 2.4)


def to_encoded(linear: NDArray[Any]) -> NDArray[np.float64]:
    """Linear light to sRGB 0..1."""
    return np.where(linear <= 0.0031308, linear * 12.92, 1.055 * np.maximum(linear, 1e-9) ** (1 / 2.4) - 0.055)


def curves_of(correction: Correction) -> NDArray[np.float32]:
    """(3, 256) float32 0..255: what each channel's level becomes.

    Exposure and colour balance are factors in linear light; contrast, shadows and highlights bend the encoded curve and keep its ends.
    """
    c = correction
    warmth, tint = c.warmth, c.tint
    balance = np.array((0.38 * warmth + 0.12 * tint, -0.24 * tint, -0.38 * warmth + 0.12 * tint))
    linear = to_linear(np.arange(256) / 255.0)
    x = np.clip(to_encoded(linear[None, :] * np.exp2(c.exposure + balance)[:, None]), 0.0, 1.0)
    contrast = c.contrast
    if contrast >= 0.0:
        x = x + contrast * (x * x * (3.0 - 2.0 * x) - x)
    else:
        x = x + contrast * 0.7 * (x - 0.5) * (1.0 - np.abs(2.0 * x - 1.0) ** 3)
    x = x + 0.9 * c.shadows * x * (1.0 - x) ** 3 * 1.1 + 0.9 * c.highlights * (1.0 - x) * x**3 * 1.1
    return np.ascontiguousarray(np.clip(x, 0.0, 1.0) * 255.0, np.float32)


def tones_of(correction: Correction) -> NDArray[np.float32]:
    """(256, 3) float32 0..255: the colour of each brightness under the correction's tone; middle grey takes the tone's colour."""
    colour = TONE_COLOURS.get(correction.tone, correction.tone_colour)
    # Of the tone's colour only hue and strength count: its brightness must not change the picture's.
    rgb = np.array(rgb_of(colour)) - np.dot(rgb_of(colour), (0.2126, 0.7152, 0.0722)) + 127.5
    level = np.arange(256) / 255.0
    table = np.stack([np.interp(level, (0.0, 0.5, 1.0), (0.0, middle, 255.0)) for middle in np.clip(rgb, 0, 255)], axis=1)
    return np.ascontiguousarray(table, np.float32)


def corrected(pixels: NDArray[np.uint8], corrections: tuple[Correction, ...], plain: bool = False) -> NDArray[np.uint8]:
    """(h, w, 4) uint8 premultiplied, corrected in turn; a new array. `plain` leaves out what depends on place: vignette, grain, sharpness."""
    for correction in corrections:
        pixels = _corrected(np.ascontiguousarray(pixels), correction, plain)
    return pixels


def _corrected(pixels: NDArray[np.uint8], c: Correction, plain: bool) -> NDArray[np.uint8]:
    height, width = pixels.shape[:2]
    amount = 0.0 if c.tone == "none" else c.tone_amount
    grain = np.zeros((1, 1), np.float32)
    vignette = 0.0 if plain else c.vignette
    if c.grain and not plain:
        grain = _grain(height, width, c) * np.float32(GRAIN_LEVELS * c.grain)
    across = ((np.arange(width) + 0.5) / width * 2.0 - 1.0) ** 2 / 2.0
    down = ((np.arange(height) + 0.5) / height * 2.0 - 1.0) ** 2 / 2.0
    made = np.empty_like(pixels)
    _correct(
        pixels,
        made,
        curves_of(c),
        c.saturation,
        tones_of(c),
        amount,
        vignette,
        c.vignette_reach,
        across.astype(np.float32),
        down.astype(np.float32),
        grain,
    )
    if c.sharpness and not plain:
        blurred = cv2.GaussianBlur(made, (0, 0), SHARPEN_PX, borderType=cv2.BORDER_REPLICATE)
        strength = 1.3 * c.sharpness
        sharp = cv2.addWeighted(made, 1.0 + strength, blurred, -strength, 0.0)
        sharp[..., 3] = made[..., 3]
        np.minimum(sharp[..., :3], sharp[..., 3:], out=sharp[..., :3])
        made = np.ascontiguousarray(sharp, np.uint8)
    return made


def _grain(height: int, width: int, correction: Correction) -> NDArray[np.float32]:
    """(h, w) float32, deviation about 1 where one grain is larger than a pixel: a field fixed to the picture, whatever its resolution."""
    rows = int(np.clip(round(1.0 / correction.grain_size), 16, 1024))
    columns = int(np.clip(round(rows * width / height), 16, 2048))
    field = soft_noise(rows, columns, 7000 + int(correction.grain_seed), 0.55, 0.55)
    shrinks = height < rows
    return np.ascontiguousarray(
        cv2.resize(field, (width, height), interpolation=cv2.INTER_AREA if shrinks else cv2.INTER_CUBIC), np.float32
    )


@compiled
def _correct(
    source: Any,
    target: Any,
    curves: Any,
    saturation: float,
    tones: Any,
    tone_amount: float,
    vignette: float,
    reach: float,
    across: Any,
    down: Any,
    grain: Any,
) -> None:
    """`source` (h, w, 4) uint8 premultiplied into `target`: curves, saturation, tone, vignette, grain."""
    grained = grain.shape[0] > 1
    inner = np.float32(1.0 - reach)
    for y in range(source.shape[0]):
        for x in range(source.shape[1]):
            alpha = source[y, x, 3]
            target[y, x, 3] = alpha
            if alpha == 0:
                target[y, x, 0] = target[y, x, 1] = target[y, x, 2] = np.uint8(0)
                continue
            r0, g0, b0 = np.int32(source[y, x, 0]), np.int32(source[y, x, 1]), np.int32(source[y, x, 2])
            if alpha < 255:
                a = np.int32(alpha)
                r0, g0, b0 = min((r0 * 255 + a // 2) // a, 255), min((g0 * 255 + a // 2) // a, 255), min((b0 * 255 + a // 2) // a, 255)
            r, g, b = curves[0, r0], curves[1, g0], curves[2, b0]
            grey = np.float32(0.2126) * r + np.float32(0.7152) * g + np.float32(0.0722) * b
            if saturation != 1.0:
                keep = np.float32(saturation)
                r, g, b = grey + (r - grey) * keep, grey + (g - grey) * keep, grey + (b - grey) * keep
            if tone_amount > 0.0:
                level = min(max(grey, np.float32(0.0)), np.float32(255.0))  # type: ignore[type-var]
                low = min(np.int32(level), 254)
                part, share = level - np.float32(low), np.float32(tone_amount)
                r += (tones[low, 0] + (tones[low + 1, 0] - tones[low, 0]) * part - r) * share
                g += (tones[low, 1] + (tones[low + 1, 1] - tones[low, 1]) * part - g) * share
                b += (tones[low, 2] + (tones[low + 1, 2] - tones[low, 2]) * part - b) * share
            if vignette != 0.0:
                t = min(max((np.sqrt(across[x] + down[y]) - inner) / np.float32(reach), np.float32(0.0)), np.float32(1.0))
                t = t * t * (np.float32(3.0) - np.float32(2.0) * t)
                if vignette > 0.0:
                    gain = np.float32(1.0) - np.float32(0.85 * vignette) * t
                    r, g, b = r * gain, g * gain, b * gain
                else:
                    lift = np.float32(-0.85 * vignette) * t
                    r, g, b = r + (255.0 - r) * lift, g + (255.0 - g) * lift, b + (255.0 - b) * lift
            if grained:
                level = min(max(grey, np.float32(0.0)), np.float32(255.0)) / np.float32(255.0)
                n = grain[y, x] * (np.float32(0.25) + np.float32(3.0) * level * (np.float32(1.0) - level))
                r, g, b = r + n, g + n, b + n
            top = np.float32(255.0)
            k = np.float32(alpha) / top
            target[y, x, 0] = np.uint8(min(max(r, np.float32(0.0)), top) * k + np.float32(0.5))
            target[y, x, 1] = np.uint8(min(max(g, np.float32(0.0)), top) * k + np.float32(0.5))
            target[y, x, 2] = np.uint8(min(max(b, np.float32(0.0)), top) * k + np.float32(0.5))
