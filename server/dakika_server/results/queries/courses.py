"""Sums by day and network: what was received, what was published, who follows. A fixed number of queries."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import RECEIVED_NAMES, Metric
from dakika_core.values.period import Period
from django.db import connection
from django.db.models import Count, Q, QuerySet, Sum
from django.db.models.functions import TruncDate
from numpy.typing import NDArray

from dakika_server.figures.study import Study, in_choice
from dakika_server.measures.models import PostDay, PostMeasure, ProfileDay, ProfilePublished
from dakika_server.results.expressions import cell, sums_of
from dakika_server.results.queries.posts import posts_in
from dakika_server.sources.models import Post, ProfileReading

Array = NDArray[np.float64]
PAIRS = (("interactions", "reach"), ("interactions", "impressions"), ("link_clicks", "impressions"))
Courses = dict[str, dict[str, Array]]


def received(study: Study, period: Period) -> Courses:
    """What posts gained by network and day: network to name to shape (days,), NaN where nothing is known.

    Beside the four names, "a_with_b" holds a over the posts that also have b, "published" how many
    posts were, and "placed" of how many a later total stands on the day. Kept sums answer unless
    the study asks for more of a post than they know.
    """
    names = ["placed", *RECEIVED_NAMES, *(f"{a}_with_{b}" for pair in PAIRS for a, b in (pair, pair[::-1]))]
    rows: QuerySet[Any]
    if study.is_narrow:
        rows = PostDay.objects.filter(study.on_posts("post__"))
        sums: dict[str, Any] = {name: Sum(name) for name in RECEIVED_NAMES}
        sums["placed"] = Count("pk", filter=Q(is_placed=True))
        for a, b in PAIRS:
            both = Q(**{f"{a}__isnull": False, f"{b}__isnull": False})
            sums |= {f"{a}_with_{b}": Sum(a, filter=both), f"{b}_with_{a}": Sum(b, filter=both)}
    else:
        rows = ProfileDay.objects.filter(study.on_kept_formats())
        names.append("published")
        sums = {name: Sum(name) for name in names}
    rows = (
        rows.filter(profile__in=study.profile_ids, day__gte=period.first, day__lte=period.last)
        .values("profile__network", "day")
        .annotate(**{f"sum_{name}": made for name, made in sums.items()})
        .values_list("profile__network", "day", *[f"sum_{name}" for name in names])
    )
    return _courses(rows, names, period)


def _courses(rows: Any, names: list[str], period: Period) -> Courses:
    found: Courses = {}
    for network, day, *values in rows:
        course = found.get(network)
        if course is None:
            course = found[network] = {name: np.full(period.days, np.nan) for name in names}
        at = (day - period.first).days
        for name, value in zip(names, values, strict=True):
            if value is not None:
                course[name][at] = value
    return found


# Metrics that profiles tell by the day, as they stand in the readings.
DAILY = {"daily_reach": "reach", "daily_impressions": "impressions", "daily_profile_visits": "profile_visits"}


def daily_of_profiles(study: Study, period: Period) -> Courses:
    """What profiles tell of single days by network: reach, impressions and visits, NaN on days that nobody tells of."""
    names = list(DAILY.values())
    rows = (
        ProfileReading.objects.filter(profile__in=study.profile_ids, day__gte=period.first, day__lte=period.last)
        .values("profile__network", "day")
        .annotate(**{f"sum_{name}": Sum(name) for name in names})
        .values_list("profile__network", "day", *[f"sum_{name}" for name in names])
    )
    return _courses(rows, names, period)


def summed(courses: Iterable[Array], days: int) -> Array:
    """Sum by day over what is known: shape (days,), NaN on days of which nothing is."""
    rows = list(courses)
    table = np.array(rows).reshape(len(rows), days)
    known = ~np.isnan(table)
    return np.where(known.any(axis=0), np.where(known, table, 0.0).sum(axis=0), np.nan)


def posts_by_day(study: Study, period: Period, courses: Courses | None = None) -> dict[str, Array]:
    """Posts published by network on each day: shape (days,) each; `courses` if what was received is known already."""
    rows: Any
    if courses and all("published" in course for course in courses.values()):
        counted = {network: np.nan_to_num(course["published"]) for network, course in courses.items()}
        return {network: counts for network, counts in counted.items() if counts.any()}
    if study.is_narrow:
        rows = (
            posts_in(study, period)
            .annotate(day=TruncDate("published_at", tzinfo=period.zone))
            .values("profile__network", "day").annotate(count=Count("pk"))
            .values_list("profile__network", "day", "count")
        )  # fmt: skip
    else:
        rows = (
            ProfileDay.objects.filter(
                study.on_kept_formats(), profile__in=study.profile_ids, day__gte=period.first, day__lte=period.last,
                published__gt=0,
            )
            .values("profile__network", "day").annotate(count=Sum("published"))
            .values_list("profile__network", "day", "count")
        )  # fmt: skip
    counts: dict[str, Array] = {}
    for network, day, count in rows:
        counts.setdefault(network, np.zeros(period.days))[(day - period.first).days] += count
    return counts


def reaches_back_to(study: Study, period: Period) -> bool:
    """Whether anything is known of the chosen profiles' posts by the end of the period: before, none is not zero."""
    return Post.objects.filter(profile__in=study.profile_ids, published_at__lt=period.end).exists()


@dataclass(frozen=True, kw_only=True)
class PublishedSums:
    """Sums over the period's posts at the study's age, by network and day of publishing.

    courses: network to what `cell(key, name)` says to shape (days,); the name "n" counts the posts
    that are in it. posts: all of them by day, shape (days,).
    """

    courses: Courses
    posts: Array


def measures_in(study: Study, period: Period) -> QuerySet[PostMeasure]:
    """Measures at the study's age of the posts published in the period."""
    found = PostMeasure.objects.filter(
        profile__in=study.profile_ids, age_hours=study.age_hours, published_at__gte=period.start,
        published_at__lt=period.end,
    )  # fmt: skip
    if study.formats:
        found = found.filter(in_choice("format", study.formats))
    # A post's format stands here too; what else is asked of it takes a join.
    asked = replace(study, formats=None).on_posts("post__")
    return found.filter(asked) if asked else found


# What every summary shows is kept as sums: formula to (posts in it, its names' columns).
_KEPT: dict[str, tuple[str, dict[str, str]]] = {
    "interactions / followers": (
        "pair_n", {"interactions": "interactions_with_followers", "followers": "followers_with_interactions"},
    ),
    "1000 * interactions / followers": (
        "pair_n", {"interactions": "interactions_with_followers", "followers": "followers_with_interactions"},
    ),
    "interactions / posts": ("interactions_n", {"interactions": "interactions"}),
    "": ("index_n", {"log": "index_log"}),
}  # fmt: skip


def _from_kept(study: Study, period: Period, metrics: list[Metric]) -> PublishedSums:
    """Published sums of metrics that are all kept, for a study that asks for no more than profiles."""
    wanted = {"posts_in_all": "posts"}
    for metric in metrics:
        n, columns = _KEPT[metric.formula]
        wanted |= {cell(metric.key, "n"): n} | {cell(metric.key, name): column for name, column in columns.items()}
    rows = (
        ProfilePublished.objects.filter(
            profile__in=study.profile_ids, age_hours=study.age_hours, day__gte=period.first, day__lte=period.last
        )
        .values("profile__network", "day")
        .annotate(**{f"sum_{name}": Sum(column) for name, column in wanted.items()})
        .values_list("profile__network", "day", *[f"sum_{name}" for name in wanted])
    )
    return _published(_courses(rows, list(wanted), period), period)


def _published(courses: Courses, period: Period) -> PublishedSums:
    posts = summed([course["posts_in_all"] for course in courses.values()], period.days)
    return PublishedSums(courses=courses, posts=np.nan_to_num(posts))


def published(study: Study, period: Period, metrics: list[Metric]) -> PublishedSums:
    """Sums that the formulas of these metrics need, each over the posts that have all of its names."""
    if not study.is_narrow and not study.formats and all(metric.formula in _KEPT for metric in metrics):
        return _from_kept(study, period, metrics)
    sums: dict[str, Any] = {}
    for metric in metrics:
        sums |= sums_of(metric)
    names = [*sums, "posts_in_all"]
    rows = (
        measures_in(study, period)
        .annotate(day=TruncDate("published_at", tzinfo=period.zone))
        .values("profile__network", "day")
        .annotate(**sums, posts_in_all=Count("pk"))
        .values_list("profile__network", "day", *names)
    )
    return _published(_courses(rows, names, period), period)


@dataclass(frozen=True, kw_only=True)
class Followers:
    """Followers by profile and day: total shape (profiles, days) carried forward; gained and lost shape (days,).

    came and went are gained and lost by profile, NaN unless both are told: shape (profiles, days).
    start is the last word before the period, else the first of several in it, NaN where there is but one:
    shape (profiles,).
    unread counts the profiles without a reading of the day: shape (days,).
    """

    networks: list[str]
    total: Array
    start: Array
    gained: Array
    lost: Array
    came: Array
    went: Array
    unread: Array


_FOLLOWERS = """
SELECT profile_id, array_agg(day - %(first)s::date), array_agg(followers){gains}
FROM sources_profilereading WHERE profile_id = ANY(%(profiles)s::bigint[]) AND day BETWEEN %(first)s AND %(last)s
GROUP BY 1
"""
_GAINS = ", array_agg(gained), array_agg(lost)"
_BEFORE = """
SELECT p.id, r.followers FROM unnest(%(profiles)s::bigint[]) AS p (id) CROSS JOIN LATERAL (
    SELECT followers FROM sources_profilereading
    WHERE profile_id = p.id AND day < %(first)s AND followers IS NOT NULL ORDER BY day DESC LIMIT 1) r
"""


@dataclass(frozen=True, kw_only=True)
class Levels:
    """What profiles have by day, carried forward: total shape (profiles, days); unread as of Followers."""

    networks: list[str]
    total: Array
    unread: Array


# Levels of profiles beside their followers: the metrics are called as the columns of the readings.
LEVELS = ("following", "posts_total")


def carry_forward(total: Array, start: Array) -> None:
    """Fill each day that is not known by the last one that is, in place: shape (profiles, days), (profiles,)."""
    carried = start
    for i in range(total.shape[1]):
        total[:, i] = carried = np.where(np.isnan(total[:, i]), carried, total[:, i])


def levels_in(study: Study, period: Period, key: str) -> Levels:
    """One of LEVELS over a period; two queries."""
    rows = ProfileReading.objects.filter(profile__in=study.profile_ids, **{f"{key}__isnull": False})
    within = rows.filter(day__gte=period.first, day__lte=period.last).values_list("profile_id", "day", key)
    before = rows.filter(day__lt=period.first).order_by("profile_id", "-day").distinct("profile_id")
    start = dict(before.values_list("profile_id", key))
    place = {profile.pk: i for i, profile in enumerate(study.profiles)}
    total = np.full((len(place), period.days), np.nan)
    for profile, day, value in within:
        total[place[profile], (day - period.first).days] = value
    unread = np.isnan(total).sum(axis=0)
    carry_forward(total, np.array([start.get(pk, np.nan) for pk in place], dtype=float))
    return Levels(networks=[p.network for p in study.profiles], total=total, unread=unread)


def followers_in(study: Study, period: Period, *, has_gains: bool = True) -> Followers:
    """Followers on each day of the period and just before it; who came and went only where it is asked for."""
    place = {profile.pk: i for i, profile in enumerate(study.profiles)}
    total, came, went = (np.full((len(place), period.days), np.nan) for _ in range(3))
    keys: dict[str, Any] = {"profiles": study.profile_ids, "first": period.first, "last": period.last}
    start = np.full(len(place), np.nan)
    with connection.cursor() as cursor:
        cursor.execute(_FOLLOWERS.format(gains=_GAINS if has_gains else ""), keys)
        for profile, days, *counts in cursor.fetchall():
            for table, values in zip((total, came, went), counts, strict=False):
                table[place[profile], days] = np.array(values, dtype=float)  # None becomes NaN
        cursor.execute(_BEFORE, keys)
        for profile, count in cursor.fetchall():
            start[place[profile]] = count
    unread, read = np.isnan(total).sum(axis=0), (~np.isnan(total)).sum(axis=1)
    carry_forward(total, start)
    for p in range(len(place)):
        # One reading has no growth: it is missing, not none.
        if np.isnan(start[p]) and read[p] > 1:
            start[p] = total[p][~np.isnan(total[p])][0]
    # Gains are told together with losses or not at all.
    both = ~np.isnan(came) & ~np.isnan(went)
    came, went = np.where(both, came, np.nan), np.where(both, went, np.nan)
    return Followers(
        networks=[p.network for p in study.profiles], total=total, start=start, came=came, went=went,
        gained=summed(list(came), period.days), lost=summed(list(went), period.days), unread=unread,
    )  # fmt: skip
