"""Hours as directions on a clock: where they gather, and whether they gather at all.

The mean direction, the length of the mean vector r (0: evenly round, 1: all at once), and Rayleigh's test of evenness
(J. Zar, Biostatistical Analysis, 5th ed., ch. 26 and 27; p by D. Wilkie 1983, both from memory).
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Gathering:
    """mean: in the unit of the values, within one round. r: length of the mean vector. z and p: of Rayleigh's test."""

    mean: float
    r: float
    z: float
    p: float
    n: float


def gathering(values: Array, *, whole: float = 24.0, weights: Array | None = None) -> Gathering | None:
    """Where values on a circle of `whole` gather. weights count as so many values each; None without any."""
    weight = np.ones(len(values)) if weights is None else weights
    n = float(weight.sum())
    if n <= 0:
        return None
    angles = values * (2 * np.pi / whole)
    x, y = float((weight * np.cos(angles)).sum()) / n, float((weight * np.sin(angles)).sum()) / n
    r = float(np.hypot(x, y))
    z = n * r * r
    p = float(np.exp(np.sqrt(1 + 4 * n + 4 * (n * n - (n * r) ** 2)) - (1 + 2 * n)))
    return Gathering(mean=float(np.arctan2(y, x) * whole / (2 * np.pi) % whole), r=r, z=z, p=min(1.0, p), n=n)
