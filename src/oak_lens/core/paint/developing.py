"""A picture by itself: turned, cropped and corrected, in no mount."""

import numpy as np
from numpy.typing import NDArray

from ..document import Media
from ..draw import ColourItem, DrawList, LayerItem, MountedPhoto, Picture, homography_of
from ..framing import picture_from_shown
from ..looks import Mount, changes_nothing
from .painter import Painter
from .sources import PictureSource

PAPER = "#e8e1d3"


def developed_pixels(media: Media, source: PictureSource, longest_px: int, uncropped: bool = False) -> NDArray[np.uint8]:
    """(h, w, 4) uint8 opaque, at most `longest_px` on a side, not enlarged. `uncropped`: all of the picture, turned by quarters only."""
    if uncropped:
        media = media.model_copy(update={"crop": None, "straighten": 0.0})
    width, height = media.shown_size
    scale = min(longest_px / max(width, height), 1.0)
    width_px, height_px = max(1, round(width * scale)), max(1, round(height * scale))
    aspect = width_px / height_px
    developed = picture_from_shown(media)
    own = media.correction
    content = MountedPhoto(
        picture=Picture(media.sha256, media.width, media.height, media.clip is not None, media.clip.poster if media.clip else 0),
        width=aspect,
        height=1.0,
        picture_from_plane=None
        if developed is None
        else homography_of(developed @ np.array(((1 / aspect, 0.0, 0.5), (0.0, 1.0, 0.5), (0.0, 0.0, 1.0)))),
        outline="rectangle",
        sides=4,
        mount=Mount(border=0.0),
        scale=1.0,
        corrections=() if own is None or changes_nothing(own) else (own,),
    )
    item = LayerItem(content, homography_of(np.eye(3)), 1.0)
    return Painter(source, 0).paint(DrawList(aspect, (ColourItem(PAPER), item)), width_px, height_px)
