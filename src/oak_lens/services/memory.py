"""The collector's work in processes that keep large documents: rows and models that stay are looked through as seldom as may be."""

import gc

THRESHOLDS = (50_000, 20, 100)
"""New objects before the young are looked through, and so on. At the interpreter's own, a tenth of a second goes into each edit of a film
of 500 scenes."""


def settled() -> None:
    """What is loaded now stays for as long as the process: the collector leaves it alone from here on.

    While it was being loaded the collector may rest (`gc.disable()`): it finds nothing there, for a tenth of the time.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(*THRESHOLDS)
    gc.enable()
