"""Groups of posts against the posts outside of them, added up by the database and judged by the core."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import Metric
from dakika_core.results.groups import GroupResult, Moments, compare_moments, indicators
from django.db import connection
from django.db.models import Case, Count, F, Func, QuerySet, Sum, TextField, Value, When
from django.db.models.functions import Cast, ExtractIsoWeekDay, Length, Ln, Lower

from dakika_server.results.models import PostMeasure
from dakika_server.results.queries import measures_in, value_of
from dakika_server.results.study import Study
from dakika_server.results.tables import WEEKDAYS

MOST_GROUPS = 40
# Characters of a post's text.
LENGTHS = ((80, "up to 80"), (160, "81 to 160"), (280, "161 to 280"))
LONGER = "longer than 280"
GROUPINGS = ("tag", "format", "hashtag", "campaign", "weekday", "length", "language", "boosted")
OVERLAPPING = ("tag", "hashtag")
_NAMELESS = {"campaign": "in no campaign", "language": "not said"}


@dataclass(frozen=True, kw_only=True)
class Group:
    """A group as it is asked for again: its key in an address, its name, and how it stands."""

    key: str
    result: GroupResult


@dataclass(frozen=True, kw_only=True)
class Comparison:
    """All groups of a grouping. held: what the adjusted figure keeps the same. left_out: posts without a value."""

    groups: list[Group]
    held: tuple[str, ...]
    posts: int
    left_out: int


def compare(study: Study, by: str, metric: Metric) -> Comparison:
    """Each group of a grouping against the other posts of the period.

    A post is held against its profile's typical where the metric is the index, else against the
    profile's mean: so a large profile does not lift the groups it happens to use.
    """
    measures = measures_in(study, study.period)
    value = F("profile_index") if metric.key == "index" else value_of(metric)
    usable = measures.annotate(value=value).filter(value__gt=0)
    sums = {"n": Count("pk"), "total": Sum(Ln("value")), "squares": Sum(Ln("value") * Ln("value"))}
    cell = ("profile_id", "format")
    rows = (
        _by_tag(usable)
        if by == "tag"
        else list(_grouped(usable, study, by).values("group_key", "group_name", *cell).annotate(**sums))
    )
    # Where every post is in one group, the groups make the whole; else it is asked for apart.
    every = usable.values(*cell).annotate(**sums) if by in OVERLAPPING else rows
    whole: dict[tuple[int, str], tuple[float, float, float]] = {}
    for row in every:
        before = whole.get((row["profile_id"], row["format"]), (0, 0.0, 0.0))
        added = (row["n"], row["total"], row["squares"])
        whole[row["profile_id"], row["format"]] = tuple(x + y for x, y in zip(before, added, strict=True))
    cells = sorted(whole)
    place = {key: i for i, key in enumerate(cells)}
    level = {} if metric.key == "index" else _profile_means(whole)
    held = ("profile",) if by == "format" else ("profile", "format")
    controls = np.column_stack(
        [indicators([str(profile) for profile, _ in cells])]
        + ([indicators([kind for _, kind in cells])] if by != "format" else [])
    ) if cells else np.empty((0, 0))  # fmt: skip
    by_group: dict[tuple[str, str], list[tuple[int, tuple[float, float, float]]]] = {}
    for row in rows:
        key = (str(row["group_key"] if row["group_key"] is not None else ""), _name(by, row["group_name"]))
        at = (row["profile_id"], row["format"])
        by_group.setdefault(key, []).append((place[at], (row["n"], row["total"], row["squares"])))
    largest = sorted(by_group, key=lambda key: -sum(m[0] for _, m in by_group[key]))[:MOST_GROUPS]
    moments = {key: _moments(by_group[key], cells, level) for key in largest}
    all_posts = _moments([(place[key], whole[key]) for key in cells], cells, level)
    named = {f"{key}\x00{name}": part for (key, name), part in moments.items()}
    results = compare_moments(all_posts, named, controls) if cells else []
    total, counted = measures.count(), int(all_posts.n.sum())
    return Comparison(groups=[_group(result) for result in results], held=held, posts=total, left_out=total - counted)


_BY_TAG = """
SELECT t.tag_id AS group_key, g.name AS group_name, u.profile_id, u.format, COUNT(*) AS n, SUM(LN(u.value)) AS total,
    SUM(LN(u.value) ^ 2) AS squares
FROM ({usable}) u JOIN results_posttag t ON t.post_id = u.post_id AND NOT t.is_off JOIN results_tag g ON g.id = t.tag_id
GROUP BY 1, 2, 3, 4
"""


def _by_tag(usable: QuerySet[PostMeasure]) -> list[dict[str, Any]]:
    """Sums by tag and cell. The tags hang on posts: joined to the measures at once, the posts need not be read."""
    wanted: QuerySet[Any] = usable.order_by()
    sql, parameters = wanted.values(*("post_id", "profile_id", "format", "value")).query.sql_with_params()
    with connection.cursor() as cursor:
        cursor.execute(_BY_TAG.format(usable=sql), parameters)
        names = [column.name for column in cursor.description]
        return [dict(zip(names, row, strict=True)) for row in cursor.fetchall()]


def _group(result: GroupResult) -> Group:
    key, _, name = result.name.partition("\x00")

    return Group(key=key, result=replace(result, name=name))


def _profile_means(whole: dict[tuple[int, str], tuple[float, float, float]]) -> dict[int, float]:
    counts: dict[int, float] = {}
    totals: dict[int, float] = {}
    for (profile, _), (n, total, _) in whole.items():
        counts[profile] = counts.get(profile, 0) + n
        totals[profile] = totals.get(profile, 0.0) + total
    return {profile: totals[profile] / counts[profile] for profile in counts}


def _moments(
    rows: Iterable[tuple[int, tuple[float, float, float]]], cells: list[tuple[int, str]], level: dict[int, float]
) -> Moments:
    """Sums by cell, taken from each profile's level."""
    n, total, squares = (np.zeros(len(cells)) for _ in range(3))
    for at, (count, sum_, square) in rows:
        mean = level.get(cells[at][0], 0.0)
        n[at] += count
        total[at] += sum_ - count * mean
        squares[at] += square - 2 * mean * sum_ + count * mean**2
    return Moments(n=n, total=total, squares=squares)


def _grouped(usable: QuerySet[PostMeasure], study: Study, by: str) -> QuerySet[Any]:
    """Measures with the group of each; a post with several tags or hashtags stands in several groups."""
    match by:
        case "hashtag":
            words = Func(F("post__hashtags"), function="unnest", output_field=TextField())
            inner = usable.annotate(word=Lower(Cast(words, TextField()))).order_by()
            return inner.annotate(group_key=F("word"), group_name=F("word"))
        case "campaign":
            return usable.annotate(group_key=F("post__campaign_id"), group_name=F("post__campaign__name"))
        case "weekday":
            day = ExtractIsoWeekDay("published_at", tzinfo=study.brand.zone)
            return usable.annotate(group_key=day, group_name=day)
        case "length":
            whens = [When(long__lte=most, then=Value(name)) for most, name in LENGTHS]
            chosen = Case(*whens, default=Value(LONGER))
            return usable.annotate(long=Length("post__text")).annotate(group_key=chosen, group_name=chosen)
        case "boosted":
            is_on = Case(When(post__is_boosted=True, then=Value("yes")), default=Value("no"))
            return usable.annotate(group_key=is_on, group_name=is_on)
    column = {"format": "format", "language": "post__language"}[by]
    return usable.annotate(group_key=F(column), group_name=F(column))


def _name(by: str, name: Any) -> str:
    if by == "weekday":
        return WEEKDAYS[int(name) - 1]
    if by == "boosted":
        return "boosted" if name == "yes" else "not boosted"
    if by == "hashtag":
        return f"#{name}"
    return str(name or _NAMELESS.get(by, ""))
