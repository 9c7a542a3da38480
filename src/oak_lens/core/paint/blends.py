# mypy: disable-error-code="arg-type"
"""Blend modes, after W3C Compositing and Blending Level 1, sections 9 and 10; in sRGB, as the web does."""

from typing import Any

import numpy as np

from ..document import BLENDS
from .kernels import compiled

NUMBERS = {name: number for number, (name, _) in enumerate(BLENDS)}


@compiled
def _separable(mode: int, b: float, s: float) -> float:
    """B(cb, cs) of one channel, 0..1; modes in the order of BLENDS."""
    if mode == 1:
        return b * s
    if mode == 2:
        return b + s - b * s
    if mode == 3:
        return 2.0 * b * s if b <= 0.5 else 1.0 - 2.0 * (1.0 - b) * (1.0 - s)
    if mode == 4:
        return min(b, s)
    if mode == 5:
        return max(b, s)
    if mode == 6:
        if b <= 0.0:
            return 0.0
        return 1.0 if s >= 1.0 else min(1.0, b / (1.0 - s))
    if mode == 7:
        if b >= 1.0:
            return 1.0
        return 0.0 if s <= 0.0 else 1.0 - min(1.0, (1.0 - b) / s)
    if mode == 8:
        return 2.0 * b * s if s <= 0.5 else 1.0 - 2.0 * (1.0 - b) * (1.0 - s)
    if mode == 9:
        if s <= 0.5:
            return b - (1.0 - 2.0 * s) * b * (1.0 - b)
        d = ((16.0 * b - 12.0) * b + 4.0) * b if b <= 0.25 else np.sqrt(b)
        return b + (2.0 * s - 1.0) * (d - b)
    if mode == 10:
        return abs(b - s)
    if mode == 11:
        return b + s - 2.0 * b * s
    return s


@compiled
def _lum(r: float, g: float, b: float) -> float:
    return 0.3 * r + 0.59 * g + 0.11 * b


@compiled
def _with_lum(r: float, g: float, b: float, lum: float) -> Any:
    """SetLum and ClipColor."""
    d = lum - _lum(r, g, b)
    r, g, b = r + d, g + d, b + d
    low, high = min(r, g, b), max(r, g, b)
    if low < 0.0:
        k = lum / (lum - low)
        r, g, b = lum + (r - lum) * k, lum + (g - lum) * k, lum + (b - lum) * k
    if high > 1.0:
        k = (1.0 - lum) / (high - lum)
        r, g, b = lum + (r - lum) * k, lum + (g - lum) * k, lum + (b - lum) * k
    return r, g, b


@compiled
def _with_sat(r: float, g: float, b: float, sat: float) -> Any:
    """SetSat: the same order of channels, spread to `sat`."""
    low, high = min(r, g, b), max(r, g, b)
    if high <= low:
        return 0.0, 0.0, 0.0
    k = sat / (high - low)
    return (r - low) * k, (g - low) * k, (b - low) * k


@compiled
def blended(mode: int, br: float, bg: float, bb: float, sr: float, sg: float, sb: float) -> Any:
    """B(cb, cs) for colours 0..1."""
    if mode < 12:
        return _separable(mode, br, sr), _separable(mode, bg, sg), _separable(mode, bb, sb)
    if mode == 12:
        r, g, b = _with_sat(sr, sg, sb, max(br, bg, bb) - min(br, bg, bb))
        return _with_lum(r, g, b, _lum(br, bg, bb))
    if mode == 13:
        r, g, b = _with_sat(br, bg, bb, max(sr, sg, sb) - min(sr, sg, sb))
        return _with_lum(r, g, b, _lum(br, bg, bb))
    if mode == 14:
        return _with_lum(sr, sg, sb, _lum(br, bg, bb))
    return _with_lum(br, bg, bb, _lum(sr, sg, sb))


@compiled
def blend(target: Any, source: Any, opacity: int, mode: int) -> None:
    """`source` blended and laid over `target` in place, both (h, w, 4) uint8 premultiplied; opacity 0..255.

    co = cs·αs·(1 - αb) + αs·αb·B(cb, cs) + (1 - αs)·αb·cb (section 5.6, source-over).
    """
    for y in range(target.shape[0]):
        to, of = target[y], source[y]
        for x in range(target.shape[1]):
            if of[x, 3] == 0:
                continue
            own = np.float32(of[x, 3]) / 255.0
            alpha = own * np.float32(opacity) / 255.0
            below = np.float32(to[x, 3]) / 255.0
            sr, sg, sb = of[x, 0] / 255.0 / own, of[x, 1] / 255.0 / own, of[x, 2] / 255.0 / own
            br = bg = bb = 0.0
            if below > 0.0:
                br, bg, bb = to[x, 0] / 255.0 / below, to[x, 1] / 255.0 / below, to[x, 2] / 255.0 / below
            r, g, b = blended(mode, br, bg, bb, sr, sg, sb)
            free, both, keep = alpha * (1.0 - below), alpha * below, (1.0 - alpha) * below
            to[x, 0] = np.uint8(min(255.0, 255.0 * (sr * free + r * both + br * keep) + 0.5))
            to[x, 1] = np.uint8(min(255.0, 255.0 * (sg * free + g * both + bg * keep) + 0.5))
            to[x, 2] = np.uint8(min(255.0, 255.0 * (sb * free + b * both + bb * keep) + 0.5))
            to[x, 3] = np.uint8(min(255.0, 255.0 * (alpha + below - alpha * below) + 0.5))
