"""How does a profile stand beside others, from public figures alone?"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from dakika_core.metrics.rates import ratio_of_sums
from dakika_core.values.figure import Figure

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Standing:
    """One profile in the table. Rates are per post at equal age."""

    followers: Figure
    growth: Figure
    posts_per_week: Figure
    interactions_per_post: Figure
    interactions_per_1000: Figure


def standing_of(
    *,
    interactions_at_age: Array,
    followers_at_publishing: Array,
    posts: int,
    days: int,
    followers_start: float | None,
    followers_end: float | None,
) -> Standing:
    """Put one profile's figures together.

    interactions_at_age, followers_at_publishing: shape (posts,), NaN where missing. Days without
    posts count in posts_per_week. Raises ValueError for a period without days.
    """
    if days <= 0:
        raise ValueError("a period has at least one day")
    known = interactions_at_age[~np.isnan(interactions_at_age)]
    ones = np.where(np.isnan(interactions_at_age), np.nan, 1.0)
    per_follower = ratio_of_sums(interactions_at_age, followers_at_publishing)
    growth = None
    if followers_start and followers_end is not None:
        growth = (followers_end - followers_start) / followers_start
    per_post = ratio_of_sums(interactions_at_age, ones)
    return Standing(
        followers=Figure(value=followers_end, n=int(followers_end is not None)),
        growth=Figure(value=growth, numerator=_less(followers_end, followers_start), denominator=followers_start),
        posts_per_week=Figure(value=posts * 7 / days, n=posts, numerator=posts, denominator=days / 7),
        interactions_per_post=Figure(
            value=per_post.value,
            n=len(known),
            missing=posts - len(known),
            numerator=per_post.numerator,
            denominator=per_post.denominator,
            interval=per_post.interval,
        ),
        interactions_per_1000=_times(per_follower, 1000.0),
    )


def _less(end: float | None, start: float | None) -> float | None:
    return None if end is None or start is None else end - start


def _times(figure: Figure, factor: float) -> Figure:
    from dataclasses import replace

    from dakika_core.values.figure import Interval

    interval = figure.interval and Interval(
        low=figure.interval.low * factor, high=figure.interval.high * factor, level=figure.interval.level
    )
    value = None if figure.value is None else figure.value * factor
    return replace(figure, value=value, interval=interval)
