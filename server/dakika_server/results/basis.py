"""What stands behind one figure: exact counts of posts, the sums, and the interval."""

from dataclasses import replace
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import AddsUp, Metric, Over, Way
from dakika_core.metrics.rates import Moments, ratio_from_moments
from dakika_core.metrics.totals import Total, change_interval, count_change_interval
from dakika_core.values.figure import Figure, Interval
from django.db import connection
from django.db.models import Avg, Case, Count, F, FloatField, Q, StdDev, Sum, Value, When
from django.db.models.functions import Cast, Ln

from dakika_server.figures.study import Study
from dakika_server.measures.models import PostDay
from dakika_server.results import queries
from dakika_server.results.brought import with_interval
from dakika_server.results.queries import measures_in
from dakika_server.results.summary import Measured, summary_of
from dakika_server.results.ways import before_that, everything_of

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
    then = replace(study, period=study.compared, compared=before_that(study))
    return _figure(study, measured.metric, measured.now), _figure(then, measured.metric, measured.before)


def _figure(study: Study, metric: Metric, figure: Figure) -> Figure:
    """The figure of the study's period."""
    if metric.way is Way.MEDIAN_POST:
        return replace(figure, interval=queries.median_interval(study, metric))
    if metric.over is Over.PROFILE or metric.way in (Way.PER_DAY, Way.BEST_POST):
        return figure
    if metric.over is Over.BROUGHT:
        return _of_counts(study, metric, figure)
    if metric.way is Way.SHARE:
        return _share(study, metric, figure)
    if metric.of:
        return _change(study, metric, figure)
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


def _of_counts(study: Study, metric: Metric, figure: Figure) -> Figure:
    """What is counted one by one: rates by Wilson, changes by how the days spread.

    Money, pages and seconds come several at a time, so that Wilson's does not hold for them. A part of all is counted
    in full, and clicks of one post come together: they are no sample of anything.
    """
    if metric.of and metric.way is Way.CHANGE and figure.value is not None:
        (total,) = summary_of(study, [metric.of])
        whole = study.whole_days
        now, before = (np.array(days[:whole], dtype=float) for days in (total.days, total.days_before))
        return replace(figure, interval=count_change_interval(now, before))
    if metric.of or metric.measure in ("value", "site_pages", "site_seconds"):
        return figure
    return with_interval(figure)


def _share(study: Study, metric: Metric, figure: Figure) -> Figure:
    """The posts as a sample, of which some are studied; nothing is uncertain where all are."""
    everything = everything_of(study)
    if everything is None or not figure.denominator or not study.is_of_some:
        return figure
    name = metric.needs[0]
    if metric.over is Over.RECEIVED:
        rows = _days(everything).values("post").annotate(b=Sum(name))
        inside = {"post__in": _days(study).values("post")}
    else:
        rows = measures_in(everything, study.period).annotate(b=Cast(F(name), FloatField()))
        inside = {"pk__in": measures_in(study, study.period).values("pk")}
    of_studied = Case(When(**inside, then=F("b")), When(b__isnull=False, then=Value(0.0)), output_field=FloatField())
    found = ratio_from_moments(_moments_of(rows.annotate(a=of_studied).values("a", "b"))).interval
    if found is None:
        return figure
    return replace(figure, interval=replace(found, low=min(found.low, 1.0), high=min(found.high, 1.0)))


def _change(study: Study, metric: Metric, figure: Figure) -> Figure:
    """How many posts there were and what each brought, taken as chance in both periods."""
    if figure.value is None:
        return figure
    name = metric.needs[0]
    sides = []
    for period in (study.period, study.compared):
        then = replace(study, period=period)
        if metric.over is Over.RECEIVED:
            rows = _days(then).values("post").annotate(a=Sum(name))
        else:
            rows = measures_in(then, period).annotate(a=Cast(F(name), FloatField()))
        # A ratio to itself holds the sums that are needed, over the posts that have any.
        m = _moments_of(rows.annotate(b=F("a")).values("a", "b"))
        sides.append(Total(n=m.n, total=m.above, squares=m.above_squared))
    return replace(figure, interval=change_interval(sides[0], sides[1]))


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
    return _moments_of(rows)


def _moments_of(rows: Any) -> Moments:
    """Of rows of posts with a and b."""
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
