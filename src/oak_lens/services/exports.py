"""Exports: asked for, rendered by workers segment by segment, joined, cancelled."""

from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ..core.delivery import ExportSettings, Segment, file_name, segment_key, segments_of
from ..core.document import Document, faults_from
from ..core.errors import ExportFailed, Fault, NotFound, OakError
from ..core.evaluate import Timeline, timeline_of
from ..core.paint import Painter
from ..media.deliveries import delivery_of
from ..media.rendering import render_segment
from .pictures import Pictures
from .ports import ExportRecord, ExportStore
from .sounds import Sounds

CHECK_EVERY_FRAMES = 5
KEPT_SEGMENT_BYTES = 12 << 30
"""Coded segments kept so that the next export renders only what changed."""


class Cancelled(Exception):
    """The export was cancelled while it was being rendered or joined."""


class Exports:
    """What people and workers do with exports."""

    def __init__(self, store: ExportStore, pictures: Pictures, sounds: Sounds):
        self._store, self._pictures, self._sounds = store, pictures, sounds

    def start(self, who: str, project: str, document: Document, settings: dict[str, Any]) -> ExportRecord:
        """Queue an export of the document as it is now. Raises ExportFailed."""
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
        keyed = [(s.first, s.last, segment_key(document, timeline, s, parsed)) for s in segments]
        return self._store.create(project, who, document, parsed.model_dump(), file_name(document.title, kind.ending), keyed)

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
        self._store.film_path(export).unlink(missing_ok=True)
        self._store.forget(export)

    def film(self, who: str, export: str) -> tuple[Path, str, str]:
        """(path, file name, media type) of a finished film. Raises NotFound."""
        record = self.read(who, export)
        path = self._store.film_path(export)
        if record.state != "done" or not path.is_file():
            raise NotFound([Fault("export.no_film", "", "This export has no film to download.")])
        return path, record.file_name, ExportSettings.model_validate(record.settings).kind_spec.mime

    def render(self, export: str, index: int, painters: dict[str, Painter]) -> None:
        """A worker's part: one segment. Doing it twice has one effect. `painters` keeps this worker's painter of each export."""
        if not self._store.begin(export):
            return
        first, last, key = self._store.segments(export)[index]
        target = self._store.segment_path(key)

        def on_frame(done: int) -> None:
            if done % CHECK_EVERY_FRAMES == 0 or done == last - first:
                if self._store.is_over(export):
                    raise Cancelled
                self._store.progress(export, index, done)

        try:
            if not target.exists():
                document = self._store.document(export)
                settings = ExportSettings.model_validate(self._store.read(export).settings)
                painter = painters.get(export)
                if painter is None:
                    painters.clear()
                    painter = painters[export] = Painter(self._pictures.source(document))
                render_segment(document, timeline_of(document), Segment(index, first, last), settings, painter, target, on_frame)
            self._store.finish_segment(export, index)
        except Cancelled:
            return
        except (OakError, OSError, MemoryError) as error:
            self._store.set_state(export, "failed", _sentence(error))

    def join(self, export: str) -> None:
        """A worker's part: the film of its segments."""
        record = self._store.read(export)
        if record.state in ("done", "cancelled", "failed"):
            return
        segments = self._store.segments(export)
        parts = [(self._store.segment_path(key), last - first) for first, last, key in segments]
        target = self._store.film_path(export)

        def on_part(done: int) -> None:
            if self._store.is_over(export):
                raise Cancelled

        try:
            document = self._store.document(export)
            settings = ExportSettings.model_validate(record.settings)
            timeline = timeline_of(document)
            track = self._sounds.track(document, timeline, settings.start, _end(settings, timeline), self._pictures.path_of(document))
            delivery_of(settings).join(parts, target, settings, document.title, on_part, track)
        except Cancelled:
            return
        except (OakError, OSError) as error:
            self._store.set_state(export, "failed", _sentence(error))
            return
        self._store.set_state(export, "done", size=target.stat().st_size)
        self._store.prune_segments(KEPT_SEGMENT_BYTES)


def _end(settings: ExportSettings, timeline: Timeline) -> int:
    """Where the export's range is over, in ticks of the film."""
    return timeline.length if settings.end is None else min(settings.end, timeline.length)


def _sentence(error: Exception) -> str:
    if isinstance(error, OakError):
        return error.faults[0].message
    return f"The export stopped: {error}. What is rendered is kept; start it again."
