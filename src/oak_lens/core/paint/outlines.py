"""Coverage of rounded rectangles, exact to the pixel's edge."""

import numpy as np
from numpy.typing import NDArray


def edge_coverage(length_px: int, low: float, high: float) -> NDArray[np.float32]:
    """(length,) share of each pixel that lies in [low, high], positions in pixels."""
    edges = np.arange(length_px + 1, dtype=np.float64)
    inside = np.clip(edges, low, high)
    return (inside[1:] - inside[:-1]).astype(np.float32)


def rounded_coverage(width_px: int, height_px: int, inset: float, right: float, bottom: float, radius_px: float) -> NDArray[np.float32]:
    """(h, w) coverage of a rounded rectangle from (inset, inset) to (right, bottom)."""
    coverage: NDArray[np.float32] = edge_coverage(height_px, inset, bottom)[:, None] * edge_coverage(width_px, inset, right)[None, :]
    if radius_px > 0.25:
        for rows, columns, corner in corner_blocks(width_px, height_px, inset, right, bottom, radius_px):
            coverage[rows, columns] = np.minimum(coverage[rows, columns], corner)
    return coverage


def corner_blocks(
    width_px: int, height_px: int, inset: float, right: float, bottom: float, radius_px: float
) -> list[tuple[slice, slice, NDArray[np.float32]]]:
    """(rows, columns, coverage) of the four corners of a rounded rectangle in a picture."""
    blocks = []
    for far_x in (False, True):
        for far_y in (False, True):
            offset_x = width_px - right if far_x else inset
            offset_y = height_px - bottom if far_y else inset
            box = min(int(np.ceil(radius_px + max(offset_x, offset_y))) + 1, width_px, height_px)
            corner = _corner(radius_px, box, offset_x, offset_y)
            rows = slice(height_px - box, height_px) if far_y else slice(0, box)
            columns = slice(width_px - box, width_px) if far_x else slice(0, box)
            blocks.append((rows, columns, corner[:: -1 if far_y else 1, :: -1 if far_x else 1]))
    return blocks


def _corner(radius_px: float, box_px: int, offset_x: float, offset_y: float) -> NDArray[np.float32]:
    """(box, box) coverage of a top left corner whose edges stand the offsets inside the box: half a pixel to each side of its arc."""
    dx = np.clip(radius_px - (np.arange(box_px) + 0.5 - offset_x), 0.0, None)
    dy = np.clip(radius_px - (np.arange(box_px) + 0.5 - offset_y), 0.0, None)
    distance = np.hypot(dx[None, :], dy[:, None]) - radius_px
    coverage: NDArray[np.float32] = np.clip(0.5 - distance, 0.0, 1.0).astype(np.float32)
    return coverage
