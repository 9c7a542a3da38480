"""Layouts: every one fills its frame at any shape, keeps photos apart where it cuts them, and repeats by seed."""

import numpy as np
import pytest

from oak_lens.core.document import Document, Layout
from oak_lens.core.edits import apply_edit, apply_edits, parse_edit, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import bounds_of, staged
from oak_lens.core.layouts import BUILTIN, LAYOUTS, LayoutSpec, Slot, arranged, matched
from oak_lens.core.looks import Mount
from tests.conftest import SHAPES, made_document

FRAMES = {"wide": 16 / 9, "tall": 9 / 16, "square": 1.0}
CUTTING = ("side-by-side", "one-large", "large-cell", "grid", "rows")


def composed(count: int, layout: str, seed: int = 1, **frame: int) -> Document:
    media = [list(SHAPES)[n % len(SHAPES)] for n in range(count)]
    edit = {
        "edit": "add_composition",
        "id": "c",
        "photos": [{"layer": f"l{n}", "media": m} for n, m in enumerate(media)],
        "layout": {"kind": layout, "seed": seed},
    }
    return apply_edit(made_document(**frame), parse_edit(edit))


def boxes(document: Document) -> list[tuple[float, float, float, float]]:
    return [bounds_of(p) for p in staged(document, "c", 0, 1).layers]


@pytest.mark.parametrize("spec", BUILTIN, ids=lambda s: s.id)
@pytest.mark.parametrize("size", [(1920, 1080), (1080, 1920), (1080, 1080)])
def test_every_layout_stands_in_its_frame_with_its_mounts(spec: LayoutSpec, size: tuple[int, int]) -> None:
    for count in (spec.least, min(spec.most, 5), min(spec.most, 12)):
        document = composed(count, spec.id, width=size[0], height=size[1])
        aspect = size[0] / size[1]
        found = boxes(document)
        reach = 0.0 if spec.id in CUTTING else 0.15
        for left, top, right, bottom in found:
            assert left > -aspect / 2 - reach and right < aspect / 2 + reach and top > -0.5 - reach and bottom < 0.5 + reach
            assert (right - left) * (bottom - top) > 0.002 * aspect
        if spec.id in CUTTING:
            area = sum((r - x) * (b - t) for x, t, r, b in found)
            assert area > 0.68 * aspect, "the frame is filled"
            for i, a in enumerate(found):
                for b in found[i + 1 :]:
                    assert min(a[2], b[2]) - max(a[0], b[0]) < 1e-6 or min(a[3], b[3]) - max(a[1], b[1]) < 1e-6, "cells do not overlap"


@pytest.mark.parametrize("spec", BUILTIN, ids=lambda s: s.id)
def test_the_same_seed_gives_the_same_places_and_another_others_only_where_it_says_so(spec: LayoutSpec) -> None:
    aspects = [1.5, 0.7, 1.0, 1.5, 2.0]
    first, again, other = (arranged(spec, Layout(kind=spec.id, seed=s), aspects, 16 / 9, [Mount()] * 5) for s in (3, 3, 4))
    assert first == again and (first != other) == spec.seeded


def test_photos_go_to_cells_of_about_their_shape() -> None:
    # A panorama and a tall picture for a tall and a wide cell, in the wrong order.
    slots = [Slot(-0.5, 0, 0.5, 0.9), Slot(0.3, 0, 1.0, 0.4)]
    assert matched([2.6, 0.7], slots) == [1, 0] and matched([0.7, 2.6], slots) == [0, 1]
    # Where the shapes hardly differ the order stays.
    assert matched([1.5, 1.45], [Slot(0, 0, 1.45, 1), Slot(0, 0, 1.5, 1)]) == [0, 1]


def test_a_layout_that_does_not_suit_the_number_of_photos_says_so() -> None:
    with pytest.raises(InvalidEdit, match="2 to 6 photos") as caught:
        apply_edit(composed(8, "grid"), parse_edit({"edit": "apply_layout", "scenes": ["c"], "layout": {"kind": "side-by-side"}}))
    assert caught.value.code == "edit.too_few"
    with pytest.raises(InvalidEdit):
        apply_edit(composed(3, "grid"), parse_edit({"edit": "apply_layout", "scenes": ["c"], "layout": {"kind": "spiral"}}))


@pytest.mark.parametrize("layout", list(LAYOUTS))
def test_another_frame_lays_out_anew_and_keeps_what_was_adjusted(layout: str) -> None:
    document = composed(4, layout)
    moved = apply_edits(document, parse_edits([{"edit": "nudge_layers", "layers": [{"scene": "c", "layer": "l1"}], "by": [0.05, -0.03]}]))
    tall = {"edit": "set_frame", "width": 1080, "height": 1920}
    plain, adjusted = (apply_edit(d, parse_edit(tall)) for d in (document, moved))
    fresh = composed(4, layout, width=1080, height=1920)
    for k in ("l0", "l1", "l2", "l3"):
        mine, theirs = plain.scenes["c"].layers[k].placement, fresh.scenes["c"].layers[k].placement
        assert [getattr(mine, n) for n in ("x", "y", "size", "turn")] == pytest.approx(
            [getattr(theirs, n) for n in ("x", "y", "size", "turn")]
        )
    a, b = plain.scenes["c"].layers["l1"].placement, adjusted.scenes["c"].layers["l1"].placement
    assert np.array((b.x, b.y)) - np.array((a.x, a.y)) == pytest.approx((0.05, -0.03))
    back = apply_edit(adjusted, parse_edit({"edit": "set_frame", "width": 1920, "height": 1080}))
    old, new = moved.scenes["c"].layers["l1"].placement, back.scenes["c"].layers["l1"].placement
    assert [getattr(new, n) for n in ("x", "y", "size", "turn")] == pytest.approx([getattr(old, n) for n in ("x", "y", "size", "turn")])
