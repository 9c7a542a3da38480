"""Findings of scenes for the run sheet: how each looks, by a mark, and how its photos are used."""

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ..core.document import Document, Scene, photos_of, resolved_backdrop
from ..core.evaluate import PhotoFinding, Timeline, photo_findings

KEPT = 5000


@dataclass(frozen=True, slots=True)
class SceneFinding:
    """`mark` names the state of the scene that was looked at."""

    scene: str
    mark: str
    photos: tuple[PhotoFinding, ...]


def scene_marks(document: Document, timeline: Timeline, scenes: Iterable[str] | None = None) -> dict[str, str]:
    """A short text for each scene named (all by default) that changes with whatever it shows: cheap, nothing is evaluated."""
    defaults = document.defaults.model_dump_json(exclude={"hold", "join"})
    shared = hashlib.sha256(f"{document.frame.model_dump_json()} {defaults}".encode())
    # What scenes, groups and looks refer to by name.
    named = {f'"{k}"': r.model_dump_json() for records in (document.looks, document.moves, document.groups) for k, r in records.items()}
    lengths = {span.scene: span.own_length for span in timeline.spans}
    return {
        k: _mark(document, document.scenes[k], lengths[k], shared.copy(), named) for k in (document.scenes if scenes is None else scenes)
    }


def _mark(document: Document, scene: Scene, length: int, seen: "hashlib._Hash", named: Mapping[str, str]) -> str:
    parts = [scene.model_dump_json(exclude={"name", "order", "hold", "join"})]
    rest = dict(named)
    for part in parts:
        parts += [rest.pop(name) for name in [n for n in rest if n in part]]
    pictures = {*(photo.media for _, photo in photos_of(scene)), resolved_backdrop(document, scene).media or ""}
    parts += [document.media[k].model_dump_json(exclude={"name"}) for k in sorted(pictures & document.media.keys())]
    seen.update(f"{length} {' '.join(parts)}".encode())
    return seen.hexdigest()[:16]


class Findings:
    """What has been found, kept by mark: scenes that show the same are looked at once."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, tuple[PhotoFinding, ...]] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, document: Document, timeline: Timeline, scenes: Iterable[str]) -> list[SceneFinding]:
        """Findings of the scenes named that there are."""
        found = []
        for scene, mark in scene_marks(document, timeline, [s for s in scenes if s in document.scenes]).items():
            with self._lock:
                photos = self._known.get(mark)
            if photos is None:
                photos = tuple(photo_findings(document, timeline, frozenset((scene,))))
                with self._lock:
                    self._known[mark] = photos
                    while len(self._known) > KEPT:
                        self._known.popitem(last=False)
            found.append(SceneFinding(scene, mark, photos))
        return found
