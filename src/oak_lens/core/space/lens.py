"""What is out of focus: the circle of confusion of a thin lens."""

from .camera import heights_per_mm

FRAME_HEIGHT_MM = 300.0
"""What one frame height measures in the scene: photos on a table. It sets how strong an aperture's blur is."""


def circle_factor(focal_mm: float, f_number: float, focus: float, aspect: float) -> float:
    """`k` of the circle of confusion's diameter k |1 - focus / depth|, in frame heights; `focus`, `depth` in frame heights from the lens.

    Thin lens: c = A f / (s - f) · |d - s| / d with A = f / N; on a film gate 36 mm long (Ray, Applied Photographic Optics, ch. 22).
    Where the focus is nearer than twice the focal length, that is taken instead, so that the circle stays finite.
    """
    distance_mm = max(focus * FRAME_HEIGHT_MM, 2.0 * focal_mm)
    on_film_mm = focal_mm * focal_mm / f_number / (distance_mm - focal_mm)
    return on_film_mm * heights_per_mm(aspect)


def circle_of_confusion(focal_mm: float, f_number: float, focus: float, depth: float, aspect: float) -> float:
    """Diameter, in frame heights, of the circle that a point at `depth` makes."""
    return circle_factor(focal_mm, f_number, focus, aspect) * abs(1.0 - focus / depth)
