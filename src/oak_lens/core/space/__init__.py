"""Transforms, camera and projection. Conventions: `conventions.md`."""

from .camera import NEAR, Camera, frame_from_world, heights_per_mm, home_distance, world_from_camera
from .lens import circle_factor, circle_of_confusion
from .projection import box_corners, map_points, plane_homography, rectangle_corners
from .transforms import Matrix3, Matrix4, scaled, similarity, swung, tipped, translated, turned

__all__ = [
    "NEAR",
    "Camera",
    "Matrix3",
    "Matrix4",
    "box_corners",
    "circle_factor",
    "circle_of_confusion",
    "frame_from_world",
    "heights_per_mm",
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
    "world_from_camera",
]
