"""The film: times, moves over joins, shadows, borders, and what a photo's use tells."""

from math import atan2, degrees

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_lens.core.document import Document
from oak_lens.core.draw import BackdropItem, DrawList, LayerItem, Mixture, ShadowItem, matrix_of
from oak_lens.core.edits import apply_edit, apply_edits, parse_edit, parse_edits
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import film_at, frame_at, photo_findings, poster_at, scene_at, timeline_of
from oak_lens.core.time import RATES, TickRange, frames_in, ticks
from tests.conftest import made_document

REF = [{"scene": "s-wide", "layer": "photo"}]


def edited(*edits: dict[str, object]) -> Document:
    return apply_edits(made_document(), parse_edits(list(edits)))


def test_film_length_is_the_sum_of_holds_and_joins_and_the_first_scene_has_no_join(document: Document) -> None:
    timeline = timeline_of(document)
    assert timeline.length == 5 * ticks(3) + 4 * ticks(1) and timeline.frames == 19 * 30
    assert timeline.spans[0].join.length == 0
    assert timeline.spans[1].on_screen == TickRange(ticks(3), ticks(3) + ticks(1) + ticks(3) + ticks(1))
    cut = timeline_of(edited({"edit": "set_defaults", "join": {"kind": "cut"}}))
    assert cut.length == 5 * ticks(3)


@given(st.lists(st.integers(1, 10**9), min_size=1, max_size=8), st.sampled_from(RATES))
def test_every_frame_lies_in_exactly_one_part(lengths: list[int], rate: object) -> None:
    at, frames = 0, []
    for length in lengths:
        frames += list(frames_in(TickRange(at, at + length), rate))  # type: ignore[arg-type]
        at += length
    assert frames == list(frames_in(TickRange(0, at), rate))  # type: ignore[arg-type]


def test_a_join_mixes_the_two_scenes_and_moves_go_on_through_it(document: Document) -> None:
    photos = [{"scene": s, "layer": "photo"} for s in ("s-wide", "s-tall")]
    document = apply_edit(document, parse_edit({"edit": "set_views", "photos": photos, "opening": {"zoom": 1.1}, "closing": {"zoom": 1.4}}))
    timeline = timeline_of(document)
    middle = film_at(document, timeline, ticks(3.5))
    assert isinstance(middle, Mixture) and middle.amount == 0.5
    zooms = []
    for second in (2.9, 3.1, 3.9):
        drawn = film_at(document, timeline, ticks(second))
        one = drawn.below if isinstance(drawn, Mixture) else drawn
        zooms.append(next(i for i in one.items if isinstance(i, LayerItem)).frame_from_plane[0])
    assert zooms[0] < zooms[1] < zooms[2]


def test_a_join_begins_with_the_first_scene_alone_and_ends_with_the_second(document: Document) -> None:
    timeline = timeline_of(document)
    assert film_at(document, timeline, ticks(3)) == scene_at(document, "s-wide", ticks(3), ticks(4))
    assert film_at(document, timeline, ticks(4)) == scene_at(document, "s-tall", ticks(1), ticks(5))


def test_a_film_without_scenes_is_black() -> None:
    empty = Document()
    assert frame_at(empty, timeline_of(empty), 0) == DrawList(16 / 9, film_at(empty, timeline_of(empty), 5).items)  # type: ignore[union-attr]


def items(document: Document, kind: type, at: int = 0) -> list[object]:
    return [i for i in scene_at(document, "s-wide", at, ticks(4)).items if isinstance(i, kind)]


@pytest.mark.parametrize("turn", [0, 35, 180, -90])
def test_turning_a_photo_does_not_turn_its_shadow(turn: float) -> None:
    document = edited(
        {"edit": "set_layers", "layers": REF, "placement": {"turn": turn, "size": 0.6}, "shadow": {"light_from": 315, "distance": 0.05}}
    )
    shadow, photo = items(document, ShadowItem)[0], items(document, LayerItem)[0]
    middle = [matrix_of(i.frame_from_plane) @ (0, 0, 1) for i in (shadow, photo)]  # type: ignore[attr-defined]
    offset = middle[0] - middle[1]
    # Light from the upper left: the shadow falls to the lower right.
    assert degrees(atan2(offset[1], offset[0])) == pytest.approx(45.0)


def test_borders_are_alike_on_the_screen_whatever_the_photos_size() -> None:
    widths = []
    for size in (0.3, 1.0, 2.0):
        document = edited(
            {"edit": "set_layers", "layers": REF, "fit": "free", "placement": {"size": size}, "mount": {"border": 0.02}},
            {"edit": "set_views", "photos": REF, "opening": {"zoom": 1, "x": 0, "y": 0}},
        )
        photo = items(document, LayerItem)[0]
        widths.append(photo.content.rim * photo.frame_from_plane[0])  # type: ignore[attr-defined]
    assert widths == pytest.approx([0.02] * 3)


def test_the_largest_use_is_that_of_the_closest_moment(document: Document) -> None:
    document = apply_edits(
        document,
        parse_edits(
            [
                {"edit": "set_layers", "layers": REF, "fit": "free"},
                {"edit": "set_views", "photos": REF, "opening": {"zoom": 1}, "closing": {"zoom": 2, "x": 0, "y": 0}},
            ]
        ),
    )
    finding = next(f for f in photo_findings(document, timeline_of(document)) if f.scene == "s-wide")
    # 1000 picture rows over 1080 frame rows, twice enlarged at the end.
    assert finding.largest_use == pytest.approx(2 * 1080 / 1000) and finding.soft
    assert finding.sharp_zoom == pytest.approx(1 / finding.largest_use)


@pytest.mark.parametrize(
    "frame", [{"width": 1080, "height": 1920}, {"width": 1080, "height": 1080}, {"width": 640, "height": 360, "rate": "25"}]
)
def test_a_changed_frame_breaks_nothing(frame: dict[str, object]) -> None:
    document = edited({"edit": "set_frame", **frame})
    timeline = timeline_of(document)
    for span in timeline.spans:
        for at in (0, span.on_screen.length):
            drawn = scene_at(document, span.scene, at, span.on_screen.length)
            assert drawn.aspect == document.frame.aspect and isinstance(drawn.items[0], BackdropItem)
    assert timeline.length == timeline_of(made_document()).length


def test_the_poster_stays_with_its_scene_wherever_that_goes_and_goes_with_it(document: Document) -> None:
    def poster_of(film: Document) -> int:
        return poster_at(film, timeline_of(film))

    # By default the middle of the first scene that shows something: an empty one before it does not.
    hollow = edited({"edit": "remove_layers", "layers": REF})
    assert poster_of(document) == ticks(1.5) and poster_of(hollow) == ticks(5.5)
    third = timeline_of(document).spans[2]
    chosen = edited({"edit": "set_poster", "at": third.hold_start + ticks(2)})
    assert poster_of(chosen) == third.hold_start + ticks(2)
    moved = apply_edits(chosen, parse_edits([{"edit": "move_scenes", "ids": [third.scene], "before": "s-wide"}]))
    assert poster_of(moved) == timeline_of(moved).spans[0].join_start + third.own(third.hold_start + ticks(2))
    # A scene that has become shorter than that shows its last moment, a faster one the same picture sooner.
    short = apply_edits(chosen, parse_edits([{"edit": "set_scenes", "ids": [third.scene], "hold": ticks(0.5)}]))
    assert poster_of(short) == timeline_of(short).spans[2].end - 1
    quick = apply_edits(chosen, parse_edits([{"edit": "set_scenes", "ids": [third.scene], "speed": 2.0}]))
    assert timeline_of(quick).spans[2].own(poster_of(quick)) == pytest.approx(third.own(third.hold_start + ticks(2)), abs=2)
    gone = apply_edits(chosen, parse_edits([{"edit": "remove_scenes", "ids": [third.scene]}]))
    assert gone.poster.scene is None and poster_of(gone) == ticks(1.5)
    assert apply_edits(chosen, parse_edits([{"edit": "set_poster", "at": None}])).poster == document.poster
    with pytest.raises(InvalidEdit, match="no scene yet"):
        apply_edits(Document(), parse_edits([{"edit": "set_poster", "at": 0}]))
