"""Findings of scenes for the run sheet: how each looks, by a mark, and how its photos are used."""

import threading
from collections import OrderedDict
from collections.abc import Iterable
from dataclasses import dataclass, replace
from weakref import ReferenceType, ref

from pydantic import BaseModel

from ..core.document import ByRecord, Document
from ..core.evaluate import (
    PhotoFinding,
    TextFinding,
    Timeline,
    photo_findings,
    record_digest,
    scene_mark,
    surface_runs,
    text_findings,
    timeline_of,
    told_in,
)

KEPT = 5000


@dataclass(frozen=True, slots=True)
class SceneFinding:
    """`mark` names the state of the scene that was looked at."""

    scene: str
    mark: str
    photos: tuple[PhotoFinding, ...]
    texts: tuple[TextFinding, ...] = ()


_digests = ByRecord[BaseModel, bytes](record_digest, 20_000)


def scene_marks(document: Document, timeline: Timeline, scenes: Iterable[str] | None = None) -> dict[str, str]:
    """A short text for each scene named (all by default) that changes with whatever it shows: cheap, nothing is evaluated."""
    lengths = {span.scene: span.own_length for span in timeline.spans}
    return {k: scene_mark(document, k, lengths[k], _digests.of) for k in (document.scenes if scenes is None else scenes)}


def changed_marks(before: Document | None, after: Document) -> dict[str, str]:
    """New marks of the scenes that show something else now; of all, if it is not known what was before."""
    old = {} if before is None else all_marks(before)
    new = all_marks(after) if before is None else _marks_after(before, old, after)
    return {k: mark for k, mark in new.items() if old.get(k) != mark}


_recent: tuple[tuple[ReferenceType[Document], dict[str, str]], ...] = ()
RECENT = 8


def all_marks(document: Document) -> dict[str, str]:
    """Marks of all scenes; those of the last documents are remembered: what came out of one edit goes into the next."""
    global _recent
    for known, marks in _recent:
        if known() is document:
            return marks
    marks = scene_marks(document, timeline_of(document))
    _recent = ((ref(document), marks), *_recent[: RECENT - 1])
    return marks


SHARED = ("frame", "defaults", "looks", "styles", "fonts", "moves", "groups", "media")
"""Fields of a document that any scene may depend on."""


def _touched(before: object, after: object) -> bool:
    """Whether something that scenes may have shown before is otherwise now: a record more is nothing that any of them knew."""
    if before is after or not isinstance(before, dict) or not isinstance(after, dict):
        return before is not after
    return any(after.get(key) is not record for key, record in before.items())


def _marks_after(before: Document, old: dict[str, str], after: Document) -> dict[str, str]:
    """Marks of all scenes: where nothing they share was touched, only those are looked at that are not the same records, are there longer,
    whose surface runs on from another, or that tell something else of the rest."""
    global _recent
    if any(_touched(getattr(before, name), getattr(after, name)) for name in SHARED):
        return all_marks(after)
    lengths = {span.scene: span.own_length for span in timeline_of(before).spans}
    (old_runs, runs), (old_told, told) = (tuple(map(of, (before, after))) for of in (surface_runs, told_in))
    changed = [
        k
        for k, length in ((span.scene, span.own_length) for span in timeline_of(after).spans)
        if before.scenes.get(k) is not after.scenes[k] or lengths.get(k) != length or old_runs.get(k) != runs.get(k) or old_told.get(k) != told.get(k)
    ]
    marks = {k: mark for k, mark in old.items() if k in after.scenes} | scene_marks(after, timeline_of(after), changed)
    _recent = ((ref(after), marks), *_recent[: RECENT - 1])
    return marks


class Findings:
    """What has been found, kept by mark: scenes that show the same are looked at once."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, tuple[tuple[PhotoFinding, ...], tuple[TextFinding, ...]]] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, document: Document, timeline: Timeline, scenes: Iterable[str]) -> list[SceneFinding]:
        """Findings of the scenes named that there are."""
        found = []
        for scene, mark in scene_marks(document, timeline, [s for s in scenes if s in document.scenes]).items():
            with self._lock:
                known = self._known.get(mark)
            if known is None:
                one = frozenset((scene,))
                known = tuple(photo_findings(document, timeline, one)), tuple(text_findings(document, timeline, one))
                with self._lock:
                    self._known[mark] = known
                    while len(self._known) > KEPT:
                        self._known.popitem(last=False)
            photos, texts = known
            # Scenes that look the same have names of their own.
            found.append(SceneFinding(scene, mark, tuple(replace(p, scene=scene) for p in photos), tuple(replace(t, scene=scene) for t in texts)))
        return found
