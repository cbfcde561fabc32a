"""The table of posts: which posts, which columns, and totals by the right rule for each metric."""

from collections.abc import Mapping
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import Metric
from dakika_core.metrics.formula import evaluate
from django.db.models import Count, F, Q, QuerySet, Sum
from django.db.models.functions import ExtractIsoWeekDay

from dakika_server.figures.study import Study
from dakika_server.measures.models import PostMeasure, ProfilePublished
from dakika_server.networks.definitions import network_name
from dakika_server.results.expressions import cell, sums_of
from dakika_server.results.queries import measures_in

WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
MOST_COLUMNS = 16
NO_TAG = "without a tag"
# What a group's key and its name are read from.
_BY: dict[str, tuple[str, str]] = {
    "format": ("format", "format"),
    "network": ("profile__network", "profile__network"),
    "profile": ("profile_id", "profile__name"),
    "campaign": ("post__campaign_id", "post__campaign__name"),
    "language": ("post__language", "post__language"),
}


def of_posts(catalogue: Mapping[str, Metric], wanted: str) -> dict[str, Metric]:
    """The metrics of a list such as "reach,er_reach" that can be said of a single post."""
    keys = [key for key in dict.fromkeys(wanted.split(",")) if key in catalogue and catalogue[key].is_of_posts]
    return {key: catalogue[key] for key in keys[:MOST_COLUMNS]}


def table_of(study: Study, text: str = "") -> QuerySet[PostMeasure]:
    """The measures behind the table: the posts of the period, perhaps only those whose text holds some words."""
    found = measures_in(study, study.period)
    return found.filter(post__text__icontains=text) if text else found


def counted(study: Study, measures: QuerySet[PostMeasure], text: str) -> dict[str, int]:
    """How many posts the table has, and how many of them are too young; kept sums answer where they can."""
    if text or study.formats or study.is_narrow:
        young = Count("pk", filter=Q(interactions__isnull=True))
        return dict(measures.aggregate(total=Count("pk"), too_young=young))
    kept = ProfilePublished.objects.filter(
        profile__in=study.profile_ids, age_hours=study.age_hours, day__gte=study.period.first,
        day__lte=study.period.last,
    ).aggregate(posts=Sum("posts"), known=Sum("interactions_n"))  # fmt: skip
    total = kept["posts"] or 0
    return {"total": total, "too_young": total - (kept["known"] or 0)}


def totals_of(
    study: Study, text: str, shown: Mapping[str, Metric], by: str | None
) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    """The whole and its groups: sums are added, rates are ratios of sums, an index is a geometric mean."""
    measures = table_of(study, text)
    sums: dict[str, Any] = {}
    for metric in shown.values():
        sums |= sums_of(metric)
    whole = _line("", "", measures.aggregate(posts_in_all=Count("pk"), **sums), shown)
    if by is None:
        return whole, []
    rows = (
        _grouped(measures, study, by).values("group_key", "group_name").annotate(posts_in_all=Count("pk"), **sums)
    )  # fmt: skip
    groups = [_line(*_named(by, row["group_key"], row["group_name"]), row, shown) for row in rows]
    return whole, sorted(groups, key=lambda g: (-g["posts"], g["name"]))


def _grouped(measures: QuerySet[PostMeasure], study: Study, by: str) -> QuerySet[Any]:
    if by == "weekday":
        day = ExtractIsoWeekDay("published_at", tzinfo=study.brand.zone)
        return measures.annotate(group_key=day, group_name=day)
    if by == "tag":
        on = Q(post__post_tags__is_off=False)
        return measures.filter(on).annotate(
            group_key=F("post__post_tags__tag_id"), group_name=F("post__post_tags__tag__name")
        )
    key, name = _BY[by]
    return measures.annotate(group_key=F(key), group_name=F(name))


def _named(by: str, key: Any, name: Any) -> tuple[str, str]:
    if by == "weekday":
        return str(key), WEEKDAYS[int(key) - 1]
    if by == "network":
        return str(key), network_name(key)
    return str(key or ""), str(name or {"campaign": "in no campaign", "language": "not said"}.get(by, ""))


def _line(key: str, name: str, row: Mapping[str, Any], shown: Mapping[str, Metric]) -> dict[str, Any]:
    values: dict[str, float | None] = {}
    counted: dict[str, int] = {}
    totals: dict[str, dict[str, float]] = {}
    for metric_key, metric in shown.items():
        n = counted[metric_key] = row[cell(metric_key, "n")]
        values[metric_key] = None
        if n and metric_key == "index":
            values[metric_key] = float(np.exp(row[cell(metric_key, "log")] / n))
        elif n:
            sums = {
                name: np.asarray(float(n if name == "posts" else row[cell(metric_key, name)])) for name in metric.needs
            }
            totals[metric_key] = {name: float(total) for name, total in sums.items()}
            made = float(evaluate(metric.read.tree, sums))
            values[metric_key] = None if made != made else made
    return {"key": key, "name": name, "posts": row["posts_in_all"], "values": values, "n": counted, "sums": totals}
