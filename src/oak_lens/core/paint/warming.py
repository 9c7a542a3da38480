"""The kernels that frames of most films need, compiled or loaded before the first frame is asked for."""

import numpy as np

from ..draw import ColourItem, DrawList, GroupItem, LayerItem, Mixture, MountedPhoto, Picture, ShadowItem
from ..looks import Correction, Mount
from .areas import cover_areas, paint_areas
from .dither import blue_noise, noise_across
from .kernels import copy_around, quantise, words
from .painter import Painter
from .shading import everywhere, shade
from .yuv import yuv420

GREY = Picture("grey", 8, 8)


class _Grey:
    """A tiny picture for warming up."""

    def size(self, picture: Picture) -> tuple[int, int]:
        return 8, 8

    def level(self, picture: Picture, level: int) -> "np.ndarray[tuple[int, ...], np.dtype[np.uint8]]":
        return np.full((8, 8, 4), 255, np.uint8)


def warm_up() -> None:
    """Paints something small that needs them all: seconds where they are not compiled yet, else a few hundredths of one."""
    identity = (1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0)
    mount = Mount(border=0.01, edge="deckle", foot=0.01)
    plain, carded = (
        MountedPhoto(GREY, 0.5, 0.5, None, "rectangle", 4, m, 1.0, (Correction(exposure=0.1),)) for m in (Mount(border=0.01), mount)
    )
    items = [
        (ShadowItem(c, identity, 0.05, 0.0, "#000000", 0.5), LayerItem(c, identity, 1.0, mode))
        for c, mode in ((plain, "normal"), (carded, "screen"))
    ]
    drawn = DrawList(1.0, (ColourItem("#000000"), *items[0], GroupItem(items[1], 0.5)))
    Painter(_Grey()).paint(Mixture(drawn, drawn, 0.5), 64, 64)
    _warm_up_grounds()
    _warm_up_shades()
    _warm_up_letters()


def _warm_up_grounds() -> None:
    """Backdrops, and frames on their way to a coder."""
    pixels, end = np.full((16, 32, 4), 255, np.uint8), np.full(16, 32, np.int64)
    quantise(pixels, np.zeros((16, 32, 3), np.float32), blue_noise())
    copy_around(words(pixels), words(pixels), end, end)
    yuv420(pixels, None)


def _warm_up_shades() -> None:
    """Shadows over all of a frame's width, and over a part of it: the compiler tells them apart."""
    canvas, coverage, all_of = np.full((8, 8, 4), 255, np.uint8), np.ones((8, 8), np.float32), everywhere(8, 8)
    for target, covered in ((canvas, coverage), (canvas[:, :6], np.ascontiguousarray(coverage[:, :6]))):
        for opaque in (True, False):
            shade(words(target), covered, 1, 0, 0, np.zeros(3, np.float32), 0.5, noise_across(target.shape[1]), 0, 0, all_of, opaque)


def _warm_up_letters() -> None:
    """The same for outlines, as texts give them; without a face, for there may be none yet."""
    square = np.array(((0.0, 0.0, 8.0, 0.0), (8.0, 0.0, 8.0, 8.0), (8.0, 8.0, 0.0, 8.0), (0.0, 8.0, 0.0, 0.0)))
    starts, matrices, one = np.array((0, 4)), np.eye(3)[None, None], np.ones(1)
    colours = np.zeros((1, 3), np.float32)
    paint_areas(np.zeros((8, 8, 4), np.uint8), square, starts, matrices, one, colours, colours, matrices[:, 0], np.zeros(3), 0, 0)
    cover_areas(np.zeros((8, 8), np.float32), square, starts, matrices, one)
