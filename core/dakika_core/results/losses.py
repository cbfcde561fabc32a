"""What people leave over: posts that were hidden far more than usual, and those that a day's losses are laid to.

In the trade's words: negative feedback, unfollows, churn.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
# Fewer than these are nobody's verdict.
LEAST_HIDES = 5
# On the scale on which counts scatter by one at every level (Anscombe 1948).
HIDDEN_Z = 4.0


def is_hidden_often(count: float, usual: float, median_distance: float = 0.0) -> bool:
    """Whether a post was hidden and reported far beyond what is usual for such a post of its profile.

    The difference is judged on the scale 2 sqrt(x + 3/8), on which a count scatters by one whatever
    its level, or by more where posts differ among themselves: median_distance is how far the profile's
    own posts lie from their usual there, in the median (1.4826 of it is a standard deviation).
    """
    scatter = max(1.0, 1.4826 * median_distance)
    return count >= LEAST_HIDES and distance_of(count, usual) / scatter > HIDDEN_Z


def distance_of(count: float, usual: float) -> float:
    """How far a count lies above its usual, on the scale on which counts scatter by one."""
    return float(2 * (np.sqrt(count + 0.375) - np.sqrt(max(0.0, usual) + 0.375)))


def laid_to_posts(excess: Array, profile: Sequence[int], told: Array, usual: Array) -> Array:
    """Each post's share of what profiles lost (or gained) beyond their usual: shape (posts,), at most 1 together.

    excess: by profile, people beyond its usual on the day, shape (profiles,). profile: each post's
    place in it. told, usual: what speaks for a post being the cause (hides, or interactions), and
    what its profile's posts usually have of it; NaN where unknown. A profile's excess is shared by
    what its posts have beyond their usual; where none has any, it is laid to no post.
    """
    over = np.maximum(0.0, np.nan_to_num(excess))
    whole = float(over.sum())
    place = np.asarray(profile, dtype=int)
    beyond = np.maximum(0.0, np.nan_to_num(told - usual))
    if not whole or not len(place):
        return np.zeros(len(place))
    of_profile = np.bincount(place, weights=beyond, minlength=len(over))[place]
    shares = np.divide(beyond, of_profile, out=np.zeros(len(beyond)), where=of_profile > 0)
    return np.asarray(shares * over[place] / whole)
