"""Working memory that is used again: fresh pages cost more than the arithmetic done in them."""

import threading
from math import prod
from typing import Any

import numpy as np
from numpy.typing import NDArray

_memory = threading.local()


def scratch(name: str, shape: tuple[int, ...], dtype: Any) -> NDArray[Any]:
    """An array of this shape, uninitialised; the next call of this thread with the same name may overwrite it."""
    wanted = prod(shape)
    kept = getattr(_memory, name, None)
    if kept is None or kept.dtype != dtype or kept.size < wanted:
        kept = np.empty(wanted, dtype)
        setattr(_memory, name, kept)
    return kept[:wanted].reshape(shape)
