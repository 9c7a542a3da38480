"""Draw lists: plain data that says what a frame shows, never how it is painted.

All lengths and positions are in frame heights; homographies take a layer's plane to frame coordinates.
"""

from .lists import (
    BackdropItem,
    ColourItem,
    DrawItem,
    DrawList,
    Mixture,
    Numbers9,
    PhotoItem,
    Picturing,
    ShadowItem,
    homography_of,
    matrix_of,
    pictures_of,
    plain,
)

__all__ = [
    "BackdropItem",
    "ColourItem",
    "DrawItem",
    "DrawList",
    "Mixture",
    "Numbers9",
    "PhotoItem",
    "Picturing",
    "ShadowItem",
    "homography_of",
    "matrix_of",
    "pictures_of",
    "plain",
]
