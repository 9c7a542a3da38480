"""How far a picture is enlarged past its own pixels."""

import numpy as np

from ..space import Matrix3


def enlargement(frame_from_plane: Matrix3, width: float, height: float, picture_width_px: float, frame_height_px: int) -> float:
    """Frame pixels that one picture pixel is spread over, where the picture is largest.

    `width`, `height`: the picture in its plane, frame heights. Above 1 the picture is softer than the frame could show.
    Singular values of the homography's derivative at centre and corners (Hartley & Zisserman, ch. 2).
    """
    largest = 0.0
    x, y = width / 2.0, height / 2.0
    for px, py in ((0.0, 0.0), (-x, -y), (x, -y), (x, y), (-x, y)):
        a, b, c = frame_from_plane @ (px, py, 1.0)
        if c <= 1e-9:
            continue
        h = frame_from_plane
        jacobian = np.array(
            ((h[0, 0] * c - a * h[2, 0], h[0, 1] * c - a * h[2, 1]), (h[1, 0] * c - b * h[2, 0], h[1, 1] * c - b * h[2, 1]))
        ) / (c * c)
        largest = max(largest, float(np.linalg.svd(jacobian, compute_uv=False)[0]))
    return largest * frame_height_px * width / picture_width_px
