"""What wipes show: fields of the moment at which each place is reached."""

from functools import lru_cache
from math import cos, radians, sin
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import Matte, MatteKind
from .fields import cloud_field

Field = NDArray[np.float32]
CLOUD_ROWS, CLOUD_COLUMNS = 288, 512
HARD_PX = 1.5
"""An edge is never harder than so many pixels, so that it runs smoothly."""


def matte_pixels(matte: Matte, width_px: int, height_px: int) -> NDArray[np.uint8]:
    """(h, w) uint8 coverage."""
    reached, edge_px = reached_at(matte.kind, matte.angle, matte.count, matte.seed, width_px, height_px)
    softness = np.float32(max(matte.softness, edge_px))
    front = np.float32(matte.progress) * (np.float32(1.0) + softness)
    covered = (front - reached) / softness
    np.clip(covered, 0.0, 1.0, out=covered)
    if matte.softness > edge_px:
        covered *= covered * (np.float32(3.0) - np.float32(2.0) * covered)
    return np.asarray(cv2.convertScaleAbs(covered, alpha=255.0), np.uint8)


@lru_cache(maxsize=6)
def reached_at(kind: MatteKind, angle: float, count: int, seed: int, width_px: int, height_px: int) -> tuple[Field, float]:
    """((h, w) float32: the progress 0..1 at which a pixel is reached, how much of it is `HARD_PX`)."""
    x = ((np.arange(width_px, dtype=np.float32) + 0.5) / width_px * 2.0 - 1.0)[None, :] * (width_px / height_px)
    y = ((np.arange(height_px, dtype=np.float32) + 0.5) / height_px * 2.0 - 1.0)[:, None]
    half_width, half_height = width_px / height_px, 1.0
    px = 2.0 / height_px * HARD_PX
    if kind == "clouds":
        return _clouds(seed, width_px, height_px), 0.01
    if kind == "iris":
        far = float(np.hypot(half_width, half_height))
        return _single(np.hypot(x, y) / far), px / far
    if kind == "clock":
        turned = np.arctan2(x, -y) - np.float32(radians(angle))
        return _single(np.mod(turned, np.float32(2.0 * np.pi)) / np.float32(2.0 * np.pi)), px / 6.0
    c, s = cos(radians(angle)), sin(radians(angle))
    reach = abs(c) * half_width + abs(s) * half_height
    along = (x * np.float32(c) + y * np.float32(s)) / np.float32(reach)
    if kind == "part":
        return _single(np.abs(along)), px / reach
    if kind == "blinds":
        strips = (along + np.float32(1.0)) * np.float32(count / 2.0)
        return _single(strips - np.floor(strips)), px / reach * count / 2.0
    return _single((along + 1.0) / 2.0), px / reach / 2.0


def _single(values: NDArray[Any]) -> Field:
    return np.ascontiguousarray(values, np.float32)


def _clouds(seed: int, width_px: int, height_px: int) -> Field:
    """Clouds by rank: at progress p a share p of the frame is reached."""
    field = cloud_field(CLOUD_ROWS, CLOUD_COLUMNS, seed, 2.1)
    ranks = np.empty(field.size, np.float32)
    ranks[np.argsort(field, axis=None, kind="stable")] = np.linspace(0.0, 1.0, field.size, dtype=np.float32)
    made = cv2.resize(ranks.reshape(field.shape), (width_px, height_px), interpolation=cv2.INTER_CUBIC)
    return np.ascontiguousarray(np.clip(made, 0.0, 1.0), np.float32)
