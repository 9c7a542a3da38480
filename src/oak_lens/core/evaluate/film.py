"""The film at a moment."""

from ..document import Document
from ..draw import ColourItem, DrawList, Picturing
from ..joins import JOINS
from ..time import frame_start
from .scenes import scene_at
from .timeline import SceneSpan, Timeline

EMPTY_FILM = "#000000"


def film_at(document: Document, timeline: Timeline, at: int) -> Picturing:
    """What the film shows `at` ticks from its start; black for a film without scenes."""
    source = timeline.source_at(at)
    if source is None:
        return DrawList(document.frame.aspect, (ColourItem(EMPTY_FILM),))

    def shown(span: SceneSpan) -> DrawList:
        return scene_at(document, span.scene, at - span.join_start, span.on_screen.length)

    if source.before is None:
        return shown(source.span)
    return JOINS[source.span.join_kind].compose(shown(source.before), shown(source.span), source.progress)


def frame_at(document: Document, timeline: Timeline, index: int) -> Picturing:
    """Frame `index` of the film, sampled at its start."""
    return film_at(document, timeline, frame_start(index, timeline.rate))
