"""Trying templates that are made in a project: what is wrong with them on awkward pictures, and how that looks."""

from collections import OrderedDict
from threading import Lock

from ..core.document import Document
from ..core.errors import Fault, NotFound
from ..core.evaluate import scene_at, timeline_of
from ..core.paint import ByteCache, Painter
from ..core.templates import TemplateContent, extracted
from ..core.trials import TRIALS, TrialFinding, TrialPictures, examined, tried
from ..media.jpegs import jpeg
from .pictures import pyramids_of
from .placeholders import Placeholders
from .ports import MediaStore

CACHE_BYTES = 96 << 20
KEPT = 64


class Trying:
    """Tried films are made once for what a template holds."""

    def __init__(self, store: MediaStore, placeholders: Placeholders):
        self._placeholders = placeholders
        self._painter = Painter(TrialPictures(pyramids_of(store, ByteCache(CACHE_BYTES))), CACHE_BYTES)
        self._made: OrderedDict[tuple[str, str], tuple[TemplateContent, Document]] = OrderedDict()
        self._lock = Lock()

    def report(self, document: Document, template: str, trial: str) -> tuple[Document, list[TrialFinding]]:
        """The tried film, and what is wrong with it, the worst first. Raises NotFound."""
        content, made = self._tried(document, template, trial)
        return made, examined(content, TRIALS[trial], made)

    def frame(self, document: Document, template: str, trial: str, scene: str, share: float, width: int) -> bytes:
        """A moment of a tried film's scene as JPEG. Raises NotFound."""
        _, made = self._tried(document, template, trial)
        span = timeline_of(made).span_of(scene)
        if span is None:
            raise NotFound([Fault("template.not_found", "", "The template has changed meanwhile. Try it again.")])
        height = max(2, round(width / made.frame.aspect))
        return jpeg(self._painter.paint(scene_at(made, scene, round(span.own_length * share), span.own_length), width, height))

    def _tried(self, document: Document, template: str, trial: str) -> tuple[TemplateContent, Document]:
        if template not in document.templates or trial not in TRIALS:
            raise NotFound([Fault("template.not_found", "", "There is no such template in this project.")])
        content = extracted(document, template, template)
        if not content.parts:
            raise NotFound([Fault("template.not_found", "", "No scene of this template is left.")])
        known = content.key, trial
        with self._lock:
            found = self._made.get(known)
        if found is None:
            made = tried(content, TRIALS[trial])
            self._placeholders.bring(made)
            found = content, made
            with self._lock:
                self._made[known] = found
                while len(self._made) > KEPT:
                    self._made.popitem(last=False)
        return found
