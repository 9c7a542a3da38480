"""The painter: draw lists to pixels, keeping what it prepared."""

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import BackdropItem, ColourItem, DrawItem, DrawList, Mixture, PhotoItem, Picturing, ShadowItem, matrix_of
from ..space import Matrix3, map_points, rectangle_corners
from .backdrops import backdrop_pixels
from .cache import ByteCache
from .colours import rgb_of
from .dither import blue_noise
from .kernels import mix, over, shade
from .levels import coarsest_level
from .scratch import scratch
from .shadows import shadow_key, shadow_sprite
from .sources import PictureSource
from .sprites import Sprite, photo_sprite, sprite_key
from .warps import covered_box, covered_spans, covers_frame, density, levels_for, pixel_from_frame, warped

DEFAULT_CACHE_BYTES = 72 << 20

Canvas = NDArray[np.uint8]
Spans = NDArray[np.int64]

SHADOW_STEP_PX = 4


class Painter:
    """Paints frames from one source of pictures; safe to share between threads.

    The pixels are a function of the draw list, the pictures and the size alone: what the cache holds never shows.
    """

    def __init__(self, source: PictureSource, cache_bytes: int = DEFAULT_CACHE_BYTES):
        self._source = source
        self._cache = ByteCache(cache_bytes)

    def paint(self, picturing: Picturing, width_px: int, height_px: int, into: Canvas | None = None) -> Canvas:
        """(h, w, 4) uint8 opaque sRGB of a frame; painted into `into` if that is given. Raises MissingPicture."""
        canvas = np.empty((height_px, width_px, 4), np.uint8) if into is None else into
        if isinstance(picturing, Mixture):
            self.paint(picturing.below, width_px, height_px, canvas)
            above = self.paint(picturing.above, width_px, height_px, scratch("above", canvas.shape, np.uint8))
            mix(canvas, above, round(picturing.amount * 65536))
            return canvas
        self._paint_list(picturing, canvas)
        return canvas

    def _paint_list(self, drawn: DrawList, canvas: Canvas) -> None:
        height_px, width_px = canvas.shape[:2]
        to_pixels = pixel_from_frame(width_px, height_px)
        visible = drawn.items[self._lowest_seen(drawn, to_pixels, width_px, height_px) :]
        for index, item in enumerate(visible):
            if isinstance(item, ColourItem):
                canvas[:] = (*(int(c) for c in rgb_of(item.colour)), 255)
            elif isinstance(item, BackdropItem):
                np.copyto(canvas, self._backdrop(item, width_px, height_px))
            elif isinstance(item, ShadowItem):
                self._shade(canvas, item, visible[index + 1] if index + 1 < len(visible) else None, to_pixels)
            elif index == 0:
                self._warp(item, to_pixels, (0, 0, width_px, height_px), canvas)
            else:
                self._place(canvas, item, to_pixels)

    def _lowest_seen(self, drawn: DrawList, to_pixels: Matrix3, width_px: int, height_px: int) -> int:
        """Index of the topmost item that hides all below it."""
        for index in range(len(drawn.items) - 1, 0, -1):
            if self._hides(drawn.items[index], to_pixels, width_px, height_px):
                return index
        return 0

    def _hides(self, item: DrawItem, to_pixels: Matrix3, width_px: int, height_px: int) -> bool:
        if isinstance(item, ColourItem | BackdropItem):
            return True
        if not isinstance(item, PhotoItem) or item.opacity < 1.0 or item.radius > 0.0 or not self._opaque(item.media):
            return False
        corners = rectangle_corners(item.width + 2 * item.border, item.height + 2 * item.border)
        return covers_frame(to_pixels @ matrix_of(item.frame_from_plane), corners, width_px, height_px)

    def _opaque(self, media: str) -> bool:
        def look() -> bool:
            width, height = self._source.size(media)
            return bool((self._source.level(media, coarsest_level(width, height))[..., 3] == 255).all())

        return self._cache.get(("opaque", media), look, lambda _: 64)

    def _backdrop(self, item: BackdropItem, width_px: int, height_px: int) -> Canvas:
        return self._cache.get(
            (item, width_px, height_px), lambda: backdrop_pixels(item, width_px, height_px, self._source), lambda p: p.nbytes
        )

    def _shade(self, canvas: Canvas, item: ShadowItem, above: DrawItem | None, to_pixels: Matrix3) -> None:
        sprite = self._cache.get(shadow_key(item), lambda: shadow_sprite(item), lambda s: s.coverage.nbytes)
        pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane)
        reach = 7.0 * item.softness
        corners = rectangle_corners(item.width + reach, item.height + reach)
        height_px, width_px = canvas.shape[:2]
        box = covered_box(pixel_from_plane, corners, width_px, height_px)
        if box is None or density(pixel_from_plane) <= 0.0:
            return
        left, top, right, bottom = box
        sprite_from_pixel = sprite.sprite_from_plane @ np.linalg.inv(pixel_from_plane)
        softness_px = item.softness * density(pixel_from_plane)
        step = SHADOW_STEP_PX if softness_px >= 2.5 * SHADOW_STEP_PX else 1
        into = scratch("coverage", (bottom - top, right - left), np.float32)
        if step == 1:
            coverage = warped(sprite.coverage, sprite_from_pixel, box, into=into)
        else:
            # Soft shadows are band-limited: a quarter of the resolution holds all of one. The small box starts on a
            # multiple of the step so that its grid does not move with the shadow.
            small = (left // step - 1, top // step - 1, right // step + 3, bottom // step + 3)
            stretch = np.diag((float(step), float(step), 1.0))
            low = warped(sprite.coverage, sprite_from_pixel @ stretch, small)
            enlarge = np.array(((1 / step, 0.0, -float(small[0])), (0.0, 1 / step, -float(small[1])), (0.0, 0.0, 1.0)))
            coverage = warped(low, enlarge, box, cv2.BORDER_REPLICATE, into)
        hidden_from, hidden_to = self._hidden_spans(above, to_pixels, box)
        shade(
            canvas[top:bottom, left:right],
            coverage,
            np.array(rgb_of(item.colour), np.float32),
            item.opacity,
            blue_noise(),
            left,
            top,
            hidden_from,
            hidden_to,
        )

    def _hidden_spans(self, above: DrawItem | None, to_pixels: Matrix3, box: tuple[int, int, int, int]) -> tuple[Spans, Spans]:
        """The pixels of each row that the photo above will cover wholly: nothing painted there would be seen."""
        left, top, right, bottom = box
        if isinstance(above, PhotoItem) and above.opacity >= 1.0 and self._opaque(above.media):
            pixel_from_plane = to_pixels @ matrix_of(above.frame_from_plane)
            # Inside the rounded corners and the softened edge.
            inset = above.radius + 3.0 / max(density(pixel_from_plane), 1e-6)
            width, height = above.width + 2 * (above.border - inset), above.height + 2 * (above.border - inset)
            if width > 0.0 and height > 0.0:
                corners = map_points(pixel_from_plane, rectangle_corners(width, height))
                if np.isfinite(corners).all():
                    return covered_spans(corners, box)
        none = np.full(bottom - top, right - left, np.int64)
        return none, none

    def _place(self, canvas: Canvas, item: PhotoItem, to_pixels: Matrix3) -> None:
        pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane)
        corners = rectangle_corners(item.width + 2 * item.border, item.height + 2 * item.border)
        height_px, width_px = canvas.shape[:2]
        box = covered_box(pixel_from_plane, corners, width_px, height_px)
        if box is None:
            return
        left, top, right, bottom = box
        drawn = self._warp(item, to_pixels, box, scratch("drawn", (bottom - top, right - left, 4), np.uint8))
        over(canvas[top:bottom, left:right], drawn, round(item.opacity * 255))

    def _warp(self, item: PhotoItem, to_pixels: Matrix3, box: tuple[int, int, int, int], into: Canvas) -> Canvas:
        """The photo in a box of the frame: one level of its pyramid, or a mix of two."""
        pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane)
        full_width, full_height = self._source.size(item.media)
        levels = levels_for(density(pixel_from_plane), full_width / item.width, coarsest_level(full_width, full_height))
        plane_from_pixel = np.linalg.inv(pixel_from_plane)

        def seen(level: int, target: Canvas) -> Canvas:
            sprite = self._sprite(item, level)
            return warped(sprite.pixels, sprite.sprite_from_plane @ plane_from_pixel, box, into=target)

        drawn = seen(levels[0][0], into)
        if len(levels) == 2:
            mix(drawn, seen(levels[1][0], scratch("second", into.shape, np.uint8)), round(levels[1][1] * 65536))
        return drawn

    def _sprite(self, item: PhotoItem, level: int) -> Sprite:
        return self._cache.get(sprite_key(item, level), lambda: photo_sprite(item, level, self._source), lambda s: s.pixels.nbytes)
