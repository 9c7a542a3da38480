"""Draw lists: plain data that says what a frame shows, never how it is painted.

All lengths and positions are in frame heights; homographies take a layer's plane to frame coordinates.
"""

from .lists import (
    BackdropItem,
    ColourItem,
    Content,
    DrawItem,
    DrawList,
    DrawnForm,
    Grade,
    GradientItem,
    GroupItem,
    GroupShadow,
    LayerItem,
    Mixture,
    MountedPhoto,
    Numbers9,
    Passage,
    Picturing,
    ShadowItem,
    SurfaceItem,
    homography_of,
    matrix_of,
    pictures_of,
    plain,
)

__all__ = [
    "BackdropItem",
    "ColourItem",
    "Content",
    "DrawItem",
    "DrawList",
    "DrawnForm",
    "Grade",
    "GradientItem",
    "GroupItem",
    "GroupShadow",
    "LayerItem",
    "Mixture",
    "MountedPhoto",
    "Numbers9",
    "Passage",
    "Picturing",
    "ShadowItem",
    "SurfaceItem",
    "homography_of",
    "matrix_of",
    "pictures_of",
    "plain",
]
