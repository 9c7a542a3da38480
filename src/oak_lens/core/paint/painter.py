"""The painter: draw lists to pixels, keeping what it prepared."""

from dataclasses import replace
from typing import Any, Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import (
    BackdropItem,
    ColourItem,
    Composition,
    Content,
    DrawItem,
    DrawList,
    GradientItem,
    GroupItem,
    LayerItem,
    Lettering,
    Mixture,
    MountedPhoto,
    Picture,
    Picturing,
    ShadowItem,
    SurfaceItem,
    matrix_of,
)
from ..looks import Mount
from ..looks.colours import rgb_of
from ..space import Matrix3, box_corners, map_points
from .backdrops import backdrop_pixels, graded_surface, gradient_pixels, picture_ground, surface_homography, surface_pixels
from .blends import NUMBERS, blend
from .cache import ByteCache
from .clipping import before_camera, kept_pixels, seen_before_camera
from .compositions import Paint, compose, compose_clear
from .coverage import cut
from .dither import noise_across
from .edges import edges_of
from .effects import effects_of, in_pixels, outline_of
from .hiding import Hidden, Hiders, Way, hidden_spans, way_hidden
from .kernels import copy_around, mix, over, words
from .levels import coarsest_level
from .lighting import STEP_PX, apply_light, light_on
from .mounting import cut_by_mask, mask_seen
from .placing import place
from .scratch import scratch
from .shading import everywhere, shade
from .shadows import ShadowSprite, lay_shadow, outline_shadow, rectangle_shadow, resolution, shadow_corners
from .softening import SHARP_BELOW_PX as SHARP_SOFTNESS_PX
from .softening import sigmas_at, softened, softened_unevenly
from .sources import PictureSource
from .sprites import Sprite, is_simple, level_range, picture_sprite, sprite_of
from .streaks import SHARP_BELOW_PX as STREAK_PX
from .streaks import passes_for, streak_px, streaked
from .texts import box_of, paint_text, shade_text, standing
from .warps import (
    box_around,
    covers_frame,
    density,
    determinant,
    drawn_level,
    inverse,
    levels_for,
    pixel_from_frame,
    touched_spans,
    warped,
)

DEFAULT_CACHE_BYTES = 72 << 20

Canvas = NDArray[np.uint8]
Box = tuple[int, int, int, int]
Below = Literal["black", "chequered", "clear"]

SHADOW_STEP_PX = 4

CHEQUER_PX = 12

BARE = Mount(border=0.0)
MARGIN_PX = 1.5
"""How far a layer's softened edge may reach beyond its outline, in pixels of the frame."""

HAIR = 1e-6
"""A length in a layer's plane that is none."""


class Painter:
    """Paints frames from one source of pictures; safe to share between threads.

    The pixels are a function of the draw list, the pictures and the size alone: what the cache holds never shows.
    """

    def __init__(self, source: PictureSource, cache_bytes: int = DEFAULT_CACHE_BYTES):
        self._source = source
        self._cache = ByteCache(cache_bytes)

    def paint(self, picturing: Picturing, width_px: int, height_px: int, into: Canvas | None = None, below: Below = "black") -> Canvas:
        """(h, w, 4) uint8 sRGB of a frame; painted into `into` if that is given. `below`: what shows where nothing is. The frame is opaque
        but with `clear`, which premultiplies.

        Raises MissingPicture.
        """
        canvas = np.empty((height_px, width_px, 4), np.uint8) if into is None else into
        return self._paint(picturing, canvas, below, 0)

    def _paint(self, picturing: Picturing, canvas: Canvas, below: Below, depth: int) -> Canvas:
        """`depth`: in how many mixtures and compositions this is."""
        if isinstance(picturing, Mixture):
            self._paint(picturing.below, canvas, below, depth + 1)
            above = self._paint(picturing.above, scratch(f"above{depth}", canvas.shape, np.uint8), below, depth + 1)
            mix(canvas, above, round(picturing.amount * 65536))
        elif isinstance(picturing, Composition):
            self._compose(picturing, canvas, below, depth)
        else:
            self._paint_list(picturing, canvas, below)
        return canvas

    def _compose(self, composition: Composition, canvas: Canvas, below: Below, depth: int) -> None:
        def onto(ground: Below) -> Paint:
            return lambda picturing, into: self._paint(picturing, into, ground, depth + 1)

        if below == "clear":
            compose_clear(composition, canvas, onto("black"), onto("clear"), depth)
        else:
            compose(composition, canvas, onto(below), depth)

    def _paint_list(self, drawn: DrawList, canvas: Canvas, below: Below) -> None:
        height_px, width_px = canvas.shape[:2]
        to_pixels = pixel_from_frame(width_px, height_px)
        visible = drawn.items[self._lowest_seen(drawn, to_pixels, width_px, height_px) :]
        first = visible[0] if visible else None
        covered = isinstance(first, ColourItem | GradientItem | BackdropItem | SurfaceItem)
        if isinstance(first, LayerItem) and self._hides(first, to_pixels, width_px, height_px):
            self._lay(canvas, first, to_pixels, (0, 0, width_px, height_px))
            if first.lit is not None:
                back = np.asarray(np.linalg.inv(to_pixels @ matrix_of(first.frame_from_plane)))
                apply_light(canvas, light_on(back, (0, 0, width_px, height_px), first.lit), STEP_PX)
            visible = visible[1:]
        elif not covered:
            canvas[:] = (0, 0, 0, 0 if below == "clear" else 255)
            if below == "chequered":
                canvas[..., :3] = _chequers(width_px, height_px)
        self._paint_items(visible, canvas, to_pixels, covered or below != "clear", 0)

    def _paint_items(self, items: tuple[DrawItem, ...], canvas: Canvas, to_pixels: Matrix3, opaque: bool, depth: int) -> None:
        """`opaque`: whether the canvas is; `depth`: how many groups this is in."""
        height_px, width_px = canvas.shape[:2]
        hiders = Hiders([self._way_hidden(item, to_pixels) for item in items])
        for index, item in enumerate(items):
            if isinstance(item, ColourItem):
                canvas[:] = (*(int(c) for c in rgb_of(item.colour)), 255)
            elif isinstance(item, BackdropItem | SurfaceItem | GradientItem):
                ground = self._ground(item, width_px, height_px)
                # The first of the layers above that hides any of it.
                spans = (hidden_spans(way, (0, 0, width_px, height_px)) for i in range(index + 1, len(items)) if (way := hiders.of(i)))
                hidden = next((span for span in spans if (span[0] < span[1]).any()), None)
                if hidden is None:
                    np.copyto(canvas, ground)
                else:
                    copy_around(words(canvas), words(ground), *hidden)
            elif isinstance(item, ShadowItem):
                above = next((i for i in range(index + 1, min(index + 3, len(items))) if isinstance(items[i], LayerItem)), index)
                self._shade(canvas, item, Hidden(hiders, above), to_pixels, opaque)
            elif isinstance(item, GroupItem):
                self._group(canvas, item, to_pixels, opaque, depth)
            else:
                self._place(canvas, item, to_pixels, Hidden(hiders, index))

    def _lowest_seen(self, drawn: DrawList, to_pixels: Matrix3, width_px: int, height_px: int) -> int:
        """Index of the topmost item that hides all below it."""
        for index in range(len(drawn.items) - 1, 0, -1):
            if self._hides(drawn.items[index], to_pixels, width_px, height_px):
                return index
        return 0

    def _hides(self, item: DrawItem, to_pixels: Matrix3, width_px: int, height_px: int) -> bool:
        if isinstance(item, ColourItem | GradientItem | BackdropItem | SurfaceItem):
            return True
        if not isinstance(item, LayerItem) or item.opacity < 1.0 or item.blend != "normal" or not self._is_solid(item):
            return False
        if isinstance(item.content, MountedPhoto) and item.content.radius > 0.0:
            return False
        if item.clip is not None or self._softens(item, to_pixels, width_px, height_px):
            return False
        return covers_frame(to_pixels @ matrix_of(item.frame_from_plane), box_corners(*item.content.sheet), width_px, height_px)

    def _softens(self, item: LayerItem, to_pixels: Matrix3, width_px: int, height_px: int) -> bool:
        """Whether a blur or a streak is seen on the layer, so that its edges are not sharp."""
        if not item.blur and item.focus is None and item.travel is None:
            return False
        pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane)
        seen = before_camera(outline_of(item), pixel_from_plane)
        return len(seen) < 3 or effects_of(item, map_points(pixel_from_plane, seen), to_pixels, width_px, height_px) is not None

    def _is_solid(self, item: LayerItem) -> bool:
        """Whether the content is an opaque rectangle, but for round corners."""
        content = item.content
        return isinstance(content, MountedPhoto) and content.is_rectangular and self._opaque(content.picture) and self._is_filled(content)

    def _is_filled(self, photo: MountedPhoto) -> bool:
        """Whether no window shows beyond its picture's edges."""
        if photo.picture_from_plane is None:
            return True
        corners = map_points(
            matrix_of(photo.picture_from_plane), box_corners(-photo.width / 2, -photo.height / 2, photo.width / 2, photo.height / 2)
        )
        return bool((corners > -1e-6).all() and (corners < 1.0 + 1e-6).all())

    def _opaque(self, picture: Picture) -> bool:
        def look() -> bool:
            width, height = self._source.size(picture)
            return bool((self._source.level(picture, coarsest_level(width, height))[..., 3] == 255).all())

        return self._cache.get(("opaque", picture.key), look, lambda _: 64)

    def _ground(self, item: BackdropItem | SurfaceItem | GradientItem, width_px: int, height_px: int) -> Canvas:
        size = (width_px, height_px)

        def nbytes(pixels: Canvas) -> int:
            return int(pixels.nbytes)

        if isinstance(item, GradientItem):
            return self._cache.get((item, size), lambda: gradient_pixels(item, *size), nbytes)
        if isinstance(item, SurfaceItem):
            if item.frame_from_plane is not None:
                return self._surface_seen(item, width_px, height_px)
            texture_item = replace(item, x=0.0, y=0.0, closer=1.0 if not item.still else item.closer, lit=None)
            texture = self._cache.get(("texture", texture_item, height_px), lambda: graded_surface(texture_item, height_px), nbytes)
            if item.still:
                return self._cache.get((item, size), lambda: self._lit_surface(item, texture, *size), nbytes)
            return self._lit_surface(item, texture, *size)
        if item.move is None and item.picture.moment == 0:
            return self._cache.get((item, size), lambda: backdrop_pixels(item, picture_ground(item, *size, self._source), *size), nbytes)
        # What moves shares one ground for all its frames; its margin is that of the longest way it can go.
        still = replace(item, move=None if item.move is None else (1.0, 0.25, 0.25))
        ground = self._cache.get(
            ("ground", still, size), lambda: picture_ground(still, *size, self._source), lambda g: int(g.colour.nbytes)
        )
        return backdrop_pixels(item, ground, *size)

    def _lit_surface(self, item: SurfaceItem, texture: Canvas, width_px: int, height_px: int) -> Canvas:
        pixels = surface_pixels(item, texture, width_px, height_px)
        if item.lit is not None:
            back = np.asarray(np.linalg.inv(surface_homography(item, width_px, height_px)))
            apply_light(pixels, light_on(back, (0, 0, width_px, height_px), item.lit), STEP_PX)
        return pixels

    def _surface_seen(self, item: SurfaceItem, width_px: int, height_px: int) -> Canvas:
        """A surface under a camera, out of focus and streaked as it says."""
        seen = surface_homography(item, width_px, height_px)
        back = np.asarray(np.linalg.inv(seen))
        looks_at = map_points(back, np.array(((width_px / 2.0, height_px / 2.0),)))[0]
        magnified = density(seen, (float(looks_at[0]), float(looks_at[1]))) / height_px if np.isfinite(looks_at).all() else 1.0
        # The texture is reduced in steps, so that a camera in motion needs few of them.
        closer = 2.0 ** (round(2.0 * np.log2(max(magnified, 0.05))) / 2.0)
        texture_item = replace(item, x=0.0, y=0.0, closer=closer, frame_from_plane=None, lit=None, focus=None, travel=None, still=True)
        texture = self._cache.get(
            ("texture", texture_item, height_px), lambda: graded_surface(texture_item, height_px), lambda t: int(t.nbytes)
        )
        pixels = self._lit_surface(item, texture, width_px, height_px)
        box, to_pixels = (0, 0, width_px, height_px), pixel_from_frame(width_px, height_px)
        corners = np.array(((0.0, 0.0), (width_px, 0.0), (width_px, height_px), (0.0, height_px)))
        if item.focus is not None:
            sigmas = sigmas_at(corners, back, 0.0, item.focus, height_px)
            if sigmas.max() > SHARP_SOFTNESS_PX:
                pixels = softened_unevenly(pixels, back, box, 0.0, item.focus, height_px, cv2.BORDER_REFLECT_101)
        if item.travel is not None:
            pixels_on = in_pixels(item.travel, to_pixels)
            far = streak_px(pixels_on, corners, width_px, height_px)
            if far > STREAK_PX:
                pixels = streaked(pixels, pixels_on, passes_for(far), box)
        return pixels

    def _shade(self, canvas: Canvas, item: ShadowItem, hidden: Hidden, to_pixels: Matrix3, opaque: bool) -> None:
        """A shadow; `hidden`: by what throws it."""
        pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane)
        if isinstance(item.content, Lettering):
            pixels_on = None if item.travel is None else in_pixels(item.travel, to_pixels)
            shade_text(canvas, item, item.content, pixel_from_plane, pixels_on, opaque)
            return
        seen = density(pixel_from_plane)
        # One that reaches behind the camera is not seen.
        if seen <= 0.0 or (corners_px := seen_before_camera(shadow_corners(item), pixel_from_plane)) is None:
            return
        per_unit = resolution(item.content, item.softness, seen)
        key = ("shadow", item.content, item.softness, item.spread, per_unit)
        sprite = self._cache.get(key, lambda: self._shadow(item, per_unit), lambda s: int(s.coverage.nbytes))
        lay_shadow(canvas, item, sprite, pixel_from_plane, corners_px, seen, hidden, to_pixels, opaque)

    def _shadow(self, item: ShadowItem, per_unit: float) -> ShadowSprite:
        content = item.content
        if isinstance(content, MountedPhoto) and content.is_rectangular and self._opaque(content.picture):
            return rectangle_shadow(content, content.radius, item.softness, item.spread, per_unit)
        base, _, coarsest = level_range(content, self._source)
        level = max(0, min(coarsest, int(2 * np.log2(max(base / per_unit, 1.0)))))
        # A shadow needs the outline alone; corrections do not change it.
        bare = replace(content, corrections=()) if isinstance(content, MountedPhoto) else content
        return outline_shadow(sprite_of(bare, level, self._source), item.softness, item.spread, per_unit)

    def _way_hidden(self, item: DrawItem, to_pixels: Matrix3) -> Way:
        return way_hidden(item, to_pixels) if isinstance(item, LayerItem) and self._is_solid(item) else []

    def _group(self, canvas: Canvas, item: GroupItem, to_pixels: Matrix3, opaque: bool, depth: int) -> None:
        """The group's items on a ground of their own, cut by its mask, over its shadows."""
        height_px, width_px = canvas.shape[:2]
        own = scratch(f"group{depth}", canvas.shape, np.uint8)
        own[:] = 0
        self._paint_items(item.items, own, to_pixels, False, depth + 1)
        if item.mask is not None and item.frame_from_plane is not None:
            seen = np.zeros((height_px, width_px, 4), np.uint8)
            seen[:] = 255
            cut_by_mask(seen, item.mask, width_px / 2, height_px / 2, width_px, height_px)
            pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane) @ np.linalg.inv(to_pixels)
            cut(own, np.ascontiguousarray(warped(seen, np.linalg.inv(pixel_from_plane), (0, 0, width_px, height_px))[..., 3]), False)
        for shadow in item.shadows:
            step = SHADOW_STEP_PX
            small = cv2.resize(
                np.ascontiguousarray(own[..., 3]), (-(-width_px // step), -(-height_px // step)), interpolation=cv2.INTER_AREA
            )
            sigma = max(shadow.softness * height_px / step, 0.3)
            soft = cv2.GaussianBlur(small.astype(np.float32) / 255.0, (0, 0), sigma, borderType=cv2.BORDER_CONSTANT)
            matrix = np.array(
                ((1 / step, 0.0, -shadow.x * height_px / step), (0.0, 1 / step, -shadow.y * height_px / step), (0.0, 0.0, 1.0))
            )
            coverage = warped(np.ascontiguousarray(soft, np.float32), matrix, (0, 0, width_px, height_px))
            colour = np.array(rgb_of(shadow.colour), np.float32)
            shade(words(canvas), coverage, 1, 0, 0, colour, shadow.opacity * item.opacity, noise_across(width_px), 0, 0, everywhere(height_px, width_px), opaque)
        if item.blur * height_px > SHARP_SOFTNESS_PX:
            own = softened(own, item.blur * height_px)
        _composite(canvas, own, item.opacity, item.blend)

    def _place_text(self, canvas: Canvas, item: LayerItem, content: Lettering, to_pixels: Matrix3) -> None:
        """A text: its letters, each where it is at all moments of the exposure; then masked, lit, out of focus, laid over as one."""
        height_px, width_px = canvas.shape[:2]
        pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane)
        if abs(np.linalg.det(pixel_from_plane)) < 1e-12:
            return
        text = standing(content, pixel_from_plane, None if item.travel is None else in_pixels(item.travel, to_pixels))
        points = text.extent[np.isfinite(text.extent).all(axis=1)]
        # Motion is in the letters already.
        effects = effects_of(replace(item, travel=None), points, to_pixels, width_px, height_px) if len(points) else None
        margin, beyond = (2, 0) if effects is None else (effects.margin, effects.beyond)
        box = box_of(text, width_px, height_px, margin, beyond)
        if box is None:
            return
        frame = (max(box[0], 0), max(box[1], 0), min(box[2], width_px), min(box[3], height_px))
        if frame[0] >= frame[2] or frame[1] >= frame[3]:
            return
        box = frame if effects is None else box
        left, top, right, bottom = box
        drawn = scratch("drawn", (bottom - top, right - left, 4), np.uint8)
        drawn[:] = 0
        paint_text(text, drawn, box, self._cache)
        plane_from_pixel = np.asarray(np.linalg.inv(pixel_from_plane))
        if content.mask is not None:
            cut(drawn, mask_seen(content.mask, content.sheet, plane_from_pixel, box), False)
        if item.lit is not None:
            apply_light(drawn, light_on(plane_from_pixel, box, item.lit), STEP_PX)
        if item.clip is not None:
            cut(drawn, kept_pixels(before_camera(np.array(item.clip), pixel_from_plane), pixel_from_plane, box), False)
        if effects is not None:
            drawn = effects.applied(drawn, plane_from_pixel, box, item, height_px)
            drawn = np.ascontiguousarray(drawn[frame[1] - top : frame[3] - top, frame[0] - left : frame[2] - left])
        _composite(canvas[frame[1] : frame[3], frame[0] : frame[2]], drawn, item.opacity, item.blend)

    def _place(self, canvas: Canvas, item: LayerItem, to_pixels: Matrix3, hidden: Hidden) -> None:
        if isinstance(item.content, Lettering):
            self._place_text(canvas, item, item.content, to_pixels)
            return
        height_px, width_px = canvas.shape[:2]
        pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane)
        outline = outline_of(item)
        seen = before_camera(outline, pixel_from_plane)
        if len(seen) < 3 or abs(determinant(pixel_from_plane)) < 1e-12:
            return
        points = map_points(pixel_from_plane, seen)
        effects = effects_of(item, points, to_pixels, width_px, height_px)
        margin = 2 if effects is None else effects.margin
        way = [points] if effects is None else effects.way(points)
        around = points if len(way) == 1 else np.concatenate(way)
        if not np.isfinite(around).all():
            around = around[np.isfinite(around).all(axis=1)]
        box = box_around(around, width_px, height_px, margin, margin if effects is None else effects.beyond)
        if box is None:
            return
        # Without effects nothing beyond the frame's edges matters.
        frame = (max(box[0], 0), max(box[1], 0), min(box[2], width_px), min(box[3], height_px))
        if frame[0] >= frame[2] or frame[1] >= frame[3]:
            return
        box = frame if effects is None else box
        left, top, right, bottom = box
        # The parts of a split plane are drawn as finely as all of it, so that they meet.
        whole = seen if item.clip is None else before_camera(outline_of(replace(item, clip=None)), pixel_from_plane)
        middle = tuple(sum(v) / len(v) for v in whole.T.tolist())
        part = canvas[frame[1] : frame[3], frame[0] : frame[2]]
        if effects is None and item.lit is None and item.blend == "normal" and item.clip is None and seen is outline:
            self._lay(canvas, item, to_pixels, box, item.opacity, (middle[0], middle[1]), corner=(left, top), outline_px=points, hidden=hidden)
            return
        drawn = scratch("drawn", (bottom - top, right - left, 4), np.uint8)
        self._lay(drawn, item, to_pixels, box, middle=(middle[0], middle[1]), fresh=True)
        plane_from_pixel = inverse(pixel_from_plane)
        if item.lit is not None:
            apply_light(drawn, light_on(plane_from_pixel, box, item.lit), STEP_PX)
        if item.clip is not None or seen is not outline:
            cut(drawn, kept_pixels(seen, pixel_from_plane, box), False)
        if effects is not None:
            drawn = effects.applied(drawn, plane_from_pixel, box, item, height_px, way)
            drawn = np.ascontiguousarray(drawn[frame[1] - top : frame[3] - top, frame[0] - left : frame[2] - left])
        _composite(part, drawn, item.opacity, item.blend)

    def _seen(self, content: Content, pixel_from_plane: Matrix3, middle: tuple[float, float]) -> list[tuple[Sprite, float]]:
        """[(sprite, weight)]: one sprite as fine as it is seen, or, of a whole picture's levels, one or a mix of two.

        `middle`: the point of the plane by which it is told how fine it is seen.
        """
        base, finest, coarsest = level_range(content, self._source)
        fine = density(pixel_from_plane, middle)
        if isinstance(content, MountedPhoto) and is_simple(content):
            return [(self._picture(content, level), share) for level, share in levels_for(fine, base, coarsest)]
        level = drawn_level(fine, base, coarsest, finest)
        if isinstance(content, MountedPhoto) and content.is_plain:
            return [(self._picture(content, level), 1.0)]
        return [(self._sprite(content, level), 1.0)]

    def _lay(
        self,
        canvas: Canvas,
        item: LayerItem,
        to_pixels: Matrix3,
        box: Box,
        opacity: float = 1.0,
        middle: tuple[float, float] = (0.0, 0.0),
        fresh: bool = False,
        corner: tuple[int, int] = (0, 0),
        outline_px: NDArray[np.float64] | None = None,
        hidden: Hidden | None = None,
    ) -> None:
        """A box of the frame, with the content over it. `middle`: see `_seen`; `fresh`, `corner`: see `place`; `outline_px`: where its outline
        is seen, if that is known; `hidden`: what need not be painted."""
        pixel_from_plane = to_pixels @ matrix_of(item.frame_from_plane)
        back = inverse(pixel_from_plane)
        content = self._shown(item.content, back, box)
        edges, solid = None, False
        if isinstance(content, MountedPhoto) and content.is_plain:
            edges = edges_of(content, pixel_from_plane, box)
            solid = content.is_rectangular and self._opaque(content.picture) and self._is_filled(content)
            reach = edges.reach
        else:
            if outline_px is None:
                outline = before_camera(outline_of(item if item.clip is None else replace(item, clip=None)), pixel_from_plane)
                outline_px = map_points(pixel_from_plane, outline)
            reach = touched_spans(outline_px, box, MARGIN_PX)
        if hidden is not None:
            reach = hidden.trimmed(reach, box)
        # Told by what it is, not by what is shown of it: it must not change while it grows to cover the frame.
        sharp = isinstance(item.content, MountedPhoto) and item.content.is_plain
        place(canvas, box, self._seen(content, pixel_from_plane, middle), back, reach, edges, opacity, solid, fresh, corner, sharp)

    def _shown(self, content: Content, plane_from_pixel: Matrix3, box: Box) -> Content:
        """The content; of a photo whose picture covers all that is painted, the picture alone: nothing of its mount is seen."""
        if not isinstance(content, MountedPhoto) or content.is_plain or not content.mount_lies_outside:
            return content
        left, top, right, bottom = box
        (xx, xy, x1), (yx, yy, y1), (wx, wy, w1) = plane_from_pixel.tolist()
        half_x, half_y = content.width / 2 + HAIR, content.height / 2 + HAIR
        for x, y in ((left, top), (right, top), (right, bottom), (left, bottom)):
            w = wx * x + wy * y + w1
            if not (w > 1e-9 and abs(xx * x + xy * y + x1) <= half_x * w and abs(yx * x + yy * y + y1) <= half_y * w):
                return content
        return replace(content, mount=BARE, caption="")

    def _picture(self, photo: MountedPhoto, level: float) -> Sprite:
        key = ("picture", replace(photo, mount=BARE, scale=1.0), level)
        return self._cache.get(
            key, lambda: picture_sprite(photo, level, self._source, self._is_filled(photo)), lambda s: int(s.pixels.nbytes)
        )

    def _sprite(self, content: Content, level: float) -> Sprite:
        return self._cache.get(("sprite", content, level), lambda: sprite_of(content, level, self._source), lambda s: int(s.pixels.nbytes))


def _composite(canvas: Any, drawn: Canvas, opacity: float, mode: str) -> None:
    if mode == "normal":
        over(canvas, drawn, round(opacity * 255))
    else:
        blend(canvas, drawn, round(opacity * 255), NUMBERS[mode])


def _chequers(width_px: int, height_px: int) -> NDArray[np.uint8]:
    y, x = np.arange(height_px)[:, None] // CHEQUER_PX, np.arange(width_px)[None, :] // CHEQUER_PX
    return np.where((x + y) % 2, 168, 120).astype(np.uint8)[..., None]
