"""What the verbs frame and render do."""

import argparse
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from concurrent.futures.process import BrokenProcessPool
from multiprocessing import get_context
from pathlib import Path

from PIL import Image
from pydantic import ValidationError

from ..core.delivery import KINDS, ExportSettings, KnownKeys, Segment, notes_on, segments_of
from ..core.document import Document, faults_from, parse_json
from ..core.errors import ExportFailed, Fault
from ..core.evaluate import Timeline, film_at, timeline_of
from ..core.paint import Painter
from ..core.time import seconds, ticks
from ..media.deliveries import delivery_of
from ..media.folders import pyramids_beside
from ..media.listening import KeptSamples, listen
from ..media.publishing import published
from ..media.rendering import render_segment, single_threaded
from ..media.sounds import Soundtrack
from .files import read_document

_keys = KnownKeys()


def run_frame(arguments: argparse.Namespace) -> int:
    document = read_document(arguments.document)
    width, height = arguments.size or (document.frame.width, document.frame.height)
    painter = Painter(pyramids_beside(document, arguments.document.parent))
    pixels = painter.paint(film_at(document, timeline_of(document), ticks(arguments.at)), width, height)
    with published(arguments.out) as part:
        Image.fromarray(pixels[..., :3]).save(part, "PNG")
    return 0


def run_render(arguments: argparse.Namespace) -> int:
    document = read_document(arguments.document)
    settings = _settings(arguments, document)
    with tempfile.TemporaryDirectory(prefix=".oak-render-", dir=arguments.out.resolve().parent) as scratch:
        total, length = render_film(arguments.document, document, settings, arguments.out, arguments.keep or Path(scratch), arguments.processes)
    for note in notes_on(settings):
        print(note, file=sys.stderr)
    print(f"{arguments.out}: {total} frames, {length:.2f} s, {arguments.out.stat().st_size / 1e6:.1f} MB")
    return 0


def segment_keys(document: Document, settings: ExportSettings) -> list[str]:
    """What names each part of a film: the same for films that are the same."""
    timeline = timeline_of(document)
    return [_keys.of(document, timeline, s, settings) for s in segments_of(timeline, settings)]


def render_film(path: Path, document: Document, settings: ExportSettings, out: Path, kept: Path, processes: int) -> tuple[int, float]:
    """The film of a document, which lies at `path` with its files beside it; coded segments in `kept` are not rendered again. (frames, seconds) of it."""
    timeline = timeline_of(document)
    segments = segments_of(timeline, settings)
    if not segments and settings.kind_spec.frames != "none":
        raise ExportFailed([Fault("export.empty", "", "There is nothing to export: the film or the range holds no frame.")])
    folder = path.parent
    pyramids_beside(document, folder)  # Says at once which pictures are missing.
    kept.mkdir(parents=True, exist_ok=True)
    paths = {s.index: kept / f"{_keys.of(document, timeline, s, settings)}" for s in segments}
    waiting = [s for s in segments if not paths[s.index].exists()]
    total = sum(s.frames for s in segments)
    done = total - sum(s.frames for s in waiting)
    _progress(done, total)
    # Long segments first, so that the processes finish together.
    jobs = sorted(waiting, key=lambda s: -s.frames)
    for segment in _rendered(jobs, paths, (path.read_bytes(), folder, settings, kept / "pictures"), processes):
        done += segment.frames
        _progress(done, total)
    end = timeline.length if settings.end is None else min(settings.end, timeline.length)
    sounds = _heard(document, folder, kept / "sounds")
    track = Soundtrack(document, timeline, settings.start, end, sounds.read, lambda media: folder / document.media[media].file)
    parts = [(paths[s.index], s.frames) for s in segments]
    delivery_of(settings).join(parts, out, settings, document.title, lambda done: None, track)
    return total, seconds(settings.frame_rate.frame_ticks) * total if parts else seconds(end - settings.start)


def _rendered(jobs: list[Segment], paths: dict[int, Path], means: tuple[bytes, Path, ExportSettings, Path], processes: int) -> Iterator[Segment]:
    """Segments as they are done: over processes, or, with one, in this. Raises ExportFailed if a process ends before its time."""
    if processes <= 1:
        _prepare(*means)
        for segment in jobs:
            _render(segment, paths[segment.index])
            yield segment
        return
    with ProcessPoolExecutor(processes, get_context("fork"), _prepare, means) as pool:
        futures = {pool.submit(_render, s, paths[s.index]): s for s in jobs}
        for future in as_completed(futures):
            try:
                future.result()
            except BrokenProcessPool:
                message = "A process that rendered was ended, perhaps for want of memory. Try a smaller size, or --processes 1."
                raise ExportFailed([Fault("export.write", "", message)]) from None
            yield futures[future]


def _heard(document: Document, folder: Path, kept: Path) -> KeptSamples:
    """The samples of the document's sound files, which lie beside it."""

    def path_of(sound: str) -> Path:
        kept.mkdir(parents=True, exist_ok=True)
        path = kept / f"{sound}.s16"
        if not path.is_file():
            listen(folder / document.sounds[sound].file, path, kept / f"{sound}.npy")
        return path

    return KeptSamples(path_of)


def _settings(arguments: argparse.Namespace, document: Document) -> ExportSettings:
    width, height = arguments.size or (document.frame.width, document.frame.height)
    start, end = arguments.range or (0.0, None)
    kind = arguments.kind or next((k.id for k in KINDS if f".{k.ending}" == arguments.out.suffix.lower()), None)
    if kind is None:
        endings = ", ".join(dict.fromkeys(f".{k.ending}" for k in KINDS))
        said = f"“{arguments.out.suffix}”" if arguments.out.suffix else "no ending"
        message = f"It is not known what {arguments.out.name} is to be: it has {said}. Endings are {endings}; or say --kind."
        raise ExportFailed([Fault("export.settings", "out", message)])
    try:
        return ExportSettings(
            kind=kind,
            width=width,
            height=height,
            rate=arguments.rate or document.frame.rate,
            transparent=arguments.transparent,
            quality=arguments.quality,
            start=ticks(start),
            end=None if end is None else ticks(end),
        )
    except ValidationError as error:
        raise ExportFailed(faults_from(error, "export.settings")) from None


_work: tuple[Document, Timeline, ExportSettings, Painter] | None = None


def _prepare(text: bytes, folder: Path, settings: ExportSettings, kept: Path) -> None:
    global _work
    single_threaded()
    document = parse_json(text)
    _work = document, timeline_of(document), settings, Painter(pyramids_beside(document, folder, kept))


def _render(segment: Segment, target: Path) -> None:
    assert _work is not None
    document, timeline, settings, painter = _work
    render_segment(document, timeline, segment, settings, painter, target)


def _progress(done: int, total: int) -> None:
    width = 40
    filled = width * done // max(total, 1)
    ending = "\n" if done == total else ""
    print(f"\r[{'#' * filled}{'.' * (width - filled)}] {done}/{total} frames", end=ending, file=sys.stderr, flush=True)
