"""When each scene is on screen.

scene 1   |== hold ==|~ join ~|
scene 2              |~ join ~|== hold ==|~ join ~|
film      0 ....................................... length = sum of holds and joins, beginning and ending included
"""

from bisect import bisect_right
from dataclasses import dataclass

from ..document import Document, Join, in_order, remembered, resolved_hold, resolved_join
from ..time import FrameRate, TickRange, frame_count


@dataclass(frozen=True, slots=True)
class SceneSpan:
    """Times of one scene in ticks of the film. `join_start` to `hold_start` is the join from the scene before, or the film's beginning."""

    scene: str
    join_start: int
    hold_start: int
    hold_end: int
    end: int
    speed: float = 1.0

    @property
    def own_length(self) -> int:
        """How long it is on screen in its own time, which runs `speed` times as fast as the film."""
        return round((self.end - self.join_start) * self.speed)

    def own(self, at: int) -> int:
        """The moment of its own time, 0 to `own_length`, at `at` ticks of the film."""
        return round(min(max(at - self.join_start, 0), self.on_screen.length) * self.speed)

    def film(self, own: int) -> int:
        """The moment of the film at which its own time is `own`, held within what it is on screen."""
        return self.join_start + min(round(max(own, 0) / self.speed), self.on_screen.length - 1)

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
    """What a moment of the film shows: `span` alone, or (in a join) `before` giving way to it by `progress`; at the film's ends, `span`
    coming from or (`leaving`) going into nothing."""

    span: SceneSpan
    before: SceneSpan | None = None
    progress: float = 1.0
    leaving: bool = False


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
        if at >= span.hold_end and index == len(self.spans) - 1:
            return FrameSource(span, progress=(at - span.hold_end) / max(1, span.end - span.hold_end), leaving=True)
        if at >= span.hold_start:
            return FrameSource(span)
        return FrameSource(span, self.spans[index - 1] if index else None, (at - span.join_start) / span.join.length)


def join_length(join: Join | None, *holds: int) -> int:
    """Ticks a join lasts between scenes with these holds: it is never longer than one of them."""
    return 0 if join is None else min(join.wished_length, *holds)


@remembered
def timeline_of(document: Document) -> Timeline:
    """The times of all scenes."""
    listed = in_order(document.scenes)
    holds = [resolved_hold(document, scene) for _, scene in listed]
    joins = [join_length(resolved_join(document, scene), *holds[i : i + 2]) for i, (_, scene) in enumerate(listed[1:])]
    if listed:
        joins = [join_length(document.ends.beginning, holds[0]), *joins, join_length(document.ends.ending, holds[-1])]
    spans: list[SceneSpan] = []
    at = 0
    for (scene_id, scene), hold, coming, going in zip(listed, holds, joins, joins[1:], strict=False):
        hold_end = at + coming + hold
        spans.append(SceneSpan(scene_id, at, at + coming, hold_end, hold_end + going, scene.speed))
        at = hold_end
    return Timeline(tuple(spans), spans[-1].end if spans else 0, document.frame.frame_rate)
