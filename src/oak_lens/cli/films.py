"""Verbs that make pictures: frame, render."""

import argparse
import os
import sys
import tempfile
from concurrent.futures import ProcessPoolExecutor, as_completed
from multiprocessing import get_context
from pathlib import Path
from typing import Any

from PIL import Image
from pydantic import ValidationError

from ..core.delivery import KINDS, QUALITIES, ExportSettings, Segment, segment_key, segments_of
from ..core.document import Document, faults_from, parse_json
from ..core.errors import ExportFailed, Fault
from ..core.evaluate import Timeline, film_at, timeline_of
from ..core.paint import Painter
from ..core.time import RATES, seconds, ticks
from ..media.deliveries import delivery_of
from ..media.folders import pyramids_beside
from ..media.listening import KeptSamples, listen
from ..media.rendering import render_segment, single_threaded
from ..media.sounds import Soundtrack
from .files import read_document, size_option


def add_verbs(verbs: Any) -> None:
    frame = verbs.add_parser("frame", help="one frame of the film as PNG")
    frame.add_argument("document", type=Path, metavar="DOC.json")
    frame.add_argument("--at", type=float, required=True, metavar="SECONDS")
    frame.add_argument("--out", type=Path, required=True, metavar="X.png")
    frame.add_argument("--size", type=size_option, metavar="WxH")
    frame.set_defaults(run=run_frame)

    render = verbs.add_parser("render", help="the film, its pictures or its sound, by the file's ending or --kind")
    render.add_argument("document", type=Path, metavar="DOC.json")
    render.add_argument("--out", type=Path, required=True, metavar="FILM.mp4")
    render.add_argument("--kind", choices=[k.id for k in KINDS], help="; ".join(f"{k.id}: {k.label}" for k in KINDS))
    render.add_argument("--transparent", action="store_true", help="what nothing covers stays see-through")
    render.add_argument("--rate", choices=[r.label for r in RATES], help="frames a second; without it the project's")
    render.add_argument("--range", type=range_option, metavar="A:B", help="seconds")
    render.add_argument("--size", type=size_option, metavar="WxH")
    render.add_argument("--quality", choices=[q.id for q in QUALITIES], default="good")
    render.add_argument("--processes", type=int, default=os.cpu_count() or 1)
    render.add_argument("--keep", type=Path, metavar="DIR", help="keep coded segments here, and reuse what has not changed")
    render.set_defaults(run=run_render)


def range_option(text: str) -> tuple[float, float | None]:
    """`A:B` in seconds; either may be left out."""
    start, colon, end = text.partition(":")
    try:
        if not colon:
            raise ValueError
        return float(start or 0.0), float(end) if end else None
    except ValueError:
        raise argparse.ArgumentTypeError("a range is written in seconds like 2.5:8") from None


def run_frame(arguments: argparse.Namespace) -> int:
    document = read_document(arguments.document)
    width, height = arguments.size or (document.frame.width, document.frame.height)
    painter = Painter(pyramids_beside(document, arguments.document.parent))
    pixels = painter.paint(film_at(document, timeline_of(document), ticks(arguments.at)), width, height)
    part = arguments.out.with_name(f".{arguments.out.name}.part")
    Image.fromarray(pixels[..., :3]).save(part, "PNG")
    part.replace(arguments.out)
    return 0


def run_render(arguments: argparse.Namespace) -> int:
    document = read_document(arguments.document)
    settings = _settings(arguments, document)
    timeline = timeline_of(document)
    segments = segments_of(timeline, settings)
    if not segments and settings.kind_spec.frames != "none":
        raise ExportFailed([Fault("export.empty", "", "There is nothing to export: the film or the range holds no frame.")])
    pyramids_beside(document, arguments.document.parent)  # Says at once which pictures are missing.
    with tempfile.TemporaryDirectory(prefix=".oak-render-", dir=arguments.out.resolve().parent) as scratch:
        kept = arguments.keep or Path(scratch)
        kept.mkdir(parents=True, exist_ok=True)
        paths = {s.index: kept / f"{segment_key(document, timeline, s, settings)}" for s in segments}
        waiting = [s for s in segments if not paths[s.index].exists()]
        total = sum(s.frames for s in segments)
        done = total - sum(s.frames for s in waiting)
        _progress(done, total)
        # Long segments first, so that the processes finish together.
        jobs = sorted(waiting, key=lambda s: -s.frames)
        with ProcessPoolExecutor(
            max(1, arguments.processes),
            get_context("fork"),
            _prepare,
            (arguments.document.read_bytes(), arguments.document.parent, settings, kept / "pictures"),
        ) as pool:
            futures = {pool.submit(_render, s, paths[s.index]): s for s in jobs}
            for future in as_completed(futures):
                future.result()
                done += futures[future].frames
                _progress(done, total)
        folder = arguments.document.parent
        end = timeline.length if settings.end is None else min(settings.end, timeline.length)
        sounds = _heard(document, folder, kept / "sounds")
        track = Soundtrack(document, timeline, settings.start, end, sounds.read, lambda media: folder / document.media[media].file)
        parts = [(paths[s.index], s.frames) for s in segments]
        delivery_of(settings).join(parts, arguments.out, settings, document.title, lambda done: None, track)
    length = seconds(settings.frame_rate.frame_ticks) * total if parts else seconds(end - settings.start)
    print(f"{arguments.out}: {total} frames, {length:.2f} s, {arguments.out.stat().st_size / 1e6:.1f} MB")
    return 0


def _heard(document: Document, folder: Path, kept: Path) -> KeptSamples:
    """The samples of the document's sound files, which lie beside it."""

    def path_of(sound: str) -> Path:
        return kept / f"{sound}.s16"

    def make(sound: str) -> None:
        listen(folder / document.sounds[sound].file, path_of(sound), kept / f"{sound}.npy")

    return KeptSamples(path_of, make)


def _settings(arguments: argparse.Namespace, document: Document) -> ExportSettings:
    width, height = arguments.size or (document.frame.width, document.frame.height)
    start, end = arguments.range or (0.0, None)
    kind = arguments.kind or next((k.id for k in KINDS if f".{k.ending}" == arguments.out.suffix.lower()), "mp4")
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
