"""The median and the best of the posts published in a period: overall, by network and by day, in one query."""

from dataclasses import dataclass
from datetime import date
from typing import Any

from dakika_core.metrics.catalogue import Metric, Way
from dakika_core.metrics.median import median_ranks
from dakika_core.values.figure import Interval
from dakika_core.values.period import Period
from django.db import connection
from django.db.models import F
from django.db.models.functions import TruncDate

from dakika_server.figures.study import Study
from dakika_server.results.queries.courses import measures_in

_SINGLED_OUT = {
    Way.MEDIAN_POST: "percentile_cont(0.5) WITHIN GROUP (ORDER BY {name})",
    Way.BEST_POST: "max({name})",
}
# Days that are not over have their place in the course, and none in the figure.
_SQL = """
WITH per_post AS (SELECT *, day <= %s AS is_whole FROM ({rows}) r)
SELECT network, day, count(*), {columns} FROM per_post
GROUP BY GROUPING SETS ((is_whole), (is_whole, network), (is_whole, day)) HAVING is_whole OR day IS NOT NULL
"""


@dataclass(frozen=True, kw_only=True)
class Single:
    """What one post of many has of a metric: overall, by network and by day. It is known of n of the posts."""

    overall: float | None
    n: int
    posts: int
    networks: dict[str, float]
    days: dict[date, float]


def singled_out(study: Study, period: Period, metrics: list[Metric], whole: int) -> dict[str, Single]:
    """Each metric's median or best post; figures are of the first `whole` days of the period, days are all."""
    rows = measures_in(study, period).annotate(
        day=TruncDate("published_at", tzinfo=period.zone), network=F("profile__network")
    )
    names = sorted({metric.needs[0] for metric in metrics})
    sql, parameters = rows.values("network", "day", *names).query.sql_with_params()
    columns = ", ".join(f"count({m.needs[0]}), {_SINGLED_OUT[m.way].format(name=m.needs[0])}" for m in metrics)
    last = period.first_days(whole).last
    with connection.cursor() as cursor:
        cursor.execute(_SQL.format(rows=sql, columns=columns), (last, *parameters))
        found = cursor.fetchall()
    made = {}
    for i, metric in enumerate(metrics):
        cells = {(network, day): (posts, row[2 * i], row[2 * i + 1]) for network, day, posts, *row in found}
        posts, n, overall = cells.get((None, None), (0, 0, None))
        made[metric.key] = Single(
            overall=None if overall is None else float(overall), n=n, posts=posts,
            networks={at[0]: float(row[2]) for at, row in cells.items() if at[0] is not None and row[2] is not None},
            days={at[1]: float(row[2]) for at, row in cells.items() if at[1] is not None and row[2] is not None},
        )  # fmt: skip
    return made


def median_interval(study: Study, metric: Metric) -> Interval | None:
    """Between which posts' values the median lies, from their ranks."""
    name = metric.needs[0]
    known = measures_in(study, study.period).filter(**{f"{name}__isnull": False})
    ranks = median_ranks(known.count())
    if ranks is None:
        return None
    values: Any = known.order_by(name).values_list(name, flat=True)
    return Interval(low=float(values[ranks[0] - 1]), high=float(values[ranks[1] - 1]))


def around_the_median(study: Study, metric: Metric) -> list[tuple[int, str, float]]:
    """The one or two middle posts: key, words of it, value; smallest first, ties by key."""
    name = metric.needs[0]
    known = measures_in(study, study.period).filter(**{f"{name}__isnull": False}).order_by(name, "pk")
    n = known.count()
    if not n:
        return []
    rows = known.values_list("post_id", "post__text", name)
    return list(rows[(n - 1) // 2 : n // 2 + 1])


def the_best(study: Study, metric: Metric, most: int = 3) -> list[tuple[int, str, float]]:
    """The posts that have most of it: key, words of it, value."""
    name = metric.needs[0]
    known = measures_in(study, study.period).filter(**{f"{name}__isnull": False})
    return list(known.order_by(f"-{name}", "-published_at", "-pk").values_list("post_id", "post__text", name)[:most])
