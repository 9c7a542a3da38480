"""Drawn shapes as pixels."""

from math import ceil, cos, radians, sin
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..draw import DrawnForm
from ..looks.colours import rgb_of
from ..space import Matrix3
from .coverage import Shape, coverage_of, cut, lay
from .dither import blue_noise
from .mounting import GUTTER_PX, cut_by_mask

LARGEST_SIDE_PX = 4096


def form_pixels(drawn: DrawnForm, per_unit: float) -> tuple[NDArray[np.uint8], Matrix3]:
    """((h, w, 4) uint8 premultiplied, (3, 3) from the plane to its pixels) at `per_unit` pixels a unit of the plane."""
    form = drawn.form
    half_width, half_height, stroke = drawn.width / 2 * per_unit, drawn.height / 2 * per_unit, drawn.stroke * per_unit
    x0, y0 = ceil(half_width + stroke / 2) + GUTTER_PX, ceil(half_height + stroke / 2) + GUTTER_PX
    columns, rows = 2 * x0, 2 * y0
    pixels = np.zeros((rows, columns, 4), np.uint8)
    outline = form.outline if form.outline in ("ellipse", "polygon") else "rectangle"
    radius = form.radius * 2 * min(half_width, half_height) if form.outline == "rectangle" else 0.0
    shape = Shape(outline, float(x0), float(y0), half_width, half_height, radius=radius, sides=form.sides)
    if form.outline == "line":
        line = Shape("rectangle", float(x0), float(y0), half_width, max(stroke, 1.0) / 2, radius=max(stroke, 1.0) / 2)
        lay(pixels, np.array(rgb_of(form.stroke_colour)), coverage_of(line, columns, rows), 1.0)
    elif form.fill != "none":
        _fill(pixels, drawn, shape, per_unit)
    if stroke > 0.0 and form.outline != "line":
        ring = coverage_of(shape.grown(stroke / 2), columns, rows)
        ring -= np.minimum(coverage_of(shape.grown(-stroke / 2), columns, rows), ring)
        lay(pixels, np.array(rgb_of(form.stroke_colour)), ring, 1.0)
    if drawn.mask is not None:
        cut_by_mask(pixels, drawn.mask, x0, y0, 2 * half_width, 2 * max(half_height, stroke / 2))
    return pixels, np.array(((per_unit, 0.0, float(x0)), (0.0, per_unit, float(y0)), (0.0, 0.0, 1.0)))


def _fill(pixels: NDArray[np.uint8], drawn: DrawnForm, shape: Shape, per_unit: float) -> None:
    form = drawn.form
    rows, columns = pixels.shape[:2]
    coverage = coverage_of(shape, columns, rows)
    if form.fill == "colour":
        lay(pixels, np.array(rgb_of(form.colour)), coverage, form.fill_opacity)
        return
    x, y = (np.arange(columns) + 0.5 - shape.x)[None, :], (np.arange(rows) + 0.5 - shape.y)[:, None]
    share = gradient_share(x, y, shape.half_width, shape.half_height, form.angle, form.fill == "radial")[..., None]
    first = np.array((*rgb_of(form.colour), 255.0)) * form.fill_opacity
    second = np.array((*rgb_of(form.second_colour), 255.0)) * form.second_opacity
    noise = np.tile(blue_noise(), (rows // 64 + 1, columns // 64 + 1))[:rows, :columns, None]
    colour = first + (second - first) * share
    painted = np.floor(colour + noise).clip(0, 255).astype(np.uint8)
    np.minimum(painted[..., :3], painted[..., 3:], out=painted[..., :3])
    cut(painted, coverage, False)
    pixels[:] = painted


def gradient_share(
    x: NDArray[Any], y: NDArray[Any], half_width: float, half_height: float, angle: float, radial: bool
) -> NDArray[np.float64]:
    """0..1 from the first to the second colour at offsets from the middle; a straight gradient just reaches the corners of its box."""
    if radial:
        return np.clip(np.hypot(x / max(half_width, 1e-6), y / max(half_height, 1e-6)), 0.0, 1.0)
    dx, dy = sin(radians(angle)), -cos(radians(angle))
    reach = abs(dx) * half_width + abs(dy) * half_height
    return np.clip(0.5 + (x * dx + y * dy) / max(2 * reach, 1e-6), 0.0, 1.0)
