"""Edits of times: boundaries dragged, holds spread, scaled, fitted to a length, cut on beats."""

from bisect import bisect_left
from collections.abc import Mapping, Sequence
from typing import Annotated, Literal

from pydantic import Field

from ..document import Document, Scene, in_order, resolved_hold, resolved_join
from ..document.records import LONGEST_TICKS, SHORTEST_HOLD, HoldTicks, Id, Ticks
from ..evaluate import SceneSpan, join_length, timeline_of
from ..sound import film_beats, music_end, placed_songs
from ..time import TICKS_PER_SECOND
from .registry import Edit, EditSpec, refused, scene_of, with_scenes
from .scenes import SceneIds

USUAL_SHORTEST = TICKS_PER_SECOND


def with_holds(document: Document, holds: Mapping[str, int]) -> Document:
    """The document with holds of its own for some scenes, kept within what a hold may be."""
    changed: dict[str, Scene | None] = {
        k: document.scenes[k].model_copy(update={"hold": min(max(round(h), SHORTEST_HOLD), LONGEST_TICKS)})
        for k, h in holds.items()
        if resolved_hold(document, document.scenes[k]) != h
    }
    return with_scenes(document, changed) if changed else document


def boundary_of(span: SceneSpan) -> int:
    """Where a scene gives way to it: the middle of the join into it."""
    return (span.join_start + span.hold_start) // 2


class MoveBoundary(Edit):
    """The boundary before `scene` (None: the film's end) moved to `to` ticks of the film. The scene before it grows or shrinks, and all
    that follows moves along; `both`: the scene after it gives what the one before takes; `slide`: the whole scene after it moves between
    its neighbours, whose holds make room. `snap`: to the nearest beat within `snap` ticks."""

    scene: Id | None = None
    to: Ticks
    how: Literal["along", "both", "slide"] = "along"
    snap: Ticks = 0


def move_boundary(document: Document, edit: MoveBoundary) -> Document:
    timeline = timeline_of(document)
    spans = timeline.spans
    index = len(spans) if edit.scene is None else next((i for i, s in enumerate(spans) if s.scene == edit.scene), 0)
    if edit.scene is not None:
        scene_of(document, edit.scene)
    if index == 0:
        raise refused("edit.boundary", "scene", "No scene stands before this one: there is no boundary to move.")
    now = timeline.length if index == len(spans) else boundary_of(spans[index])
    to = edit.to
    if edit.snap:
        near = [b.at for b in film_beats(document, timeline) if abs(b.at - to) <= edit.snap]
        to = min(near, key=lambda at: abs(at - to), default=to)
    by = to - now
    holds = {s.scene: s.hold.length for s in spans}
    before = spans[index - 1].scene
    after = spans[index].scene if index < len(spans) else None
    if edit.how == "along" or after is None:
        return with_holds(document, {before: holds[before] + by})
    other = after if edit.how == "both" else (spans[index + 1].scene if index + 1 < len(spans) else None)
    by = max(by, SHORTEST_HOLD - holds[before])
    if other is not None:
        by = min(by, holds[other] - SHORTEST_HOLD)
    return with_holds(document, {before: holds[before] + by, **({} if other is None else {other: holds[other] - by})})


class FitFilm(Edit):
    """Holds of the scenes named (all by default) worked out so that the film is `length` ticks long, or (None) ends with its music; each
    keeps its share, none gets shorter than `shortest` ticks. `evenly`: all alike instead."""

    ids: list[Id] | None = None
    length: Ticks | None = None
    shortest: HoldTicks = USUAL_SHORTEST
    evenly: bool = False


def fit_film(document: Document, edit: FitFilm) -> Document:
    timeline = timeline_of(document)
    ids = _named(document, edit.ids)
    if not ids:
        raise refused("edit.no_scenes", "", "There is no scene yet whose time could be worked out.")
    target = music_end(document, timeline) if edit.length is None else edit.length
    if not target:
        raise refused("edit.no_music", "", "There is no music to end with. Add a song, or state a length.")
    now = {k: TICKS_PER_SECOND if edit.evenly else resolved_hold(document, document.scenes[k]) for k in ids}

    def made(scale: float) -> Document:
        return with_holds(document, {k: max(round(h * scale), edit.shortest) for k, h in now.items()})

    def length(scale: float) -> int:
        return timeline_of(made(scale)).length

    least = length(0.0)
    if target < least:
        raise refused(
            "edit.too_short",
            "length",
            f"{target / TICKS_PER_SECOND:.1f} s are too short: with joins, and no scene under {edit.shortest / TICKS_PER_SECOND:.1f} s, the film takes "
            f"at least {least / TICKS_PER_SECOND:.1f} s. Allow shorter scenes, shorten the joins, or take scenes out.",
        )
    low, high = 0.0, 1.0
    while length(high) < target and high < 1e6:
        low, high = high, high * 2.0
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (middle, high) if length(middle) < target else (low, middle)
    fitted = made(high)
    # What rounding left: taken from (or given to) the longest scene, which has the most to spare; joins do not change by so little.
    for _ in range(4):
        rest = target - timeline_of(fitted).length
        if rest == 0:
            break
        longest = max(ids, key=lambda k: resolved_hold(fitted, fitted.scenes[k]))
        fitted = with_holds(fitted, {longest: resolved_hold(fitted, fitted.scenes[longest]) + rest})
    return fitted


class FitMusic(Edit):
    """The last song trimmed, or looped, so that the music ends with the film, and faded out over `fade` ticks; songs that would begin
    after the film's end are muted."""

    fade: Ticks = 2 * TICKS_PER_SECOND


def fit_music(document: Document, edit: FitMusic) -> Document:
    timeline = timeline_of(document)
    placed = [(k, start) for k, start, _ in placed_songs(document, timeline) if document.songs[k].over is None]
    if not placed:
        raise refused("edit.no_music", "", "There is no music to fit. Add a song first.")
    if not timeline.spans:
        raise refused("edit.no_scenes", "", "The film has no scene yet: there is nothing to fit the music to.")
    within = [(k, start) for k, start in placed if start < timeline.length - TICKS_PER_SECOND // 10]
    songs = dict(document.songs)
    for song_id, start in placed:
        if (song_id, start) not in within:
            songs[song_id] = songs[song_id].model_copy(update={"muted": True})
    if within:
        song_id, start = within[-1]
        length = timeline.length - start
        songs[song_id] = songs[song_id].model_copy(update={"length": length, "fade_out": min(edit.fade, length), "muted": False})
    return document.model_copy(update={"songs": songs})


class ScaleHolds(SceneIds):
    """Holds times `factor`."""

    factor: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)]


def scale_holds(document: Document, edit: ScaleHolds) -> Document:
    for scene_id in edit.ids:
        scene_of(document, scene_id)
    return with_holds(document, {k: round(resolved_hold(document, document.scenes[k]) * edit.factor) for k in edit.ids})


class CutOnBeats(Edit):
    """Holds of the scenes named (all by default) so that the boundary after each falls on a beat or a bar: on the one nearest to where it
    would be, `every` so many of them apart (None: as near the wished length as they come), never under `shortest` ticks."""

    ids: list[Id] | None = None
    on: Literal["beat", "bar"] = "beat"
    every: Annotated[int, Field(ge=1, le=64)] | None = None
    shortest: HoldTicks = USUAL_SHORTEST // 2


def cut_on_beats(document: Document, edit: CutOnBeats) -> Document:
    wanted = set(_named(document, edit.ids))
    beats = _on(document, edit.on)
    if len(beats) < 2:
        raise refused("edit.no_beats", "", "No beats are known. Add music, or tap its beats on the Sound page.")
    order = [k for k, _ in in_order(document.scenes)]
    row = _Row(document, order)
    for index, scene_id in enumerate(order[:-1]):
        if scene_id in wanted:
            begins = row.boundary_before(index)
            ends = row.boundary_after(index)
            earliest = begins + edit.shortest
            if edit.every is not None:
                first = bisect_left(beats, begins - TICKS_PER_SECOND // 50)
                place = min(first + edit.every, len(beats) - 1)
            else:
                place = _nearest(beats, ends)
            while place < len(beats) - 1 and beats[place] < earliest:
                place += 1
            hold = row.holds[index] + beats[place] - ends
            if beats[place] >= earliest and hold >= SHORTEST_HOLD:
                row.bring_boundary(index, beats[place])
        row.pass_scene(index)
    return with_holds(document, dict(zip(order, row.holds, strict=True)))


class _Row:
    """Scenes in order, gone through from the first on: what comes before a scene is settled when it is looked at, so that a film of
    hundreds is gone through once."""

    def __init__(self, document: Document, order: Sequence[str]):
        scenes = [document.scenes[k] for k in order]
        self.holds = [resolved_hold(document, s) for s in scenes]
        self._joins = [document.ends.beginning, *(resolved_join(document, s) for s in scenes[1:])]
        self._ended = 0

    def _join(self, index: int) -> int:
        return join_length(self._joins[index], *self.holds[max(index - 1, 0) : index + 1])

    def boundary_before(self, index: int) -> int:
        return self._ended + self._join(index) // 2 if index else 0

    def boundary_after(self, index: int) -> int:
        return self._ended + self._join(index) + self.holds[index] + self._join(index + 1) // 2

    def bring_boundary(self, index: int, at: int) -> None:
        """The hold changed until the boundary after it lies at a moment: joins that it limits follow it."""
        for _ in range(6):
            by = at - self.boundary_after(index)
            if by == 0:
                break
            self.holds[index] = min(max(self.holds[index] + by, SHORTEST_HOLD), LONGEST_TICKS)

    def pass_scene(self, index: int) -> None:
        self._ended += self._join(index) + self.holds[index]


def _on(document: Document, on: str) -> list[int]:
    beats = film_beats(document, timeline_of(document))
    return [b.at for b in beats if b.bar or on == "beat"]


def _nearest(beats: Sequence[int], at: int) -> int:
    place = bisect_left(beats, at)
    return min((p for p in (place - 1, place) if 0 <= p < len(beats)), key=lambda p: abs(beats[p] - at))


class ReverseScenes(SceneIds):
    """The scenes named in the opposite order, in the places they have."""


def reverse_scenes(document: Document, edit: ReverseScenes) -> Document:
    named = [k for k, _ in in_order(document.scenes) if k in set(edit.ids)]
    orders = [document.scenes[k].order for k in named]
    return with_scenes(
        document, {k: document.scenes[k].model_copy(update={"order": o}) for k, o in zip(reversed(named), orders, strict=True)}
    )


def _named(document: Document, ids: list[str] | None) -> list[str]:
    for scene_id in ids or ():
        scene_of(document, scene_id)
    return [k for k, _ in in_order(document.scenes) if ids is None or k in ids]


TIMING_EDITS = (
    EditSpec("move_boundary", "Change times", MoveBoundary, move_boundary),
    EditSpec("fit_film", "Fit the film's length", FitFilm, fit_film),
    EditSpec("fit_music", "Fit the music to the film", FitMusic, fit_music),
    EditSpec("scale_holds", "Scale times", ScaleHolds, scale_holds),
    EditSpec("cut_on_beats", "Cut on beats", CutOnBeats, cut_on_beats),
    EditSpec("reverse_scenes", "Reverse scenes", ReverseScenes, reverse_scenes),
)
