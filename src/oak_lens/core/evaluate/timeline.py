"""When each scene is on screen.

scene 1   |== hold ==|~ join ~|
scene 2              |~ join ~|== hold ==|~ join ~|
film      0 ....................................... length = sum of holds and joins
"""

from bisect import bisect_right
from dataclasses import dataclass
from weakref import ReferenceType, ref

from ..document import Document, in_order, resolved_hold, resolved_join
from ..time import FrameRate, TickRange, frame_count


@dataclass(frozen=True, slots=True)
class SceneSpan:
    """Times of one scene in ticks of the film. `join_*` describe the join from the scene before (length 0: none)."""

    scene: str
    join_kind: str
    join_start: int
    hold_start: int
    hold_end: int
    end: int

    @property
    def on_screen(self) -> TickRange:
        """From the start of its incoming join to the end of its outgoing one: its moves run over all of that."""
        return TickRange(self.join_start, self.end)

    @property
    def join(self) -> TickRange:
        return TickRange(self.join_start, self.hold_start)

    @property
    def hold(self) -> TickRange:
        return TickRange(self.hold_start, self.hold_end)


@dataclass(frozen=True, slots=True)
class FrameSource:
    """What a moment of the film shows: `span` alone, or (in a join) `before` giving way to it by `progress`."""

    span: SceneSpan
    before: SceneSpan | None = None
    progress: float = 1.0


@dataclass(frozen=True, slots=True)
class Timeline:
    """All scenes in order, and the film's length in ticks."""

    spans: tuple[SceneSpan, ...]
    length: int
    rate: FrameRate

    @property
    def frames(self) -> int:
        return frame_count(self.length, self.rate)

    def span_of(self, scene: str) -> SceneSpan | None:
        return next((s for s in self.spans if s.scene == scene), None)

    def source_at(self, at: int) -> FrameSource | None:
        """What shows at `at` ticks (held within the film); None for a film without scenes."""
        if not self.spans:
            return None
        at = min(max(at, 0), self.length - 1)
        index = bisect_right(self.spans, at, key=lambda s: s.join_start) - 1
        span = self.spans[index]
        if at >= span.hold_start or index == 0:
            return FrameSource(span)
        return FrameSource(span, self.spans[index - 1], (at - span.join_start) / span.join.length)


_recent: tuple[tuple[ReferenceType[Document], Timeline], ...] = ()
RECENT = 8


def timeline_of(document: Document) -> Timeline:
    """The times of all scenes. Nothing joins into the first scene."""
    # Documents never change: one asked about again and again, as edits of many keys do, is looked through once.
    global _recent
    for known, timeline in _recent:
        if known() is document:
            return timeline
    timeline = _timeline(document)
    _recent = ((ref(document), timeline), *_recent[: RECENT - 1])
    return timeline


def _timeline(document: Document) -> Timeline:
    listed = in_order(document.scenes)
    joins = [resolved_join(document, scene) for _, scene in listed]
    starts, at = [], 0
    for index, (_, scene) in enumerate(listed):
        join_start = at
        hold_start = at + (joins[index].effective_length if index else 0)
        at = hold_start + resolved_hold(document, scene)
        starts.append((join_start, hold_start, at))
    spans = tuple(
        SceneSpan(
            scene=scene_id,
            join_kind=joins[i].kind if i else "cut",
            join_start=starts[i][0],
            hold_start=starts[i][1],
            hold_end=starts[i][2],
            end=starts[i + 1][1] if i + 1 < len(listed) else starts[i][2],
        )
        for i, (scene_id, _) in enumerate(listed)
    )
    return Timeline(spans, at, document.frame.frame_rate)
