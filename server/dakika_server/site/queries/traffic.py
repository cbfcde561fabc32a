"""Traffic by day: clicks, visits and conversions, and the days that stand out.

Counted as in the summary of results (results/brought.py), so that both say the same of any study.
"""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np
from dakika_core.results.spikes import spikes_in
from dakika_core.values.period import Period

from dakika_server.figures.study import Study
from dakika_server.links.queries.days import DAYS_BEFORE, ended
from dakika_server.results import queries
from dakika_server.results.brought import brought_in
from dakika_server.results.queries import Courses
from dakika_server.site.models import Visit

NAMES = ("tracked_clicks", "visits", "conversions")


@dataclass(frozen=True, kw_only=True)
class Traffic:
    """By day of the period: people's clicks, visits, conversions; and (day, robust z) of clicks that stand out.

    Visits are those that came by a tracked link or from a network; site_visits counts all of the
    period, however they came, where the study is of everything.
    """

    clicks: list[int]
    visits: list[int]
    conversions: list[int]
    has_visits: bool
    site_visits: int | None
    spikes: list[tuple[date, float]]


def traffic_of(study: Study, now: datetime) -> Traffic:
    """Everything about the traffic of a study, in a fixed number of queries."""
    period = study.period
    wide = Period(first=period.first - timedelta(days=DAYS_BEFORE), last=period.last, zone=period.zone)
    courses = brought_in(study, wide)
    clicks, visits, conversions = (_course(courses, name, wide) for name in NAMES)
    found = spikes_in(ended(clicks, wide, now))
    days = wide.dates()
    every = Visit.objects.filter(brand=study.brand)
    site_visits = None
    if not study.is_of_some:
        site_visits = every.filter(started_at__gte=period.start, started_at__lt=period.end).count()
    return Traffic(
        clicks=_counts(clicks), visits=_counts(visits), conversions=_counts(conversions), site_visits=site_visits,
        has_visits=every.exists(), spikes=[(days[s.at], s.z) for s in found if days[s.at] >= period.first],
    )  # fmt: skip


def _course(courses: Courses, name: str, period: Period) -> Any:
    return queries.summed([course[name] for course in courses.values()], period.days)


def _counts(course: Any) -> list[int]:
    return [int(n) for n in np.nan_to_num(course)[DAYS_BEFORE:]]
