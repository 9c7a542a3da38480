"""The pinhole camera: where it stands, where it looks, how far it draws in."""

from dataclasses import dataclass

import numpy as np

from .transforms import Matrix4, swung, tipped, translated, turned

FILM_GATE_MM = 36.0
"""Longer side of the film gate that focal lengths refer to: for a tall frame the camera is held upright."""

NEAR = 0.02
"""Nearest depth that is seen, as a share of the home distance: what lies nearer is cut off."""


@dataclass(frozen=True, slots=True)
class Camera:
    """At home it looks along -z and shows the plane z = 0 as the frame, whatever `home_mm`.

    `track` (right), `pedestal` (down), `dolly` (forwards): frame heights from home, along the axes of the frame. `pan` (right), `tilt`
    (up), `roll` (clockwise, so that the picture turns the other way): degrees. `orbit` (to the right) and `rise` (upwards) carry it, as
    moved and turned, about `point`. `focal_mm` other than `home_mm` widens or narrows what is seen from where it stands.
    """

    focal_mm: float = 50.0
    home_mm: float | None = None
    track: float = 0.0
    pedestal: float = 0.0
    dolly: float = 0.0
    pan: float = 0.0
    tilt: float = 0.0
    roll: float = 0.0
    orbit: float = 0.0
    rise: float = 0.0
    point: tuple[float, float, float] = (0.0, 0.0, 0.0)

    @property
    def is_home(self) -> bool:
        return self == Camera(self.focal_mm, self.home_mm, point=self.point) and self.home_mm in (None, self.focal_mm)


def home_distance(camera: Camera, aspect: float) -> float:
    """Distance of the home camera from the plane z = 0, in frame heights, for a frame of this aspect (width / height)."""
    return heights_per_mm(aspect) * (camera.home_mm or camera.focal_mm)


def heights_per_mm(aspect: float) -> float:
    """Frame heights that a millimetre of the film gate is, for a frame of this aspect (width / height)."""
    return max(aspect, 1.0) / FILM_GATE_MM


def world_from_camera(camera: Camera, aspect: float) -> Matrix4:
    """(4, 4) rigid motion: the camera's own axes (x right, y down, z backwards) to the world."""
    placed = translated(camera.track, camera.pedestal, home_distance(camera, aspect) - camera.dolly)
    placed = placed @ swung(-camera.pan) @ tipped(-camera.tilt) @ turned(camera.roll)
    if camera.orbit or camera.rise:
        x, y, z = camera.point
        placed = translated(x, y, z) @ swung(camera.orbit) @ tipped(camera.rise) @ translated(-x, -y, -z) @ placed
    return placed


def frame_from_world(camera: Camera, aspect: float) -> Matrix4:
    """(4, 4) projection to homogeneous frame coordinates: (x, y, z, 1) -> (X, Y, z, W), seen at (X / W, Y / W).

    W = depth before the camera / home distance; positive in front of it, 1 - z / D at home. Pinhole projection, as CSS Transforms
    Level 2 `perspective()`.
    """
    distance = home_distance(camera, aspect)
    m = np.eye(4)
    m[3, 2] = -1.0 / distance
    if camera.is_home:
        return m
    m[0, 0] = m[1, 1] = heights_per_mm(aspect) * camera.focal_mm / distance
    m[3, 3] = 0.0
    return m @ np.asarray(np.linalg.inv(world_from_camera(camera, aspect)))
