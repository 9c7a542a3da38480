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

PHASES = np.array(
    (
        (0.001708984375, 0.010986328125, -0.0196533203125, 0.033203125, -0.0594482421875, 0.1373291015625,
         0.97216796875, -0.102294921875, 0.047607421875, -0.026611328125, 0.014892578125, -0.00830078125),
        (-0.0291748046875, 0.029296875, -0.0517578125, 0.089111328125, -0.16650390625, 0.465087890625,
         0.77978515625, -0.2003173828125, 0.1015625, -0.0582275390625, 0.0330810546875, -0.0189208984375),
    ),
    np.float32,
)  # fmt: skip
"""Half of the interpolating filter at four times the rate (BS.1770-5, annex 2): phases 2 and 3 are these two, backwards."""

FILTER = np.ascontiguousarray(np.vstack([PHASES, PHASES[::-1, ::-1]]))

MOST_GAIN = np.float32(np.abs(FILTER).sum(axis=1).max())
"""No value between samples is larger than so many times the largest sample around it."""


def _largest_between(samples: NDArray[np.float32]) -> float:
    """The largest magnitude, at four times the rate."""
    return float(_largest(np.ascontiguousarray(samples, np.float32), FILTER, MOST_GAIN))


@numba.njit(cache=True, nogil=True, fastmath=True)  # type: ignore[untyped-decorator]
def _largest(samples: Any, filters: Any, most_gain: Any) -> Any:
    largest = np.float32(0.0)
    for channel in range(samples.shape[1]):
        for i in range(samples.shape[0]):
            largest = max(largest, abs(samples[i, channel]))
    taps = filters.shape[1]
    for channel in range(samples.shape[1]):
        # The last place where a sample is loud enough to make anything near it louder than what is known.
        loud = -1
        for i in range(samples.shape[0]):
            if abs(samples[i, channel]) * most_gain > largest:
                loud = i
            if i + 1 < taps or loud <= i - taps:
                continue
            for phase in range(filters.shape[0]):
                value = np.float32(0.0)
                for tap in range(taps):
                    value += filters[phase, tap] * samples[i - tap, channel]
                largest = max(largest, abs(value))
    return largest
