"""Exports: asked for, planned, rendered by workers segment by segment, joined, cancelled."""

import logging
import threading
from collections.abc import Collection, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ..core.delivery import ExportSettings, KnownKeys, Segment, file_name, segments_of
from ..core.document import Document, faults_from
from ..core.errors import ExportFailed, Fault, NotFound, OakError
from ..core.evaluate import Timeline, timeline_of
from ..core.paint import Painter
from ..media.deliveries import delivery_of
from ..media.rendering import render_segment
from . import keys
from .kept_files import KeptFiles
from .pictures import Pictures
from .ports import BatchPlace, ExportRecord, ExportStore
from .sounds import Sounds

CHECK_EVERY_PARTS = 20
CHECK_EVERY_FRAMES = 5
KEPT_SEGMENT_BYTES = 12 << 30
"""Coded segments kept so that the next export renders only what changed."""


class Cancelled(Exception):
    """The export was cancelled while it was being rendered or joined."""


class Exports:
    """What people and workers do with exports."""

    def __init__(self, store: ExportStore, pictures: Pictures, sounds: Sounds, again: tuple[type[Exception], ...] = ()):
        """`again`: failures that pass, such as a database that starts anew: they are raised, and the work is done again."""
        self._store, self._blobs, self._pictures, self._sounds, self.again = store, store.blobs, pictures, sounds, again
        self._painter = Painter(pictures.source)
        self._keys, self._planning, self._files = KnownKeys(), threading.Lock(), KeptFiles()

    def start(
        self, who: str, project: str, document: Document, settings: dict[str, Any], name: str | None = None, of: BatchPlace | None = None
    ) -> ExportRecord:
        """Queue an export of the document as it is now. `name`: what its file is called, None as the film; `of`: the film of a table that it is.
        Raises ExportFailed."""
        try:
            parsed = ExportSettings.model_validate(settings)
        except ValidationError as error:
            raise ExportFailed(faults_from(error, "export.settings")) from None
        timeline = timeline_of(document)
        segments = segments_of(timeline, parsed)
        kind = parsed.kind_spec
        if not segments and (kind.frames != "none" or _end(parsed, timeline) <= parsed.start):
            raise ExportFailed(
                [Fault("export.empty", "", "There is nothing to export yet: put a scene into the film, or choose a longer range.")]
            )
        frames = sum(s.frames for s in segments)
        return self._store.create(project, who, document, parsed.model_dump(), file_name(name or document.title, kind.ending), frames, of)

    def refuse(self, export: str, sentence: str) -> None:
        """One that cannot be what it was asked for as, with a sentence why."""
        self._store.set_state(export, "failed", sentence)

    def plan(self, export: str) -> None:
        """A worker's part: what there is to render, and what is there already. Doing it twice has one effect."""
        if self._store.is_over(export) or self._store.segments(export):
            return
        with self._ending(export):
            document = self._store.document(export)
            settings = ExportSettings.model_validate(self._store.read(export).settings)
            timeline = timeline_of(document)
            with self._planning:
                self._keys.learn(self._store.known_keys(export))
                keyed = [(s.first, s.last, *self._keys.found(document, timeline, s, settings)) for s in segments_of(timeline, settings)]
            self._store.plan(export, keyed, self._whole({key for _, _, key, _ in keyed}))

    def _whole(self, wanted: Collection[str]) -> set[str]:
        """Those of segments whose files are what was written; others that were kept go."""
        whole = set()
        for key, kept in self._store.kept(wanted).items():
            try:
                if self._files.read(self._blobs.local(keys.segment(key))) == kept:
                    whole.add(key)
                    continue
            except OSError:
                pass
            self._store.forget_segment(key)
        return whole

    @contextmanager
    def _ending(self, export: str) -> Iterator[None]:
        """Whatever goes wrong fails the export with a sentence; but where the database is away, the job is done again."""
        try:
            yield
        except Cancelled:
            return
        except self.again:
            raise
        except (OakError, OSError, MemoryError) as error:
            self._store.set_state(export, "failed", _sentence(error))
        except Exception as error:
            logging.exception("export %s", export)
            sentence = f"The export stopped over a fault of the program ({type(error).__name__}). What is rendered is kept; start it again."
            self._store.set_state(export, "failed", sentence)

    def listed(self, project: str) -> list[ExportRecord]:
        return self._store.listed(project)

    def read(self, who: str, export: str) -> ExportRecord:
        record = self._store.read(export)
        if record.owner != who:
            raise NotFound([Fault("export.not_found", "", "There is no such export.")])
        return record

    def cancel(self, who: str, export: str) -> None:
        if self.read(who, export).state in ("waiting", "rendering", "joining"):
            self._store.set_state(export, "cancelled")

    def forget(self, who: str, export: str) -> None:
        """Take an export that is over off the list, with its film."""
        self.cancel(who, export)
        self._blobs.forget(keys.film(export, self._store.read(export).file_name))
        self._store.forget(export)

    def film(self, who: str, export: str) -> tuple[Path, str, str]:
        """(path, file name, media type) of a finished film. Raises NotFound."""
        record = self.read(who, export)
        key = keys.film(export, record.file_name)
        if record.state != "done" or not self._blobs.has(key):
            raise NotFound([Fault("export.no_film", "", "This export has no film to download.")])
        return self._blobs.local(key), record.file_name, ExportSettings.model_validate(record.settings).kind_spec.mime

    def render(self, export: str, index: int) -> None:
        """A worker's part: one segment. Doing it twice has one effect."""
        if not self._store.begin(export):
            return
        first, last, key = self._store.segments(export)[index]

        def on_frame(done: int) -> None:
            if done % CHECK_EVERY_FRAMES == 0 or done == last - first:
                if self._store.is_over(export):
                    raise Cancelled
                self._store.progress(export, index, done)

        with self._ending(export):
            if not self._whole([key]):
                document = self._store.document(export)
                settings = ExportSettings.model_validate(self._store.read(export).settings)
                with self._blobs.writing(keys.segment(key)) as target:
                    render_segment(document, timeline_of(document), Segment(index, first, last), settings, self._painter, target, on_frame)
            self._store.finish_segment(export, index, key, self._files.read(self._blobs.local(keys.segment(key))))

    def join(self, export: str) -> None:
        """A worker's part: the film of its segments. Segments that are not what they were are rendered again first."""
        record = self._store.read(export)
        if record.state in ("done", "cancelled", "failed"):
            return
        segments = self._store.segments(export)

        def on_part(done: int) -> None:
            if (done - 1) % CHECK_EVERY_PARTS == 0 and self._store.is_over(export):
                raise Cancelled

        with self._ending(export):
            whole = self._whole({key for _, _, key in segments})
            spoilt = [index for index, (_, _, key) in enumerate(segments) if key not in whole]
            if spoilt:
                self._store.render_again(export, spoilt)
                return
            parts = [(self._blobs.local(keys.segment(key)), last - first) for first, last, key in segments]
            document = self._store.document(export)
            settings = ExportSettings.model_validate(record.settings)
            timeline = timeline_of(document)
            track = self._sounds.track(document, timeline, settings.start, _end(settings, timeline), self._pictures.path_of(document))
            key = keys.film(export, record.file_name)
            with self._blobs.writing(key) as target:
                delivery_of(settings).join(parts, target, settings, document.title, on_part, track)
            self._store.set_state(export, "done", size=self._blobs.local(key).stat().st_size)
            self._store.prune_segments(KEPT_SEGMENT_BYTES)


def _end(settings: ExportSettings, timeline: Timeline) -> int:
    """Where the export's range is over, in ticks of the film."""
    return timeline.length if settings.end is None else min(settings.end, timeline.length)


def _sentence(error: Exception) -> str:
    if isinstance(error, OakError):
        return error.faults[0].message
    if isinstance(error, MemoryError):
        return "There was not enough memory for the export. Choose a smaller size, or close other programs, and start it again."
    return f"The export stopped: {getattr(error, 'strerror', None) or type(error).__name__}. What is rendered is kept; start it again."
