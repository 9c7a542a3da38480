"""Geometry for the easel: outlines lie where the photo is painted, views where the picture is seen; drags land under the pointer."""

import numpy as np
import pytest

from oak_lens.core.document import Document
from oak_lens.core.draw import LayerItem
from oak_lens.core.edits import apply_edit, apply_edits, parse_edit, parse_edits
from oak_lens.core.evaluate import layer_corners_px, layer_geometry, scene_at, staged, timeline_of, view_geometry
from oak_lens.core.paint import Painter
from oak_lens.core.time import ticks
from tests.conftest import Pictures, made_document

REF = [{"scene": "s-square", "layer": "photo"}]
LENGTH = ticks(5)


def framed(**placement: float) -> Document:
    return apply_edits(
        made_document(),
        parse_edits(
            [
                {
                    "edit": "set_layers",
                    "layers": REF,
                    "fit": "whole",
                    "placement": placement,
                    "mount": {"border": 0.02},
                    "shadow": {"opacity": 0},
                },
                {"edit": "set_scenes", "ids": ["s-square"], "backdrop": {"kind": "colour", "colour": "#000000"}},
            ]
        ),
    )


@pytest.mark.parametrize(
    "placement", [{"x": 0.1, "y": -0.05, "size": 0.6}, {"turn": 20, "size": 0.7}, {"swing": 30, "tip": -15, "size": 0.7}]
)
def test_an_outline_lies_where_the_photo_is_painted(placement: dict[str, float], source: Pictures) -> None:
    document = framed(**placement)
    outline = np.array(layer_geometry(staged(document, "s-square", ticks(2), LENGTH))[0].corners) * (640, 360)
    lit = Painter(source).paint(scene_at(document, "s-square", ticks(2), LENGTH), 640, 360)[..., :3].max(axis=2) > 60
    rows, columns = np.nonzero(lit)
    assert columns.min() == pytest.approx(outline[:, 0].min(), abs=1.5) and columns.max() + 1 == pytest.approx(outline[:, 0].max(), abs=1.5)
    assert rows.min() == pytest.approx(outline[:, 1].min(), abs=1.5) and rows.max() + 1 == pytest.approx(outline[:, 1].max(), abs=1.5)


def test_corners_in_pixels_are_those_of_the_picture_without_its_border() -> None:
    document = framed(size=0.5)
    drawn = scene_at(document, "s-square", 0, LENGTH)
    item = next(i for i in drawn.items if isinstance(i, LayerItem))
    (left, top), _, (right, bottom), _ = layer_corners_px(drawn, 1080)[0]["corners_px"]  # type: ignore[misc]
    scale = item.frame_from_plane[0] * 1080
    assert (right - left, bottom - top) == pytest.approx((item.content.width * scale, item.content.height * scale))
    assert ((left + right) / 2, (top + bottom) / 2) == pytest.approx(
        (960 + item.frame_from_plane[2] * 1080, 540 + item.frame_from_plane[5] * 1080)
    )


@pytest.mark.parametrize("scene", ["s-wide", "s-tall", "s-square", "s-panorama", "s-small"])
def test_a_view_is_what_the_frame_shows_of_the_picture(scene: str) -> None:
    document = made_document()
    views = view_geometry(document, scene)[0]
    span = timeline_of(document).span_of(scene)
    assert span
    for which, at in (("opening", 0), ("closing", span.on_screen.length)):
        drawn = scene_at(document, scene, at, span.on_screen.length)
        (x0, y0), _, (x2, y2), _ = layer_corners_px(drawn, 900)[0]["corners_px"]  # type: ignore[misc]
        # The frame's corners in fractions of the picture.
        expected = [((x - x0) / (x2 - x0), (y - y0) / (y2 - y0)) for x, y in ((0, 0), (1600, 0), (1600, 900), (0, 900))]
        assert np.array(getattr(views, which)) == pytest.approx(np.array(expected), abs=1e-9)


def test_a_dragged_photo_stays_under_the_pointer_and_a_corner_follows_it() -> None:
    document = framed(size=0.5, turn=10)
    before = np.array(layer_geometry(staged(document, "s-square", ticks(2), LENGTH))[0].corners)
    base = {"edit": "drag_layer", "scene": "s-square", "layer": "photo"}
    moved = apply_edit(document, parse_edit({**base, "handle": "inside", "start": [0.5, 0.5], "end": [0.62, 0.41]}))
    after = np.array(layer_geometry(staged(moved, "s-square", ticks(2), LENGTH))[0].corners)
    assert after - before == pytest.approx(np.tile((0.12, -0.09), (4, 1)))
    turned = apply_edit(document, parse_edit({**base, "handle": "turn", "start": [0.5, 0.2], "end": [0.5 + 0.3 * 9 / 16, 0.5]}))
    assert turned.scenes["s-square"].layers["photo"].placement.turn == pytest.approx(100.0)
    larger = apply_edit(document, parse_edit({**base, "handle": "corner2", "start": [0.6, 0.7], "end": [0.7, 0.9]}))
    assert larger.scenes["s-square"].layers["photo"].placement.size == pytest.approx(1.0)


def test_a_photo_never_vanishes_or_overflows_by_a_drag() -> None:
    document = framed()
    base = {"edit": "drag_layer", "scene": "s-square", "layer": "photo", "start": [0.6, 0.6]}
    tiny = apply_edit(document, parse_edit({**base, "handle": "corner2", "end": [0.5, 0.5]}))
    huge = apply_edit(document, parse_edit({**base, "handle": "corner2", "end": [90, 90]}))
    far = apply_edit(document, parse_edit({**base, "handle": "inside", "end": [90, -90]}))
    sizes = [d.scenes["s-square"].layers["photo"].placement.size for d in (tiny, huge)]
    assert sizes == [0.02, 20.0] and far.scenes["s-square"].layers["photo"].placement.x == 10
