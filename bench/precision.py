"""How exactly a slow move paints a mark, and how well a fine chart shrinks."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from oak_lens.core.draw import ColourItem, DrawList, LayerItem, MountedPhoto, Picture, homography_of
from oak_lens.core.looks import Mount
from oak_lens.core.paint import Painter, reduced_level
from oak_lens.core.space import Camera, Matrix3, frame_from_world, map_points, plane_homography, similarity, swung, tipped, turned

WIDTH, HEIGHT = 1280, 720
ASPECT = WIDTH / HEIGHT
SIGMA_PX = 14.0


class ArrayPictures:
    """A `PictureSource` over arrays."""

    def __init__(self, arrays: Mapping[str, NDArray[np.uint8]]):
        self._levels = {(name, 0): a for name, a in arrays.items()}

    def size(self, picture: Picture) -> tuple[int, int]:
        height, width = self._levels[picture.key, 0].shape[:2]
        return width, height

    def level(self, picture: Picture, level: int) -> NDArray[np.uint8]:
        if (picture.key, level) not in self._levels:
            self._levels[picture.key, level] = reduced_level(self.size(picture), level, lambda k: self.level(picture, k))
        return self._levels[picture.key, level]


def painter_of(picture: NDArray[np.uint8]) -> Painter:
    """Paints one picture: for many frames of it, so that it is prepared once."""
    return Painter(ArrayPictures({"p": picture}))


def shown(painter: Painter, matrix: Matrix3, width: float = 1.5, height: float = 1.0, border: float = 0.0) -> NDArray[np.uint8]:
    """A frame with one picture on black."""
    photo = MountedPhoto(Picture("p", 0, 0), width, height, None, "rectangle", 4, Mount(border=border, colour="#ffffff"), 1.0)
    item = LayerItem(photo, homography_of(matrix), 1.0)
    return painter.paint(DrawList(ASPECT, (ColourItem("#000000"), item)), WIDTH, HEIGHT)


def _perspective(swing: float, tip: float, turn: float) -> Matrix3:
    return plane_homography(frame_from_world(Camera(), ASPECT) @ turned(turn) @ tipped(tip) @ swung(swing))


MOVES: dict[str, Callable[[int], Matrix3]] = {
    "pan": lambda i: similarity(1.0, 0.0, i * 0.1 / HEIGHT, i * 0.03 / HEIGHT),
    "zoom": lambda i: similarity(1.0 + i * 0.0005, 0.0, 0.0, 0.0),
    "turn": lambda i: similarity(1.0, i * 0.05, 0.0, 0.0),
    "perspective": lambda i: _perspective(10 + i * 0.02, -6.0, i * 0.01),
}


@dataclass(frozen=True, slots=True)
class Displacement:
    """Distance of a painted mark from where mathematics puts it, in pixels."""

    rms: float
    largest: float


def displacement(move: str) -> Displacement:
    """Over 60 frames of a slow move of a Gaussian mark, by its centre of gravity."""
    height, width = 1080, 1620
    y, x = np.mgrid[:height, :width] + 0.5
    mark = np.array((950.3, 470.6))
    glow = 250 * np.exp(-((x - mark[0]) ** 2 + (y - mark[1]) ** 2) / (2 * SIGMA_PX**2))
    picture = np.dstack([glow, glow, glow, np.full_like(glow, 255)]).round().astype(np.uint8)
    painter = painter_of(picture)
    on_plane = np.array([[mark[0] / width * 1.5 - 0.75, mark[1] / height - 0.5]])
    errors: list[Any] = []
    for i in range(0, 60, 3):
        matrix = MOVES[move](i)
        pixels = shown(painter, matrix)[..., 0].astype(float)
        expected = map_points(matrix, on_plane)[0] * HEIGHT + (WIDTH / 2, HEIGHT / 2)
        left, top = (expected - 55).astype(int)
        window = pixels[top : top + 110, left : left + 110]
        yy, xx = np.mgrid[top : top + 110, left : left + 110] + 0.5
        errors.append(((window * xx).sum() / window.sum() - expected[0], (window * yy).sum() / window.sum() - expected[1]))
    drift = np.array(errors)
    if move == "perspective":
        # Perspective makes the mark itself lopsided by a constant part of a pixel; what matters is that it does not jump.
        drift = drift - np.linspace(drift[0], drift[-1], len(drift))
    return Displacement(float(np.sqrt((drift**2).mean())), float(np.abs(drift).max()))


def chart_psnr() -> float:
    """dB between a fine chart shrunk to 0.15 by a layer and by one Lanczos reduction."""
    side, scale = 2400, 0.15
    y, x = np.mgrid[:side, :side].astype(float)
    chart = 127.5 + 127.5 * np.sin(((x - side / 2) ** 2 + (y - side / 2) ** 2) * np.pi / side / 1.2)
    picture = np.dstack([chart, chart, chart, np.full_like(chart, 255)]).round().astype(np.uint8)
    size = round(side * scale)
    pixels = shown(painter_of(picture), similarity(1.0, 0.0, 0.0, 0.0), width=size / HEIGHT, height=size / HEIGHT)
    left, top = (WIDTH - size) // 2, (HEIGHT - size) // 2
    ours = pixels[top + 2 : top + size - 2, left + 2 : left + size - 2, 0].astype(float)
    reduced = Image.fromarray(picture[..., 0]).resize((size, size), Image.Resampling.LANCZOS)
    reference = np.asarray(reduced).astype(float)[2:-2, 2:-2]
    return float(10 * np.log10(255**2 / ((ours - reference) ** 2).mean()))
