"""Exports: against the coder alone, again after a change, colours, memory."""

import json
import os
import resource
import subprocess
import sys
import time
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path
from typing import Any

import av
import numpy as np
from PIL import Image

from oak_lens.core.delivery import ExportSettings
from oak_lens.core.document import Document, dump_document, parse_json
from oak_lens.core.edits import apply_edits, parse_edits
from oak_lens.core.evaluate import film_at, timeline_of
from oak_lens.core.letters import bring_faces
from oak_lens.core.paint import Painter
from oak_lens.core.time import frame_start, ticks
from oak_lens.media.blobs import FolderBlobs
from oak_lens.media.faces import ShippedFaces
from oak_lens.media.films import write_segment
from oak_lens.media.folders import picture_record, pyramids_beside
from oak_lens.media.rendering import single_threaded
from oak_lens.services.exports import Exports
from oak_lens.services.pictures import Pictures
from oak_lens.services.sounds import Sounds
from oak_lens.stack.start import Stack
from oak_lens.storage.database import engine_for
from oak_lens.storage.exports import PostgresExports
from oak_lens.storage.media import PostgresMedia
from oak_lens.storage.projects import PostgresProjects

from .rows import Row, median

ROOT = Path(__file__).resolve().parents[1]
PHOTOS = ROOT / "demo" / "photos"
REFERENCE = ("04-observatory", "06-brass", "10-hut", "14-moonrise", "25-first")
TWENTY_SCENES = (*REFERENCE, "01-path", "23-sea")
"""Not five or fifteen: suggested views repeat after five, and scenes that look alike are coded once."""
PROCESSES = 2
RUNS = 3
"""Frames that the coder takes to come to its even quality."""


def document_of(folder: Path, names: tuple[str, ...], scenes: int, hold: float, join: float) -> Document:
    """A film of `scenes` scenes over the pictures of `folder` whose names begin so."""
    paths = [next(folder.glob(f"{n}*")) for n in names]
    return film_of([picture_record(p, f"p{i}", p.name) for i, p in enumerate(paths)], scenes, hold, join)


def film_of(records: list[dict[str, Any]], scenes: int, hold: float, join: float) -> Document:
    """A film of `scenes` scenes that show the pictures in turn; `hold` and `join` in seconds."""
    edits = [
        {"edit": "set_defaults", "hold": ticks(hold), "join": {"kind": "dissolve" if join else "cut", "length": ticks(join)}},
        {"edit": "add_pictures", "pictures": records},
        {"edit": "add_scenes", "scenes": [{"id": f"s{i}", "media": f"p{i % len(records)}"} for i in range(scenes)]},
    ]
    return apply_edits(Document(), parse_edits(edits))


def reference_film() -> Document:
    """20 s, 5 photos: mounted, turned in space, shadows over blurred backdrops, dissolves."""
    document = document_of(PHOTOS, REFERENCE, 5, 3.2, 1.0)
    photos = [{"scene": f"s{i}", "layer": "photo"} for i in range(5)]
    return apply_edits(document, parse_edits([
        {"edit": "set_layers", "layers": photos, "fit": "whole", "placement": {"swing": 14, "turn": -3, "size": 0.95}, "mount": {"border": 0.02}},
        {"edit": "set_views", "photos": photos, "opening": {"zoom": 0.78, "x": 0, "y": 0}, "closing": {"zoom": 0.92, "x": 0, "y": 0}},
    ]))  # fmt: skip


def write(document: Document, folder: Path, path: Path) -> Path:
    """The document as a file in `path`, its pictures named by where they are."""
    data = dump_document(document)
    for media in data["media"].values():
        media["file"] = os.path.relpath(folder / media["file"], path.parent)
    path.write_text(json.dumps(data))
    return path


def oak(*arguments: Any) -> float:
    """Seconds a verb took."""
    environment = {
        **os.environ,
        "PYTHONPATH": str(ROOT / "src"),
        "NUMBA_CACHE_DIR": os.environ.get("NUMBA_CACHE_DIR", str(ROOT / ".run" / "compiled")),
    }
    started = time.perf_counter()
    subprocess.run([sys.executable, "-m", "oak_lens.cli", *map(str, arguments)], env=environment, check=True, capture_output=True)
    return time.perf_counter() - started


def code_ready_frames(folder: str, index: int, count: int) -> None:
    """Codes frames that are already painted: a process of the comparison."""
    single_threaded()
    ready = np.load(Path(folder) / "ready.npy", mmap_mode="r")

    def frames() -> Iterator[np.ndarray[Any, Any]]:
        for i in range(count):
            yield np.ascontiguousarray(ready[i % len(ready)])

    write_segment(Path(folder) / f"ready{index}.mp4", frames(), ExportSettings(width=1920, height=1080))


def export_speed(scratch: Path) -> list[Row]:
    document = reference_film()
    path = write(document, PHOTOS, scratch / "reference.json")
    timeline = timeline_of(document)
    painter = Painter(pyramids_beside(document, PHOTOS, scratch / "pictures"))
    # Sixty frames in a row, across a join, as a coder sees them.
    ready = np.stack([painter.paint(film_at(document, timeline, frame_start(100 + i, timeline.rate)), 1920, 1080) for i in range(60)])
    np.save(scratch / "ready.npy", ready)
    del ready
    frames = timeline.frames
    shares, ours = [], []
    plain, _ = _spent("bench.graph", scratch / "plain.mp4", *(next(PHOTOS.glob(f"{n}*")) for n in REFERENCE))
    for run in range(RUNS):
        cpu, rendered = _spent("oak_lens.cli", "render", path, "--out", scratch / f"film{run}.mp4", "--processes", PROCESSES)
        ours.append(cpu)
        started = time.perf_counter()
        with ProcessPoolExecutor(PROCESSES, get_context("spawn")) as pool:
            list(pool.map(code_ready_frames, [str(scratch)] * PROCESSES, range(PROCESSES), [frames // PROCESSES] * PROCESSES))
        coded = time.perf_counter() - started
        shares.append(coded / rendered)
        note = f"{frames / rendered:.1f} of {frames / coded:.1f} frames/s"
    spent = f"{frames / median(ours):.1f} and {frames / plain:.1f} frames a CPU second"
    return [
        Row("export 1080p30, frames a CPU second, of a plain filter graph’s", plain / median(ours), "x", 1.35, 2.2, "more", spent),
        Row("export 1080p30, share of coding ready-made frames", median(shares), "", 0, 0, "more", f"for information; {note}"),
    ]


def _spent(module: str, *arguments: Any) -> tuple[float, float]:
    """(CPU seconds, seconds) that a program and its processes take."""
    environment = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}", "OMP_NUM_THREADS": "1"}
    started, before = time.perf_counter(), resource.getrusage(resource.RUSAGE_CHILDREN)
    subprocess.run([sys.executable, "-m", module, *map(str, arguments)], env=environment, check=True, capture_output=True)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    return after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime, time.perf_counter() - started


def second_export(scratch: Path) -> Row:
    """As people export: by the running workers, the second time after one scene's closing view changed."""
    home = scratch / "home"
    stack = Stack(home, None)
    stack.start(demo=False)
    try:
        engine = engine_for(stack.url)
        media = PostgresMedia(engine, FolderBlobs(home))
        pictures = Pictures(media)
        exports = Exports(PostgresExports(engine, media.blobs), pictures, Sounds(media))
        records = []
        for i, name in enumerate(TWENTY_SCENES):
            path = next(PHOTOS.glob(f"{name}*"))
            with path.open("rb") as stream:
                records.append({"id": f"p{i}", **pictures.take_in(Document(), path.name, stream)})
        document = film_of(records, 20, 3.0, 1.0)
        project = PostgresProjects(engine).create("local", document).id
        while any(s.state == "waiting" for s in pictures.states(document)):
            time.sleep(0.1)

        def seconds(exported: Document) -> float:
            started = time.perf_counter()
            settings = {"width": 1280, "height": 720, "rate": "30", "quality": "good"}
            job = exports.start("local", project, exported, settings)
            while (state := exports.read("local", job.id).state) != "done":
                assert state in ("waiting", "rendering", "joining"), state
                time.sleep(0.02)
            return time.perf_counter() - started

        full = seconds(document)
        view = {"edit": "set_views", "photos": [{"scene": "s9", "layer": "photo"}], "closing": {"zoom": 1.33}}
        again = seconds(apply_edits(document, parse_edits([view])))
        engine.dispose()
    finally:
        stack.stop()
    return Row("export again after one of 20 scenes changed, share", again / full, "", 0.13, 0.06, "less", f"{again:.1f} of {full:.1f} s")


def preview_frame(scratch: Path) -> Row:
    from oak_lens.media.jpegs import jpeg

    document = reference_film()
    timeline = timeline_of(document)
    painter = Painter(pyramids_beside(document, PHOTOS, scratch / "pictures"))
    ratios = []
    for i in range(12):
        picturing = film_at(document, timeline, ticks(1 + i * 0.04))
        painter.paint(picturing, 960, 540)
        a = time.perf_counter()
        painted = painter.paint(film_at(document, timeline, ticks(1 + i * 0.04)), 960, 540)
        b = time.perf_counter()
        jpeg(painted)
        c = time.perf_counter()
        ratios.append(((c - a) / (c - b), c - a))
    return Row("preview frame 960x540 with JPEG, in times of the JPEG alone", median(r for r, _ in ratios), "x", 8.5, 5, "less",
               f"{1000 * median(s for _, s in ratios):.0f} ms")  # fmt: skip


def many_photos(scratch: Path) -> Row:
    """A scene of twelve mounted photos strewn over a table, against the reference film's frame, painted in turn by one painter each."""
    records = [picture_record(p, f"p{i}", p.name) for i, p in enumerate(sorted(PHOTOS.glob("*.jpg"))[:12])]
    strewn = apply_edits(Document(), parse_edits([
        {"edit": "add_pictures", "pictures": records},
        {"edit": "add_composition", "id": "c", "photos": [{"layer": f"l{i}", "media": f"p{i}"} for i in range(12)], "layout": {"kind": "table"}},
        {"edit": "use_look", "look": "instant-card", "photos": [{"scene": "c", "layer": f"l{i}"} for i in range(12)]},
        # All of them move, so that no frame is like another.
        {"edit": "use_move", "to": [{"scene": "c", "layer": f"l{i}"} for i in range(12)], "move": "sway", "use": {"strength": 2.0}},
    ]))  # fmt: skip
    reference = reference_film()
    painters = [Painter(pyramids_beside(d, PHOTOS, scratch / "pictures")) for d in (strewn, reference)]
    timelines = [timeline_of(d) for d in (strewn, reference)]

    def seconds(which: int, moment: float) -> float:
        picturing = film_at((strewn, reference)[which], timelines[which], ticks(moment))
        started = time.perf_counter()
        painters[which].paint(picturing, 1920, 1080)
        return time.perf_counter() - started

    ratios = []
    for i in range(14):
        many, one = seconds(0, 1 + i * 0.04), seconds(1, 1 + i * 0.04)
        if i >= 2:
            ratios.append((many / one, many))
    return Row("scene of 12 mounted photos, of the reference frame's paint time", median(r for r, _ in ratios), "x", 2.4, 1.5, "less",
               f"{1000 * median(s for _, s in ratios):.0f} ms")  # fmt: skip


TITLE = "First light at Ossel Ridge, season one 26"
"""Forty letters and a space or two."""


def animated_title(scratch: Path) -> Row:
    """The reference film with a title whose letters rise one after another, against the same without, painted in turn, and what it takes to find
    where its letters are counted in."""
    bring_faces(ShippedFaces())
    plain = reference_film()
    scene = next(iter(plain.scenes))
    titled = apply_edits(plain, parse_edits([
        {"edit": "add_text", "scene": scene, "id": "title", "text": TITLE},
        {"edit": "set_layers", "layers": [{"scene": scene, "layer": "title"}], "setting": {"size": 0.075}},
        {"edit": "use_move", "to": [{"scene": scene, "layer": "title"}], "slot": "entrance", "move": "rise-up", "use": {"length": ticks(3)}},
    ]))  # fmt: skip
    painters = [Painter(pyramids_beside(d, PHOTOS, scratch / "pictures")) for d in (plain, titled)]
    timeline = timeline_of(plain)
    ratios = []
    for i in range(34):
        taken = []
        for painter, film in zip(painters, (plain, titled), strict=True):
            started = time.perf_counter()
            painter.paint(film_at(film, timeline, ticks(0.5 + i / 30)), 1920, 1080)
            taken.append(time.perf_counter() - started)
        if i >= 4:
            ratios.append((taken[1] / taken[0], taken[1] - taken[0]))
    return Row("title of 40 letters that move one by one, of the reference frame", median(r for r, _ in ratios), "x", 1.3, 1.15, "less",
               f"{1000 * median(s for _, s in ratios):.1f} ms more")  # fmt: skip


def motion_blur(scratch: Path) -> Row:
    """A mounted photo that crosses the frame and turns, with the shutter open for half of each frame, against the same without."""
    document = document_of(PHOTOS, REFERENCE[:1], 1, 2.0, 0.0)
    photo = {"scene": "s0", "layer": "photo"}
    document = apply_edits(document, parse_edits([
        {"edit": "set_layers", "layers": [photo], "window": {}, "placement": {"size": 0.6}},
        {"edit": "use_move", "to": [photo], "move": "sweep", "use": {"strength": 2.5}},
    ]))  # fmt: skip
    blurred = apply_edits(document, parse_edits([{"edit": "set_defaults", "shutter": 180}]))
    painters = [Painter(pyramids_beside(document, PHOTOS, scratch / "pictures")) for _ in range(2)]
    timeline = timeline_of(document)
    ratios = []
    for i in range(24):
        taken = []
        for painter, film in zip(painters, (document, blurred), strict=True):
            picturing = film_at(film, timeline, ticks(0.6 + i / 30))
            started = time.perf_counter()
            painter.paint(picturing, 1920, 1080)
            taken.append(time.perf_counter() - started)
        if i >= 4:
            ratios.append((taken[1] / taken[0], taken[1]))
    return Row("motion blur of a moving mounted photo, of its sharp frame", median(r for r, _ in ratios), "x", 2.7, 2.0, "less",
               f"{1000 * median(s for _, s in ratios):.0f} ms")  # fmt: skip


def smoothness(scratch: Path) -> list[Row]:
    """Marks on a keyframed slow way, found again in the exported film: how far they lie, together, from where the curve puts them.

    Coding moves each of them by some hundredths of a pixel to and fro; many tell how the motion itself goes.
    """
    folder = scratch / "marks"
    folder.mkdir()
    height, width, zoom = 1080, 1920, 1.25
    places = [(u, v) for u in range(300, 1680, 115) for v in range(200, 900, 115)]
    y, x = np.mgrid[:height, :width] + 0.5
    glow = np.full((height, width), 20.0)
    for u, v in places:
        glow += 210 * np.exp(-((x - u) ** 2 + (y - v) ** 2) / (2 * 7.0**2))
    Image.fromarray(np.repeat(glow.clip(0, 255).round().astype(np.uint8)[..., None], 3, axis=2)).save(folder / "marks.png")
    document = film_of([picture_record(folder / "marks.png", "p0", "marks.png")], 1, 4.0, 0.0)
    lane = {"scene": "s0", "layer": "photo", "property": "placement.x"}
    photos = [{"scene": "s0", "layer": "photo"}]
    still = {"x": 0, "y": 0, "zoom": zoom}
    first, last = -0.004, 0.005
    document = apply_edits(document, parse_edits([
        {"edit": "set_views", "photos": photos, "opening": still, "closing": still},
        {"edit": "add_keys", "lanes": [lane], "at": 0}, {"edit": "add_keys", "lanes": [lane], "at": ticks(100)},
        {"edit": "set_keys", "keys": [{**lane, "key": "k1"}], "value": first}, {"edit": "set_keys", "keys": [{**lane, "key": "k2"}], "value": last},
        {"edit": "ease_keys", "keys": [{**lane, "key": k} for k in ("k1", "k2")]},
    ]))  # fmt: skip
    film = scratch / "marks.mp4"
    oak("render", write(document, folder, scratch / "marks.json"), "--out", film)
    off = []
    with av.open(str(film)) as container:
        for index, frame in enumerate(container.decode(video=0)):
            luma = frame.to_ndarray(format="gray").astype(float)
            way = (first + (last - first) * index / 120) * width
            off.append(
                np.mean([_found(luma, (u - width / 2) * zoom + width / 2 + way, (v - height / 2) * zoom + height / 2) for u, v in places])
            )
    drift = np.array(off) - np.mean(off)
    note = f"{len(places)} marks, {len(drift)} frames"
    return [
        Row("keyframed move in the exported film, off its curve, RMS", float(np.sqrt((drift**2).mean())), "px", 0.004, 0.0025, "less", note),
        Row("keyframed move in the exported film, off its curve, largest", float(np.abs(drift).max()), "px", 0.022, 0.012, "less"),
    ]


def _found(luma: np.ndarray[Any, Any], x: float, y: float) -> float:
    """How far to the right of `x` the mark near (x, y) lies, by its centre of gravity."""
    left, top = int(x) - 36, int(y) - 36
    seen = np.maximum(luma[top : top + 72, left : left + 72] - 60.0, 0.0)
    return float((seen.sum(axis=0) * (np.arange(left, left + 72) + 0.5)).sum() / seen.sum() - x)


def flat_colours(scratch: Path) -> Row:
    folder = scratch / "flat"
    folder.mkdir()
    colours = [(200, 40, 30), (30, 160, 60), (40, 60, 210), (128, 128, 128), (250, 250, 250), (6, 6, 6), (240, 200, 20)]
    for i, colour in enumerate(colours):
        Image.new("RGB", (640, 360), colour).save(folder / f"{i}.png")
    oak("new", scratch / "flat.json", "--pictures", folder, "--size", "320x180", "--hold", 0.4, "--join", "cut")
    oak("render", scratch / "flat.json", "--out", scratch / "flat.mp4", "--quality", "best")
    worst = 0.0
    with av.open(str(scratch / "flat.mp4")) as film:
        for index, frame in enumerate(film.decode(video=0)):
            rgb = frame.reformat(format="rgb24", src_colorspace=1, src_color_range=1, dst_color_range=2).to_ndarray().astype(int)
            worst = max(worst, float(np.abs(np.median(rgb[40:140, 60:260].reshape(-1, 3), axis=0) - colours[index // 12]).max()))
    return Row("flat colours through export and back, off at most", worst, "levels", 2, 1, "less")


def big_photos(folder: Path, count: int) -> list[Path]:
    """24-megapixel JPEGs with different content behind different names."""
    folder.mkdir(exist_ok=True)
    base = Image.open(PHOTOS / "04-observatory-late-afternoon.jpg").resize((6000, 4000), Image.Resampling.BICUBIC)
    made = []
    for i in range(count):
        path = folder / f"big{i:03}.jpg"
        if not path.exists():
            picture = base.copy()
            picture.paste((i, 255 - i, i * 2 % 256), (0, 0, 8, 8))
            picture.save(path, "JPEG", quality=88)
        made.append(path)
    return made


AS_A_WORKER = """
import os, sys, threading, time
from oak_lens.stack.nursery import read_everything
read_everything()
if not (child := os.fork()):
    from oak_lens.cli.__main__ import main
    sys.exit(main(sys.argv[1:]))
peak = {"Pss": 0, "Rss": 0}
while not os.waitpid(child, os.WNOHANG)[0]:
    try:
        told = dict(line.split()[:2] for line in open(f"/proc/{child}/smaps_rollup").readlines()[1:])
    except OSError:
        break
    peak = {k: max(v, int(told.get(k + ":", 0))) for k, v in peak.items()}
    time.sleep(0.05)
print(peak["Pss"], peak["Rss"])
"""
"""Forked from a process that has read everything, as workers are (`stack/nursery.py`)."""


def worker_memory(scratch: Path, count: int = 60) -> Row:
    folder = scratch / "big"
    big_photos(folder, 6)
    for i in range(6, count):
        # A picture is its own by its content's hash; the file may be the same.
        (folder / f"big{i:03}.jpg").hardlink_to(folder / f"big{i % 6:03}.jpg")
    document = document_of(folder, tuple(f"big{i:03}" for i in range(count)), count, 0.1, 0.1)
    data = dump_document(document)
    for i, media in enumerate(data["media"].values()):
        media["sha256"] = f"{i:064x}"
    (scratch / "big.json").write_text(json.dumps(data))
    write(parse_json((scratch / "big.json").read_text()), folder, scratch / "big.json")
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    result = subprocess.run([sys.executable, "-c", AS_A_WORKER, "render", str(scratch / "big.json"), "--out", str(scratch / "big.mp4"), "--processes", "1"],
                            env=environment, check=True, capture_output=True, text=True)  # fmt: skip
    own, resident = (int(v) / 1024 for v in result.stdout.strip().split("\n")[-1].split())
    note = f"what is its own and its part of what it shares, mapped files too; {resident:.0f} MB resident"
    return Row("worker memory, 60 photos of 24 megapixels, peak", own, "MB", 490, 350, "less", note)
