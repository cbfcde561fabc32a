"""The parts of a figure in two periods, by post, profile or network, from the tables that it is made of."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import AddsUp, Metric, Over
from dakika_core.values.period import Period
from django.db.models import Q, QuerySet, Sum
from django.db.models.functions import Ln
from numpy.typing import NDArray

from dakika_server.figures.study import Study
from dakika_server.measures.models import PostDay
from dakika_server.results import queries
from dakika_server.results.brought import brought_in, told_together
from dakika_server.results.queries import Array

LOG = "log"
# Names of the sums of metrics that have no formula.
ABOVE, BELOW = "above", "below"


@dataclass(frozen=True, kw_only=True)
class Table:
    """The parts of a figure in both periods: shape (parts,) each, 0 where a part holds nothing.

    is_own_now, is_own_before: whether a post was published in the period itself, not in days before it.
    silent: posts of both periods that tell nothing of the figure, and are no parts. is_known: whether
    anything tells of it in each of them: a sum of nothing is missing, not 0.
    """

    keys: list[Any]
    networks: NDArray[np.str_]
    formats: NDArray[np.str_]
    now: dict[str, Array]
    before: dict[str, Array]
    is_own_now: NDArray[np.bool_]
    is_own_before: NDArray[np.bool_]
    silent: tuple[int, int] = (0, 0)
    is_known: tuple[bool, bool] = (True, True)


def parts_of(study: Study, metric: Metric) -> tuple[str, Table]:
    """The parts of a metric over the study's two periods, and what they are: "posts", "profiles" or "networks"."""
    if metric.over is Over.RECEIVED:
        return "posts", _received(study, metric)
    if metric.over is Over.PUBLISHED:
        return "posts", _published(study, metric)
    if metric.key in ("posts", "posts_per_week"):
        return "posts", _counted(study, metric)
    if metric.over is Over.BROUGHT:
        return "networks", _brought(study, metric)
    if metric.key in queries.DAILY:
        return "networks", _daily(study, metric)
    return "profiles", _followers(study, metric)


def _in(period: Period, at: Iterable[datetime]) -> NDArray[np.bool_]:
    return np.array([period.start <= instant < period.end for instant in at], dtype=bool)


def _post_table(study: Study, rows: list[tuple[Any, ...]], names: list[str]) -> Table:
    """rows: post, network, format, instant, then each name now and before."""
    columns: list[Any] = list(zip(*rows, strict=True)) if rows else [()] * (4 + 2 * len(names))
    values = [np.array([0.0 if v is None else v for v in column], dtype=float) for column in columns[4:]]
    own = [_in(period, columns[3]) for period in (study.period, study.compared)]
    posts = [queries.posts_in(study, period).count() for period in (study.period, study.compared)]
    return Table(
        is_known=(
            any(v is not None for column in columns[4::2] for v in column),
            any(v is not None for column in columns[5::2] for v in column),
        ),
        silent=(posts[0] - int(own[0].sum()), posts[1] - int(own[1].sum())),
        keys=list(columns[0]), networks=np.array(columns[1], dtype=str), formats=np.array(columns[2], dtype=str),
        now=dict(zip(names, values[::2], strict=True)), before=dict(zip(names, values[1::2], strict=True)),
        is_own_now=own[0], is_own_before=own[1],
    )  # fmt: skip


def _received(study: Study, metric: Metric) -> Table:
    """By post what it gained in either period, on days of which all names are known."""
    names = list(metric.needs)
    known = Q(**{f"{name}__isnull": False for name in names})
    spans = [Q(day__gte=p.first, day__lte=p.last) for p in (study.period, study.compared)]
    sums = {
        f"{name}_{side}": Sum(name, filter=span & known)
        for name in names
        for side, span in zip(("now", "before"), spans, strict=True)
    }
    rows = (
        PostDay.objects.filter(spans[0] | spans[1], study.on_posts("post__"), profile__in=study.profile_ids)
        .filter(known)
        .values("post_id", "profile__network", "post__format", "post__published_at")
        .annotate(**sums)
        .values_list("post_id", "profile__network", "post__format", "post__published_at", *sums)
    )
    return _post_table(study, list(rows), names)


def _published(study: Study, metric: Metric) -> Table:
    """By post what it has at the study's age, of posts of which all names are known."""
    is_index = metric.key == "index"
    names = [LOG] if is_index else [name for name in metric.needs if name != "posts"]
    known = Q(index__gt=0) if is_index else Q(**{f"{name}__isnull": False for name in names})
    found: list[tuple[Any, ...]] = []
    for i, period in enumerate((study.period, study.compared)):
        rows: QuerySet[Any] = queries.measures_in(study, period).filter(known)
        if is_index:
            rows = rows.annotate(log=Ln("index"))
        for post, network, kind, at, *values in rows.values_list(
            "post_id", "profile__network", "format", "published_at", *names
        ):
            sides = [((v, None) if i == 0 else (None, v)) for v in values]
            found.append((post, network, kind, at, *[v for pair in sides for v in pair]))
    table = _post_table(study, found, names)
    table.now["posts"], table.before["posts"] = table.is_own_now.astype(float), table.is_own_before.astype(float)
    return table


def _counted(study: Study, metric: Metric) -> Table:
    """By post that it was published at all."""
    found = []
    for i, period in enumerate((study.period, study.compared)):
        one = 1.0 if metric.key == "posts" else 7 / period.days
        rows = queries.posts_in(study, period).values_list("pk", "profile__network", "format", "published_at")
        found += [(*row, one if i == 0 else 0.0, 0.0 if i == 0 else one) for row in rows]
    return replace(_post_table(study, found, [ABOVE]), is_known=(True, True))


def _part_table(keys: list[Any], networks: list[str], now: dict[str, Array], before: dict[str, Array]) -> Table:
    none = np.zeros(len(keys), dtype=bool)
    return Table(
        keys=keys, networks=np.array(networks, dtype=str), formats=np.array([""] * len(keys), dtype=str), now=now,
        before=before, is_own_now=none, is_own_before=none,
    )  # fmt: skip


def _brought(study: Study, metric: Metric) -> Table:
    courses = [
        {network: told_together(course, metric) for network, course in brought_in(study, period, metric.needs).items()}
        for period in (study.period, study.compared)
    ]
    keys = sorted({*courses[0], *courses[1]})
    if not any(any((~np.isnan(a)).any() for a in part.values()) for part in courses[1].values()):
        keys = []
    sums = [
        {
            name: np.array([float(np.nansum(side[key][name])) if key in side else 0.0 for key in keys])
            for name in metric.needs
        }
        for side in courses
    ]
    return _part_table(keys, keys, sums[0], sums[1])


def _daily(study: Study, metric: Metric) -> Table:
    name = queries.DAILY[metric.key]
    sides = []
    courses = [queries.daily_of_profiles(study, period) for period in (study.period, study.compared)]
    keys = sorted({*courses[0], *courses[1]})
    for course, period in zip(courses, (study.period, study.compared), strict=True):
        days = queries.summed([part[name] for part in course.values()], period.days)
        # A mean day: what a network adds to it is its sum over the days that are known at all.
        count = float((~np.isnan(days)).sum()) if metric.adds_up is AddsUp.RATIO_OF_SUMS else 1.0
        sides.append(
            np.array([float(np.nansum(course[k][name])) / count if k in course and count else 0.0 for k in keys])
        )
        if np.isnan(days).all():
            keys = []
            sides = [np.zeros(0), np.zeros(0)]
            break
    return _part_table(keys, keys, {ABOVE: sides[0]}, {ABOVE: sides[1]})


def _followers(study: Study, metric: Metric) -> Table:
    keys, networks = study.profile_ids, [profile.network for profile in study.profiles]
    sides = []
    for period in (study.period, study.compared):
        if metric.key in queries.LEVELS:
            above = queries.levels_in(study, period, metric.key).total[:, -1]
            if np.isnan(above).all():
                return _part_table([], [], *[{ABOVE: np.zeros(0), BELOW: np.zeros(0)}] * 2)
            sides.append({ABOVE: np.nan_to_num(above), BELOW: np.ones(len(keys))})
            continue
        found = queries.followers_in(study, period)
        if metric.key == "followers":
            above, below = found.total[:, -1], np.ones(len(keys))
        elif metric.key == "follower_growth":
            has_both = ~np.isnan(found.start) & ~np.isnan(found.total[:, -1]) & (found.start > 0)
            above = np.where(has_both, found.total[:, -1] - found.start, 0.0)
            below = np.where(has_both, found.start, 0.0)
        else:
            came, went = _gains(found)
            above = {"net_followers": came - went, "gained_followers": came, "lost_followers": went}[metric.key]
            below = np.ones(len(keys))
        if np.isnan(above).all():
            return _part_table([], [], *[{ABOVE: np.zeros(0), BELOW: np.zeros(0)}] * 2)
        sides.append({ABOVE: np.nan_to_num(above), BELOW: below})
    return _part_table(keys, networks, sides[0], sides[1])


def _gains(found: queries.Followers) -> tuple[Array, Array]:
    """By profile who came and who went, NaN where a profile tells nothing of it."""
    told = ~np.isnan(found.came)
    some = told.any(axis=1)
    return (
        np.where(some, np.nansum(found.came, axis=1), np.nan),
        np.where(some, np.nansum(found.went, axis=1), np.nan),
    )
