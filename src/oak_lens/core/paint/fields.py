"""Seeded noise fields that tile without a seam; textures, edges and grain are made of them."""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

Field = NDArray[np.float32]


@lru_cache(maxsize=12)
def soft_noise(rows: int, columns: int, seed: int, across: float, down: float) -> Field:
    """A `soft_field` that is kept: for small fields used again and again."""
    return soft_field(rows, columns, seed, across, down)


def soft_field(rows: int, columns: int, seed: int, across: float, down: float) -> Field:
    """(rows, columns) float32, mean 0, deviation 1: white noise blurred by a Gaussian of `across` x `down` pixels, toroidal.

    Not to be written to.
    """
    rng = np.random.default_rng(seed)
    spectrum = np.fft.rfft2(rng.standard_normal((rows, columns), np.float32))
    fy, fx = np.fft.fftfreq(rows)[:, None], np.fft.rfftfreq(columns)[None, :]
    spectrum *= np.exp(-2.0 * np.pi**2 * ((fx * across) ** 2 + (fy * down) ** 2))
    spectrum[0, 0] = 0.0
    return _normal(np.fft.irfft2(spectrum, s=(rows, columns)))


def cloud_field(rows: int, columns: int, seed: int, falloff: float) -> Field:
    """The same as a soft field, with an amplitude of 1 / frequency^falloff: large forms with fine detail."""
    rng = np.random.default_rng(seed)
    spectrum = np.fft.rfft2(rng.standard_normal((rows, columns), np.float32))
    # In cycles a row's height, alike in both directions.
    fy, fx = np.fft.fftfreq(rows)[:, None] * rows, np.fft.rfftfreq(columns)[None, :] * rows
    spectrum /= np.maximum(np.hypot(fx, fy), 1.0) ** falloff
    spectrum[0, 0] = 0.0
    return _normal(np.fft.irfft2(spectrum, s=(rows, columns)))


def _normal(field: NDArray[np.float64]) -> Field:
    made: Field = (field / max(float(field.std()), 1e-12)).astype(np.float32)
    made.setflags(write=False)
    return made
