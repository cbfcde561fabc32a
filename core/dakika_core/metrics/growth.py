"""How a post's counters grow with its age, and from when on they are final.

The share of its final count that a post has at an age is taken to be a stretched exponential,
1 - 2^-((age / half-life)^beta): attention to what is published decays so (F. Wu, B. Huberman,
"Novelty and collective attention", PNAS 104, 2007, from memory, who find exponents below one).
The half-life is the network's. It is an assumption wherever readings do not tell, and is said to be one.

In the trade's words: growth curve, half-life, data settling.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

BETA = 0.8
# After so many half-lives less than two in a hundred of the final count are still to come.
FINAL_AFTER_HALF_LIVES = 10.0
EARLIEST_FINAL_HOURS = 72.0
# Where a network's half-life is not known: four weeks, as files of it are usually read (common practice, no source).
FINAL_WHERE_UNKNOWN_HOURS = 28 * 24.0
# What is assumed of the growth of posts of a network that nothing is known of.
HALF_LIFE_WHERE_UNKNOWN_HOURS = 24.0


@dataclass(frozen=True, kw_only=True)
class Growth:
    """The growth of posts on a network: its half-life in hours, None where it is not known."""

    half_life_hours: float | None

    @property
    def final_after_hours(self) -> float:
        """Age from which on a counter is taken for final."""
        if self.half_life_hours is None:
            return FINAL_WHERE_UNKNOWN_HOURS
        return max(EARLIEST_FINAL_HOURS, FINAL_AFTER_HALF_LIVES * self.half_life_hours)

    def share(self, ages_hours: Array) -> Array:
        """Share of the final count at ages: shape (n,) to (n,), 0 to 1; 1 from the final age on."""
        half_life = self.half_life_hours or HALF_LIFE_WHERE_UNKNOWN_HOURS
        grown = 1.0 - 2.0 ** -((np.maximum(ages_hours, 0.0) / half_life) ** BETA)
        return np.where(ages_hours >= self.final_after_hours, 1.0, np.clip(grown, 0.0, 1.0))
