"""Runs the benches and prints one table."""

import argparse
import json
import os
import shutil
import sys
import tempfile
import traceback
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path

import cv2

from oak_lens.stack.checks import pace

from . import desk, filling, films, large, pictures, suite, templates
from .precision import MOVES, chart_psnr, displacement
from .rows import Row, middle, table


def precision(scratch: Path) -> list[Row]:
    found = [displacement(move) for move in MOVES]
    return [
        Row("slow moves, a mark off its place, RMS", max(f.rms for f in found), "px", 0.008, 0.005, "less", ", ".join(MOVES)),
        Row("slow moves, a mark off its place, largest", max(f.largest for f in found), "px", 0.02, 0.015, "less"),
        Row("fine chart shrunk to 0.15, PSNR against Lanczos", chart_psnr(), "dB", 32, 36.5, "more"),
    ]


BENCHES: dict[str, Callable[[Path], list[Row]]] = {
    "export": films.export_speed,
    "again": lambda s: [films.second_export(s)],
    "preview": lambda s: [films.preview_frame(s)],
    "many": lambda s: [films.many_photos(s)],
    "title": lambda s: [films.animated_title(s)],
    "blur": lambda s: [films.motion_blur(s)],
    "smooth": films.smoothness,
    "desk": desk.desk,
    "large": large.large,
    "templates": templates.templates,
    "filling": filling.filling,
    "precision": precision,
    "colours": lambda s: [films.flat_colours(s)],
    "memory": lambda s: [films.worker_memory(s)],
    "import": pictures.import_photos,
    "scripts": desk.scripts,
    "suite": lambda s: [suite.whole_suite()],
}
USUAL = [name for name in BENCHES if name != "suite"]
"""What is measured unless named: the suite takes as long as all the others."""


SWINGS = 0.2
"""A row whose runs are farther apart than this share of it is measured longer."""

MORE_RUNS = 2


def measured(name: str, scratch_in: Path, runs: int) -> list[Row]:
    """The rows of one bench, each the median of so many runs; more of them where they swing."""
    taken: list[list[Row]] = []

    def swing() -> bool:
        return any((middle(list(same)).spread or 0.0) > SWINGS for same in zip(*taken, strict=True))

    while len(taken) < runs or (runs > 1 and len(taken) < runs + MORE_RUNS and swing()):
        # Under the project: the database's user must be able to get there.
        scratch = Path(tempfile.mkdtemp(prefix="bench-", dir=scratch_in))
        scratch.chmod(0o755)
        try:
            taken.append(BENCHES[name](scratch))
        finally:
            shutil.rmtree(scratch, ignore_errors=True)
    return taken[0] if len(taken) == 1 else [middle(list(same)) for same in zip(*taken, strict=True)]


def machine() -> str:
    """How busy it is, and how quick, as it is now."""
    return f"load {os.getloadavg()[0]:.1f}, a million steps in {pace():.0f} ms"


def main() -> int:
    options = argparse.ArgumentParser(prog="oak bench")
    options.add_argument("--json", action="store_true")
    options.add_argument("--only", nargs="+", choices=list(BENCHES), default=USUAL)
    options.add_argument("--runs", type=int, default=1, help="each row is the median of so many (3 for a closing table); those that swing are measured longer")
    arguments = options.parse_args()
    cv2.setNumThreads(1)
    rows: list[Row] = []
    failed: list[str] = []
    run = Path(__file__).resolve().parents[1] / ".run"
    run.mkdir(exist_ok=True)
    before = machine()
    for name in arguments.only:
        print(f"measuring {name} …", file=sys.stderr, flush=True)
        try:
            rows += measured(name, run, max(arguments.runs, 1))
        except Exception:
            # The others are worth having all the same.
            traceback.print_exc()
            failed.append(name)
    print(json.dumps([{**asdict(r), "verdict": r.verdict} for r in rows], indent=1) if arguments.json else table(rows))
    print(f"the machine: {before} before; {machine()} after", file=sys.stderr)
    if failed:
        print(f"not measured: {', '.join(failed)}", file=sys.stderr)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
