"""What is done to a layer's pixels after it was placed: blur, streaks."""

from dataclasses import dataclass
from math import ceil
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..draw import LayerItem, Numbers9, matrix_of
from ..space import Matrix3, box_corners
from . import softening, streaks
from .softening import softened, softened_unevenly
from .streaks import Box, passes_for, streak_px, streaked, swept, way_of


@dataclass(frozen=True, slots=True)
class Effects:
    """What is done to a layer's pixels after it was placed. `margin`: pixels around it and its way that take part; `beyond`: around the
    frame, from where they are carried into it."""

    sigma_px: float
    even: bool
    pixels_on: Matrix3 | None
    far_px: float

    @property
    def margin(self) -> int:
        return ceil(3.2 * self.sigma_px) + 3

    @property
    def beyond(self) -> int:
        return self.margin + ceil(min(self.far_px, 400.0))

    def way(self, points: NDArray[np.float64]) -> list[NDArray[np.float64]]:
        """Where points are while the shutter is open."""
        return [points] if self.pixels_on is None else way_of(self.pixels_on, points)

    def applied(
        self, drawn: NDArray[Any], plane_from_pixel: Matrix3, box: Box, item: LayerItem, height_px: int, way: list[NDArray[np.float64]] | None = None
    ) -> NDArray[Any]:
        """`way`: of the layer's outline, in pixels of the frame; None: it may be anywhere."""
        if self.sigma_px > softening.SHARP_BELOW_PX:
            if self.even or item.focus is None:
                drawn = softened(drawn, self.sigma_px)
            else:
                drawn = softened_unevenly(drawn, plane_from_pixel, box, item.blur, item.focus, height_px)
        if self.pixels_on is not None:
            reach = None if way is None else swept(way, box, self.margin)
            drawn = streaked(np.ascontiguousarray(drawn), self.pixels_on, passes_for(self.far_px), box, reach)
        return drawn


def effects_of(item: LayerItem, points: NDArray[np.float64], to_pixels: Matrix3, width_px: int, height_px: int) -> Effects | None:
    """Blur and streak of a layer whose corners are seen at `points`; None if neither would be seen."""
    if not item.blur and item.focus is None and item.travel is None:
        return None
    largest = smallest = 0.0
    if item.blur or item.focus is not None:
        near = np.clip(points, (-0.5 * width_px, -0.5 * height_px), (1.5 * width_px, 1.5 * height_px))
        back = np.asarray(np.linalg.inv(to_pixels @ matrix_of(item.frame_from_plane)))
        sigmas = softening.sigmas_at(np.concatenate([near, near.mean(axis=0, keepdims=True)]), back, item.blur, item.focus, height_px)
        largest, smallest = float(sigmas.max()), float(sigmas.min())
    pixels_on, far = None, 0.0
    if item.travel is not None:
        pixels_on = in_pixels(item.travel, to_pixels)
        far = streak_px(pixels_on, points, width_px, height_px)
    if far <= streaks.SHARP_BELOW_PX:
        pixels_on, far = None, 0.0
    if largest <= softening.SHARP_BELOW_PX and pixels_on is None:
        return None
    return Effects(largest, smallest >= largest * (1.0 - softening.EVEN_WITHIN), pixels_on, far)


def in_pixels(travel: Numbers9, to_pixels: Matrix3) -> Matrix3:
    """A motion of frame coordinates as one of pixels."""
    return np.asarray(to_pixels @ matrix_of(travel) @ np.linalg.inv(to_pixels))


def outline_of(item: LayerItem) -> NDArray[np.float64]:
    """The convex part of the plane that the layer may cover."""
    if item.clip is not None:
        return np.array(item.clip)
    left, top, right, bottom = item.content.sheet
    reach = item.content.reach
    return box_corners(left - reach, top - reach, right + reach, bottom + reach)
