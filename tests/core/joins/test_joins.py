"""Joins: exact at their ends, alike in all directions, and every one of them in between."""

from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lens.core.document import Document, parse_document
from oak_lens.core.draw import ColourItem, Composition, DrawList, GradientItem, Mixture, Picturing, Plate, canonical, lists_of
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import film_at, scene_at, timeline_of
from oak_lens.core.joins import BUILTIN, JOINS, JoinSettings, joined
from oak_lens.core.paint import Painter
from oak_lens.core.time import ticks
from tests.conftest import Pictures, made_document, picture

WIDTH, HEIGHT = 192, 108
RED_BLUE = DrawList(16 / 9, (GradientItem("#c03020", "#2030c0", 30.0, False),))
GREEN = DrawList(16 / 9, (GradientItem("#204010", "#a0ffc0", 120.0, False),))
DIRECTED = [s.id for s in BUILTIN if "direction" in s.uses]


def changed(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def painted(kind: str, progress: float, before: Picturing = RED_BLUE, after: Picturing = GREEN, **told: Any) -> Any:
    picturing = joined(kind, before, after, progress, JoinSettings(**{**JOINS[kind].preset, **told}))
    return Painter(Pictures()).paint(picturing, WIDTH, HEIGHT)[..., :3].astype(int)


@pytest.mark.parametrize("spec", BUILTIN, ids=lambda s: s.id)
def test_a_join_begins_as_the_one_and_ends_as_the_other_scene(spec: Any) -> None:
    """In the film, bit for bit, with nothing that jumps just inside; and it has something of both on the way."""
    document = changed(
        made_document(), {"edit": "set_scenes", "ids": ["s-tall"], "join": {"kind": spec.id, **spec.preset, "length": ticks(1)}}
    )
    timeline = timeline_of(document)
    first, second = timeline.spans[:2]
    assert second.hold_start - second.join_start == (0 if spec.instant else ticks(1))
    assert film_at(document, timeline, second.hold_start) == scene_at(
        document, "s-tall", second.hold_start - second.join_start, second.on_screen.length
    )
    if spec.instant:
        return
    assert film_at(document, timeline, second.join_start) == scene_at(
        document, "s-wide", first.on_screen.length - ticks(1), first.on_screen.length
    )
    plain = Painter(Pictures())
    ends = [plain.paint(d, WIDTH, HEIGHT)[..., :3].astype(int) for d in (RED_BLUE, GREEN)]
    for progress, end in ((0.004, ends[0]), (0.996, ends[1])):
        assert np.abs(painted(spec.id, progress, ease="none") - end).mean() < 9, "an end jumps"
    middle = painted(spec.id, 0.5)
    assert all(np.abs(middle - end).mean() > 3 for end in ends)


@settings(max_examples=12, deadline=None)
@given(kind=st.sampled_from(DIRECTED), progress=st.floats(0.05, 0.95))
def test_to_the_right_is_the_mirror_of_to_the_left(kind: str, progress: float) -> None:
    def mirrored(drawn: DrawList) -> DrawList:
        (item,) = drawn.items
        assert isinstance(item, GradientItem)
        return DrawList(drawn.aspect, (GradientItem(item.first, item.second, -item.angle, False),))

    left = painted(kind, progress, direction="left")
    right = painted(kind, progress, mirrored(RED_BLUE), mirrored(GREEN), direction="right")[:, ::-1]
    assert np.percentile(np.abs(left - right), 99) <= 3


def test_photos_travel_farther_than_their_backdrop_the_nearer_the_more() -> None:
    document = changed(
        made_document(),
        {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "window": {}, "placement": {"size": 0.4}},
        {"edit": "set_scenes", "ids": ["s-wide"], "backdrop": {"kind": "colour"}},
    )

    def travelled(z: float, depth: float) -> float:
        moved = changed(document, {"edit": "set_layers", "layers": [{"scene": "s-wide", "layer": "photo"}], "placement": {"z": z}})
        scene = scene_at(moved, "s-wide", ticks(1), ticks(4))
        composed = joined("push", scene, scene, 0.5, JoinSettings(depth=depth, ease="none"))
        assert isinstance(composed, Composition)
        leaving = composed.parts[0]
        assert isinstance(leaving, Plate)
        place = [
            i.frame_from_plane[2] / i.frame_from_plane[8]
            for d in (scene, leaving.picture)
            for i in d.items
            if type(i).__name__ == "LayerItem"
        ]
        return (place[1] - place[0]) / scene.aspect

    assert travelled(0.0, 0.0) == 0.0
    assert travelled(0.0, 1.0) == pytest.approx(-0.5) and travelled(0.5, 1.0) < -0.55 and travelled(-1.0, 1.0) > -0.45


def test_into_the_first_scene_and_out_of_the_last() -> None:
    document = made_document()
    before = timeline_of(document)
    white = changed(
        document, {"edit": "set_ends", "beginning": {"kind": "dissolve", "length": ticks(0.5), "colour": "#ffffff", "ease": "none"},
                   "ending": {"kind": "iris", "length": ticks(1)}}
    )  # fmt: skip
    timeline = timeline_of(white)
    assert timeline.length == before.length + ticks(1.5)
    assert timeline.spans[0].hold_start == ticks(0.5) and timeline.spans[-1].hold_end == timeline.length - ticks(1)
    assert film_at(white, timeline, 0) == DrawList(white.frame.aspect, (ColourItem("#ffffff"),))
    assert isinstance(film_at(white, timeline, timeline.length - ticks(0.5)), Composition)
    assert timeline_of(changed(white, {"edit": "set_ends", "beginning": None})).spans[0].hold_start == 0


def test_scenes_fade_from_and_to_colours() -> None:
    document = changed(made_document(), {"edit": "set_scenes", "ids": ["s-wide"], "fade_in": {"length": ticks(1), "colour": "#00ff00"}})
    source = Pictures(wide=picture(400, 225))
    frames = [Painter(source).paint(scene_at(document, "s-wide", ticks(t), ticks(4)), 64, 36)[..., 1].mean() for t in (0, 0.5, 1, 2)]
    assert frames[0] == 255 and frames[0] > frames[1] > frames[2] and abs(frames[2] - frames[3]) < 30


def test_a_join_is_never_longer_than_what_it_joins() -> None:
    document = changed(
        made_document(),
        {"edit": "set_scenes", "ids": ["s-wide"], "hold": ticks(0.4)},
        {"edit": "set_scenes", "ids": ["s-tall"], "join": {"kind": "push", "length": ticks(9)}},
    )
    span = timeline_of(document).span_of("s-tall")
    assert span is not None and span.join.length == ticks(0.4)


def test_varied_joins_differ_from_neighbour_to_neighbour() -> None:
    document = made_document()
    for number in range(20):
        document = changed(document, {"edit": "duplicate_scenes", "copies": [{"id": "s-wide", "copy_id": f"c{number}"}]})
    order = [s.scene for s in timeline_of(document).spans]
    vary = {"edit": "vary_joins", "ids": order[1:], "kinds": ["push", "iris", "turn"], "seed": 3}
    varied = changed(document, vary)
    kinds = [varied.scenes[s].join.kind for s in order[1:]]  # type: ignore[union-attr]
    assert all(a != b for a, b in pairwise(kinds)) and len(set(kinds)) == 3
    assert changed(document, vary) == varied != changed(document, {**vary, "seed": 4})
    with pytest.raises(InvalidEdit, match="no join called"):
        changed(document, {**vary, "kinds": ["nonsense"]})


def test_pushes_of_schema_3_keep_their_direction() -> None:
    old = {
        "schema": 3,
        "defaults": {"join": {"kind": "push-up"}},
        "scenes": {"a": {"order": "a", "join": {"kind": "push-right", "length": 5}}},
    }
    document = parse_document(old)
    assert (document.defaults.join.kind, document.defaults.join.direction) == ("push", "up")
    join = document.scenes["a"].join
    assert join is not None and (join.kind, join.direction, join.length) == ("push", "right", 5)


@pytest.mark.parametrize("spec", BUILTIN, ids=lambda s: s.id)
def test_a_see_through_frame_laid_over_black_is_the_frame_over_black(spec: Any) -> None:
    """And over nothing it is nothing: scenes without a backdrop join see-through."""
    document = changed(
        made_document(),
        {"edit": "set_scenes", "ids": ["s-tall"], "join": {"kind": spec.id, **spec.preset, "length": ticks(1)}},
        {"edit": "set_scenes", "ids": ["s-wide", "s-tall"], "backdrop": {"kind": "none"}},
        {"edit": "set_layers", "layers": [{"scene": s, "layer": "photo"} for s in ("s-wide", "s-tall")], "window": {}},
        {"edit": "set_layers", "layers": [{"scene": s, "layer": "photo"} for s in ("s-wide", "s-tall")], "placement": {"size": 0.5}},
    )
    timeline = timeline_of(document)
    join = timeline.spans[1]
    source = Pictures(wide=picture(300, 200, 1), tall=picture(200, 300, 2))
    for share in (0.3, 0.7):
        moment = film_at(document, timeline, round(join.join_start + share * (join.hold_start - join.join_start)))
        solid = Painter(source).paint(moment, WIDTH, HEIGHT).astype(int)
        clear = Painter(source).paint(moment, WIDTH, HEIGHT, below="clear").astype(int)
        assert (clear[..., :3].max(axis=-1) <= clear[..., 3]).all(), "colours are premultiplied"
        assert np.abs(clear[..., :3] - solid[..., :3]).max() <= 2
        assert spec.id in ("dip", "burn", "leak") or clear[..., 3].min() == 0


@pytest.mark.parametrize("spec", BUILTIN, ids=lambda s: s.id)
def test_what_is_joined_may_be_joined_itself(spec: Any) -> None:
    """A mixture of a picture with itself, and a composition of it alone, are the picture: in any join, and joins of joins."""
    within = Mixture(RED_BLUE, Composition("#000000", (Plate(RED_BLUE),)), 0.5)
    beside = Composition("#ffffff", (Plate(Mixture(GREEN, GREEN, 0.3)),))
    assert (painted(spec.id, 0.4, within, beside) == painted(spec.id, 0.4)).all()
    nested = joined(spec.id, within, beside, 0.4, JoinSettings(**spec.preset))
    assert set(lists_of(nested)) <= {RED_BLUE, GREEN} and canonical(nested) != canonical(joined(spec.id, RED_BLUE, GREEN, 0.4, JoinSettings(**spec.preset)))
    if not spec.instant:
        twice = joined("dissolve", nested, RED_BLUE, 0.0, JoinSettings())
        assert (Painter(Pictures()).paint(twice, WIDTH, HEIGHT)[..., :3] == painted(spec.id, 0.4)).all()
