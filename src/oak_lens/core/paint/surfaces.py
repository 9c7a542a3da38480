"""Textures of the surfaces, computed: each tiles without a seam, 2 x 1 natural heights."""

from collections.abc import Callable
from functools import lru_cache
from typing import Protocol

import cv2
import numpy as np
from numpy.typing import NDArray

from .fields import Field, cloud_field, soft_field

ROWS, COLUMNS = 1024, 2048
Texture = NDArray[np.float32]


def _mixed(amount: Field, *colours: tuple[float, float, float]) -> Texture:
    """Colours along a scale: amount 0 is the first, 1 the last."""
    at = np.linspace(0.0, 1.0, len(colours))
    mixed = np.empty((*amount.shape, 3), np.float32)
    for i in range(3):
        mixed[..., i] = np.interp(amount, at, [c[i] for c in colours])
    return mixed


def _lit(height: Field, strength: float) -> Field:
    """How a relief catches light from the upper left: differences of its height."""
    return (np.roll(height, 1, 0) + np.roll(height, 1, 1) - 2.0 * height) * np.float32(strength)


def _wood(seed: int, planks: int, *colours: tuple[float, float, float]) -> Texture:
    amount = np.empty((ROWS, COLUMNS), np.float32)
    gap = np.zeros((ROWS, COLUMNS), np.float32)
    tall = ROWS // planks
    y = np.arange(tall, dtype=np.float32)[:, None]
    for plank in range(planks):
        rng = np.random.default_rng(seed * 31 + plank)
        bend = soft_field(tall, COLUMNS, seed * 97 + plank, 260.0, 40.0)
        rings = 0.5 + 0.5 * np.sin(y * rng.uniform(0.05, 0.09) + bend * rng.uniform(3.0, 5.5) + rng.uniform(0, 6))
        fibre = soft_field(tall, COLUMNS, seed * 53 + plank, 60.0, 0.8)
        pores = np.maximum(soft_field(tall, COLUMNS, seed * 71 + plank, 14.0, 0.7) - 1.6, 0.0)
        tone = rng.uniform(-0.13, 0.13)
        amount[plank * tall : (plank + 1) * tall] = 0.42 + 0.2 * (rings - 0.5) + 0.055 * fibre - 0.16 * pores + tone
        gap[plank * tall : plank * tall + 3] = 0.9
        end = int(rng.uniform(0, COLUMNS))
        gap[plank * tall : (plank + 1) * tall, [end, (end + 1) % COLUMNS]] = 0.8
    soft = np.roll(cv2.GaussianBlur(np.roll(gap, (8, 8), (0, 1)), (0, 0), 1.1), (-8, -8), (0, 1))
    return _mixed(np.clip(amount, 0, 1), *colours) * (1.0 - 0.62 * soft[..., None])


def oak() -> Texture:
    return _wood(3, 4, (92, 62, 36), (150, 108, 66), (188, 146, 98), (212, 176, 128))


def walnut() -> Texture:
    return _wood(11, 4, (38, 24, 16), (74, 48, 32), (104, 72, 50), (132, 98, 70))


def linen() -> Texture:
    x, y = np.arange(COLUMNS, dtype=np.float32)[None, :], np.arange(ROWS, dtype=np.float32)[:, None]
    thick_across = 1.0 + 0.35 * soft_field(ROWS, COLUMNS, 5, 90.0, 1.2)
    thick_down = 1.0 + 0.35 * soft_field(ROWS, COLUMNS, 6, 1.2, 90.0)
    weft = np.abs(np.sin(np.pi * y / 8.0)) * thick_across
    warp = np.abs(np.sin(np.pi * x / 8.0)) * thick_down
    over = (np.floor(x / 8.0) + np.floor(y / 8.0)) % 2
    height = np.where(over > 0, weft, warp).astype(np.float32)
    amount = 0.52 + 0.2 * (height - 0.64) + 0.05 * cloud_field(ROWS, COLUMNS, 7, 1.2)
    return _mixed(np.clip(amount, 0, 1), (150, 138, 116), (206, 194, 170), (236, 228, 208))


def slate() -> Texture:
    relief = cloud_field(ROWS, COLUMNS, 21, 1.45) + 0.45 * soft_field(ROWS, COLUMNS, 22, 40.0, 5.0)
    amount = 0.45 + 0.07 * relief + 0.05 * cloud_field(ROWS, COLUMNS, 23, 0.8) + np.clip(_lit(relief, 0.5), -0.2, 0.2)
    return _mixed(np.clip(amount, 0, 1), (30, 33, 37), (64, 69, 74), (104, 110, 114))


def felt() -> Texture:
    fibres = soft_field(ROWS, COLUMNS, 31, 6.0, 0.8) + soft_field(ROWS, COLUMNS, 32, 0.8, 6.0) + soft_field(ROWS, COLUMNS, 33, 1.6, 1.6)
    amount = 0.5 + 0.085 * fibres + 0.05 * cloud_field(ROWS, COLUMNS, 34, 1.1)
    return _mixed(np.clip(amount, 0, 1), (44, 66, 62), (74, 104, 96), (112, 142, 130))


def cork() -> Texture:
    grains = soft_field(ROWS, COLUMNS, 41, 7.0, 7.0)
    dark = np.clip(soft_field(ROWS, COLUMNS, 42, 4.0, 4.0) - 1.25, 0, 1)
    amount = 0.55 + 0.13 * grains + 0.06 * soft_field(ROWS, COLUMNS, 43, 1.4, 1.4) - 0.5 * dark + np.clip(_lit(grains, 0.25), -0.1, 0.1)
    return _mixed(np.clip(amount, 0, 1), (92, 58, 34), (168, 118, 74), (206, 160, 110), (226, 190, 142))


def kraft() -> Texture:
    fibres = np.clip(soft_field(ROWS, COLUMNS, 51, 9.0, 0.7) - 1.7, 0, 1) - np.clip(soft_field(ROWS, COLUMNS, 52, 0.9, 7.0) - 1.9, 0, 1)
    amount = 0.5 + 0.04 * cloud_field(ROWS, COLUMNS, 53, 0.9) + 0.05 * soft_field(ROWS, COLUMNS, 54, 1.0, 1.0) + 0.22 * fibres
    return _mixed(np.clip(amount, 0, 1), (132, 96, 62), (176, 136, 94), (208, 172, 128))


def plaster() -> Texture:
    relief = cloud_field(ROWS, COLUMNS, 61, 1.3) + 0.4 * soft_field(ROWS, COLUMNS, 62, 14.0, 5.0)
    amount = 0.62 + 0.03 * cloud_field(ROWS, COLUMNS, 63, 1.6) + np.clip(_lit(relief, 0.42), -0.2, 0.2)
    return _mixed(np.clip(amount, 0, 1), (176, 170, 160), (216, 210, 200), (240, 236, 228))


TEXTURES: dict[str, Callable[[], Texture]] = {
    "oak": oak,
    "walnut": walnut,
    "linen": linen,
    "slate": slate,
    "felt": felt,
    "cork": cork,
    "kraft": kraft,
    "plaster": plaster,
}


class KeptTextures(Protocol):
    """Textures that were made before, by any process."""

    def texture(self, surface: str) -> NDArray[np.uint8] | None:
        """None if it is not kept, or not whole."""
        ...

    def keep(self, surface: str, texture: NDArray[np.uint8]) -> None:
        """It is kept if there is room."""
        ...


_kept: KeptTextures | None = None


def bring_textures(kept: KeptTextures | None) -> None:
    """Says where textures are kept, as a process begins; without, each process makes its own."""
    global _kept
    _kept = kept
    surface_texture.cache_clear()


@lru_cache(maxsize=len(TEXTURES))
def surface_texture(surface: str) -> NDArray[np.uint8]:
    """(ROWS, COLUMNS, 3) uint8 sRGB, 6 MB; not to be written to. Each takes half a second to make: all that are shown stay."""
    found = _kept.texture(surface) if _kept is not None else None
    if found is None or found.shape != (ROWS, COLUMNS, 3) or found.dtype != np.uint8:
        found = np.rint(np.clip(TEXTURES[surface](), 0, 255)).astype(np.uint8)
        if _kept is not None:
            _kept.keep(surface, found)
    found.setflags(write=False)
    return found
