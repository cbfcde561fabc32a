"""What is publicly known of the members of a set over a period, and the metrics that follow from it.

A member is a profile, or a competitor with all its profiles. Everything is told from what networks show of everybody:
followers, posts and their reactions. Rates rest on the posts that were read at the age; a total is that rate times all
posts, so that a post that nobody read makes a member neither better nor worse, only less certain.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, fields
from typing import Any

import numpy as np
from numpy.typing import NDArray

from dakika_core.metrics.metric import Unit
from dakika_core.metrics.rates import Moments, ratio_from_moments
from dakika_core.values.figure import Figure, Interval

Array = NDArray[np.float64]
PARTS = ("reactions", "comments", "shares")


@dataclass(frozen=True, kw_only=True)
class Sums:
    """Sums over a member's posts at equal age and its followers; None is unknown.

    days: those of the period on which its posts are known. measured, interactions, squares: the posts that have
    interactions, their sum and their sum of squares. paired and what follows: those that also have the followers at
    publishing. Each of PARTS as (posts that tell it, sum, sum of squares). followers: at the end, of the profiles that
    tell them; untold: how many do not. grown_from, grown_to: followers at the start and at the end of those that tell
    both; ungrown: how many do not.
    """

    posts: float
    days: float
    measured: float = 0.0
    interactions: float = 0.0
    squares: float = 0.0
    paired: float = 0.0
    paired_interactions: float = 0.0
    paired_squares: float = 0.0
    followers_sum: float = 0.0
    followers_squares: float = 0.0
    product: float = 0.0
    reactions: tuple[float, float, float] = (0.0, 0.0, 0.0)
    comments: tuple[float, float, float] = (0.0, 0.0, 0.0)
    shares: tuple[float, float, float] = (0.0, 0.0, 0.0)
    followers: float | None = None
    untold: int = 0
    grown_from: float | None = None
    grown_to: float | None = None
    ungrown: int = 0

    @property
    def weeks(self) -> float:
        """Weeks on which its posts are known."""
        return self.days / 7


# What adds up over posts; days and followers have rules of their own.
_BY_RULE = ("days", "posts", "followers", "untold", "grown_from", "grown_to", "ungrown", *PARTS)
_ADDED = tuple(f.name for f in fields(Sums) if f.name not in _BY_RULE)


@dataclass(frozen=True, kw_only=True)
class ProfileSums:
    """Sums of several profiles over consecutive parts of a period, each array of shape (profiles, parts).

    posts, days: as in Sums. added: what adds up over posts by its name there, each of PARTS of shape
    (3, profiles, parts); what is missing is zero everywhere. start, end: followers, NaN unknown.
    """

    posts: Array
    days: Array
    start: Array
    end: Array
    added: Mapping[str, Array]

    def of(self, members: Sequence[Sequence[int]]) -> list[list[Sums]]:
        """Members, each the places of its profiles, with the sums of every part of the period.

        A member's days are the most that are known of any of its profiles: one of which fewer are known brings its
        posts at its own pace. Followers are those of the profiles that tell them, and how many do not is counted;
        growth is over those that tell both ends, so that a profile that fell silent is no loss. Raises ValueError for a
        member without profiles.
        """
        if not all(members):
            raise ValueError("A member has at least one profile.")
        if not members:
            return []
        order = [row for member in members for row in member]
        firsts = np.cumsum([0, *map(len, members[:-1])])
        whose = np.repeat(np.arange(len(members)), [len(member) for member in members])

        def added(values: NDArray[Any]) -> Array:
            found: Array = np.add.reduceat(values, firsts, axis=-2)
            return found

        days, end, start = self.days[order], self.end[order], self.start[order]
        most = np.maximum.reduceat(days, firsts, axis=0)
        pace = np.divide(most[whose], days, out=np.zeros_like(days), where=days > 0)
        is_told = ~np.isnan(end)
        is_grown = is_told & ~np.isnan(start)

        def known(values: Array, is_known: NDArray[np.bool_]) -> list[list[float | None]]:
            totals = added(np.where(is_known, values, 0.0)).astype(object)
            totals[added(is_known.astype(float)) == 0] = None
            found: list[list[float | None]] = totals.tolist()
            return found

        columns: dict[str, list[list[Any]]] = {
            "posts": added(self.posts[order] * pace).tolist(), "days": most.tolist(), "followers": known(end, is_told),
            "untold": added(1.0 - is_told).astype(int).tolist(), "grown_from": known(start, is_grown),
            "grown_to": known(end, is_grown), "ungrown": added(1.0 - is_grown).astype(int).tolist(),
        }  # fmt: skip
        for name, values in self.added.items():
            if name in PARTS:
                parts = np.moveaxis(added(values[:, order]), 0, -1).tolist()
                columns[name] = [[tuple(part) for part in row] for row in parts]
            else:
                columns[name] = added(values[order]).tolist()
        each = [zip(*(column[i] for column in columns.values()), strict=True) for i in range(len(members))]
        return [[Sums(**dict(zip(columns, part, strict=True))) for part in row] for row in each]


def _added(every: Sequence[Sums]) -> dict[str, Any]:
    rows = [vars(one) for one in every]
    added: dict[str, Any] = {name: sum([row[name] for row in rows]) for name in _ADDED}
    for part in PARTS:
        if any(row[part][0] for row in rows):
            added[part] = tuple(map(sum, zip(*[row[part] for row in rows], strict=True)))
    return added


def in_a_row(parts: Sequence[Sums]) -> Sums:
    """Consecutive parts of a period as one. Raises ValueError for none."""
    return Sums(
        posts=sum(one.posts for one in parts), days=sum(one.days for one in parts),
        followers=parts[-1].followers, untold=parts[-1].untold, grown_from=parts[0].grown_from,
        grown_to=parts[-1].grown_to, ungrown=parts[-1].ungrown, **_added(parts),
    )  # fmt: skip


def moments_per_post(sums: Sums) -> Moments:
    """Interactions for each post that was read."""
    return _per_post((sums.measured, sums.interactions, sums.squares), sums.posts)


def _per_post(part: tuple[float, float, float], posts: float) -> Moments:
    n, total, squares = part
    return Moments(n=round(n), missing=max(0, round(posts - n)), above=total, below=n, above_squared=squares,
                   product=total, below_squared=n)  # fmt: skip


def moments_per_follower(sums: Sums) -> Moments:
    """Interactions for each follower at publishing, over the posts that have both."""
    return Moments(
        n=round(sums.paired), missing=max(0, round(sums.posts - sums.paired)), above=sums.paired_interactions,
        below=sums.followers_sum, above_squared=sums.paired_squares, product=sums.product,
        below_squared=sums.followers_squares,
    )  # fmt: skip


def times(figure: Figure, factor: float) -> Figure:
    """A ratio for so many of what it is divided by."""
    if figure.value is None:
        return figure
    held = figure.interval
    return Figure(
        value=figure.value * factor, n=figure.n, missing=figure.missing, numerator=figure.numerator,
        denominator=None if figure.denominator is None else figure.denominator / factor,
        interval=held and Interval(low=held.low * factor, high=held.high * factor, level=held.level),
    )  # fmt: skip


def _followers(sums: Sums) -> Figure:
    return Figure(value=sums.followers, n=int(sums.followers is not None), missing=sums.untold)


def _growth(sums: Sums) -> Figure:
    start, end = sums.grown_from, sums.grown_to
    if not start or end is None:
        return Figure(value=None, missing=sums.ungrown)
    return Figure(value=(end - start) / start, n=2, missing=sums.ungrown, numerator=end - start, denominator=start)


def _gained(sums: Sums) -> Figure:
    start, end = sums.grown_from, sums.grown_to
    if start is None or end is None:
        return Figure(value=None, missing=sums.ungrown)
    return Figure(value=end - start, n=2, missing=sums.ungrown)


def _posts_per_week(sums: Sums) -> Figure:
    if sums.weeks <= 0:
        return Figure(value=None)
    return Figure(value=sums.posts / sums.weeks, n=round(sums.posts), numerator=sums.posts, denominator=sums.weeks)


def _interactions_per_week(sums: Sums) -> Figure:
    if sums.weeks <= 0:
        return Figure(value=None)
    if not sums.posts:
        return Figure(value=0.0, numerator=0.0, denominator=sums.weeks)
    return _as_all_posts(ratio_from_moments(moments_per_post(sums)), sums)


def _as_all_posts(mean: Figure, sums: Sums) -> Figure:
    """A mean of those read as the sum of all posts of a week."""
    if mean.value is None:
        return mean
    week, held = sums.posts / sums.weeks, mean.interval
    return Figure(
        value=mean.value * week, n=mean.n, missing=mean.missing, numerator=mean.value * sums.posts,
        denominator=sums.weeks, interval=held and Interval(low=held.low * week, high=held.high * week),
    )  # fmt: skip


def _part_per_post(part: str) -> Callable[[Sums], Figure]:
    return lambda sums: ratio_from_moments(_per_post(getattr(sums, part), sums.posts))


@dataclass(frozen=True, kw_only=True)
class PublicMetric:
    """A metric that can be told of everybody. parts: what its numerator and denominator are called. needs: which of
    the sums it is made of besides posts and days: measured, paired, one of PARTS, or none.
    """

    key: str
    name: str
    unit: Unit
    definition: str
    of: Callable[[Sums], Figure]
    parts: tuple[str, str] = ("", "")
    is_of_posts: bool = True
    needs: str = ""


_ALL = (
    PublicMetric(key="followers", name="followers", unit=Unit.COUNT, of=_followers, is_of_posts=False,
                 definition="Followers at the end of the period; of several profiles their sum, in which whoever "
                 "follows two of them counts twice."),
    PublicMetric(key="growth", name="growth", unit=Unit.RATE, of=_growth, is_of_posts=False,
                 parts=("Followers gained on balance", "Followers at the start"),
                 definition="Followers at the end less those at the start, divided by the latter."),
    PublicMetric(key="gained", name="followers gained", unit=Unit.COUNT, of=_gained, is_of_posts=False,
                 definition="Followers at the end less those at the start."),
    PublicMetric(key="posts_per_week", name="posts a week", unit=Unit.PER_WEEK, of=_posts_per_week, is_of_posts=False,
                 parts=("Posts", "Weeks"),
                 definition="Posts divided by the weeks on which they are known, days without posts included."),
    PublicMetric(key="interactions_per_week", name="interactions a week", unit=Unit.PER_WEEK,
                 of=_interactions_per_week, needs="measured", parts=("Interactions", "Weeks"),
                 definition="Interactions of the period's posts at equal age for each week; posts that were not read "
                 "then count as the others on average."),
    PublicMetric(key="interactions_per_post", name="interactions a post", unit=Unit.PER_POST, needs="measured",
                 of=lambda sums: ratio_from_moments(moments_per_post(sums)), parts=("Interactions", "Posts"),
                 definition="Interactions of the period's posts at equal age, divided by their number."),
    PublicMetric(key="interactions_per_1000", name="interactions for 1,000 followers", unit=Unit.PER_1000,
                 needs="paired",
                 of=lambda sums: times(ratio_from_moments(moments_per_follower(sums)), 1000.0),
                 parts=("Interactions", "Thousands of followers at publishing"),
                 definition="Interactions at equal age for every thousand followers at publishing, over all posts."),
    PublicMetric(key="reactions_per_post", name="reactions a post", unit=Unit.PER_POST, of=_part_per_post("reactions"),
                 needs="reactions",
                 parts=("Reactions", "Posts"), definition="Reactions at equal age, divided by the posts that tell."),
    PublicMetric(key="comments_per_post", name="comments a post", unit=Unit.PER_POST, of=_part_per_post("comments"),
                 needs="comments",
                 parts=("Comments", "Posts"), definition="Comments at equal age, divided by the posts that tell."),
    PublicMetric(key="shares_per_post", name="shares a post", unit=Unit.PER_POST, of=_part_per_post("shares"),
                 needs="shares",
                 parts=("Shares", "Posts"), definition="Shares at equal age, divided by the posts that tell."),
)  # fmt: skip
PUBLIC: dict[str, PublicMetric] = {metric.key: metric for metric in _ALL}
