"""How far off were such statements before? Intervals from past errors, without a law that these must follow.

Split conformal prediction: of n past errors the k-th smallest is a bound that the next one keeps with the chance asked
for, if it comes as they did (V. Vovk, A. Gammerman, G. Shafer, Algorithmic Learning in a Random World, 2005; J. Lei et
al., "Distribution-free predictive inference for regression", JASA 113, 2018; both from memory). Errors are signed and
each side is bounded for itself, since posts do not fall as far below what was said as they rise above it.

In the trade's words: conformal prediction, prediction interval.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri

Array = NDArray[np.float64]

LEVEL = 0.8
# The newest errors alone: what was off a year ago says little of now.
NEWEST = 200


def bound(errors: Array, level: float) -> float:
    """The value that the next error stays at or below with a chance of at least `level`: the ceil((n + 1) level)-th.

    errors: shape (n,), NaN left out. Infinite where they are too few to say so.
    """
    known = np.sort(errors[~np.isnan(errors)])
    place = math.ceil(round((len(known) + 1) * level, 9))
    return float(known[place - 1]) if 1 <= place <= len(known) else math.inf


@dataclass(frozen=True, kw_only=True)
class Errors:
    """Bounds of an error below and above, in the unit of the errors, and from how many they are."""

    low: float
    high: float
    count: int


def bounds(errors: Array, *, level: float = LEVEL, otherwise: float = 1.0) -> Errors:
    """The two bounds between which the next error lies with a chance of `level`.

    errors: shape (n,), oldest first. Where they are too few, a normal law of the standard deviation `otherwise`
    stands in for a bound that cannot be told.
    """
    newest = errors[~np.isnan(errors)][-NEWEST:]
    side = 0.5 + level / 2
    normal = float(ndtri(side)) * otherwise
    high, low = bound(newest, side), -bound(-newest, side)
    return Errors(
        low=low if math.isfinite(low) else -normal, high=high if math.isfinite(high) else normal, count=len(newest)
    )


def pooled(groups: Sequence[Array]) -> Array:
    """Errors of several groups as one, for a group that has too few of its own."""
    return np.concatenate(groups) if groups else np.empty(0)
