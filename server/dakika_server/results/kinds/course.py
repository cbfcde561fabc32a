"""results.course: metrics over a study, with their courses by day."""

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

import numpy as np
from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import NET, AddsUp, Over
from dakika_core.metrics.metric import OF_ONE_POST
from dakika_core.results.basis import formula_of
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Cell, FigureKind, FigureSet, Series, no_cell, whole
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study
from dakika_server.measures.models import FINAL, LATEST
from dakika_server.networks.definitions import network_name
from dakika_server.results.basis import figures_of
from dakika_server.results.catalogue import catalogue_of, chosen
from dakika_server.results.kinds.ways import parts_by_way
from dakika_server.results.kinds.words import (
    behind_of,
    counted_words,
    defined,
    interval_words,
    missing_words,
    things_of,
)
from dakika_server.results.related import related_to
from dakika_server.results.summary import Measured, summary_of


class CourseParameters(serializers.Serializer[Any]):
    """Which metrics."""

    metrics = serializers.CharField(default="", allow_blank=True, max_length=600, help_text="keys, separated by commas")


class Course(FigureKind):
    """The strip of figures and its chart."""

    key, name, params = "results.course", "Figures and their course", CourseParameters
    is_of_whole_days = True

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """The metrics, now and in the comparison."""
        metrics = chosen(catalogue_of(study.brand.pk), params["metrics"])
        found = summary_of(study, metrics)
        return FigureSet(
            title=found[0].title.text, definitions=defined(metrics), made=found,
            cells=[
                Cell(key=m.metric.key, name=m.metric.name, unit=m.metric.unit, now=m.now, before=m.before,
                     column=m.metric.name, more_is_better=m.metric.more_is_better, is_net=m.metric.key in NET)
                for m in found
            ],
            series=[one for m in found for one in _courses(study, m)],
            note=" ".join(dict.fromkeys(m.missing_note for m in found if m.missing_note)),
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """Definition, formula with its numbers, parts by network."""
        del params
        metric = catalogue_of(study.brand.pk).get(cell)
        if metric is None:
            raise no_cell(cell)
        (found,) = summary_of(study, [metric])
        figure, before = figures_of(study, found)
        age = {LATEST: "their latest reading", FINAL: "their final count"}.get(study.age_hours, f"{study.age_hours} h")
        things = things_of(metric)
        is_brought = metric.over is Over.BROUGHT
        of_posts = metric.over in (Over.RECEIVED, Over.PUBLISHED) and not metric.of
        has_both = metric.adds_up is AddsUp.RATIO_OF_SUMS and of_posts
        rule, parts, what = parts_of(study, found, figure)
        return Basis(
            key=metric.key, name=metric.name, unit=metric.unit, note=metric.note, figure=figure, before=before,
            definition=metric.definition.replace("equal age", age), rule=rule, parts=parts, parts_name=what,
            tree=metric.read.tree if rule is Rule.FORMULA else None,
            formula=formula_of(metric, figure, found.sums),
            formula_before=formula_of(metric, before, found.sums_before),
            what=metric.counted(study.age_words),
            counted=counted_words(figure, things) + (" that have both" if has_both else ""),
            counted_before="" if before.value is None else counted_words(before, things),
            missing=found.missing_note or missing_words(figure, things),
            interval_of=interval_words(metric),
            related=related_to(study, metric), is_counted_here=is_brought,
            behind=behind_of(metric),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row a day, the comparison's beside it."""
        del params
        found: list[Measured] = made.made
        dates, before = study.period.dates(), study.compared.dates()
        rows: list[Row] = [
            [day.isoformat(), before[i].isoformat() if i < len(before) else "",
             *[whole(v) for m in found for v in (m.days[i], m.days_before[i] if i < len(m.days_before) else None)]]
            for i, day in enumerate(dates)
        ]  # fmt: skip
        # A total among the days would be added up with them.
        totals = [
            (f"{m.metric.name}, whole period", f"{_told(m.now.value)}; comparison {_told(m.before.value)}")
            for m in found
        ]
        names = [name for m in found for name in (m.metric.name, f"{m.metric.name}, comparison")]
        return Sheet(
            name="days", head=["day", "day of the comparison", *names], rows=rows, definitions=made.definitions,
            about=[*about(study), *totals],
        )  # fmt: skip


def _told(value: float | None) -> str:
    return "not known" if value is None else str(whole(value))


def _courses(study: Study, found: Measured) -> list[Series]:
    metric = found.metric
    return [
        Series(key=key, name=name, unit=metric.unit, places=[day.isoformat() for day in dates], values=values)
        for key, name, dates, values in (
            (metric.key, metric.name, study.period.dates(), found.days),
            (f"{metric.key} before", f"{metric.name}, comparison", study.compared.dates(), found.days_before),
        )
    ]  # fmt: skip


def parts_of(study: Study, found: Measured, figure: Figure) -> tuple[Rule, list[Part], str]:
    """What is done with which parts, and what a part is."""
    metric = found.metric
    if metric.of or metric.way in OF_ONE_POST:
        return parts_by_way(study, metric, figure)
    if metric.over is Over.PROFILE:
        return _of_profiles(study, found, figure)
    if metric.key == "index" or metric.adds_up is AddsUp.SUM:
        rule = Rule.SUM if metric.adds_up is AddsUp.SUM else Rule.GEOMETRIC_MEAN
        return rule, by_network(found), "network"
    names = catalogue_of(study.brand.pk)
    parts = [Part(key=key, name=names[key].name if key in names else key.replace("_", " "), value=value)
             for key, value in found.sums.items()]  # fmt: skip
    return Rule.FORMULA, parts, "sum"


def by_network(found: Measured) -> list[Part]:
    """A figure's networks, and what stands on none of them."""
    parts = [
        Part(key=part.network, name=network_name(part.network), value=part.value, weight=part.weight)
        for part in found.networks
        if part.value is not None
    ]
    if found.of_no_network:
        parts.append(Part(key="", name="made for no network", value=found.of_no_network))
    return parts


def _of_profiles(study: Study, found: Measured, figure: Figure) -> tuple[Rule, list[Part], str]:
    if figure.value is None:
        return Rule.SUM, [], ""
    if figure.numerator is not None and figure.denominator is not None:
        above, below = _PAIRS[found.metric.key]
        return Rule.RATIO, [
            Part(key="above", name=above, value=figure.numerator),
            Part(key="below", name=below, value=figure.denominator),
        ], "sum"  # fmt: skip
    if found.metric.key == "net_followers":
        catalogue = catalogue_of(study.brand.pk)
        gained, lost = summary_of(study, [catalogue[key] for key in ("gained_followers", "lost_followers")])
        if gained.now.value is not None and lost.now.value is not None:
            return Rule.SUM, [
                Part(key="gained", name=gained.metric.name, value=gained.now.value),
                Part(key="lost", name=f"less {lost.metric.name.lower()}", value=-lost.now.value),
            ], "sum"  # fmt: skip
    if any(part.value is not None for part in found.networks):
        return Rule.SUM, by_network(found), "network"
    days = study.whole_days or study.period.days
    return Rule.SUM, by_week(study.period.first, found.days[:days]), "week"


_PAIRS = {
    "follower_growth": ("Followers gained on balance", "Followers at the start"),
    "posts_per_week": ("Posts", "Weeks"),
    "daily_reach": ("People reached, added over the days", "Days"),
}


def by_week(first: date, days: Sequence[float | None]) -> list[Part]:
    """A course added up by week (ISO 8601: from Monday on)."""
    sums: dict[date, float] = {}
    for i, value in enumerate(days):
        day = first + timedelta(days=i)
        if value is not None and not np.isnan(value):
            monday = day - timedelta(days=day.weekday())
            sums[monday] = sums.get(monday, 0.0) + value
    return [
        Part(key=monday.isoformat(), name=f"week of {monday.day} {monday:%B %Y}", value=value)
        for monday, value in sorted(sums.items())
    ]
