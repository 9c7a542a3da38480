"""Times and music: boundaries dragged, the film fitted exactly, cuts on beats, songs placed, looped and mixed."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_lens.core.curves import key_times
from oak_lens.core.document import Document
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.edits.timing import boundary_of
from oak_lens.core.errors import InvalidEdit
from oak_lens.core.evaluate import film_at, timeline_of
from oak_lens.core.sound import film_beats, final_gain, heard_songs, mixed, music_end, placed_songs
from oak_lens.core.sound.mixing import RATE
from oak_lens.core.time import ticks
from tests.conftest import made_document

SONG = {
    "file": "a.wav",
    "sha256": "a" * 64,
    "length": ticks(40),
    "loudness": -18.0,
    "beats": {"tempo": 120, "times": [ticks(0.25 + n / 2) for n in range(78)]},
}


def changed(document: Document, *edits: dict[str, Any]) -> Document:
    return apply_edits(document, parse_edits(list(edits)))


def film(scenes: int = 8, songs: int = 1) -> Document:
    document = made_document()
    document = changed(document, {"edit": "remove_scenes", "ids": [k for k in document.scenes if k != "s-wide"]})
    copies = [{"id": "s-wide", "copy_id": f"c{n}"} for n in range(scenes - 1)]
    sounds = [{"edit": "add_sounds", "sounds": [{"id": f"m{n}", **SONG} for n in range(songs)]}] if songs else []
    return changed(document, {"edit": "duplicate_scenes", "copies": copies}, *sounds)


def bounds(document: Document) -> list[int]:
    return [boundary_of(s) for s in timeline_of(document).spans[1:]]


def test_a_dragged_boundary_moves_what_follows_or_both_sides_or_the_scene_between() -> None:
    document = film()
    spans = timeline_of(document).spans
    scene, before = spans[3].scene, bounds(document)
    drag = {"edit": "move_boundary", "scene": scene, "to": before[2] + ticks(0.7)}
    assert bounds(changed(document, drag)) == before[:2] + [b + ticks(0.7) for b in before[2:]]
    both = changed(document, {**drag, "how": "both"})
    assert bounds(both) == [*before[:2], before[2] + ticks(0.7), *before[3:]] and timeline_of(both).length == timeline_of(document).length
    slid = changed(document, {**drag, "how": "slide"})
    assert bounds(slid) == [*before[:2], before[2] + ticks(0.7), before[3] + ticks(0.7), *before[4:]]
    assert timeline_of(slid).span_of(scene).hold.length == spans[3].hold.length  # type: ignore[union-attr]
    snapped = changed(document, {**drag, "snap": ticks(0.3)})
    assert bounds(snapped)[2] in {b.at for b in film_beats(snapped, timeline_of(snapped))}
    end = changed(document, {"edit": "move_boundary", "scene": None, "to": timeline_of(document).length + ticks(2)})
    assert timeline_of(end).length == timeline_of(document).length + ticks(2)
    squeezed = timeline_of(changed(document, {**drag, "to": 0, "how": "both"})).spans[2]
    assert squeezed.hold.length == ticks(0.05), "no scene vanishes"


@settings(max_examples=25)
@given(
    seconds=st.floats(18, 300),
    shortest=st.floats(0.2, 1.0),
    evenly=st.booleans(),
    holds=st.lists(st.floats(0.3, 9), min_size=8, max_size=8),
)
def test_a_film_is_fitted_to_the_tick(seconds: float, shortest: float, evenly: bool, holds: list[float]) -> None:
    document = film()
    order = [s.scene for s in timeline_of(document).spans]
    document = changed(document, *({"edit": "set_scenes", "ids": [k], "hold": ticks(h)} for k, h in zip(order, holds, strict=True)))
    fitted = changed(document, {"edit": "fit_film", "length": ticks(seconds), "shortest": ticks(shortest), "evenly": evenly})
    timeline = timeline_of(fitted)
    assert timeline.length == ticks(seconds)
    assert min(s.hold.length for s in timeline.spans) >= ticks(shortest) - 8
    if evenly:
        assert len({round(s.hold.length / 1000) for s in timeline.spans}) <= 2


def test_the_film_ends_with_the_song_and_says_when_it_cannot() -> None:
    document = film(songs=2)
    fitted = changed(document, {"edit": "fit_film"})
    assert timeline_of(fitted).length == music_end(document, timeline_of(document)) == ticks(80)
    with pytest.raises(InvalidEdit, match="at least"):
        changed(document, {"edit": "fit_film", "length": ticks(5)})
    with pytest.raises(InvalidEdit, match="no music"):
        changed(film(songs=0), {"edit": "fit_film"})
    with pytest.raises(InvalidEdit, match="no scene"):
        changed(Document(), {"edit": "add_sounds", "sounds": [{"id": "m", **SONG}]}, {"edit": "fit_film"})


@pytest.mark.parametrize("target", [13.0, 31.0, 190.0])
def test_music_is_trimmed_or_looped_to_end_with_the_film(target: float) -> None:
    document = changed(film(songs=1), {"edit": "fit_film", "length": ticks(target), "shortest": ticks(0.2)}, {"edit": "fit_music"})
    timeline = timeline_of(document)
    (heard,) = heard_songs(document, timeline)
    assert (heard.start, heard.end) == (0, timeline.length) and heard.fade_out == ticks(2)
    # Each pass begins before the last one ends, on a bar, and the beats go on evenly through all seams.
    assert all(b.start == a.end - b.fade_in for a, b in zip(heard.passes, heard.passes[1:], strict=False))
    steps = np.diff([b.at for b in film_beats(document, timeline)])
    assert set(steps) == {ticks(0.5)}


@pytest.mark.parametrize("on", ["beat", "bar"])
@pytest.mark.parametrize("join", [{"kind": "cut"}, {"kind": "dissolve", "length": ticks(1)}])
def test_cuts_fall_on_beats(on: str, join: dict[str, Any]) -> None:
    document = film()
    order = [s.scene for s in timeline_of(document).spans]
    document = changed(document, {"edit": "set_scenes", "ids": order, "join": join, "hold": ticks(3.17)})
    cut = changed(document, {"edit": "cut_on_beats", "on": on})
    beats = {b.at for b in film_beats(cut, timeline_of(cut)) if b.bar or on == "beat"}
    assert set(bounds(cut)) <= beats
    assert all(abs(a - b) <= ticks(2) for a, b in zip(np.diff(bounds(cut)), np.diff(bounds(document)), strict=True))
    alike = changed(document, {"edit": "cut_on_beats", "on": on, "every": 2, "shortest": ticks(0.3)})
    wanted = ticks(1) if on == "beat" else ticks(4)
    if join["kind"] == "cut":
        assert set(np.diff(bounds(alike))) == {wanted}
    with pytest.raises(InvalidEdit, match="No beats"):
        changed(film(songs=0), {"edit": "cut_on_beats"})


@settings(max_examples=20, deadline=None)
@given(speed=st.sampled_from([0.25, 0.5, 2.0, 4.0]), share=st.floats(0, 1))
def test_a_faster_scene_shows_the_same_in_less_time_and_what_follows_moves_along(speed: float, share: float) -> None:
    start = film(4, songs=0)
    ids = [s.scene for s in timeline_of(start).spans]
    chosen = ids[1]
    keys = {"edit": "add_keys", "lanes": [{"scene": chosen, "layer": "photo", "property": "placement.x"}]}
    plain = changed(
        start,
        {"edit": "set_scenes", "ids": ids, "join": {"kind": "cut"}, "hold": ticks(4), "fade_in": {"length": ticks(1)}},
        {"edit": "set_layers", "layers": [{"scene": chosen, "layer": "photo"}], "window": {}},
    )
    plain = changed(plain, {**keys, "at": ticks(5)}, {**keys, "at": ticks(7)})
    fast = changed(plain, {"edit": "set_scenes", "ids": [chosen], "speed": speed})
    before, after = timeline_of(plain), timeline_of(fast)
    (was, now), (_, follows) = zip(before.spans[1:3], after.spans[1:3], strict=True)
    assert now.hold.length == was.hold.length / speed and now.own_length == was.own_length
    assert follows.join_start == now.end and after.length == before.length + now.hold.length - was.hold.length
    own = round(share * was.own_length) // 4 * 4
    assert film_at(fast, after, now.join_start + round(own / speed)) == film_at(plain, before, was.join_start + own)
    # A key set at a moment of the film lies where the scene then is.
    keyed = changed(fast, {**keys, "at": now.join_start + ticks(2.5) // round(4 * speed) * 4})
    lane = keyed.scenes[chosen].layers["photo"].animation["placement.x"]
    assert any(abs(at - ticks(2.5)) <= 16 for at, _ in key_times(lane.keys, now.own_length))
    slower = changed(fast, {"edit": "set_scenes", "ids": [chosen], "speed": 1.0})
    assert slower.scenes[chosen].hold == ticks(4)


def test_songs_follow_each_other_overlap_and_lie_over_scenes() -> None:
    document = changed(film(songs=3), {"edit": "set_songs", "ids": ["m1"], "song": {"overlap": ticks(5)}})
    timeline = timeline_of(document)
    assert placed_songs(document, timeline) == (("m0", 0, ticks(40)), ("m1", ticks(35), ticks(75)), ("m2", ticks(75), ticks(115)))
    first, second, _ = heard_songs(document, timeline)
    assert first.fade_out == ticks(5) and second.fade_in == ticks(5)
    spans = timeline.spans
    over = changed(document, {"edit": "set_songs", "ids": ["m2"], "song": {"over": [spans[1].scene, spans[2].scene]}})
    assert placed_songs(over, timeline)[2][1:] == (spans[1].join_start, spans[2].end)
    moved = changed(document, {"edit": "move_songs", "ids": ["m2"], "before": "m0"})
    assert [k for k, _, _ in placed_songs(moved, timeline)] == ["m2", "m0", "m1"]
    assert not changed(document, {"edit": "remove_songs", "ids": ["m0", "m1", "m2"]}).sounds
    with pytest.raises(InvalidEdit, match="Nothing of the song"):
        changed(document, {"edit": "set_songs", "ids": ["m0"], "song": {"trim_start": ticks(99)}})


def test_beats_are_corrected_by_hand() -> None:
    document = film()

    def beats(*edits: dict[str, Any]) -> Any:
        return changed(document, *({"edit": "change_beats", "sound": "m0", **e} for e in edits)).sounds["m0"].beats

    start = document.sounds["m0"].beats
    assert start is not None
    assert len(beats({"how": "half"}).times) == 39 and beats({"how": "half"}).tempo == 60
    assert beats({"how": "double"}, {"how": "half"}).times == start.times
    assert beats({"how": "shift", "by": ticks(0.1)}).times[0] == ticks(0.35)
    assert beats({"how": "bars"}).bars[0] == start.times[1]
    tapped = beats({"how": "add", "at": ticks(0.3)})
    assert tapped.times[0] == ticks(0.3) and len(tapped.times) == 78, "a tap near a beat takes its place"
    assert len(beats({"how": "remove", "at": ticks(0.25)}).times) == 77
    even = beats({"how": "even", "tempo": 100, "at": ticks(1.0)})
    assert ticks(1.0) in even.times and {round(d / ticks(0.01)) for d in np.diff(even.times)} == {60}


def test_the_mix_fades_steps_down_and_crossfades_at_even_power() -> None:
    document = changed(film(songs=1), {"edit": "fit_film", "length": ticks(100)}, {"edit": "fit_music"})
    timeline = timeline_of(document)

    def tone(sound: str, first: int, last: int) -> Any:
        at = np.arange(first, last)
        return np.where((at >= 0) & (at < 40 * RATE), 0.1, 0.0)[:, None].repeat(2, 1).astype(np.float32)

    def levels(made: Document) -> Any:
        return mixed(made, heard_songs(made, timeline), (), 0, 100 * RATE, tone, lambda c, s: np.zeros((len(s), 2), np.float32))[:, 0] / 0.1

    plain = levels(document)
    assert plain[20 * RATE] == pytest.approx(1.0) and plain[-1] < 0.01 and plain[99 * RATE] == pytest.approx(np.sin(np.pi / 4), abs=0.01)
    assert plain.max() <= 1.42 and plain[RATE : 97 * RATE].min() > 0.9, "a loop has no hole"
    quieter = levels(changed(document, {"edit": "set_mix", "mix": {"music": -6.0}}))
    assert quieter[20 * RATE] == pytest.approx(10 ** (-6 / 20), rel=1e-4)
    points = {"a": {"at": ticks(10), "level": 0}, "b": {"at": ticks(20), "level": -20}}
    shaped = levels(changed(document, {"edit": "set_songs", "ids": ["m0"], "song": {"points": points}}))
    assert shaped[15 * RATE] == pytest.approx(10 ** (-10 / 20), rel=1e-3) and shaped[30 * RATE] == pytest.approx(0.1, rel=1e-3)
    assert final_gain(document.mix, -22.0, -10.0) == pytest.approx(10 ** (6 / 20)) and final_gain(
        document.mix, -22.0, -3.0
    ) == pytest.approx(10 ** (2 / 20))


def test_songs_are_dragged_where_they_lie() -> None:
    start = film(4)
    drag = lambda document, part, **more: changed(document, {"edit": "drag_song", "id": "m0", "part": part, **more})  # noqa: E731
    placed = lambda document: placed_songs(document, timeline_of(document))[0][1:]  # noqa: E731
    assert placed(drag(start, "body", by=ticks(2))) == (ticks(2), ticks(42)) and placed(drag(start, "body", by=-ticks(9))) == (0, ticks(40))
    # Trimmed at its start, what is left is heard where it was; it is never trimmed away, nor begun before its file.
    trimmed = drag(drag(start, "body", by=ticks(5)), "start", by=ticks(3))
    assert placed(trimmed) == (ticks(8), ticks(45)) and trimmed.songs["m0"].trim_start == ticks(3)
    assert placed(drag(trimmed, "start", by=-ticks(9))) == (ticks(5), ticks(45))
    assert placed(drag(trimmed, "start", by=ticks(99)))[0] < ticks(45)
    assert placed(drag(trimmed, "end", by=ticks(20)))[1] == ticks(65) and placed(drag(trimmed, "end", by=-ticks(999)))[1] > ticks(8)
    faded = drag(drag(start, "fade_in", by=ticks(2.5)), "fade_out", by=ticks(99))
    assert (faded.songs["m0"].fade_in, faded.songs["m0"].fade_out) == (ticks(2.5), 0)
    shaped = changed(start, {"edit": "add_level_point", "id": "m0", "point": "p", "at": ticks(4), "level": 3})
    assert dict(drag(shaped, "point", point="p", by=-ticks(9), louder=-200).songs["m0"].points["p"]) == {"at": 0, "level": -36.0}
    # Its end snaps to a boundary that is near, unless one drags freely.
    line = timeline_of(start).spans[2]
    boundary = (line.join_start + line.hold_start) // 2
    assert placed(drag(start, "end", by=boundary - ticks(40) + ticks(0.1), snap=ticks(0.2)))[1] == boundary
    assert placed(drag(start, "end", by=boundary - ticks(40) + ticks(0.1)))[1] == boundary + ticks(0.1)
    with pytest.raises(InvalidEdit) as caught:
        drag(start, "point", point="gone")
    assert caught.value.code == "edit.no_point"
