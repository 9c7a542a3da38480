"""How long all tests take."""

import subprocess
import time

from oak_lens.stack.start import ROOT

from .rows import Row


def whole_suite() -> Row:
    """`./oak test`, with everything installed. Raises CalledProcessError where a test fails."""
    started = time.perf_counter()
    subprocess.run([ROOT / "oak", "test"], check=True, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    return Row("./oak test, whole", (time.perf_counter() - started) / 60, "min", 8, 6, "less", "two cores")
