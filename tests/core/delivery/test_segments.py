"""Segments: every frame once, and a change costs only what it touches. Names and sizes of exports."""

from typing import Any

import hypothesis
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from oak_lens.core.delivery import KINDS, ExportSettings, Kind, KnownKeys, estimated_bytes, file_name, segment_key, segments_of
from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import timeline_of
from oak_lens.core.time import RATES, frame_start, ticks
from tests.conftest import made_document

START = made_document()
SETTINGS = ExportSettings(width=640, height=360)


@given(st.sampled_from([r.label for r in RATES]), st.floats(0, 25), st.none() | st.floats(0, 25))
def test_every_frame_of_the_range_is_in_exactly_one_segment(rate: str, start: float, end: float | None) -> None:
    settings = ExportSettings(width=64, height=64, rate=rate, start=ticks(start), end=None if end is None else ticks(end))
    timeline = timeline_of(START)
    frames = [f for s in segments_of(timeline, settings) for f in range(s.first, s.last)]
    tick = settings.frame_rate.frame_ticks
    stop = timeline.length if end is None else min(ticks(end), timeline.length)
    assert frames == [f for f in range(2000) if ticks(start) <= f * tick < stop]


def keys(document: Document) -> list[str]:
    timeline = timeline_of(document)
    return [segment_key(document, timeline, s, SETTINGS) for s in segments_of(timeline, SETTINGS)]


def test_a_changed_scene_costs_its_hold_and_the_joins_at_its_sides() -> None:
    changed = apply_edits(
        START, parse_edits([{"edit": "set_views", "photos": [{"scene": "s-square", "layer": "photo"}], "closing": {"zoom": 0.7}}])
    )
    timeline, segments = timeline_of(START), segments_of(timeline_of(START), SETTINGS)
    different = [s for s, a, b in zip(segments, keys(START), keys(changed), strict=True) if a != b]
    square = timeline.spans[2]
    after = timeline.spans[3]
    assert [f for s in different for f in range(s.first, s.last)] == [
        f for f in range(timeline.frames) if square.join.start <= frame_start(f, timeline.rate) < after.join.end
    ]
    # Its hold is longer than one process should work on alone.
    assert all(s.frames <= 2 * timeline.rate.fraction for s in different) and len(different) > 3


def test_settings_and_pictures_are_part_of_a_segments_key() -> None:
    timeline = timeline_of(START)
    first = segments_of(timeline, SETTINGS)[0]
    finer = SETTINGS.model_copy(update={"quality": "best"})
    other = START.model_copy(update={"media": {**START.media, "wide": START.media["wide"].model_copy(update={"sha256": "e" * 64})}})
    assert (
        len(
            {
                segment_key(START, timeline, first, SETTINGS),
                segment_key(START, timeline, first, finer),
                segment_key(other, timeline, first, SETTINGS),
            }
        )
        == 3
    )


@pytest.mark.parametrize("kind", KINDS, ids=lambda k: k.id)
def test_a_kind_holds_all_frames_or_the_one_at_the_playhead_or_none(kind: Kind) -> None:
    timeline = timeline_of(START)
    settings = SETTINGS.model_copy(update={"kind": kind.id, "start": ticks(4.0) + 12_345})
    frames = [f for s in segments_of(timeline, settings) for f in range(s.first, s.last)]
    assert frames == {"all": list(range(121, timeline.frames)), "one": [120], "none": []}[kind.frames]
    # Also where the playhead stands on the film's very end, and never in a film without scenes.
    late = settings.model_copy(update={"start": timeline.length})
    assert [s.first for s in segments_of(timeline, late)] == ([timeline.frames - 1] if kind.frames == "one" else [])
    assert segments_of(timeline_of(Document()), settings) == []
    if kind.frames != "none":
        assert estimated_bytes(settings, ticks(10)) > estimated_bytes(settings.model_copy(update={"width": 64, "height": 64}), ticks(10))


def test_a_setting_is_part_of_the_key_just_where_its_kind_uses_it() -> None:
    timeline = timeline_of(START)
    first = segments_of(timeline, SETTINGS)[0]
    others = {"quality": "best", "dither": "none", "transparent": True, "repeat": False}
    for kind in KINDS:
        plain = SETTINGS.model_copy(update={"kind": kind.id})
        key = segment_key(START, timeline, first, plain)
        for name, value in others.items():
            changed = segment_key(START, timeline, first, plain.model_copy(update={name: value})) != key
            # Whether an animation begins again is said where it is joined.
            assert changed is (name in kind.uses and name != "repeat"), (kind.id, name)


def test_transparency_is_refused_where_it_would_be_lost() -> None:
    for kind in KINDS:
        wish = {"kind": kind.id, "width": 64, "height": 64, "transparent": True}
        if "transparent" in kind.uses:
            assert ExportSettings.model_validate(wish).transparent
        else:
            with pytest.raises(ValidationError, match=r"these keep it: ProRes 4444"):
                ExportSettings.model_validate(wish)
    with pytest.raises(ValidationError, match="must be one of mp4"):
        ExportSettings.model_validate({"kind": "film", "width": 64, "height": 64})


@pytest.mark.parametrize(
    ("title", "name"),
    [
        ("A/B: c?", "AB c.mp4"),
        ("...", "Film.mp4"),
        ("Grüße – Ossel", "Grüße – Ossel.mp4"),
        ("x" * 300, "x" * 120 + ".mp4"),
        ("a\x00b\n", "ab.mp4"),
    ],
)
def test_films_are_named_after_their_project(title: str, name: str) -> None:
    assert file_name(title, "mp4") == name


def test_finer_quality_and_longer_films_are_estimated_larger() -> None:
    sizes = [estimated_bytes(ExportSettings(width=1920, height=1080, quality=q), ticks(60)) for q in ("draft", "good", "best")]
    assert sizes == sorted(sizes) and estimated_bytes(SETTINGS, ticks(120)) > 1.8 * estimated_bytes(SETTINGS, ticks(60))


@given(st.lists(st.sampled_from(["hold", "text", "order", "join", "ends", "speed", "picture", "defaults", "title", "colour"]), min_size=1, max_size=3))
@hypothesis.settings(max_examples=12)
def test_keys_that_are_remembered_are_those_that_are_found(changes: list[str]) -> None:
    edits: dict[str, dict[str, Any]] = {
        "hold": {"edit": "set_scenes", "ids": ["s-tall"], "hold": ticks(2.3)},
        "text": {"edit": "add_text", "scene": "s-square", "id": "words", "text": "Ridge {scene}"},
        "order": {"edit": "move_scenes", "ids": ["s-small"], "before": "s-wide"},
        "join": {"edit": "set_scenes", "ids": ["s-square"], "join": {"kind": "push", "length": ticks(0.7)}},
        "ends": {"edit": "set_ends", "ending": {"kind": "dissolve", "length": ticks(0.5)}},
        "speed": {"edit": "set_scenes", "ids": ["s-tall"], "speed": 1.5},
        "picture": {"edit": "flip_pictures", "ids": ["wide"], "axis": "across"},
        "defaults": {"edit": "set_defaults", "mount": {"border": 0.2}},
        "title": {"edit": "set_title", "title": "Another"},
        "colour": {"edit": "set_scenes", "ids": ["s-panorama"], "backdrop": {"kind": "surface"}},
    }
    small = ExportSettings(width=320, height=180, rate="10")
    known, document = KnownKeys(), made_document()
    for change in ["", *changes]:
        document = apply_edits(document, parse_edits([edits[change]])) if change and (change != "text" or "words" not in document.scenes["s-square"].layers) else document
        timeline = timeline_of(document)
        for segment in segments_of(timeline, small):
            assert known.of(document, timeline, segment, small) == segment_key(document, timeline, segment, small)
