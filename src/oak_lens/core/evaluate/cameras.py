"""A scene's camera at a moment, and what it does to a picture."""

from dataclasses import dataclass

import numpy as np

from ..document import Document, Scene
from ..draw import Lit, Numbers9, homography_of
from ..space import Camera, Matrix3, Matrix4, circle_factor, frame_from_world, home_distance, world_from_camera
from ..stage import CameraRig, Light
from .motion import Motion, scene_motion


@dataclass(frozen=True, slots=True)
class Focus:
    """Sharp at depth `at`, in frame heights from the lens; elsewhere a circle of diameter `k` |1 - at / depth|, in frame heights."""

    k: float
    at: float


@dataclass(frozen=True, slots=True)
class Seeing:
    """How a scene is seen: the camera, its projection, where it stands in the world, focus and light."""

    camera: Camera
    frame_from_world: Matrix4
    place: tuple[float, float, float]
    home: float
    focus: Focus | None
    light: Light | None
    by_depth: bool
    motion: Motion


def seeing_at(document: Document, scene: Scene, at: int, length: int, travelled: dict[str, float] | None = None) -> Seeing:
    """How a scene is seen `at` ticks after it came on screen; `travelled`: camera numbers that a travel sets."""
    motion = scene_motion(document, scene, at, length)
    rig = motion.of("camera", scene.camera)
    if travelled:
        rig = rig.model_copy(update={k: getattr(rig, k) + v for k, v in travelled.items()})
    return seen_by(document, scene, rig, motion)


def seen_by(document: Document, scene: Scene, rig: CameraRig, motion: Motion) -> Seeing:
    """How a scene is seen by a rig as it is at the moment."""
    aspect = document.frame.aspect
    camera = camera_of(rig, scene.camera.focal, aspect)
    world = world_from_camera(camera, aspect)
    home = home_distance(camera, aspect)
    place = (float(world[0, 3]), float(world[1, 3]), float(world[2, 3]))
    focus = None
    if rig.blurred:
        # Along its own axis the camera meets the plane of that depth after this way.
        forward = -float(world[2, 2])
        way = (rig.focus - place[2]) / forward if abs(forward) > 1e-3 else home
        focus = Focus(circle_factor(rig.focal, rig.aperture, max(way, 0.02 * home), aspect), max(way, 0.02 * home))
    light = None if scene.light is None else motion.of("light", scene.light)
    return Seeing(camera, frame_from_world(camera, aspect), place, home, focus, light, scene.camera.sorting == "depth", motion)


def camera_of(rig: CameraRig, home_mm: float, aspect: float) -> Camera:
    """The camera that a rig's numbers mean; `home_mm` is the focal length that stands still."""
    return Camera(
        focal_mm=rig.focal,
        home_mm=home_mm,
        track=rig.x * aspect,
        pedestal=rig.y,
        dolly=rig.dolly,
        pan=rig.pan,
        tilt=rig.tilt,
        roll=rig.roll,
        orbit=rig.orbit,
        rise=rig.rise,
        point=(rig.point_x * aspect, rig.point_y, rig.point_z),
    )


def lit_by(seeing: Seeing, world_from_plane: Matrix4, aspect: float) -> Lit | None:
    """The scene's light as a plane has it."""
    light = seeing.light
    if light is None:
        return None
    lamp = np.linalg.inv(world_from_plane) @ (light.x * aspect, light.y, light.z, 1.0)
    eye = np.linalg.inv(world_from_plane) @ (*seeing.place, 1.0)
    unit = float(np.linalg.norm(world_from_plane[:3, 0]))
    # The lamp lights the side that is seen, or, from behind, nothing.
    height = float(lamp[2]) * (1.0 if eye[2] >= 0.0 else -1.0)
    return Lit(float(lamp[0]), float(lamp[1]), height, unit, light.colour, light.strength, light.falloff, light.ambient)


def travel_between(first: Matrix3, last: Matrix3) -> Numbers9 | None:
    """Frame coordinates to where they are when the shutter closes, for points of a plane; None where nothing moves."""
    if np.abs(first - last).max() < 1e-9 or abs(np.linalg.det(first)) < 1e-12:
        return None
    matrix = last @ np.linalg.inv(first)
    return homography_of(matrix / matrix[2, 2]) if abs(matrix[2, 2]) > 1e-9 else None
