"""The best and the worst posts by a metric, such that a rate from twelve impressions tops nothing."""

from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import Metric, Unit
from dakika_core.metrics.shrinkage import shrunk_rates
from django.db.models import F

from dakika_server.figures.study import Study
from dakika_server.results.queries import measures_in, ordered, value_of, with_posts


def top_posts(study: Study, metric: Metric, *, is_bottom: bool, limit: int) -> dict[str, Any]:
    """A ranking. Shares of a whole are ranked by what their evidence supports, everything else as it is."""
    measures = measures_in(study, study.period)
    total = measures.count()
    if metric.unit is Unit.RATE and metric.numerator and metric.denominator not in (None, "followers", "posts"):
        return _shrunk(study, metric, is_bottom=is_bottom, limit=limit, total=total)
    known = measures.annotate(shown=value_of(metric)).filter(shown__isnull=False)
    better_first = "" if is_bottom else "-"
    catalogue = {metric.key: metric}
    page = with_posts(ordered(known, f"{better_first}{metric.key}", catalogue), limit, catalogue)
    for row in page:
        row.value = row.judged = row.values[metric.key]  # type: ignore[attr-defined]
        row.low = row.high = None  # type: ignore[attr-defined]
    return {"is_shrunk": False, "posts": page, "total": total, "missing": total - known.count()}


def _shrunk(study: Study, metric: Metric, *, is_bottom: bool, limit: int, total: int) -> dict[str, Any]:
    rows = list(
        measures_in(study, study.period)
        .annotate(above=F(metric.numerator or ""), below=F(metric.denominator or ""))
        .filter(above__isnull=False, below__gt=0)
        .values_list("pk", "above", "below")
    )
    table = np.array([row[1:] for row in rows], dtype=float).reshape(-1, 2)
    found = shrunk_rates(table[:, 0], table[:, 1])
    if found is None:
        return {"is_shrunk": True, "posts": [], "total": total, "missing": total}
    # The end of the interval decides: what may as well be ordinary stands behind what surely is not.
    end = found.high if is_bottom else -found.low
    order = np.argsort(end, kind="stable")[:limit]
    chosen = {rows[i][0]: int(i) for i in order}
    known = measures_in(study, study.period).filter(pk__in=list(chosen))
    page = with_posts(known, limit, {metric.key: metric})
    for row in page:
        i = chosen[row.pk]
        row.value, row.judged = table[i, 0] / table[i, 1], float(found.value[i])  # type: ignore[attr-defined]
        row.low, row.high = float(found.low[i]), float(found.high[i])  # type: ignore[attr-defined]
    page.sort(key=lambda row: row.high if is_bottom else -row.low)  # type: ignore[attr-defined]
    return {"is_shrunk": True, "posts": page, "total": total, "missing": total - len(rows)}
