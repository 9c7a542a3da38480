"""`./oak test`: linters, type checkers, the front end's tests, then pytest with the arguments given."""

import os
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[3]


def main() -> int:
    arguments = sys.argv[1:]
    steps: list[tuple[str, list[str], Path]] = []
    if not arguments:
        web = ROOT / "web"
        steps += [
            ("ruff", [sys.executable, "-m", "ruff", "check", "."], ROOT),
            ("mypy", [sys.executable, "-m", "mypy"], ROOT),
            ("biome", ["npx", "--no-install", "biome", "check", "--error-on-warnings", "src"], web),
            ("typescript", ["npx", "--no-install", "tsc", "--noEmit"], web),
            ("vitest", ["npx", "--no-install", "vitest", "run"], web),
        ]
    steps.append(("pytest", [sys.executable, "-m", "pytest", *arguments], ROOT))
    environment = {**os.environ, "NO_COLOR": "1"}
    failed = []
    for name, command, folder in steps:
        started = time.monotonic()
        print(f"== {name}", flush=True)
        code = subprocess.run(command, cwd=folder, env=environment, check=False).returncode
        print(f"== {name}: {'ok' if code == 0 else f'failed ({code})'} in {time.monotonic() - started:.0f} s", flush=True)
        if code:
            failed.append(name)
    if failed:
        print(f"Failed: {', '.join(failed)}", flush=True)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
