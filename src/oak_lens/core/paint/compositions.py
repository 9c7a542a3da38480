"""Whole pictures laid over one another: what joins are made of."""

from collections.abc import Callable
from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import Composition, Glow, Picturing, Plate, matrix_of
from ..looks.colours import rgb_of
from ..space import box_corners
from .clipping import kept_pixels
from .coverage import cut
from .effects import in_pixels
from .kernels import over
from .mattes import matte_pixels, reached_at
from .scratch import scratch
from .softening import SHARP_BELOW_PX, softened
from .streaks import SHARP_BELOW_PX as STREAK_PX
from .streaks import passes_for, streak_px, streaked
from .warps import covered_box, pixel_from_frame, warped

Canvas = NDArray[np.uint8]
GLOW_STEP = 4
SHADOW_STEP = 8
SHADOW_STRENGTH = 0.55
EDGE_ON = 1e-6
BLACK, WHITE = "#000000", "#ffffff"

Paint = Callable[[Picturing, Canvas], Canvas]


def compose(composition: Composition, canvas: Canvas, paint: Paint, depth: int = 0) -> None:
    """The composition painted into `canvas`, opaque; `paint` paints what is in it into a canvas, `depth`: in how many others it is."""
    height_px, width_px = canvas.shape[:2]
    canvas[:] = (*(int(c) for c in rgb_of(composition.ground)), 255)
    painted: Picturing | None = None
    picture = scratch(f"plate{depth}", canvas.shape, np.uint8)
    for part in composition.parts:
        if isinstance(part, Glow):
            _glow(canvas, part)
            continue
        if part.picture is not painted:
            paint(part.picture, picture)
            painted = part.picture
        _lay(canvas, picture, part)
    if composition.travel is not None:
        to_pixels = pixel_from_frame(width_px, height_px)
        pixels_on = in_pixels(composition.travel, to_pixels)
        corners = np.array(((0.0, 0.0), (width_px, 0.0), (width_px, height_px), (0.0, height_px)))
        far = streak_px(pixels_on, corners, width_px, height_px)
        if far > STREAK_PX:
            canvas[:] = streaked(canvas, pixels_on, passes_for(far), (0, 0, width_px, height_px))
            canvas[..., 3] = 255


def compose_clear(composition: Composition, canvas: Canvas, paint: Paint, paint_clear: Paint, depth: int = 0) -> None:
    """The composition painted into `canvas` premultiplied: see-through where its pictures are, and where a black ground shows.

    Over black its colours are the premultiplied ones, so they are those of `compose`; the alpha is the same composition of the pictures'
    alphas. `paint` paints over black, `paint_clear` over nothing.
    """
    compose(composition, canvas, paint, depth)

    def alpha(drawn: Picturing, into: Canvas) -> Canvas:
        paint_clear(drawn, into)
        into[..., :3] = into[..., 3:]
        into[..., 3] = 255
        return into

    plates = tuple(replace(p, dark=0.0, shadow=0.0) for p in composition.parts if isinstance(p, Plate))
    ground = composition.ground if composition.ground == BLACK else WHITE
    seen = scratch(f"seen{depth}", canvas.shape, np.uint8)
    compose(Composition(ground, plates, composition.travel), seen, alpha, depth)
    # Light alone, too, is something to see.
    np.maximum(seen[..., 0], canvas[..., :3].max(axis=-1), out=canvas[..., 3])


def _lay(canvas: Canvas, picture: Canvas, plate: Plate) -> None:
    height_px, width_px = canvas.shape[:2]
    box = (0, 0, width_px, height_px)
    drawn = scratch("laid", canvas.shape, np.uint8)
    to_pixels = pixel_from_frame(width_px, height_px)
    frame = np.eye(3) if plate.frame_from_plate is None else matrix_of(plate.frame_from_plate)
    pixel_from_plate = to_pixels @ frame
    if abs(np.linalg.det(frame)) < EDGE_ON:
        return
    if plate.frame_from_plate is None:
        drawn[:] = picture
    else:
        back = to_pixels @ np.linalg.inv(pixel_from_plate)
        drawn = warped(picture, np.asarray(back), box, cv2.BORDER_REPLICATE if plate.goes_on else cv2.BORDER_CONSTANT, drawn)
    if plate.blur * height_px > SHARP_BELOW_PX:
        drawn = np.ascontiguousarray(softened(drawn, plate.blur * height_px, cv2.BORDER_REFLECT_101))
    if plate.dark > 0.0:
        drawn = np.asarray(cv2.multiply(drawn, np.array((*(1.0 - plate.dark,) * 3, 1.0))), np.uint8)
    if plate.clip is not None:
        cut(drawn, kept_pixels(np.array(plate.clip), pixel_from_plate, box), False)
    if plate.matte is not None:
        cut(drawn, matte_pixels(plate.matte, width_px, height_px), False)
    if plate.shadow > 0.0:
        _shade(canvas, plate, pixel_from_plate)
    if plate.adds:
        cv2.scaleAdd(drawn, plate.opacity, canvas, dst=canvas)
        canvas[..., 3] = 255
    else:
        over(canvas, drawn, round(plate.opacity * 255))


def _shade(canvas: Canvas, plate: Plate, pixel_from_plate: NDArray[np.float64]) -> None:
    """The soft shadow around a plate's edges, at an eighth of the resolution."""
    height_px, width_px = canvas.shape[:2]
    aspect = width_px / height_px
    corners = box_corners(-aspect / 2, -0.5, aspect / 2, 0.5)
    if covered_box(pixel_from_plate, corners, width_px, height_px, 0) is None:
        return
    step = SHADOW_STEP
    pad = int(3 * plate.shadow * height_px / step) + 2
    rows, columns = -(-height_px // step), -(-width_px // step)
    small = np.zeros((rows + 2 * pad, columns + 2 * pad), np.uint8)
    # Positions to the middles of the coarse pixels.
    points = (np.array([pixel_from_plate @ (*c, 1.0) for c in corners]))[:, :2] / step + pad - 0.5
    cv2.fillConvexPoly(small, np.rint(np.clip(points, -1e4, 1e4) * 16).astype(np.int32), 255, cv2.LINE_AA, 4)
    soft = cv2.GaussianBlur(small.astype(np.float32) / 255.0, (0, 0), max(plate.shadow * height_px / step, 0.5))
    keep = 1.0 - SHADOW_STRENGTH * plate.opacity * soft
    enlarged = cv2.resize(keep, None, fx=step, fy=step, interpolation=cv2.INTER_LINEAR)
    full = enlarged[pad * step : pad * step + height_px, pad * step : pad * step + width_px]
    canvas[..., :3] = cv2.multiply(canvas[..., :3], cv2.merge([full] * 3), dtype=cv2.CV_8U)


def _glow(canvas: Canvas, glow: Glow) -> None:
    height_px, width_px = canvas.shape[:2]
    columns, rows = max(width_px // GLOW_STEP, 8), max(height_px // GLOW_STEP, 8)
    light = _leak(glow, columns, rows) if glow.kind == "leak" else _embers(glow, columns, rows)
    full = cv2.resize(np.clip(light, 0.0, 1.0), (width_px, height_px), interpolation=cv2.INTER_LINEAR)
    # Screen: 1 - (1 - a)(1 - b).
    canvas[..., :3] = 255 - cv2.multiply(255 - canvas[..., :3], 1.0 - full, dtype=cv2.CV_8U)


def _leak(glow: Glow, columns: int, rows: int) -> NDArray[np.float32]:
    """(rows, columns, 3): soft pools of light that drift across, white where they are strongest."""
    rng = np.random.default_rng(glow.seed)
    x = ((np.arange(columns, dtype=np.float32) + 0.5) / rows)[None, :]
    y = ((np.arange(rows, dtype=np.float32) + 0.5) / rows)[:, None]
    aspect = columns / rows
    side = rng.choice((-1.0, 1.0))
    amount = np.zeros((rows, columns), np.float32)
    for _ in range(4):
        from_x, from_y = rng.uniform(0.0, 0.35), rng.uniform(-0.1, 1.1)
        drift, wide, tall = rng.uniform(0.5, 0.9), rng.uniform(0.22, 0.5), rng.uniform(0.5, 1.1)
        at = aspect * (from_x + drift * glow.progress if side > 0 else 1.0 - from_x - drift * glow.progress)
        pool = np.exp(-(((x - at) / wide) ** 2) - ((y - from_y) / tall) ** 2)
        amount += np.float32(rng.uniform(0.6, 1.0)) * pool.astype(np.float32)
    amount *= np.float32(glow.strength)
    return _tinted(amount, glow.colour)


def _embers(glow: Glow, columns: int, rows: int) -> NDArray[np.float32]:
    """(rows, columns, 3): a hot edge where clouds are just being reached, and its halo."""
    reached, _ = reached_at("clouds", 0.0, 0, glow.seed, columns, rows)
    near = np.exp(-(((reached - np.float32(glow.progress)) / np.float32(0.025)) ** 2))
    halo = cv2.GaussianBlur(near, (0, 0), max(rows / 40.0, 1.0))
    return _tinted(np.asarray(near * 1.5 + halo * 1.2, np.float32) * np.float32(glow.strength), glow.colour)


def _tinted(amount: NDArray[np.float32], colour: str) -> NDArray[np.float32]:
    """A colour's light, towards white where there is more of it than one."""
    tint = np.array(rgb_of(colour), np.float32) / 255.0
    white = np.clip(amount - 0.7, 0.0, 1.0)[..., None]
    return np.asarray(amount[..., None] * (tint * (1.0 - white) + white), np.float32)
