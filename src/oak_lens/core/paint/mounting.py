"""A photo in its mount as pixels: paper, mat, photo, caption, tape, mask; premultiplied, with a transparent gutter."""

from math import ceil, sqrt
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from ..draw import MountedPhoto, matrix_of
from ..looks import Mask
from ..looks.colours import rgb_of
from ..space import Matrix3
from .corrections import corrected
from .coverage import Shape, coverage_of, cut, lay, texture
from .fields import soft_noise
from .kernels import over
from .lettering import written
from .levels import coarsest_level
from .sources import PictureSource
from .warps import warped

GUTTER_PX = 2
DECKLE = 0.0026
"""How far a deckle edge wanders, in frame heights of the mount's lengths."""


def density_of(photo: MountedPhoto, source: PictureSource) -> float:
    """Pixels of the file's picture per unit of the plane, in the middle of the window."""
    width, height = source.size(photo.picture)
    if photo.picture_from_plane is None:
        return width / photo.width
    matrix = np.diag((width, height, 1.0)) @ matrix_of(photo.picture_from_plane)
    return sqrt(abs(float(np.linalg.det(matrix[:2, :2]))))


def window_pixels(
    photo: MountedPhoto,
    level: float,
    source: PictureSource,
    per_unit: float,
    left: float,
    top: float,
    columns: int,
    rows: int,
    filled: bool = False,
) -> NDArray[np.uint8]:
    """(rows, columns, 4): the picture as it lies behind the window; the raster's top left pixel is at plane position (left, top).

    `filled`: none of the window lies beyond the picture, and beyond the window its edge goes on.
    """
    # The nearest level of the pyramid: the filter changes the size by less than a fifth.
    of_level = min(max(round(level), 0), coarsest_level(*source.size(photo.picture)))
    picture = source.level(photo.picture, of_level)
    level_height, level_width = picture.shape[:2]
    from_plane = (
        np.array(((1 / photo.width, 0.0, 0.5), (0.0, 1 / photo.height, 0.5), (0.0, 0.0, 1.0)))
        if photo.picture_from_plane is None
        else matrix_of(photo.picture_from_plane)
    )
    plane_from_pixel = np.array(((1 / per_unit, 0.0, left), (0.0, 1 / per_unit, top), (0.0, 0.0, 1.0)))
    half = np.array(((1.0, 0.0, 0.5), (0.0, 1.0, 0.5), (0.0, 0.0, 1.0)))
    back = np.array(((1.0, 0.0, -0.5), (0.0, 1.0, -0.5), (0.0, 0.0, 1.0)))
    matrix = back @ np.diag((level_width, level_height, 1.0)) @ from_plane @ plane_from_pixel @ half
    made: NDArray[Any] = cv2.warpAffine(
        picture, matrix[:2] / matrix[2, 2], (columns, rows), flags=cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_REPLICATE
    )
    made = np.ascontiguousarray(made, np.uint8)
    # The filter's overshoot must not lift a colour above its alpha.
    np.minimum(made[..., :3], made[..., 3:], out=made[..., :3])
    if not filled:
        _leave_bare(made, matrix, level_width, level_height)
    return corrected(made, photo.corrections)


def _leave_bare(pixels: NDArray[np.uint8], matrix: Matrix3, width: int, height: int) -> None:
    """Nothing where the window shows beyond the picture's edges (only views whose fit allows it do)."""
    rows, columns = pixels.shape[:2]
    corners = np.array(((0.0, 0.0, 1.0), (columns - 1.0, 0.0, 1.0), (columns - 1.0, rows - 1.0, 1.0), (0.0, rows - 1.0, 1.0))) @ matrix.T
    if (
        corners[:, 0].min() > -1.01
        and corners[:, 1].min() > -1.01
        and corners[:, 0].max() < width + 0.01
        and corners[:, 1].max() < height + 0.01
    ):
        return
    inside = np.full((height, width), 255, np.uint8)
    seen = cv2.warpAffine(
        inside,
        matrix[:2] / matrix[2, 2],
        (columns, rows),
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_CONSTANT,
        borderValue=0,
    )
    cut(pixels, np.ascontiguousarray(seen, np.uint8), False)


def unmounted_pixels(photo: MountedPhoto, level: float, source: PictureSource, filled: bool) -> tuple[NDArray[np.uint8], Matrix3]:
    """The picture alone, as `mounted_pixels` has it, going on a little beyond the window."""
    per_unit = density_of(photo, source) * 2.0 ** (-level / 2.0)
    x0, y0 = (ceil(side / 2 * per_unit) + GUTTER_PX for side in (photo.width, photo.height))
    pixels = window_pixels(photo, level, source, per_unit, -x0 / per_unit, -y0 / per_unit, 2 * x0, 2 * y0, filled)
    return pixels, np.array(((per_unit, 0.0, float(x0)), (0.0, per_unit, float(y0)), (0.0, 0.0, 1.0)))


def mounted_pixels(photo: MountedPhoto, level: float, source: PictureSource) -> tuple[NDArray[np.uint8], Matrix3]:
    """((h, w, 4) uint8 premultiplied, (3, 3) from the plane to its pixels) at a level; negative levels are enlarged by 2^(-level / 2)."""
    per_unit = density_of(photo, source) * 2.0 ** (-level / 2.0)
    left, top, right, bottom = (v * per_unit for v in photo.sheet)
    pad = photo.reach * per_unit + GUTTER_PX
    # Whole pixels from the middle of the window, so that the middle lies where it lies at every level.
    x0, y0 = ceil(-left + pad), ceil(-top + pad)
    columns, rows = x0 + ceil(right + pad), y0 + ceil(bottom + pad)
    pixels = np.zeros((rows, columns, 4), np.uint8)
    mount, unit = photo.mount, photo.scale * per_unit
    half_width, half_height = photo.width / 2 * per_unit, photo.height / 2 * per_unit
    rough = DECKLE * unit if mount.edge == "deckle" else 0.0
    if photo.outline == "rectangle":
        sheet = Shape("rectangle", x0 + (left + right) / 2, y0 + (top + bottom) / 2, (right - left) / 2, (bottom - top) / 2,
                      radius=photo.radius * per_unit, rough=rough, rough_px=max(0.009 * unit, 2.0))  # fmt: skip
    else:
        sheet = Shape(photo.outline, x0, y0, half_width + photo.rim * per_unit, half_height + photo.rim * per_unit, sides=photo.sides,
                      rough=rough, rough_px=max(0.009 * unit, 2.0))  # fmt: skip
    has_paper = photo.rim > 0.0 or photo.foot > 0.0
    inner = max(photo.radius - photo.rim, 0.0) * per_unit if has_paper else photo.radius * per_unit
    window = Shape(photo.outline, x0, y0, half_width, half_height, radius=inner, sides=photo.sides)
    outer = coverage_of(sheet, columns, rows)
    opening = coverage_of(window, columns, rows)
    if has_paper:
        lay(pixels, np.array(rgb_of(mount.colour)), outer, 1.0)
    if mount.mat > 0.0:
        lay(pixels, np.array(rgb_of(mount.mat_colour)), coverage_of(window.grown(mount.mat * unit), columns, rows), 1.0)
        # The mat is cut at a slant: a pale line around the photo.
        lay(pixels, np.array((252.0, 250.0, 244.0)), coverage_of(window.grown(max(0.0016 * unit, 0.6)), columns, rows), 1.0)
    x1, y1 = max(int(x0 - half_width) - 1, 0), max(int(y0 - half_height) - 1, 0)
    x2, y2 = min(ceil(x0 + half_width) + 1, columns), min(ceil(y0 + half_height) + 1, rows)
    seen = window_pixels(photo, level, source, per_unit, (x1 - x0) / per_unit, (y1 - y0) / per_unit, x2 - x1, y2 - y1)
    cut(seen, np.ascontiguousarray(opening[y1:y2, x1:x2]), False)
    if has_paper:
        over(pixels[y1:y2, x1:x2], seen, 255)
    else:
        pixels[y1:y2, x1:x2] = seen
        if rough:
            cut(pixels, outer, False)
    if photo.caption:
        _write(pixels, photo, unit, x0, y0 + half_height + photo.rim * per_unit, half_height, per_unit)
    if mount.paper != "none":
        grain = _paper(rows, columns, unit)
        where = outer if mount.paper == "over" else np.where(opening > 127, 0, outer).astype(np.uint8)
        texture(pixels, grain, where, 0.085 * mount.paper_strength)
    if mount.tape != "none":
        _tape(pixels, photo, x0, y0, left, top, right, bottom, per_unit)
    if photo.mask is not None:
        cut_by_mask(pixels, photo.mask, x0, y0, photo.width * per_unit, photo.height * per_unit)
    return pixels, np.array(((per_unit, 0.0, float(x0)), (0.0, per_unit, float(y0)), (0.0, 0.0, 1.0)))


MASK_PX = 720


def mask_seen(mask: Mask, sheet: tuple[float, float, float, float], plane_from_pixel: Matrix3, box: tuple[int, int, int, int]) -> NDArray[np.uint8]:
    """(box h, box w) uint8: what a mask keeps of a box of the frame, for a layer whose sheet (left, top, right, bottom) lies in a plane."""
    left, top, right, bottom = sheet
    per_unit = MASK_PX / max(right - left, bottom - top, 1e-6)
    width, height = max((right - left) * per_unit, 1.0), max((bottom - top) * per_unit, 1.0)
    # Room for a mask that stands out beyond its layer.
    columns, rows = ceil(width * 3.0), ceil(height * 3.0)
    shape = _mask_shape(mask, columns / 2, rows / 2, width, height)
    raster = np.zeros((rows, columns, 4), np.uint8)
    raster[..., 3] = coverage_of(shape, columns, rows)
    middle = ((left + right) / 2.0, (top + bottom) / 2.0)
    to_raster = np.array(
        ((per_unit, 0.0, columns / 2 - middle[0] * per_unit), (0.0, per_unit, rows / 2 - middle[1] * per_unit), (0.0, 0.0, 1.0))
    )
    seen = np.ascontiguousarray(warped(raster, to_raster @ plane_from_pixel, box)[..., 3])
    return 255 - seen if mask.inverted else seen


def cut_by_mask(pixels: NDArray[np.uint8], mask: Mask, x0: float, y0: float, width_px: float, height_px: float) -> None:
    """`pixels` of a layer whose middle is at (x0, y0), kept only inside its mask (or outside)."""
    cut(pixels, coverage_of(_mask_shape(mask, x0, y0, width_px, height_px), pixels.shape[1], pixels.shape[0]), mask.inverted)


def _mask_shape(mask: Mask, x0: float, y0: float, width_px: float, height_px: float) -> Shape:
    """A mask of a layer of a size whose middle is at (x0, y0), in pixels."""
    return Shape(
        mask.outline,
        x0 + mask.x * width_px,
        y0 + mask.y * height_px,
        mask.width * width_px / 2,
        mask.height * height_px / 2,
        turn=mask.turn,
        sides=mask.sides,
        feather=max(mask.feather * min(width_px, height_px), 1.0),
    )


def _paper(rows: int, columns: int, unit: float) -> NDArray[np.float32]:
    """(rows, columns) float32: paper's relief, alike in size whatever the resolution."""
    tile = soft_noise(512, 512, 77, 1.4, 1.4) + soft_noise(512, 512, 78, 5.0, 5.0)
    step = max(unit / 512.0, 1e-3) ** -1 * 0.9
    matrix = np.array(((step, 0.0, 0.0), (0.0, step, 0.0)))
    made = cv2.warpAffine(tile, matrix, (columns, rows), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_WRAP)
    return np.ascontiguousarray(made, np.float32)


def _write(
    pixels: NDArray[np.uint8], photo: MountedPhoto, unit: float, x0: float, below: float, half_height: float, per_unit: float
) -> None:
    """The caption, in the middle of the foot; where there is none, on the lower border, or on the photo's lower edge."""
    foot, rim = photo.foot * per_unit, photo.rim * per_unit
    room = foot + rim
    size = room * 0.58 if room > 0.02 * unit else 0.045 * unit
    letters = written(photo.caption, size, photo.width * per_unit * 0.94)
    height, width = letters.shape
    middle = below + foot / 2 - rim / 2 if room > 0.02 * unit else below - rim - size
    top, left = round(middle - height * 0.5), round(x0 - width / 2)
    y1, y2, x1, x2 = max(top, 0), min(top + height, pixels.shape[0]), max(left, 0), min(left + width, pixels.shape[1])
    if y2 > y1 and x2 > x1:
        block = np.ascontiguousarray(letters[y1 - top : y2 - top, x1 - left : x2 - left])
        lay(pixels[y1:y2, x1:x2], np.array(rgb_of(photo.mount.ink)), block, 0.92)


def _tape(
    pixels: NDArray[np.uint8],
    photo: MountedPhoto,
    x0: float,
    y0: float,
    left: float,
    top: float,
    right: float,
    bottom: float,
    per_unit: float,
) -> None:
    """Strips of half-transparent tape that reach over the paper's edge."""
    size = min(photo.width, photo.height) * per_unit
    colour = np.array(rgb_of(photo.mount.tape_colour))
    places: tuple[tuple[float, float, float], ...]
    if photo.mount.tape == "corners":
        places = ((left, top, -43.0), (right, top, 47.0), (right, bottom, -45.0), (left, bottom, 44.0))
    else:
        places = (((left + right) / 2, top, -2.0),)
    for x, y, turn in places:
        strip = Shape(
            "rectangle",
            x0 + x,
            y0 + y,
            0.14 * size,
            0.042 * size,
            turn=turn,
            rough=0.003 * size,
            rough_px=max(0.02 * size, 2.0),
            seed=round(turn) & 7,
        )
        lay(pixels, colour, coverage_of(strip, pixels.shape[1], pixels.shape[0]), 0.74)
