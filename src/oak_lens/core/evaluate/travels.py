"""A camera on its way from stop to stop."""

from dataclasses import dataclass
from itertools import pairwise
from math import cos, exp, hypot, log, pi, radians, sin

import numpy as np

from ..curves import cubic_bezier
from ..document import Document, Layer, Scene, in_order
from ..space import Camera, home_distance
from ..stage import Stop
from .kinds import STANDS
from .standing import ground_from_layer

STAYS_AT_MOST = 0.8
"""Share of the time on screen that all stays together may take."""

TURN_WEIGHS = 0.6
"""Frame heights that turning by a quarter counts as, when time is shared out between ways."""


@dataclass(frozen=True, slots=True)
class Pose:
    """Where the camera stands at a stop: the point it looks at (frame heights), how many frame heights it sees, its roll (degrees)."""

    x: float
    y: float
    z: float
    sees: float
    roll: float


def pose_at(document: Document, scene: Scene, stop: Stop) -> Pose:
    """The pose of a stop: its layer at rest fills the frame as the stop says."""
    aspect = document.frame.aspect
    if stop.layer is None or stop.layer not in scene.layers:
        return Pose(stop.x * aspect, stop.y, 0.0, 1.0 / stop.fills, 0.0)
    layer = scene.layers[stop.layer]
    world = np.eye(4)
    above: Layer | None = layer
    while above is not None:
        world = ground_from_layer(above.placement, aspect) @ world
        above = scene.layers.get(above.parent) if above.parent else None
    width, height = STANDS[layer.kind].size(document, layer)
    scale = float(np.linalg.norm(world[:3, 0]))
    turn = float(np.degrees(np.arctan2(world[1, 0], world[0, 0])))
    c, s = abs(cos(radians(turn))), abs(sin(radians(turn)))
    across, down = (width * c + height * s, width * s + height * c) if stop.level else (width, height)
    sees = max(across / aspect, down) * scale / stop.fills
    roll = 0.0 if stop.level else turn
    c, s = cos(radians(roll)), sin(radians(roll))
    off_x, off_y = stop.x * aspect * sees, stop.y * sees
    x, y, z = (float(v) for v in world[:3, 3])
    return Pose(x + off_x * c - off_y * s, y + off_x * s + off_y * c, z, sees, roll)


def travel_at(document: Document, scene: Scene, at: int, length: int) -> dict[str, float] | None:
    """What a travel adds to the camera's numbers `at` ticks after its scene came on screen; None without one."""
    travel = scene.travel
    if travel is None:
        return None
    poses = [pose_at(document, scene, stop) for _, stop in in_order(travel.stops)]
    times = stop_times(document, scene, length)
    index = max((i for i, (start, _) in enumerate(times) if start <= at), default=0)
    pose = poses[index]
    _, leaves = times[index]
    if at > leaves and index + 1 < len(poses):
        arrives = times[index + 1][0]
        x = (at - leaves) / max(arrives - leaves, 1)
        pose = _between(pose, poses[index + 1], cubic_bezier(0.45, 0.0, 0.55, 1.0, x), travel.draws_back)
    camera = Camera(scene.camera.focal)
    home = home_distance(camera, document.frame.aspect)
    return {"x": pose.x / document.frame.aspect, "y": pose.y, "dolly": home - pose.z - pose.sees * home, "roll": pose.roll}


def stop_times(document: Document, scene: Scene, length: int) -> list[tuple[int, int]]:
    """(arrives, leaves) of every stop, in ticks after the scene came on screen; ways take time by their length."""
    assert scene.travel is not None
    stops = [stop for _, stop in in_order(scene.travel.stops)]
    poses = [pose_at(document, scene, stop) for stop in stops]
    stays = [float(stop.stay) for stop in stops]
    if len(stops) == 1:
        return [(0, length)]
    room = length * STAYS_AT_MOST
    if sum(stays) > room:
        stays = [stay * room / sum(stays) for stay in stays]
    ways = [max(_way(a, b), 0.05) for a, b in pairwise(poses)]
    pace = (length - sum(stays)) / sum(ways)
    found, at = [], 0.0
    for index, stay in enumerate(stays):
        found.append((round(at), round(at + stay)))
        at += stay + (ways[index] * pace if index < len(ways) else 0.0)
    return found


def _way(a: Pose, b: Pose) -> float:
    """Frames' heights as seen on the way: what is seen from near counts for more."""
    sees = (a.sees + b.sees) / 2
    return hypot(hypot(b.x - a.x, b.y - a.y, b.z - a.z) / sees, log(b.sees / a.sees), (b.roll - a.roll) / 90.0 * TURN_WEIGHS)


def _between(a: Pose, b: Pose, s: float, draws_back: float) -> Pose:
    """Straight from pose to pose; what is seen grows and shrinks by even ratios, and a little more in between."""
    growth = log(b.sees / a.sees)
    far = hypot(b.x - a.x, b.y - a.y)
    sees = a.sees * exp(growth * s) + draws_back * far * sin(pi * s) ** 2
    return Pose(a.x + (b.x - a.x) * s, a.y + (b.y - a.y) * s, a.z + (b.z - a.z) * s, sees, a.roll + (b.roll - a.roll) * s)
