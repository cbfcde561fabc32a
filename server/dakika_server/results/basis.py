"""What stands behind one figure: exact counts of posts, the sums, and the interval."""

from dataclasses import replace
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import AddsUp, Metric, Over
from dakika_core.metrics.rates import Moments, ratio_from_moments
from dakika_core.values.figure import Figure, Interval
from django.db import connection
from django.db.models import Avg, Count, F, FloatField, Q, StdDev, Sum, Value
from django.db.models.functions import Cast, Ln

from dakika_server.figures.study import Study
from dakika_server.measures.models import PostDay
from dakika_server.results.brought import with_interval
from dakika_server.results.queries import measures_in
from dakika_server.results.summary import Measured

# One row a post, {above} and {below} its two parts; the sums over the posts that have both.
_MOMENTS = """
WITH per_post AS ({rows})
SELECT COUNT(*) FILTER (WHERE a IS NOT NULL AND b IS NOT NULL), COUNT(*),
    COALESCE(SUM(a) FILTER (WHERE b IS NOT NULL), 0),
    COALESCE(SUM(b) FILTER (WHERE a IS NOT NULL), 0), COALESCE(SUM(a * a) FILTER (WHERE b IS NOT NULL), 0),
    COALESCE(SUM(a * b), 0), COALESCE(SUM(b * b) FILTER (WHERE a IS NOT NULL), 0)
FROM per_post
"""


def figures_of(study: Study, measured: Measured) -> tuple[Figure, Figure]:
    """Now and before, both with exact counts of the same thing, and an interval where one can be said."""
    then = replace(study, period=study.compared)
    return _figure(study, measured.metric, measured.now), _figure(then, measured.metric, measured.before)


def _figure(study: Study, metric: Metric, figure: Figure) -> Figure:
    """The figure of the study's period."""
    if metric.over is Over.PROFILE:
        return figure
    if metric.over is Over.BROUGHT:
        return with_interval(figure)
    if metric.key == "index":
        return _index(study, figure)
    if metric.adds_up is AddsUp.SUM:
        counted, posts = _counted(study, metric)
        return Figure(value=figure.value, n=counted, missing=posts - counted)
    if metric.numerator and metric.denominator:
        m = _moments(study, metric)
        # Beyond what is kept by day a counter may have been corrected: the value shown is the one of the summary.
        exact = ratio_from_moments(m)
        return Figure(
            value=figure.value, n=m.n, missing=m.missing, numerator=figure.numerator, denominator=figure.denominator,
            interval=exact.interval,
        )  # fmt: skip
    return figure


def _days(study: Study) -> Any:
    return PostDay.objects.filter(
        study.on_posts("post__"), profile__in=study.profile_ids, day__gte=study.period.first, day__lte=study.period.last
    )


def _counted(study: Study, metric: Metric) -> tuple[int, int]:
    """Posts of which the metric is known, and posts at all."""
    known = Q(**{f"{name}__isnull": False for name in metric.needs if name != "posts"})
    rows = _days(study) if metric.over is Over.RECEIVED else measures_in(study, study.period)
    found = rows.aggregate(known=Count("post", distinct=True, filter=known), posts=Count("post", distinct=True))
    return found["known"], found["posts"]


def _moments(study: Study, metric: Metric) -> Moments:
    above, below = metric.numerator or "", metric.denominator or ""
    if metric.over is Over.RECEIVED:
        rows = _days(study).values("post").annotate(a=Sum(above), b=Sum(below)).values("a", "b")
    else:
        part = {
            name: Value(1.0, output_field=FloatField()) if name == "posts" else Cast(F(name), FloatField())
            for name in (above, below)
        }
        rows = measures_in(study, study.period).annotate(a=part[above], b=part[below]).values("a", "b")
    sql, parameters = rows.query.sql_with_params()
    with connection.cursor() as cursor:
        cursor.execute(_MOMENTS.format(rows=sql), parameters)
        n, posts, *sums = cursor.fetchone()
    # Sums of counts are numeric in SQL, those of measures double precision.
    a, b, aa, ab, bb = map(float, sums)
    return Moments(n=n, missing=posts - n, above=a, below=b, above_squared=aa, product=ab, below_squared=bb)


def _index(study: Study, figure: Figure) -> Figure:
    """The geometric mean with a t interval on the log scale, posts being the sample."""
    from scipy.special import stdtrit

    judged = Q(index__gt=0)
    found = measures_in(study, study.period).aggregate(
        n=Count("pk", filter=judged), mean=Avg(Ln("index"), filter=judged),
        spread=StdDev(Ln("index"), sample=True, filter=judged),
    )  # fmt: skip
    n, interval = found["n"], None
    if n >= 3 and found["spread"] is not None:
        half = float(stdtrit(n - 1, 0.975)) * found["spread"] / np.sqrt(n)
        interval = Interval(low=float(np.exp(found["mean"] - half)), high=float(np.exp(found["mean"] + half)))
    return Figure(value=figure.value, n=n, missing=figure.missing, interval=interval)
