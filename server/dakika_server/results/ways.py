"""What is worked out from a total: by the day, as part of all, as a change."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import timedelta

import numpy as np
from dakika_core.metrics.catalogue import AddsUp, Metric, Over, Way
from dakika_core.values.figure import Figure
from dakika_core.values.period import Period

from dakika_server.figures.study import Study
from dakika_server.results.queries import Array
from dakika_server.results.sides import Course, Side
from dakika_server.sources.models import Profile


@dataclass(frozen=True, kw_only=True)
class _Pair:
    """A side, and what its totals are held against where they are: everything of the brand's, or an earlier period."""

    own: Side
    everything: Side | None
    earlier: Side | None


class Sides:
    """The two periods of a study, with whatever the ways of its metrics need beside them, each asked for once."""

    def __init__(self, study: Study, metrics: Iterable[Metric]) -> None:
        metrics = list(metrics)
        # Whole days are held against whole days; before the first is over there is nothing to hold.
        whole = study.whole_days
        totals = _once(metrics)
        parts = _once(metric for metric in metrics if metric.way is Way.SHARE)
        changes = _once(metric for metric in metrics if metric.of and metric.way is Way.CHANGE)
        now = Side(study, study.period, totals, whole or study.period.days)
        before = Side(study, study.compared, totals, whole)
        all_now = all_before = earlier = None
        everything = everything_of(study) if parts else None
        if everything:
            all_now = Side(everything, study.period, parts, whole or study.period.days)
            all_before = Side(everything, study.compared, parts, whole)
        if changes:
            earlier = Side(study, before_that(study), changes, whole)
        self._now = _Pair(own=now, everything=all_now, earlier=before)
        self._before = _Pair(own=before, everything=all_before, earlier=earlier)

    def now(self, metric: Metric) -> Course:
        """A metric in the study's period."""
        return _course(metric, self._now)

    def before(self, metric: Metric) -> Course:
        """A metric in the period that it is held against."""
        return _course(metric, self._before)


def _once(metrics: Iterable[Metric]) -> list[Metric]:
    return list({metric.total.key: metric.total for metric in metrics}.values())


def everything_of(study: Study) -> Study | None:
    """All of the brand's own, in the same periods at the same age; None for a study of others' profiles."""
    if any(profile.kind != "own" for profile in study.profiles):
        return None
    own = Profile.objects.filter(brand=study.brand, kind="own").select_related("competitor").order_by("pk")
    return replace(
        study, profiles=tuple(own), formats=None, networks=None, profiles_asked=None, tags=None, campaigns=None,
        languages=None, is_boosted=None,
    )  # fmt: skip


def before_that(study: Study) -> Period:
    """The period that the comparison period would be held against: as far before it as it is before the study's."""
    back: timedelta = study.period.first - study.compared.first
    then = study.compared
    return Period(first=then.first - back, last=then.last - back, zone=then.zone)


def _course(metric: Metric, sides: _Pair) -> Course:
    if metric.of is None:
        return sides.own.course(metric)
    total = sides.own.course(metric.of)
    if metric.way is Way.PER_DAY:
        return _per_day(metric, total, sides.own)
    other = sides.everything if metric.way is Way.SHARE else sides.earlier
    if other is None:
        return replace(total, figure=Figure(value=None), days=np.full(len(total.days), np.nan), networks={}, sums={})
    against = other.course(metric.of)
    if metric.way is Way.SHARE:
        return _share(total, against)
    return _change(total, against, is_sum=metric.of.adds_up is AddsUp.SUM, whole=sides.own.whole)


def _per_day(metric: Metric, total: Course, side: Side) -> Course:
    """The total over the days that are over; where days are told singly, over those that are told."""
    days = side.ended_days()
    if metric.over in (Over.BROUGHT, Over.PROFILE):
        days = int((~np.isnan(total.days[: side.whole])).sum())
    value = total.figure.value
    if value is None or not days:
        return replace(total, figure=Figure(value=None), networks={}, sums={})
    figure = replace(total.figure, value=value / days, numerator=value, denominator=float(days))
    networks = {network: None if part is None else part / days for network, part in total.networks.items()}
    return replace(total, figure=figure, networks=networks, sums={}, of_no_network=0.0)


def _so_far(days: Array, whole: int) -> Array:
    """The running sum, over the days that are over and what is known of the one that is not; nothing adds nothing."""
    known = np.flatnonzero(~np.isnan(days))
    made: Array = np.nancumsum(days)
    made[(max(whole, int(known[-1]) + 1) if len(known) else 0) :] = np.nan
    return made


def _share(total: Course, everything: Course) -> Course:
    above, below = total.figure.value, everything.figure.value
    days = np.divide(
        total.days, everything.days, out=np.full(len(total.days), np.nan), where=np.nan_to_num(everything.days) > 0
    )
    if above is None or not below:
        return replace(total, figure=Figure(value=None), days=days, networks={}, sums={})
    figure = replace(total.figure, value=above / below, numerator=above, denominator=below)
    networks = {network: None if part is None else part / below for network, part in total.networks.items()}
    return replace(total, figure=figure, days=days, networks=networks, sums={}, of_no_network=0.0)


def _change(total: Course, before: Course, *, is_sum: bool, whole: int) -> Course:
    """How much more there is, as a part of what there was; nothing where there was nothing.

    The course tells how it came about: sums so far against sums so far, levels day against day.
    """
    now, then = total.figure.value, before.figure.value
    size = min(len(total.days), len(before.days))
    above, below = (_so_far(course.days[:size], whole) if is_sum else course.days[:size] for course in (total, before))
    days = np.full(len(total.days), np.nan)
    days[:size] = np.divide(above, below, out=np.full(size, np.nan), where=np.nan_to_num(below) > 0) - 1
    if now is None or then is None or then <= 0:
        return replace(total, figure=Figure(value=None, n=total.figure.n), days=days, networks={}, sums={})
    figure = replace(total.figure, value=now / then - 1, numerator=now, denominator=then)
    networks = {
        network: None if part is None or not (was := before.networks.get(network)) or was <= 0 else part / was - 1
        for network, part in total.networks.items()
    }
    return replace(total, figure=figure, days=days, networks=networks, sums={}, of_no_network=0.0)
