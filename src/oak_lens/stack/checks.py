"""`./oak test`: every test over three processes, linters and type checkers beside them; with arguments, pytest alone with those."""

import os
import shutil
import subprocess
import sys
import threading
import time
from pathlib import Path
from statistics import mean
from typing import NamedTuple

ROOT = Path(__file__).resolve().parents[3]

WHOLE = ("-n", "3", "--dist", "loadfile", "--no-loadscope-reorder", "--hypothesis-profile", "ci")
"""Files go to either as they come: `conftest.py` puts the long ones first. Properties are tried on the same examples every time."""

RANDOM = ("-q", "-m", "hypothesis", "--hypothesis-profile", "beside", "-p", "no:cacheprovider", "tests/core/edits", "tests/core/document")
"""The properties of documents and edits on a few examples of their own each time: what they find is told, and fails nothing that did not change."""


KNOWN_TYPES = "node_modules/.cache/pages.tsbuildinfo"
"""Names of files in it are relative to where it lies: it lies at the same place in every copy of the project."""


class Step(NamedTuple):
    name: str
    command: list[str]
    folder: Path
    binding: bool = True
    kept: Path | None = None
    """What it knows from an earlier run, perhaps of another copy of the project: it is laid into its folder, and taken back."""


def besides() -> list[Step]:
    """What is checked beside the tests, one after another."""
    web = ROOT / "web"
    # Both go by contents, so that what was checked in another copy of the project need not be checked again.
    kept = Path(os.environ.get("NUMBA_CACHE_DIR", ROOT / ".run" / "compiled")).parent
    return [
        Step("properties on random examples", [sys.executable, "-m", "pytest", *RANDOM], ROOT, binding=False),
        Step("ruff", [sys.executable, "-m", "ruff", "check", "."], ROOT),
        Step("biome", ["npx", "--no-install", "biome", "check", "--error-on-warnings", "src"], web),
        Step("vitest", ["npx", "--no-install", "vitest", "run"], web),
        Step("typescript", ["npx", "--no-install", "tsc", "--noEmit", "--incremental", "--tsBuildInfoFile", KNOWN_TYPES], web, kept=kept / "pages.tsbuildinfo"),
        Step("mypy", [sys.executable, "-m", "mypy", "--cache-dir", str(kept / "mypy")], ROOT),
    ]


def run(step: Step, quiet: bool = False) -> tuple[bool, str]:
    """Whether it went well, and what it said: printed at once, or given back to be printed later."""
    began = time.monotonic()
    if step.kept and step.kept.exists():
        known = step.folder / KNOWN_TYPES
        known.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(step.kept, known)
    environment = {**os.environ, "NO_COLOR": "1"}
    out = {"stdout": subprocess.PIPE, "stderr": subprocess.STDOUT} if quiet else {}
    done = subprocess.run(step.command, cwd=step.folder, env=environment, check=False, text=True, stdin=subprocess.DEVNULL, **out)  # type: ignore[call-overload]
    if step.kept and (step.folder / KNOWN_TYPES).exists():
        step.kept.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(step.folder / KNOWN_TYPES, step.kept)
    verdict = "ok" if done.returncode == 0 else f"failed ({done.returncode})"
    return done.returncode == 0, f"{done.stdout or ''}== {step.name}: {verdict} in {time.monotonic() - began:.0f} s"


PACE_SECONDS = 5

QUIET_MS = 50.0
"""For a million steps where nobody else is on the machine's processors. Where somebody is, all that is computed takes up to twice as long."""


def pace() -> float:
    """Milliseconds of this machine for a loop of a million steps, as it is now: what minutes are to be read beside."""
    began, total = time.thread_time(), 0
    for step in range(1_000_000):
        total += step
    return (time.thread_time() - began) * 1000


def _watch_pace(paces: list[float], over: threading.Event) -> None:
    while not over.wait(PACE_SECONDS):
        paces.append(pace())


def main() -> int:
    arguments = sys.argv[1:]
    began, paces, over = time.monotonic(), [pace()], threading.Event()
    threading.Thread(target=_watch_pace, args=(paces, over), daemon=True).start()
    beside: list[tuple[Step, bool, str]] = []
    thread = threading.Thread(target=lambda: beside.extend((step, *run(step, quiet=True)) for step in besides()))
    if not arguments:
        thread.start()
    passed, said = run(Step("pytest", [sys.executable, "-m", "pytest", *(arguments or WHOLE)], ROOT))
    print(said, flush=True)
    if not arguments:
        thread.join()
    for _, _, text in beside:
        print(text, flush=True)
    if not arguments:
        seconds = time.monotonic() - began
        over.set()
        usual = f"a million steps: {mean(paces):.0f} ms in the mean, {min(paces):.0f} to {max(paces):.0f}"
        print(f"== all: {seconds:.0f} s; {usual}; where they take {QUIET_MS:.0f} ms: {seconds * QUIET_MS / mean(paces):.0f} s", flush=True)
    failed = [*([] if passed else ["pytest"]), *(step.name for step, ok, _ in beside if not ok and step.binding)]
    found = [step.name for step, ok, _ in beside if not ok and not step.binding]
    if found:
        print(f"Found, and worth a look: {', '.join(found)} (see above). It fails nothing.", flush=True)
    if failed:
        print(f"Failed: {', '.join(failed)}", flush=True)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
