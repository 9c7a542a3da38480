"""Paths and ghosts of layers, and the lamp, to be drawn over a picture."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..curves import PathLane, key_times, path_point
from ..document import Document
from ..space import map_points, plane_homography, translated
from .geometry import Points, outline_of
from .staging import Placed, Staged, staged

MOST_DOTS = 600
GHOSTS = 4


@dataclass(frozen=True, slots=True)
class PathKey:
    """A key on a path, and where its tangents end, in fractions of the frame from its top left."""

    id: str
    point: tuple[float, float]
    tangent_in: tuple[float, float] | None
    tangent_out: tuple[float, float] | None
    smooth: bool


@dataclass(frozen=True, slots=True)
class PathGeometry:
    """A layer's path; `dots`: one a frame, so that their distance shows the speed."""

    container: str
    layer: str
    dots: Points
    keys: tuple[PathKey, ...]


@dataclass(frozen=True, slots=True)
class Ghost:
    """A layer's outline at another frame; `after` says on which side of now."""

    container: str
    layer: str
    corners: Points
    after: bool


def path_geometry(stage: Staged) -> list[PathGeometry]:
    """The paths of layers as they are seen."""
    found = []
    document, length = stage.document, stage.length
    aspect = document.frame.aspect
    # Dots lie a frame of the film apart, in the scene's own time.
    frame_ticks = round(document.frame.frame_rate.frame_ticks * document.scenes[stage.container].speed)
    for placed in stage.every_layer:
        lane = placed.layer.animation.get("placement.path")
        if not isinstance(lane, PathLane):
            continue
        times = key_times(lane.keys, length)
        first, last = times[0][0], max(times[-1][0], times[0][0] + 1)
        step = max(frame_ticks, (last - first) // MOST_DOTS)
        values = np.array([path_point(lane, t, length, aspect)[0] for t in [*range(first, last, step), last]])
        keys = []
        for _, name in times:
            key = lane.keys[name]
            ends = [tuple(v + d for v, d in zip(key.value, tangent, strict=True)) for tangent in (key.tangent_in, key.tangent_out)]
            point, arrive, leave = seen_on_path(document, placed, np.array([key.value, *ends]))
            keys.append(
                PathKey(
                    name,
                    _pair(point),
                    _pair(arrive) if any(key.tangent_in) else None,
                    _pair(leave) if any(key.tangent_out) else None,
                    key.smooth,
                )
            )
        dots = tuple(_pair(p) for p in seen_on_path(document, placed, values))
        found.append(PathGeometry(placed.container, placed.layer_id, dots, tuple(keys)))
    return found


def seen_on_path(document: Document, placed: Placed, values: NDArray[np.float64]) -> NDArray[np.float64]:
    """(n, 2): where places of a path (n, 3) are seen, in fractions of the frame from its top left."""
    aspect, placement = document.frame.aspect, placed.layer.placement
    scale = np.array((aspect, 1.0, 1.0))
    on_ground = (values + np.array((placement.x, placement.y, placement.z))) * scale
    seen = np.column_stack([on_ground, np.ones(len(on_ground))]) @ placed.ground.frame_from_ground.T
    with np.errstate(divide="ignore", invalid="ignore"):
        flat = np.where(seen[:, 3:4] > 1e-3, seen[:, :2] / seen[:, 3:4], 0.0)
    found: NDArray[np.float64] = flat / (aspect, 1.0) + 0.5
    return found


def ghosts_of(stage: Staged, layers: frozenset[tuple[str, str]], every: int) -> list[Ghost]:
    """Outlines of layers a few steps of `every` ticks before and after what is staged."""
    frame = np.array((stage.document.frame.aspect, 1.0))
    found = []
    for step in (*range(-GHOSTS, 0), *range(1, GHOSTS + 1)):
        moment = stage.at + step * every
        if not 0 <= moment <= stage.length:
            continue
        for placed in staged(stage.document, stage.container, moment, stage.length).every_layer:
            if (placed.container, placed.layer_id) in layers:
                corners = outline_of(placed) / frame + 0.5
                if np.isfinite(corners).all():
                    found.append(Ghost(placed.container, placed.layer_id, tuple(_pair(c) for c in corners), step > 0))
    return found


def lamp_place(stage: Staged) -> tuple[float, float] | None:
    """Where the foot of a scene's lamp, at depth 0, is seen, in fractions of the frame from its top left; None without a lamp."""
    seeing = stage.seeing
    if seeing.light is None:
        return None
    aspect = stage.document.frame.aspect
    seen = map_points(plane_homography(seeing.frame_from_world), np.array(((seeing.light.x * aspect, seeing.light.y),)))[0]
    return _pair(seen / (aspect, 1.0) + 0.5) if np.isfinite(seen).all() else None


def _pair(point: NDArray[np.float64]) -> tuple[float, float]:
    return float(point[0]), float(point[1])


def ground_offset(placed: Placed, start: tuple[float, float], end: tuple[float, float], depth: float, aspect: float) -> NDArray[np.float64]:
    """(2,): what a way between two points of the picture (fractions from its top left) is on the layer's ground at a depth, in fractions
    of the frame."""
    level = plane_homography(placed.ground.frame_from_ground @ translated(0.0, 0.0, depth))
    points = (np.array((start, end)) - 0.5) * (aspect, 1.0)
    first, last = map_points(np.asarray(np.linalg.inv(level), np.float64), points)
    found: NDArray[np.float64] = (last - first) / (aspect, 1.0)
    return found
