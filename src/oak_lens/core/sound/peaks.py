"""Peaks of a sound: what a waveform is drawn from, at every zoom."""

import numpy as np
from numpy.typing import NDArray

FINEST_SAMPLES = 256
FACTOR = 4
LEVELS = 7

Peaks = NDArray[np.int8]


def finest_peaks(mono: NDArray[np.float32]) -> Peaks:
    """(n, 2) int8: the least and the greatest of every `FINEST_SAMPLES` samples of -1..1; the last ones may be fewer."""
    count = -(-len(mono) // FINEST_SAMPLES)
    padded = np.pad(mono, (0, count * FINEST_SAMPLES - len(mono)), mode="edge" if len(mono) else "constant")
    blocks = padded.reshape(count, FINEST_SAMPLES)
    low, high = np.clip(blocks.min(axis=1), -1, 1), np.clip(blocks.max(axis=1), -1, 1)
    return np.stack([np.floor(low * 127), np.ceil(high * 127)], axis=1).astype(np.int8)


def coarser(peaks: Peaks) -> Peaks:
    """A fourth as many, each holding four."""
    count = -(-len(peaks) // FACTOR)
    padded = np.pad(peaks, ((0, count * FACTOR - len(peaks)), (0, 0)), mode="edge" if len(peaks) else "constant")
    blocks = padded.reshape(count, FACTOR, 2)
    return np.stack([blocks[..., 0].min(axis=1), blocks[..., 1].max(axis=1)], axis=1)


def pyramid(finest: Peaks) -> list[Peaks]:
    """All levels; level k covers `FINEST_SAMPLES` x 4^k samples."""
    levels = [finest]
    while len(levels) < LEVELS:
        levels.append(coarser(levels[-1]))
    return levels


def between(levels: list[Peaks], first: int, last: int, count: int) -> Peaks:
    """(count, 2): peaks of `count` even stretches between two samples, from the level that is just fine enough."""
    step = max((last - first) / max(count, 1), 1.0)
    level = min(max(int(np.floor(np.log(max(step / FINEST_SAMPLES, 1.0)) / np.log(FACTOR) + 1e-9)), 0), len(levels) - 1)
    known, covers = levels[level], FINEST_SAMPLES * FACTOR**level
    edges = np.clip(np.round(np.linspace(first, last, count + 1) / covers).astype(np.int64), 0, max(len(known) - 1, 0))
    found = np.zeros((count, 2), np.int8)
    if len(known):
        for i in range(count):
            part = known[edges[i] : max(edges[i + 1], edges[i] + 1)]
            found[i] = part[:, 0].min(), part[:, 1].max()
    return found
