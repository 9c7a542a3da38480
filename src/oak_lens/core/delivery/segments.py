"""A film cut into closed segments that are rendered, kept and joined on their own.

Holds and joins are segments of their own, so a changed scene costs its hold and the joins at its sides. Long ones are cut further,
counted from their own start, so that what comes before does not move the cuts.
"""

import hashlib
import json
from dataclasses import dataclass

from ..document import Document
from ..draw import pictures_of
from ..evaluate import Timeline, film_at
from ..time import TickRange, frame_start, frames_in
from .settings import ExportSettings

LONGEST_FRAMES = 150

CODING_VERSION = 2
"""Raised when painting or coding changes what the same draw lists look like."""


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
    """Every frame of the export's range, in order, in exactly one segment; empty if the range holds no frame."""
    rate = settings.frame_rate
    end = timeline.length if settings.end is None else min(settings.end, timeline.length)
    span = TickRange(min(settings.start, end), end)
    segments: list[Segment] = []
    ending = [TickRange(s.hold_end, s.end) for s in timeline.spans[-1:]]
    for part in [*(r for scene in timeline.spans for r in (scene.join, scene.hold)), *ending]:
        frames = frames_in(TickRange(max(part.start, span.start), max(part.start, span.start, min(part.end, span.end))), rate)
        for first in range(frames.start, frames.stop, LONGEST_FRAMES):
            segments.append(Segment(len(segments), first, min(first + LONGEST_FRAMES, frames.stop)))
    return segments


def segment_key(document: Document, timeline: Timeline, segment: Segment, settings: ExportSettings) -> str:
    """Names everything the coded segment depends on: its draw lists, its pictures' content, size and coding."""
    digest = hashlib.sha256()
    coding = (CODING_VERSION, settings.width, settings.height, settings.rate, settings.quality)
    digest.update(json.dumps(coding).encode())
    pictures: set[str] = set()
    for index in range(segment.first, segment.last):
        picturing = film_at(document, timeline, frame_start(index, settings.frame_rate))
        digest.update(repr(picturing).encode())
        pictures |= pictures_of(picturing)
    for media in sorted(pictures):
        digest.update(document.media[media].sha256.encode())
    return digest.hexdigest()
