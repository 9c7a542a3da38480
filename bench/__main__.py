"""Runs the benches and prints one table."""

import argparse
import json
import shutil
import sys
import tempfile
import traceback
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path

import cv2

from . import desk, filling, films, large, pictures, suite, templates
from .precision import MOVES, chart_psnr, displacement
from .rows import Row, table


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


def main() -> int:
    options = argparse.ArgumentParser(prog="oak bench")
    options.add_argument("--json", action="store_true")
    options.add_argument("--only", nargs="+", choices=list(BENCHES), default=USUAL)
    arguments = options.parse_args()
    cv2.setNumThreads(1)
    rows: list[Row] = []
    failed: list[str] = []
    run = Path(__file__).resolve().parents[1] / ".run"
    run.mkdir(exist_ok=True)
    for name in arguments.only:
        print(f"measuring {name} …", file=sys.stderr, flush=True)
        # Under the project: the database's user must be able to get there.
        scratch = Path(tempfile.mkdtemp(prefix="bench-", dir=run))
        scratch.chmod(0o755)
        try:
            rows += BENCHES[name](scratch)
        except Exception:
            # The others are worth having all the same.
            traceback.print_exc()
            failed.append(name)
        finally:
            shutil.rmtree(scratch, ignore_errors=True)
    print(json.dumps([{**asdict(r), "verdict": r.verdict} for r in rows], indent=1) if arguments.json else table(rows))
    if failed:
        print(f"not measured: {', '.join(failed)}", file=sys.stderr)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
