"""Draw list + pictures -> pixels. The same function paints preview, still and export."""

from .cache import ByteCache
from .developing import developed_pixels
from .levels import coarsest_level, level_size, reduced_level
from .painter import Below, Painter
from .sources import PictureSource
from .yuv import Yuv420, yuv420

__all__ = [
    "Below",
    "ByteCache",
    "Painter",
    "PictureSource",
    "Yuv420",
    "coarsest_level",
    "developed_pixels",
    "level_size",
    "reduced_level",
    "yuv420",
]
