"""The film at a moment."""

from ..document import Document, Join, resolved_join
from ..draw import ColourItem, DrawList, Picturing
from ..joins import joined
from ..time import frame_start
from .scenes import scene_at
from .timeline import SceneSpan, Timeline

EMPTY_FILM = "#000000"


def poster_at(document: Document, timeline: Timeline) -> int:
    """The moment of the film, in ticks, that stands for it: as was chosen, else the middle of the first scene that shows something."""
    chosen = timeline.span_of(document.poster.scene) if document.poster.scene is not None else None
    if chosen is not None:
        return chosen.film(document.poster.at)
    span = next((s for s in timeline.spans if document.scenes[s.scene].layers), None)
    return 0 if span is None else (span.hold_start + span.hold_end) // 2


SETTLED = 0.7
"""Share of a scene's time by which what comes in has come, and little has begun to go: a still of it shows most."""


def film_at(document: Document, timeline: Timeline, at: int) -> Picturing:
    """What the film shows `at` ticks from its start; black for a film without scenes."""
    source = timeline.source_at(at)
    if source is None:
        return DrawList(document.frame.aspect, (ColourItem(EMPTY_FILM),))

    def shown(span: SceneSpan) -> Picturing:
        return scene_at(document, span.scene, span.own(at), span.own_length)

    if source.leaving:
        return _through(document.ends.ending, shown(source.span), None, source.progress)
    if source.before is None:
        return (
            shown(source.span) if source.progress >= 1.0 else _through(document.ends.beginning, None, shown(source.span), source.progress)
        )
    join = resolved_join(document, document.scenes[source.span.scene])
    return joined(join.kind, shown(source.before), shown(source.span), source.progress, join)


def _through(join: Join | None, before: Picturing | None, after: Picturing | None, progress: float) -> Picturing:
    """Into the first scene or out of the last: the other one is a frame of the join's colour."""
    aspect = (before or after or DrawList(1.0, ())).aspect
    nothing = DrawList(aspect, (ColourItem(join.colour if join else EMPTY_FILM),))
    return joined(join.kind if join else "cut", before or nothing, after or nothing, progress, join or Join())


def frame_at(document: Document, timeline: Timeline, index: int) -> Picturing:
    """Frame `index` of the film, sampled at its start."""
    return film_at(document, timeline, frame_start(index, timeline.rate))
