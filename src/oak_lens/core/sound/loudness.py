"""Loudness and true peak (ITU-R BS.1770-5, EBU R 128)."""

from math import log10
from typing import Any

import numba
import numpy as np
from numpy.typing import NDArray

RATE = 48_000
BLOCK_SAMPLES = RATE // 10
"""Blocks of 400 ms that overlap by three quarters are sums of four of these."""

SILENT_LUFS = -70.0
RELATIVE_GATE_LU = 10.0

# The two stages of the K filter at 48 kHz (BS.1770-5, tables 1 and 2): b0, b1, b2, a1, a2.
SHELF = (1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585)
HIGH_PASS = (1.0, -2.0, 1.0, -1.99004745483398, 0.99007225036621)


class LoudnessMeter:
    """Hears sound at 48 kHz piece by piece, (n, 2) float32."""

    def __init__(self) -> None:
        self._states = np.zeros((2, 2, 2))
        self._rest = np.zeros((0, 2), np.float32)
        self._tail = np.zeros((OVERLAP, 2), np.float32)
        self._energies: list[NDArray[np.float64]] = []
        self.largest = 0.0

    def hear(self, samples: NDArray[np.float32]) -> None:
        if not len(samples):
            return
        joined = np.concatenate([self._tail, samples])
        self.largest = max(self.largest, _largest_between(joined))
        self._tail = joined[-OVERLAP:]
        weighted = np.ascontiguousarray(samples, np.float32).copy()
        for channel in range(2):
            for stage, coefficients in enumerate((SHELF, HIGH_PASS)):
                _filter(weighted[:, channel], np.array(coefficients), self._states[channel, stage])
        whole = np.concatenate([self._rest, weighted])
        blocks = len(whole) // BLOCK_SAMPLES
        self._rest = whole[blocks * BLOCK_SAMPLES :]
        squares = whole[: blocks * BLOCK_SAMPLES].astype(np.float64) ** 2
        if blocks:
            self._energies.append(squares.reshape(blocks, BLOCK_SAMPLES, 2).mean(axis=1).sum(axis=1))

    @property
    def integrated(self) -> float | None:
        """LUFS of all that was heard, gated; None if it is silent or shorter than 400 ms."""
        tenths = np.concatenate(self._energies) if self._energies else np.zeros(0)
        if len(tenths) < 4:
            return None
        blocks = np.convolve(tenths, np.full(4, 0.25), "valid")
        loud = blocks[blocks > _energy(SILENT_LUFS)]
        if not len(loud):
            return None
        gate = max(SILENT_LUFS, _lufs(float(loud.mean())) - RELATIVE_GATE_LU)
        return _lufs(float(loud[loud > _energy(gate)].mean()))

    @property
    def true_peak(self) -> float:
        """dBTP of all that was heard; -200 for silence."""
        return max(20.0 * log10(max(self.largest, 1e-10)), -200.0)


def _lufs(energy: float) -> float:
    return -0.691 + 10.0 * log10(max(energy, 1e-20))


def _energy(lufs: float) -> float:
    return float(10.0 ** ((lufs + 0.691) / 10.0))


@numba.njit(cache=True, nogil=True)  # type: ignore[untyped-decorator]
def _filter(samples: Any, coefficients: Any, state: Any) -> None:
    """A biquad in place (direct form II transposed)."""
    b0, b1, b2, a1, a2 = coefficients
    s0, s1 = state
    for i in range(samples.shape[0]):
        x = np.float64(samples[i])
        y = b0 * x + s0
        s0 = b1 * x - a1 * y + s1
        s1 = b2 * x - a2 * y
        samples[i] = y
    state[0], state[1] = s0, s1


TAPS = 12
OVERLAP = TAPS
PHASES = 4


def _between() -> NDArray[np.float32]:
    """(phases, taps): a windowed sinc that reads a signal at quarters of a sample."""
    places = np.arange(TAPS) - TAPS / 2 + 1.0
    rows = []
    for phase in range(1, PHASES):
        distance = places - phase / PHASES
        rows.append(np.sinc(distance) * np.cos(np.pi * distance / (TAPS + 1)) ** 2)
    made = np.array(rows)
    return np.asarray(made / made.sum(axis=1, keepdims=True), np.float32)


BETWEEN = _between()


def _largest_between(samples: NDArray[np.float32]) -> float:
    """The largest magnitude, at four times the rate."""
    largest = float(np.abs(samples).max())
    for channel in range(samples.shape[1]):
        windows = np.lib.stride_tricks.sliding_window_view(samples[:, channel], TAPS)
        # Only where it is loud at all can it be louder in between.
        loud = windows[np.abs(windows[:, TAPS // 2 - 1]) > 0.6 * largest]
        if len(loud):
            largest = max(largest, float(np.abs(loud @ BETWEEN.T).max()))
    return largest
