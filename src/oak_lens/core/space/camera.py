"""The pinhole camera."""

from dataclasses import dataclass

import numpy as np

from .transforms import Matrix4

FILM_GATE_MM = 36.0
"""Width of the film gate that focal lengths refer to."""


@dataclass(frozen=True, slots=True)
class Camera:
    """The home camera: looks along -z and shows the plane z = 0 as the frame, whatever `focal_mm`."""

    focal_mm: float = 50.0


def home_distance(camera: Camera, aspect: float) -> float:
    """Distance of the camera from the plane z = 0, in frame heights, for a frame of this aspect (width / height)."""
    return aspect * camera.focal_mm / FILM_GATE_MM


def frame_from_world(camera: Camera, aspect: float) -> Matrix4:
    """(4, 4) projection to homogeneous frame coordinates: (x, y, z, 1) -> (X, Y, z, W), seen at (X / W, Y / W).

    W = 1 - z / D is positive in front of the camera. Pinhole projection, as CSS Transforms Level 2 `perspective()`.
    """
    m = np.eye(4)
    m[3, 2] = -1.0 / home_distance(camera, aspect)
    return m
