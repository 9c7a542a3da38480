"""Edges at the film's own resolution: what fills the frame covers it to its last column; borders are as wide as they are said to be."""

from typing import Any

import numpy as np
import pytest

from oak_lens.core.document import Document, Frame
from oak_lens.core.draw import DrawList, LayerItem, homography_of
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import scene_at
from oak_lens.core.looks import Mount
from oak_lens.core.paint import Painter
from oak_lens.core.space import similarity
from tests.conftest import Pictures, mounted


def white(width: int, height: int) -> Pictures:
    return Pictures(p=np.full((height, width, 4), 255, np.uint8))


def filled(size: tuple[int, int], mount: dict[str, Any], picture: list[dict[str, Any]], zooms: tuple[float, float]) -> Document:
    record = {"id": "p", "name": "p", "file": "p", "sha256": "a" * 64, "width": size[0], "height": size[1]}
    photo = [{"scene": "s", "layer": "photo"}]
    views = {n: {"zoom": z, "x": 0.0, "y": 0.0, "turn": 0.0} for n, z in zip(("opening", "closing"), zooms, strict=True)}
    return apply_edits(
        Document(frame=Frame(width=1920, height=1080)),
        parse_edits(
            [
                {"edit": "set_defaults", "fit": "fill", "mount": {"colour": "#203040", "mat_colour": "#000000", **mount}},
                {"edit": "add_pictures", "pictures": [record]},
                *({"ids": ["p"], **edit} for edit in picture),
                {"edit": "add_scenes", "scenes": [{"id": "s", "media": "p"}]},
                {"edit": "set_views", "photos": photo, **views},
                {"edit": "set_scenes", "ids": ["s"], "backdrop": {"kind": "none"}},
            ]
        ),
    )


@pytest.mark.parametrize(
    ("size", "mount", "picture"),
    [
        ((1280, 720), {}, []),
        ((64, 36), {}, []),
        ((3000, 1700), {"border": 0}, []),
        ((1280, 720), {"mat": 0.05, "foot": 0.1, "edge": "deckle", "paper": "under"}, []),
        ((1080, 1920), {}, [{"edit": "turn_pictures", "quarters": 1}]),
        (
            (1500, 1000),
            {"border": 0.05, "radius": 0.02},
            [{"edit": "set_pictures", "crop": {"x": 0.1, "y": 0.2, "width": 0.8, "height": 0.5}}],
        ),
        ((1920, 1080), {"border": 0}, [{"edit": "set_pictures", "crop": {"x": 0.0, "y": 0.25, "width": 1.0, "height": 0.75}}]),
        (
            (900, 700),
            {},
            [
                {"edit": "flip_pictures", "axis": "across"},
                {"edit": "set_pictures", "straighten": 4, "crop": {"x": 0.2, "y": 0.2, "width": 0.6, "height": 0.5}},
            ],
        ),
    ],
    ids=str,
)
def test_a_photo_that_fills_covers_the_frame_to_its_last_pixel(size: Any, mount: Any, picture: Any) -> None:
    for zooms in ((1.0, 1.0), (1.0, 1.13)):
        document = filled(size, mount, picture, zooms)
        # Over nothing the alpha tells as well; over black the colour must say the same.
        for width, height, at, below in ((1920, 1080, 0, "clear"), (960, 540, 0, "clear"), (640, 360, 500, "clear"), (640, 360, 500, "black")):
            painted = Painter(white(*size)).paint(scene_at(document, "s", at, 1000), width, height, below=below)
            assert painted.min() == 255, (width, at, below, painted.min(axis=(0, 1)))


@pytest.mark.parametrize("size", [(64, 48), (640, 480), (4000, 3000)], ids=str)
@pytest.mark.parametrize("turn", [0.0, 7.0])
def test_a_border_is_as_wide_as_it_is_said_to_be_however_small_the_picture(size: tuple[int, int], turn: float) -> None:
    content = mounted("p", 0.8, 0.6, mount=Mount(border=0.018, colour="#000000"))
    item = LayerItem(content, homography_of(similarity(1.0, turn, 0.0031, 0.0017)), 1.0)
    painted = Painter(white(*size)).paint(DrawList(16 / 9, (item,)), 1920, 1080, below="clear").astype(float)
    covered, shown = painted[..., 3].sum() / 255, painted[..., 0].sum() / 255
    per = 1080.0**2
    assert covered == pytest.approx((0.8 + 0.036) * (0.6 + 0.036) * per, rel=2e-4)
    assert shown == pytest.approx(0.8 * 0.6 * per, rel=2e-4)
    # Every edge fades over one pixel, or as it is turned two.
    row = painted[540, :, 3]
    assert np.count_nonzero((row > 0) & (row < 255)) <= 4


def test_an_edge_moves_evenly_by_less_than_a_pixel() -> None:
    content = mounted("p", 0.8, 0.6, mount=Mount(border=0.0))
    widths = []
    for step in range(21):
        matrix = similarity(1.0, 0.0, step / 20 / 1080, 0.0)
        painted = Painter(white(200, 150)).paint(DrawList(16 / 9, (LayerItem(content, homography_of(matrix), 1.0),)), 1920, 1080)
        widths.append(painted[540, :960, 0].sum() / 255)
    assert np.diff(widths) == pytest.approx(-1 / 20, abs=0.004)
