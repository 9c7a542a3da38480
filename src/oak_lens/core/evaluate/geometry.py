"""Outlines and handles to draw over a picture, so that the interface needs no camera mathematics."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..document import Document, PhotoLayer, photos_of, resolved_mount
from ..draw import DrawItem, DrawList, GroupItem, LayerItem, MountedPhoto, Picturing, lists_of, matrix_of
from ..framing import fit_of, frame_from_view, limited_view, picture_polygon, plane_size, seen_aspect
from ..space import Matrix3, box_corners, map_points, rectangle_corners
from .staging import Placed, Staged
from .standing import StandingPhoto

Points = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class LayerGeometry:
    """A layer's outline with its mount: corners (top left, then clockwise), in fractions of the frame from its top left.

    `window`: the photo's window within its mount; `picture`: the whole picture behind it, where it can be moved in the window. `locked`: it, or
    a group that it is in, must not be moved.
    """

    container: str
    layer: str
    parent: str | None
    corners: Points
    window: Points
    picture: Points
    locked: bool


@dataclass(frozen=True, slots=True)
class ViewGeometry:
    """Corners of the opening and closing view on the picture, in fractions of the picture from its top left."""

    layer: str
    fit: str
    opening: Points
    closing: Points


def outline_of(placed: Placed) -> NDArray[np.float64]:
    """Corners (4, 2) of a layer in frame coordinates; of a group, of the box on its ground around what is in it."""
    if placed.standing is not None:
        return map_points(placed.frame_from_plane, box_corners(*placed.standing.content.sheet))
    if not placed.inside:
        return map_points(placed.frame_from_plane, rectangle_corners(0.2, 0.2))
    points = np.concatenate([outline_of(p) for p in placed.inside])
    if not np.isfinite(points).all() or abs(np.linalg.det(placed.frame_from_plane)) < 1e-12:
        return points[:4]
    on_ground = map_points(np.asarray(np.linalg.inv(placed.frame_from_plane)), points)
    (left, top), (right, bottom) = on_ground.min(axis=0), on_ground.max(axis=0)
    return map_points(placed.frame_from_plane, box_corners(left, top, right, bottom))


def bounds_of(placed: Placed) -> tuple[float, float, float, float]:
    """(left, top, right, bottom) around a layer in frame coordinates."""
    corners = outline_of(placed)
    (left, top), (right, bottom) = corners.min(axis=0), corners.max(axis=0)
    return float(left), float(top), float(right), float(bottom)


def layer_geometry(stage: Staged) -> list[LayerGeometry]:
    """Outlines of the layers, lowest first, a group after what is in it."""
    document = stage.document
    frame = np.array((document.frame.aspect, 1.0))

    def fractions(points: NDArray[np.float64]) -> Points:
        return _points(points / frame + 0.5)

    found = []
    for placed in stage.every_layer:
        window: Points = ()
        picture: Points = ()
        if isinstance(placed.standing, StandingPhoto) and isinstance(placed.layer, PhotoLayer) and placed.layer.window is not None:
            content = placed.standing.content
            window = fractions(map_points(placed.frame_from_plane, rectangle_corners(content.width, content.height)))
            shown = _plane_from_shown(document, placed.layer, placed.standing)
            picture = fractions(map_points(placed.frame_from_plane @ shown, rectangle_corners(1.0, 1.0)))
        corners = fractions(outline_of(placed))
        found.append(LayerGeometry(placed.container, placed.layer_id, placed.layer.parent, corners, window, picture, placed.locked))
    return found


def _plane_from_shown(document: Document, layer: PhotoLayer, photo: StandingPhoto) -> Matrix3:
    """(3, 3): the shown picture as a unit square about 0 to the layer's plane."""
    seen, picture = seen_aspect(document, layer), document.media[layer.media].aspect
    width, height = plane_size(picture, seen)
    view = frame_from_view(photo.view, photo.fit, picture, seen)
    matrix: Matrix3 = np.diag((photo.content.height, photo.content.height, 1.0)) @ view @ np.diag((width, height, 1.0))
    return matrix


def view_geometry(document: Document, scene_id: str) -> list[ViewGeometry]:
    """Outlines of the opening and closing view of each photo of a scene."""
    found = []
    for layer_id, layer in photos_of(document.scenes[scene_id]):
        picture, seen = document.media[layer.media].aspect, seen_aspect(document, layer)
        fit = fit_of(document, layer)
        border = resolved_mount(document, layer).border if layer.window is None else 0.0
        ends = [
            _points(picture_polygon(limited_view(layer.view.keys[k].value, fit, picture, seen, border), fit, picture, seen))
            for k in ("opening", "closing")
            if k in layer.view.keys
        ]
        if len(ends) == 2:
            found.append(ViewGeometry(layer_id, fit, ends[0], ends[1]))
    return found


def layer_corners_px(picturing: Picturing, frame_height_px: int) -> list[dict[str, object]]:
    """Each photo's picture and its window's four corners in frame pixels (top left, then clockwise)."""
    if not isinstance(picturing, DrawList):
        return [found for drawn in lists_of(picturing) for found in layer_corners_px(drawn, frame_height_px)]
    origin = np.array((picturing.aspect / 2.0, 0.5))
    return [
        {
            "picture": item.content.picture.key,
            "corners_px": _points(
                (map_points(matrix_of(item.frame_from_plane), rectangle_corners(item.content.width, item.content.height)) + origin)
                * frame_height_px
            ),
        }
        for item in _layer_items(picturing.items)
        if isinstance(item.content, MountedPhoto)
    ]


def _layer_items(items: tuple[DrawItem, ...]) -> Iterator[LayerItem]:
    for item in items:
        if isinstance(item, GroupItem):
            yield from _layer_items(item.items)
        elif isinstance(item, LayerItem):
            yield item


def _points(array: NDArray[np.float64]) -> Points:
    return tuple((float(x), float(y)) for x, y in array)
