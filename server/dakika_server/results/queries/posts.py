"""Reads of posts with their measures at the study's age.

The table is driven by the measures alone, which know a post's profile and instant: only the page
that is shown is joined with the posts.
"""

from collections.abc import Mapping
from typing import Any

from dakika_core.metrics.catalogue import Metric
from dakika_core.values.period import Period
from django.db.models import F, FloatField, Prefetch, QuerySet
from django.db.models.functions import Coalesce

from dakika_server.figures.study import Study
from dakika_server.measures.models import LATEST, PostMeasure
from dakika_server.results.expressions import expression_of
from dakika_server.results.models import PostTag
from dakika_server.results.queries.hidden import often_hidden
from dakika_server.results.young import young_order, young_posts
from dakika_server.shared.paging import paged_by_value
from dakika_server.sources.models import Post

BY_POST = {"published_at": "published_at", "format": "format", "profile": "profile__name",
           "campaign": "post__campaign__name", "language": "post__language"}  # fmt: skip


def posts_in(study: Study, period: Period) -> QuerySet[Post]:
    """Posts published in the period."""
    return Post.objects.filter(
        study.on_posts(), profile__in=study.profile_ids, published_at__gte=period.start, published_at__lt=period.end
    )


def value_of(metric: Metric) -> Any:
    """A metric of one post, as an expression over its measures."""
    return F("index") if metric.key == "index" else expression_of(metric.read.tree)


def ordered(
    measures: QuerySet[PostMeasure], sort: str, catalogue: Mapping[str, Metric], *, young_of: int | None = None
) -> QuerySet[PostMeasure]:
    """Measures in an order such as "-interactions"; what is missing comes last either way, ties by the newest.

    Each carries by what it stands, as sorted_by. young_of: a brand's number, where its posts that are too young for the
    study's age are to stand among the others by what they are heading for.
    """
    key = sort.removeprefix("-")
    by: Any
    if key in BY_POST:
        by = F(BY_POST[key])
    elif key in catalogue and catalogue[key].is_of_posts:
        by = value_of(catalogue[key])
        if young_of is not None:
            by = Coalesce(by, *young_order(key, young_of), output_field=FloatField())
    else:
        key, by = "published_at", F("published_at")
    measures = measures.annotate(sorted_by=by)
    order = F("sorted_by")
    return measures.order_by(
        order.desc(nulls_last=True) if sort.startswith("-") else order.asc(nulls_last=True), "-published_at", "-pk"
    )


def with_posts(measures: QuerySet[PostMeasure], limit: int, shown: Mapping[str, Metric]) -> list[PostMeasure]:
    """The first of them, joined with posts, profiles, campaigns and tags; `values` holds the metrics that are shown."""
    return rows_of(list(measures.values_list("pk", flat=True)[:limit]), shown)


def page_of(
    measures: QuerySet[PostMeasure], sort: str, cursor: str | None, limit: int, shown: Mapping[str, Metric]
) -> tuple[list[PostMeasure], str | None]:
    """A page of them as they were `ordered`, and the cursor of the next. Raises ValidationError for a wrong one."""
    order = (f"{'-' if sort.startswith('-') else ''}sorted_by", "-published_at", "-pk")
    found, following = paged_by_value(measures.only("published_at"), order, cursor, limit)
    return rows_of([one.pk for one in found], shown), following


def rows_of(ids: list[int], shown: Mapping[str, Metric]) -> list[PostMeasure]:
    """The rows of some measures, in the order of their numbers as given."""
    tags = Prefetch(
        "post__post_tags", PostTag.objects.filter(is_off=False).select_related("tag").order_by("tag__name"), "tags_on"
    )
    found = (
        PostMeasure.objects.filter(pk__in=ids)
        .annotate(**{f"shown_{key}": value_of(metric) for key, metric in shown.items()})
        .select_related("post__profile", "post__campaign")
        .prefetch_related(tags)
    )
    place = {pk: i for i, pk in enumerate(ids)}
    rows = sorted(found, key=lambda m: place[m.pk])
    for row in rows:
        row.values = {key: getattr(row, f"shown_{key}") for key in shown}  # type: ignore[attr-defined]
        row.present_hours = row.young = None  # type: ignore[attr-defined]
    _put_at_present(rows, shown)
    hidden = often_hidden(row.post_id for row in rows)
    for row in rows:
        row.hidden = hidden.get(row.post_id)  # type: ignore[attr-defined]
    return rows


def _put_at_present(rows: list[PostMeasure], shown: Mapping[str, Metric]) -> None:
    """Give posts that are not known at the study's age the figures of their latest reading, marked by its age.

    A row of dashes is no answer while something is known; sums and rankings do not take them.
    """
    unknown = {row.post_id: row for row in rows if row.interactions is None and row.age_hours != LATEST}
    latest: Any = PostMeasure.objects.filter(
        post__in=list(unknown), age_hours=LATEST, interactions__isnull=False, taken_at__isnull=False
    ).annotate(**{f"shown_{key}": value_of(metric) for key, metric in shown.items()})
    for found in latest if unknown else ():
        row: Any = unknown[found.post_id]
        row.values = {key: getattr(found, f"shown_{key}") for key in shown}
        row.interactions, row.typical, row.index = found.interactions, found.typical, found.index
        row.present_hours = (found.taken_at - found.published_at).total_seconds() / 3600
    for answer in young_posts(list(unknown)) if unknown else ():
        for pk, young in answer.items():
            row = unknown[pk]
            row.young, row.typical, row.index = young, young.typical, young.index
            if "index" in row.values:
                row.values["index"] = young.index
