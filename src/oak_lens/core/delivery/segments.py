"""A film cut into closed segments that are rendered, kept and joined on their own.

Holds and joins are segments of their own, so a changed scene costs its hold and the joins at its sides. Long ones are cut further,
counted from their own start, so that what comes before does not move the cuts.
"""

import hashlib
import json
from dataclasses import dataclass

from ..document import Document
from ..draw import canonical
from ..evaluate import Timeline, film_at
from ..time import TickRange, frame_count, frame_start, frames_in
from .settings import ExportSettings

LONGEST_SECONDS = 2
"""Long ones are cut into parts alike in length, so that a change of one scene is work for several processes."""

PALETTE_PIXELS = 64_000_000
"""A palette is found from all frames of a segment, which are held in memory for it: so many pixels at most."""

CODING_VERSION = 9
"""Raised when painting or coding changes what the same draw lists look like; `golden/coding.json` of the tests holds it to that."""


@dataclass(frozen=True, slots=True)
class Segment:
    """Frames `first` to `last` (exclusive) of the film at the export's rate."""

    index: int
    first: int
    last: int

    @property
    def frames(self) -> int:
        return self.last - self.first


def segments_of(timeline: Timeline, settings: ExportSettings) -> list[Segment]:
    """Every frame of the export's range, in order, in exactly one segment; empty if the range holds no frame, or sound alone is wanted.

    A kind of one frame takes the one that is shown at the start of the range.
    """
    rate = settings.frame_rate
    if settings.kind_spec.frames == "none" or timeline.length == 0:
        return []
    if settings.kind_spec.frames == "one":
        shown = min(settings.start // rate.frame_ticks, frame_count(timeline.length, rate) - 1)
        return [Segment(0, shown, shown + 1)]
    longest = max(1, round(LONGEST_SECONDS * rate.fraction))
    if "dither" in settings.kind_spec.uses:
        longest = min(longest, max(1, PALETTE_PIXELS // (settings.width * settings.height)))
    end = timeline.length if settings.end is None else min(settings.end, timeline.length)
    span = TickRange(min(settings.start, end), end)
    segments: list[Segment] = []
    ending = [TickRange(s.hold_end, s.end) for s in timeline.spans[-1:]]
    for piece in [*(r for scene in timeline.spans for r in (scene.join, scene.hold)), *ending]:
        begin = max(piece.start, span.start)
        frames = frames_in(TickRange(begin, max(begin, min(piece.end, span.end))), rate)
        count = -(-len(frames) // longest)
        for part in range(count):
            segments.append(Segment(len(segments), *(frames.start + len(frames) * k // count for k in (part, part + 1))))
    return segments


def segment_key(document: Document, timeline: Timeline, segment: Segment, settings: ExportSettings) -> str:
    """Names everything the coded segment depends on: its draw lists, which name pictures by their content, size and coding."""
    digest = hashlib.sha256()
    used = {use: getattr(settings, use) for use in settings.kind_spec.uses if use != "repeat"}
    coding = (CODING_VERSION, settings.kind, settings.width, settings.height, settings.rate, used)
    digest.update(json.dumps(coding).encode())
    for index in range(segment.first, segment.last):
        digest.update(canonical(film_at(document, timeline, frame_start(index, settings.frame_rate))))
    return digest.hexdigest()
