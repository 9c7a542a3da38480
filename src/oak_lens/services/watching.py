"""Watching: frames for the interface, painted by the same painter as the export."""

import threading
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass
from functools import partial
from typing import Literal

from ..core.document import Document
from ..core.draw import DrawList, Picturing
from ..core.edits import LayerRef, SnapLine, touched_lines
from ..core.errors import OakError
from ..core.evaluate import (
    SETTLED,
    Bar,
    Ghost,
    LaneRow,
    LayerGeometry,
    PathGeometry,
    PlanView,
    Timeline,
    ViewGeometry,
    WrittenText,
    film_at,
    ghosts_of,
    lamp_place,
    layer_geometry,
    path_geometry,
    plan_views,
    poster_at,
    scene_at,
    scene_bars,
    scene_lanes,
    staged,
    timeline_of,
    values_at,
    view_geometry,
    written_text,
)
from ..core.paint import ByteCache, Painter
from ..core.paint.painter import Below
from ..media.jpegs import jpeg
from . import keys
from .findings import scene_marks
from .pictures import pyramids_of
from .ports import MediaStore

CACHE_BYTES = 160 << 20
SEEN_BYTES = 64 << 20
TRIMMED_EVERY = 500

WARM_AT_ONCE, WARM_SCENES = 30, 400
"""Scenes that are prepared around a moment; and that are remembered as prepared: what was prepared longest ago may be gone from the painter."""


class Watching:
    """One painter for all that is watched: pictures go by their content, so every project and revision can share what is prepared."""

    def __init__(self, store: MediaStore):
        self._blobs, self._made = store.blobs, 0
        self._warm: dict[str, None] = {}
        self._warming = threading.Lock()
        self._painter = Painter(pyramids_of(store, ByteCache(CACHE_BYTES)), CACHE_BYTES)

    def jpeg(self, document: Document, picturing: Picturing, width: int, below: Below = "black") -> bytes:
        """A frame as JPEG, `width` pixels wide in the film's shape. Raises MissingPicture."""
        return jpeg(self._painter.paint(picturing, *self.size(document, width), below=below))

    def cold(self, document: Document, at: int, width: int) -> Iterator[Callable[[], None]]:
        """For each scene near a moment of the film, in ticks, that nobody has prepared since it changed: what prepares its pictures for frames
        so many pixels wide, in steps."""
        timeline = timeline_of(document)
        near = sorted(timeline.spans, key=lambda span: abs(span.hold_start - at))[:WARM_AT_ONCE]
        marks = scene_marks(document, timeline, [span.scene for span in near])
        for span in near:
            mark = f"{marks[span.scene]} {width}"
            if mark in self._warm:
                continue
            for picturing in scene_ends(document, timeline, span.scene):
                yield partial(self._prepare, document, picturing, width)
            # Only now: whoever was called away in between did not prepare it.
            with self._warming:
                self._warm[mark] = None
                while len(self._warm) > WARM_SCENES:
                    del self._warm[next(iter(self._warm))]

    def _prepare(self, document: Document, picturing: Picturing, width: int) -> None:
        # What cannot be painted is told when it is asked for.
        with suppress(OakError):
            self._painter.paint(picturing, *self.size(document, width))

    def end(self, document: Document, timeline: Timeline, scene: str, which: Literal["opening", "settled", "closing"], width: int) -> bytes:
        """How a scene opens, stands or closes as JPEG: painted once for all that show the same, in whatever project. Raises MissingPicture."""
        key = keys.seen(scene_marks(document, timeline, [scene])[scene], which, width)
        share = SETTLED if which == "settled" else None
        return self._kept(key, lambda: self.jpeg(document, scene_moment(document, timeline, scene, which, share), width))

    def poster(self, document: Document, width: int) -> bytes:
        """The frame that stands for the film, as JPEG. Raises MissingPicture."""
        timeline = timeline_of(document)
        at = poster_at(document, timeline)
        source = timeline.source_at(at)
        picturing = film_at(document, timeline, at)
        if source is None or source.before is not None or source.progress < 1 or source.leaving:
            # In a join two scenes are seen: it is painted each time.
            return self.jpeg(document, picturing, width)
        scene = source.span.scene
        key = keys.seen(scene_marks(document, timeline, [scene])[scene], f"at{source.span.own(at)}", width)
        return self._kept(key, lambda: self.jpeg(document, picturing, width))

    def _kept(self, key: str, paint: Callable[[], bytes]) -> bytes:
        """A picture that is there already, or is painted now."""
        try:
            return self._blobs.local(key).read_bytes()
        except FileNotFoundError:
            data = paint()
        # Where there is no room it is painted again when it is next asked for.
        with suppress(OSError):
            with self._blobs.writing(key, durable=False) as path:
                path.write_bytes(data)
            self._made += 1
            if self._made % TRIMMED_EVERY == 0:
                self._blobs.trim(keys.SEEN, SEEN_BYTES)
        return data

    @staticmethod
    def size(document: Document, width: int) -> tuple[int, int]:
        """(width, height) in pixels in the film's shape."""
        return width, max(2, round(width / document.frame.aspect))


def scene_ends(document: Document, timeline: Timeline, scene: str) -> tuple[DrawList, DrawList]:
    """How a scene opens and closes, without its joins."""
    span = timeline.span_of(scene)
    assert span is not None
    length = span.own_length
    return scene_at(document, scene, 0, length), scene_at(document, scene, length, length)


def scene_moment(document: Document, timeline: Timeline, scene: str, which: str, share: float | None = None) -> DrawList:
    """A scene without its joins: its `opening` or `closing` frame, the one where its `hold` begins, or that after a share of its time."""
    if share is not None and (span := timeline.span_of(scene)) is not None:
        return scene_at(document, scene, round(share * span.own_length), span.own_length)
    if which in ("opening", "closing"):
        return scene_ends(document, timeline, scene)[which == "closing"]
    span = timeline.span_of(scene)
    assert span is not None
    return scene_at(document, scene, span.own(span.hold_start), span.own_length)


def outlines(document: Document, timeline: Timeline, scene: str, share: float) -> list[LayerGeometry]:
    """Where the layers of a scene stand after a share of its time."""
    span = timeline.span_of(scene)
    assert span is not None
    return layer_geometry(staged(document, scene, round(share * span.own_length), span.own_length))


def join_moment(document: Document, timeline: Timeline, scene: str, leaving: bool, share: float) -> Picturing:
    """The film after a share of the time of the join into a scene, or (`leaving`) out of it; a cut shows what lies around it."""
    span = timeline.span_of(scene)
    assert span is not None
    start, end = (span.hold_end, span.end) if leaving else (span.join_start, span.hold_start)
    if start == end:
        frame = timeline.rate.frame_ticks
        start, end = max(start - 2 * frame, 0), end + 2 * frame
    return film_at(document, timeline, start + round(share * (end - start)))


@dataclass(frozen=True, slots=True)
class Wanted:
    """What the interface draws besides outlines: lanes (with the curves of some), ghosts of layers, the plan."""

    dragged: LayerRef | None = None
    lanes: bool = False
    curves: frozenset[str] = frozenset()
    ghosts: frozenset[tuple[str, str]] = frozenset()
    plan: bool = False
    written: LayerRef | None = None


GHOST_EVERY_FRAMES = 4


@dataclass(frozen=True, slots=True)
class SceneLanes:
    """`length` of the scene's own time in ticks; where its hold begins and ends in it."""

    length: int
    hold_from: int
    hold_to: int
    rows: list[LaneRow]
    bars: list[Bar]


@dataclass(frozen=True, slots=True)
class Geometry:
    """What is drawn over a frame, in fractions of it from its top left. `lines`: those a dragged layer touches; `lamp`: where its foot is
    seen; `written`: the text that is being written; `values`: numbers that are otherwise than what lies under their lanes, by `container/layer`."""

    layers: list[LayerGeometry]
    views: list[ViewGeometry]
    lines: list[SnapLine]
    paths: list[PathGeometry]
    ghosts: list[Ghost]
    lamp: tuple[float, float] | None
    values: dict[str, dict[str, float]]
    lanes: SceneLanes | None
    plan: list[PlanView] | None
    written: WrittenText | None = None


NOTHING_DRAWN = Geometry([], [], [], [], [], None, {}, None, None)


def geometry_of(document: Document, timeline: Timeline, scene: str, at: int, wanted: Wanted) -> Geometry:
    """What the easel draws over a frame: outlines of the scene's layers at `at` ticks of the film, of their views, their paths, the lines
    that a dragged layer touches; and what else is wanted."""
    span = timeline.span_of(scene)
    if span is None:
        return NOTHING_DRAWN
    length = span.own_length
    stage = staged(document, scene, span.own(at), length)
    lines: list[SnapLine] = []
    if wanted.dragged is not None:
        dragged = stage.find(wanted.dragged.scene, wanted.dragged.layer)
        if dragged is not None and dragged.layer.parent is None:
            lines = touched_lines(stage, dragged)
    every = round(document.frame.frame_rate.frame_ticks * span.speed * GHOST_EVERY_FRAMES)
    lanes = None
    if wanted.lanes:
        rows, bars = scene_lanes(document, scene, length, wanted.curves), scene_bars(document, scene, length)
        lanes = SceneLanes(length, span.own(span.hold_start), span.own(span.hold_end), rows, bars)
    return Geometry(
        layers=layer_geometry(stage),
        views=view_geometry(document, scene),
        lines=lines,
        paths=path_geometry(stage),
        ghosts=ghosts_of(stage, wanted.ghosts, every) if wanted.ghosts else [],
        lamp=lamp_place(stage),
        values=values_at(stage),
        lanes=lanes,
        plan=plan_views(stage) if wanted.plan else None,
        written=written_text(stage, wanted.written.scene, wanted.written.layer) if wanted.written else None,
    )
