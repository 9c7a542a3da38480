"""Transforms, camera and projection. Conventions: `conventions.md`."""

from .camera import Camera, frame_from_world, home_distance
from .projection import box_corners, map_points, plane_homography, rectangle_corners
from .transforms import Matrix3, Matrix4, scaled, similarity, swung, tipped, translated, turned

__all__ = [
    "Camera",
    "Matrix3",
    "Matrix4",
    "box_corners",
    "frame_from_world",
    "home_distance",
    "map_points",
    "plane_homography",
    "rectangle_corners",
    "scaled",
    "similarity",
    "swung",
    "tipped",
    "translated",
    "turned",
]
