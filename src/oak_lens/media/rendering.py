"""Rendering segments of a film: evaluate, paint, code."""

from collections.abc import Callable, Iterator
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from ..core.delivery import ExportSettings, Segment
from ..core.document import Document
from ..core.evaluate import Timeline, film_at
from ..core.paint import Below, Painter
from ..core.time import frame_start
from .deliveries import delivery_of


def single_threaded() -> None:
    """Segments are rendered side by side; threads inside one would only get in each other's way."""
    cv2.setNumThreads(1)


def render_segment(
    document: Document,
    timeline: Timeline,
    segment: Segment,
    settings: ExportSettings,
    painter: Painter,
    target: Path,
    on_frame: Callable[[int], None] = lambda done: None,
) -> None:
    """Paint and code one segment into `target`. `on_frame` hears how many frames are done, and may raise to stop."""

    def frames() -> Iterator[NDArray[np.uint8]]:
        below: Below = "clear" if settings.transparent else "black"
        canvas = np.empty((settings.height, settings.width, 4), np.uint8)
        for index in range(segment.first, segment.last):
            picturing = film_at(document, timeline, frame_start(index, settings.frame_rate))
            yield painter.paint(picturing, settings.width, settings.height, canvas, below)
            on_frame(index - segment.first + 1)

    delivery_of(settings).write(target, frames(), settings)
