"""The plan of a scene: camera, field, focus and layers from above and from the side."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..space import box_corners, heights_per_mm, world_from_camera
from .geometry import Points
from .staging import Placed, Staged, scene_seeing

AXES: dict[Literal["top", "side"], tuple[int, int]] = {"top": (0, 2), "side": (2, 1)}
"""World axes drawn across and down. From above, the viewer's side is below; from the side, it is at the right."""

PATH_STEPS = 60
FIELD_REACH = 1.25
"""How far the field is drawn beyond the farthest thing, as a share of its depth."""


@dataclass(frozen=True, slots=True)
class PlanLayer:
    """A layer's corners in one drawing, in frame heights."""

    container: str
    layer: str
    corners: Points


@dataclass(frozen=True, slots=True)
class PlanView:
    """One drawing, in frame heights of the world. `field`: the camera and what its frame shows; `aim`: a point on its axis; `focus`: the
    ends of the sharp depth, empty without focus blur; `path`: where the camera comes by; `point`: what it orbits; `lamp`: the light."""

    view: Literal["top", "side"]
    camera: tuple[float, float]
    field: Points
    aim: tuple[float, float]
    focus: Points
    path: Points
    point: tuple[float, float]
    lamp: tuple[float, float] | None
    layers: tuple[PlanLayer, ...]


def plan_views(stage: Staged) -> list[PlanView]:
    """Both drawings of a scene."""
    document, length, seeing = stage.document, stage.length, stage.seeing
    scene, aspect = document.scenes[stage.container], document.frame.aspect
    world = world_from_camera(seeing.camera, aspect)
    eye, forward = world[:3, 3], -world[:3, 2]
    placed = [p for p in stage.every_layer if p.standing is not None and not p.layer.hidden]
    outlines = [_corners(p) for p in placed]
    depths = [float(((c - eye) @ forward).max()) for c in outlines] + [seeing.home]
    reach = max([d for d in depths if d > 0.0] + [seeing.home]) * FIELD_REACH
    half_width = reach * aspect / 2 / (seeing.camera.focal_mm * heights_per_mm(aspect))
    sides = [(world @ (x * half_width, y * half_width / aspect, -reach, 1.0))[:3] for x, y in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
    way = [scene_seeing(document, scene, length * i // PATH_STEPS, length).place for i in range(PATH_STEPS + 1)]
    moved = max(np.ptp(np.array(way), axis=0)) > 1e-6
    rig = seeing.camera
    focus_z = None
    if seeing.focus is not None:
        focus_z = float((eye + forward * seeing.focus.at)[2])
    light = seeing.light
    found = []
    for view, (across, down) in AXES.items():

        def flat(point: NDArray[np.float64] | tuple[float, float, float], across: int = across, down: int = down) -> tuple[float, float]:
            return float(point[across]), float(point[down])

        field = [flat(s) for s in sides]
        # Of the four corners of the field, the two that enclose it in this drawing.
        wide = max(((a, b) for a in field for b in field), key=lambda pair: (pair[0][0] - pair[1][0]) ** 2 + (pair[0][1] - pair[1][1]) ** 2)
        focus: Points = ()
        if focus_z is not None:
            x, y = float(eye[0]), float(eye[1])
            ends = ((x - aspect, y - 1.0, focus_z), (x + aspect, y + 1.0, focus_z))
            focus = tuple(flat(e) for e in ends)
        found.append(
            PlanView(
                view, flat(eye), (flat(eye), *wide), flat(eye + forward * min(seeing.home, reach)), focus,
                tuple(flat(p) for p in way) if moved else (), flat(rig.point),
                None if light is None else flat((light.x * aspect, light.y, light.z)),
                tuple(PlanLayer(p.container, p.layer_id, tuple(flat(c) for c in o)) for p, o in zip(placed, outlines, strict=True)),
            )
        )  # fmt: skip
    return found


def _corners(placed: Placed) -> NDArray[np.float64]:
    """(4, 3): a layer's corners in the world."""
    assert placed.standing is not None
    corners = box_corners(*placed.standing.content.sheet)
    flat = np.column_stack([corners, np.zeros(4), np.ones(4)])
    found: NDArray[np.float64] = (flat @ placed.standing.world_from_plane.T)[:, :3]
    return found
