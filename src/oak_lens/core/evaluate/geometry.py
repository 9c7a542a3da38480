"""Outlines and handles to draw over a picture, so that the interface needs no camera mathematics."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..document import Document, photos_of
from ..draw import DrawList, PhotoItem, Picturing, matrix_of
from ..framing import chosen_fit, limited_view, picture_polygon
from ..space import map_points, rectangle_corners
from .photos import standing_photo

Points = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class LayerGeometry:
    """Corners of a photo with its border (top left, then clockwise), in fractions of the frame from its top left."""

    layer: str
    corners: Points


@dataclass(frozen=True, slots=True)
class ViewGeometry:
    """Corners of the opening and closing view on the picture, in fractions of the picture from its top left."""

    layer: str
    fit: str
    opening: Points
    closing: Points


def scene_geometry(document: Document, scene_id: str, at: int, length: int) -> list[LayerGeometry]:
    """Outlines of a scene's photos `at` ticks after it came on screen, lowest first."""
    frame = np.array((document.frame.aspect, 1.0))
    found = []
    for layer_id, layer in photos_of(document.scenes[scene_id]):
        photo = standing_photo(document, layer, at, length)
        border = photo.mount.border * photo.plane_scale
        corners = rectangle_corners(photo.width + 2 * border, photo.height + 2 * border)
        found.append(LayerGeometry(layer_id, _points(map_points(photo.frame_from_plane, corners) / frame + 0.5)))
    return found


def view_geometry(document: Document, scene_id: str) -> list[ViewGeometry]:
    """Outlines of the opening and closing view of each photo of a scene."""
    found = []
    aspect = document.frame.aspect
    for layer_id, layer in photos_of(document.scenes[scene_id]):
        picture = document.media[layer.media].aspect
        fit = chosen_fit(layer.fit or document.defaults.fit, picture, aspect)
        border = (layer.mount or document.defaults.mount).border
        ends = [
            _points(picture_polygon(limited_view(layer.view.keys[k].value, fit, picture, aspect, border), fit, picture, aspect))
            for k in ("opening", "closing")
            if k in layer.view.keys
        ]
        if len(ends) == 2:
            found.append(ViewGeometry(layer_id, fit, ends[0], ends[1]))
    return found


def layer_corners_px(picturing: Picturing, frame_height_px: int) -> list[dict[str, object]]:
    """Each photo's picture and its four corners in frame pixels (top left, then clockwise)."""
    if not isinstance(picturing, DrawList):
        return layer_corners_px(picturing.below, frame_height_px) + layer_corners_px(picturing.above, frame_height_px)
    origin = np.array((picturing.aspect / 2.0, 0.5))
    return [
        {
            "media": item.media,
            "corners_px": _points(
                (map_points(matrix_of(item.frame_from_plane), rectangle_corners(item.width, item.height)) + origin) * frame_height_px
            ),
        }
        for item in picturing.items
        if isinstance(item, PhotoItem)
    ]


def _points(array: NDArray[np.float64]) -> Points:
    return tuple((float(x), float(y)) for x, y in array)
