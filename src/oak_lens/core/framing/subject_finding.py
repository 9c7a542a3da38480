"""Finding what a picture is about."""

import cv2
import numpy as np
from numpy.typing import NDArray

SIDE_PX = 72
SHARE_OF_PEAK = 0.4


def subject_in(pixels: NDArray[np.uint8]) -> tuple[float, float, float, float] | None:
    """(x, y, width, height) in fractions of a picture (h, w, 3) uint8: the box around what stands out most; None if nothing does.

    Spectral residual of the brightness (Hou & Zhang, CVPR 2007), joined by how far colours are from the picture's mean, and weighed
    towards the middle.
    """
    height, width = pixels.shape[:2]
    scale = SIDE_PX / max(height, width)
    size = (max(8, round(width * scale)), max(8, round(height * scale)))
    small = cv2.resize(pixels, size, interpolation=cv2.INTER_AREA).astype(np.float32)
    grey = small @ np.array((0.2126, 0.7152, 0.0722), np.float32)
    if float(small.std(axis=(0, 1)).max()) < 2.0:
        return None
    spectrum = np.fft.fft2(grey)
    magnitude = np.log(np.abs(spectrum) + 1e-6).astype(np.float32)
    residual = magnitude - cv2.blur(magnitude, (3, 3), borderType=cv2.BORDER_REPLICATE)
    stands_out = np.abs(np.fft.ifft2(np.exp(residual + 1j * np.angle(spectrum)))) ** 2
    stands_out = cv2.GaussianBlur(stands_out.astype(np.float32), (0, 0), 2.6)
    colour = cv2.GaussianBlur(np.linalg.norm(small - small.mean(axis=(0, 1)), axis=2).astype(np.float32), (0, 0), 2.6)
    y, x = np.mgrid[: size[1], : size[0]]
    middle = np.exp(-(((x + 0.5) / size[0] - 0.5) ** 2 + ((y + 0.5) / size[1] - 0.5) ** 2) / (2 * 0.3**2))
    saliency = (stands_out / stands_out.max() + 0.8 * colour / max(float(colour.max()), 1e-6)) * middle
    mask = (saliency >= SHARE_OF_PEAK * saliency.max()).astype(np.uint8)
    _, labels = cv2.connectedComponents(mask)
    peak = np.unravel_index(int(np.argmax(saliency)), saliency.shape)
    rows, columns = np.nonzero(labels == labels[peak])
    left, right, top, bottom = columns.min(), columns.max() + 1, rows.min(), rows.max() + 1
    return float(left / size[0]), float(top / size[1]), float((right - left) / size[0]), float((bottom - top) / size[1])
