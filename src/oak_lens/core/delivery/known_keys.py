"""Keys of segments that were found before: films that share scenes, and one that is exported again, are not looked through frame by frame."""

import hashlib
import json
from collections import OrderedDict
from collections.abc import Mapping

from ..document import Document, resolved_join
from ..evaluate import SceneSpan, Timeline, scene_mark
from ..time import frame_start
from .segments import CODING_VERSION, Segment, segment_key
from .settings import ExportSettings

MOST = 50_000


class KnownKeys:
    """`segment_key`, remembered by what a segment's frames come of: marks of its scenes, where in their time it lies, and how one gives way to the
    other. Not to be used by two threads at once."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, str] = OrderedDict()

    def learn(self, known: Mapping[str, str]) -> None:
        """Keys by their sources, as `found` gave them before."""
        self._known.update(known)
        while len(self._known) > MOST:
            self._known.popitem(last=False)

    def of(self, document: Document, timeline: Timeline, segment: Segment, settings: ExportSettings) -> str:
        return self.found(document, timeline, segment, settings)[0]

    def found(self, document: Document, timeline: Timeline, segment: Segment, settings: ExportSettings) -> tuple[str, str]:
        """(key, source): the source is empty where the key must be found anew each time."""
        source = _source(document, timeline, segment, settings)
        if source is None:
            return segment_key(document, timeline, segment, settings), ""
        key = self._known.get(source)
        if key is None:
            key = segment_key(document, timeline, segment, settings)
            self.learn({source: key})
        return key, source


def _source(document: Document, timeline: Timeline, segment: Segment, settings: ExportSettings) -> str | None:
    """A digest of all that the segment's frames come of; None where they are not all of one hold, join or end."""
    begin, end = (frame_start(index, settings.frame_rate) for index in (segment.first, segment.last - 1))
    first, last = timeline.source_at(begin), timeline.source_at(end)
    if first is None or last is None or (first.span, first.before, first.leaving) != (last.span, last.before, last.leaving):
        return None
    if (first.progress < 1.0) != (last.progress < 1.0):
        return None
    joins = resolved_join(document, document.scenes[first.span.scene]) if first.before else document.ends
    through = first.before is not None or first.leaving or first.progress < 1.0
    said = [
        CODING_VERSION, settings.model_dump_json(exclude={"start", "end"}), segment.frames, _seen(document, first.span, begin), first.before and _seen(document, first.before, begin), first.leaving,
        joins.model_dump_json() if through else "", first.span.join.length if through else 0,
    ]  # fmt: skip
    return hashlib.sha256(json.dumps(said).encode()).hexdigest()


def _seen(document: Document, span: SceneSpan, begin: int) -> list[object]:
    """What a scene shows from a moment of the film on."""
    return [scene_mark(document, span.scene, span.own_length), begin - span.join_start, span.speed, span.on_screen.length, span.hold_end - span.join_start]
