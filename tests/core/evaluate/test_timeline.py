"""The timeline: no gaps, no overlaps, whatever the holds and joins; every moment has its source."""

from itertools import pairwise
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lens.core.delivery import ExportSettings, segments_of
from oak_lens.core.document import Document, parse_document
from oak_lens.core.evaluate import timeline_of
from oak_lens.core.joins import JOINS
from oak_lens.core.time import ticks

JOINED = st.fixed_dictionaries({"kind": st.sampled_from(sorted(JOINS)), "length": st.integers(0, ticks(5))})
SCENES = st.lists(st.fixed_dictionaries({"hold": st.integers(ticks(0.05), ticks(6)), "join": st.none() | JOINED}), max_size=9)


def film(scenes: list[dict[str, Any]], beginning: Any, ending: Any) -> Document:
    records = {f"s{n}": {"order": f"{n + 1:02}", **s} for n, s in enumerate(scenes)}
    return parse_document({"schema": 4, "scenes": records, "ends": {"beginning": beginning, "ending": ending}})


@settings(max_examples=120)
@given(scenes=SCENES, beginning=st.none() | JOINED, ending=st.none() | JOINED)
def test_scenes_follow_each_other_through_their_joins(scenes: list[dict[str, Any]], beginning: Any, ending: Any) -> None:
    timeline = timeline_of(film(scenes, beginning, ending))
    spans = timeline.spans
    assert len(spans) == len(scenes) and timeline.length == (spans[-1].end if spans else 0)
    for span, scene in zip(spans, scenes, strict=True):
        assert span.join_start <= span.hold_start < span.hold_end <= span.end and span.hold.length == scene["hold"]
    for before, after in pairwise(spans):
        assert before.hold_end == after.join_start and before.end == after.hold_start
        assert after.join.length <= min(before.hold.length, after.hold.length), "a join is never longer than what it joins"
    total = sum(s.hold.length + s.join.length for s in spans) + (spans[-1].end - spans[-1].hold_end if spans else 0)
    assert timeline.length == total


@settings(max_examples=60)
@given(scenes=SCENES.filter(bool), beginning=st.none() | JOINED, ending=st.none() | JOINED, share=st.floats(0, 1))
def test_every_moment_shows_a_scene_or_its_join(scenes: list[dict[str, Any]], beginning: Any, ending: Any, share: float) -> None:
    timeline = timeline_of(film(scenes, beginning, ending))
    at = min(int(share * timeline.length), timeline.length - 1)
    source = timeline.source_at(at)
    assert source is not None and 0.0 <= source.progress <= 1.0
    span = source.span
    assert span.join_start <= at < span.end
    if source.leaving:
        assert span == timeline.spans[-1] and at >= span.hold_end
    elif source.before is not None:
        assert source.before.hold_end <= at < span.hold_start and source.progress < 1.0
    else:
        assert at >= span.hold_start or span == timeline.spans[0]


@settings(max_examples=40)
@given(scenes=SCENES.filter(bool), beginning=st.none() | JOINED, ending=st.none() | JOINED, rate=st.sampled_from(["24", "29.97", "60"]))
def test_an_export_has_every_frame_once(scenes: list[dict[str, Any]], beginning: Any, ending: Any, rate: str) -> None:
    timeline = timeline_of(film(scenes, beginning, ending))
    settings_ = ExportSettings(width=64, height=64, rate=rate)  # type: ignore[arg-type]
    segments = segments_of(timeline, settings_)
    assert [s.index for s in segments] == list(range(len(segments)))
    assert segments[0].first == 0 and all(a.last == b.first for a, b in pairwise(segments))
    frame = settings_.frame_rate.fraction
    assert segments[-1].last == -(-timeline.length * frame.numerator // (frame.denominator * ticks(1)))


def test_a_timeline_asked_for_again_is_the_same_and_a_changed_film_has_its_own() -> None:
    document = film([{"hold": ticks(2), "join": None}, {"hold": ticks(3), "join": None}], None, None)
    assert timeline_of(document) is timeline_of(document)
    longer = document.model_copy(update={"ends": film([], None, {"kind": "iris", "length": ticks(1)}).ends})
    assert timeline_of(longer).length == timeline_of(document).length + ticks(1)
