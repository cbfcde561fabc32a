"""Days that stand out in a study's courses, and what is behind one of them."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import NET, Metric, Over
from dakika_core.results.findings import SPIKE_ALPHA, SPIKE_Z
from dakika_core.results.spikes import Explanation, Spike, explain, far_above, far_out, seasonal_level, spikes_in
from dakika_core.values.period import Period
from django.db import connection
from django.db.models import Q

from dakika_server.figures.study import Study
from dakika_server.measures.models import PostDay, PostMeasure
from dakika_server.results import queries
from dakika_server.results.brought import brought_in
from dakika_server.results.losses import ProfileExcess, come_or_gone
from dakika_server.results.queries import Array, posts_in
from dakika_server.sources.models import Post

# The level of a day is told from the days around it: so many before the period are read along.
DAYS_BEFORE = 63
USUAL_WITHIN_DAYS = 60
MOST_LOOKED_AT = 80
# What the index of a post is made of: a day of it may stand out by one post.
OF_TYPICAL = "interactions"
OF_FOLLOWERS = ("net_followers", "gained_followers", "lost_followers")


@dataclass(frozen=True, kw_only=True)
class DaySpike:
    """A day that stands out: by its total, or by a post of that day that is far above its typical."""

    day: date
    spike: Spike
    by: str = "total"


@dataclass(frozen=True, kw_only=True)
class PostShare:
    """A post behind a day: what it brought, what such a post usually brings, its share of the excess."""

    post: Post
    brought: float
    usual: float
    share: float


@dataclass(frozen=True, kw_only=True)
class Unusual:
    """A post far above its typical."""

    post: Post
    index: float


@dataclass(frozen=True, kw_only=True)
class Behind:
    """What is behind a day. published and usually_published count own posts of the day and the one before.

    unusual: posts of the day that lie far above their typical, with their index. profiles: those
    that gained or lost more than usual, where followers are asked about, and told what then speaks
    for a post: "interactions" or "negative" (hides and reports).
    """

    day: date
    spike: Spike
    is_spike: bool
    explanation: Explanation
    posts: list[PostShare]
    published: int
    usually_published: float
    unusual: list[Unusual]
    profiles: list[ProfileExcess]
    told: str


# Counted one by one, with links and referrers to tell of a day.
WITH_LINKS_BEHIND = ("tracked_clicks", "visits", "conversions")


def is_by_day(metric: Metric) -> bool:
    """Whether a metric has a course in which days can stand out, with posts behind them."""
    return (metric.over is Over.RECEIVED and metric.adds_up == "sum") or metric.key in (*OF_FOLLOWERS, "posts")


def can_stand_out(metric: Metric) -> bool:
    """Whether days can stand out at all; behind those of clicks and visits are links and referrers (area links)."""
    return is_by_day(metric) or metric.key in WITH_LINKS_BEHIND


def spikes_of(study: Study, metric: Metric, now: datetime) -> list[DaySpike]:
    """The days of the period that stand out, by their total or by an unusual post. A day that is not over cannot."""
    period = _around(study)
    values = _over(_course(study, metric, period), period, now)
    is_signed = metric.key in NET
    found = spikes_in(values, is_signed=is_signed, published=_published(study, metric, period))
    days = period.dates()
    by_total = [DaySpike(day=days[s.at], spike=s) for s in found if days[s.at] >= study.period.first]
    return sorted([*by_total, *_by_post(study, metric, values, {s.day for s in by_total})], key=lambda one: one.day)


def far_out_of(study: Study, metric: Metric, now: datetime, recent: int) -> list[DaySpike]:
    """The days of the last weeks that lie beyond what the course itself reaches by chance: for the findings."""
    period = _around(study)
    values = _over(_course(study, metric, period), period, now)
    found = far_out(
        values, recent=recent, alpha=SPIKE_ALPHA, floor=SPIKE_Z, is_signed=metric.key in NET,
        published=_published(study, metric, period),
    )  # fmt: skip
    days = period.dates()
    return [DaySpike(day=days[s.at], spike=s) for s in found]


def _by_post(study: Study, metric: Metric, values: Array, known: set[date]) -> list[DaySpike]:
    """Days with a post far above its typical, whose total is nothing out of the way."""
    if metric.key != OF_TYPICAL:
        return []
    period = _around(study)
    level, z = seasonal_level(values)
    found = []
    for day in sorted(
        {
            post.published_at.astimezone(period.zone).date()
            for post in (one.post for one in _unusual(study, study.period))
        }
    ):
        at = (day - period.first).days
        if day not in known and not np.isnan(values[at]):
            spike = Spike(at=at, value=float(values[at]), level=float(level[at]), z=float(z[at]))
            found.append(DaySpike(day=day, spike=spike, by="post"))
    return found


def _unusual(study: Study, period: Period) -> list[Unusual]:
    """Posts of a period far above their typical, beyond what their profile's posts do by luck: with their index."""
    around = _around(study)
    rows = list(
        PostMeasure.objects.filter(
            study.on_posts("post__"), profile__in=study.profile_ids, age_hours=study.age_hours, index__gt=0,
            published_at__gte=around.start, published_at__lt=around.end,
        ).values_list("profile_id", "post_id", "published_at", "index")
    )  # fmt: skip
    found: dict[int, float] = {}
    for profile in {row[0] for row in rows}:
        own = [row for row in rows if row[0] == profile]
        for place in far_above(np.array([row[3] for row in own], dtype=float)):
            if period.start <= own[place][2] < period.end:
                found[own[place][1]] = float(own[place][3] or 0.0)
    posts = Post.objects.filter(pk__in=found).select_related("profile")
    return sorted((Unusual(post=post, index=found[post.pk]) for post in posts), key=lambda one: -one.index)


def _published(study: Study, metric: Metric, period: Period) -> Array | None:
    """How many posts each day had: with fewer than usual, less of what posts bring is no dip."""
    if metric.key == "posts" or metric.over is not Over.RECEIVED:
        return None
    return np.asarray(sum(queries.posts_by_day(study, period).values(), np.zeros(period.days)))


def _over(values: Array, period: Period, now: datetime) -> Array:
    """The course without today and what comes after it: a part of a day is no day."""
    today = (now.astimezone(period.zone).date() - period.first).days
    return np.where(np.arange(len(values)) < today, values, np.nan)


def _around(study: Study) -> Period:
    return Period(
        first=study.period.first - timedelta(days=DAYS_BEFORE), last=study.period.last, zone=study.period.zone
    )


def _course(study: Study, metric: Metric, period: Period) -> Array:
    if metric.key in OF_FOLLOWERS:
        found = queries.followers_in(study, period)
        return {
            "net_followers": found.gained - found.lost, "gained_followers": found.gained, "lost_followers": found.lost,
        }[metric.key]  # fmt: skip
    if metric.key == "posts":
        return np.asarray(sum(queries.posts_by_day(study, period).values(), np.zeros(period.days)))
    (name,) = metric.needs
    if metric.over is Over.BROUGHT:
        return queries.summed((course[name] for course in brought_in(study, period, (name,)).values()), period.days)
    return queries.summed((course[name] for course in queries.received(study, period).values()), period.days)


def behind(study: Study, metric: Metric, day: date, now: datetime) -> Behind:
    """What made a day: the posts with the largest part of its excess, whether the day stands out or not.

    A day that is not over has a value and its posts, and no level yet.
    """
    period = _around(study)
    values = _course(study, metric, period)
    is_signed = metric.key in NET
    ended = _over(values, period, now)
    level, z = seasonal_level(ended, is_signed=is_signed)
    at = (day - period.first).days
    spike = Spike(
        at=at, value=float(values[at]), level=float(np.where(np.isnan(z[at]), np.nan, level[at])), z=float(z[at])
    )
    published = _published(study, metric, period)
    stands_out = any(s.at == at for s in spikes_in(ended, is_signed=is_signed, published=published))
    profiles: list[ProfileExcess] = []
    told = ""
    if metric.key in OF_FOLLOWERS:
        explanation = explain(0.0, [], [])
        is_gain = metric.key == "gained_followers" or (metric.key in NET and spike.z > 0)
        profiles, causes = come_or_gone(study, day, period, is_gain=is_gain)
        told = "interactions" if is_gain else "negative"
        posts = [PostShare(post=c.post, brought=c.told, usual=c.usual, share=c.share) for c in causes]
    else:
        posts, explanation = _shares(study, metric, day, spike.excess if spike.excess == spike.excess else 0.0)
    counts = np.sum([np.zeros(period.days), *queries.posts_by_day(study, period).values()], axis=0)
    pairs = counts[1:] + counts[:-1]
    return Behind(
        day=day, spike=spike, is_spike=stands_out, explanation=explanation, posts=posts,
        profiles=profiles, told=told, published=int(counts[max(0, at - 1) : at + 1].sum()),
        usually_published=float(np.median(pairs)),
        unusual=_unusual(study, Period(first=day, last=day, zone=period.zone)) if metric.key == OF_TYPICAL else [],
    )  # fmt: skip


_USUAL = """
SELECT t.post_id, percentile_cont(0.5) WITHIN GROUP (ORDER BY d.{column})
FROM unnest(%(posts)s::bigint[], %(profiles)s::bigint[], %(ages)s::int[]) AS t (post_id, profile_id, age)
JOIN measures_postday d ON d.profile_id = t.profile_id AND d.post_id <> t.post_id
    AND d.day BETWEEN %(first)s AND %(last)s
JOIN sources_post p ON p.id = d.post_id AND d.day - (p.published_at AT TIME ZONE %(zone)s)::date = t.age
WHERE d.{column} IS NOT NULL GROUP BY 1
"""


def _shares(study: Study, metric: Metric, day: date, excess: float) -> tuple[list[PostShare], Explanation]:
    """Posts by their part of the excess; a dip is laid to those that brought less than such posts do."""
    column = metric.needs[0] if metric.over is Over.RECEIVED else ""
    if not column:
        posts = list(posts_in(study, Period(first=day, last=day, zone=study.period.zone)).select_related("profile"))
        return [PostShare(post=p, brought=1, usual=0, share=0) for p in posts], explain(0.0, [], [])
    rows: Any = (
        PostDay.objects.filter(study.on_posts("post__"), profile__in=study.profile_ids, day=day)
        .filter(Q(**{f"{column}__isnull": False}))
        .order_by(f"-{column}")
        .values_list("post_id", "profile_id", "post__published_at", column)[:MOST_LOOKED_AT]
    )
    rows = list(rows)
    ages = [(day - at.astimezone(study.period.zone).date()).days for _, _, at, _ in rows]
    usual = _usual(study, column, day, rows, ages)
    found = explain(excess, [row[3] for row in rows], [usual.get(row[0], 0.0) for row in rows])
    by_id = {
        post.pk: post
        for post in Post.objects.filter(pk__in=[rows[c.item][0] for c in found.causes]).select_related("profile")
    }
    shares = [
        PostShare(
            post=by_id[rows[c.item][0]], brought=rows[c.item][3], usual=usual.get(rows[c.item][0], 0.0), share=c.share
        )
        for c in found.causes
    ]
    return shares, found


def _usual(study: Study, column: str, day: date, rows: list[Any], ages: list[int]) -> dict[int, float]:
    if not rows:
        return {}
    keys: dict[str, Any] = {
        "posts": [row[0] for row in rows], "profiles": [row[1] for row in rows], "ages": ages,
        "first": day - timedelta(days=USUAL_WITHIN_DAYS), "last": day + timedelta(days=USUAL_WITHIN_DAYS),
        "zone": study.brand.time_zone,
    }  # fmt: skip
    with connection.cursor() as cursor:
        cursor.execute(_USUAL.format(column=column), keys)
        return dict(cursor.fetchall())
