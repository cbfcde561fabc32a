"""links.clicks: clicks of a period, people's and others', with their course by day."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule, total
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure
from dakika_core.values.period import Period
from django.db.models import Sum

from dakika_server.figures.kinds import Basis, Cell, FigureKind, FigureSet, Series, cell_of, count_of
from dakika_server.figures.study import Study
from dakika_server.links.kinds.asked import (
    BEHIND,
    PEOPLE,
    LinksParameters,
    scope_of,
    spans_of,
    step_of,
    step_part,
    steps_of,
)
from dakika_server.links.models import ClickDay, TrackedLink
from dakika_server.links.queries import Figures, Scope, figures_of
from dakika_server.links.queries.figures import visitors_in
from dakika_server.networks.definitions import network_name

DEFINITIONS = {
    "people": ("Clicks", PEOPLE),
    "bots": ("Bots' requests", "Requests that were no person's, each with the reason why it is counted apart."),
    "over": ("Clicks after the end", "People's clicks on links that had ended or were paused."),
    "visitors": (
        "People who clicked",
        "Different visitors of each day, added over the days: somebody who clicks on two days is counted twice.",
    ),
    "ratio": ("Times the comparison", "Clicks of the days that are over, held against as many of the comparison."),
}


class Clicks(FigureKind):
    """Clicks beside those of the comparison."""

    key, name, params = "links.clicks", "Clicks", LinksParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Clicks of people and bots, people who clicked, and how many times as many as before."""
        scope = scope_of(study, params)
        found = figures_of(scope, study.period, study.compared, study.today)
        return FigureSet(
            title="Clicks on short links", definitions=[*DEFINITIONS.values()], cells=_cells(study, found),
            series=[
                Series(key=key, name=name, unit=Unit.COUNT, places=[day.isoformat() for day in dates], values=values)
                for key, name, dates, values in (
                    ("people", "Clicks", study.period.dates(), found.people),
                    ("people before", "Clicks, comparison", study.compared.dates(), found.before),
                    ("bots", "Bots' requests", study.period.dates(), found.bots),
                    ("over", "Clicks after the end", study.period.dates(), found.over),
                )
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """By the networks that the links were made for; people by week or month."""
        made = cell_of(self.compute(study, params), cell)
        scope, (begun, _) = scope_of(study, params), spans_of(study)
        rule, what = Rule.SUM, "network"
        if cell == "visitors":
            what = step_of(begun)
            parts = [step_part(one.first, what, float(visitors_in(scope, one))) for one in steps_of(begun)]
        elif cell == "ratio":
            rule, what = Rule.RATIO, "side"
            sides = (study.period, study.compared) if (days := study.whole_days) else ()
            now, before = [total(_by_network(scope, side.first_days(days), "people")) for side in sides] or [0, 0]
            parts = [
                Part(key="now", name="clicks now", value=now),
                Part(key="before", name="clicks before", value=before),
            ]
        else:
            parts = _by_network(scope, study.period, cell)
        name, definition = DEFINITIONS[cell]
        return Basis(
            key=cell, name=name, unit=made.unit, definition=definition, figure=made.now, before=made.before, rule=rule,
            parts=parts, parts_name=what, is_counted_here=True, behind=BEHIND, interval_of="days as a sample",
            what="on our links", note="" if cell == "ratio" else "Today is in it as far as it has come.",
        )  # fmt: skip


def _cells(study: Study, found: Figures) -> list[Cell]:
    (_, held), days = spans_of(study), study.whole_days
    counts = {
        "people": (sum(found.people), sum(found.before[: held.days])), "bots": (sum(found.bots), None),
        "over": (sum(found.over), None), "visitors": (found.visitors, found.visitors_before),
    }  # fmt: skip
    cells = [
        Cell(key=key, name=DEFINITIONS[key][0], column=DEFINITIONS[key][0], unit=Unit.COUNT, now=count_of(now),
             before=None if before is None else count_of(before), more_is_better=key not in ("bots", "over"))
        for key, (now, before) in counts.items()
    ]  # fmt: skip
    ratio = found.ratio
    name = DEFINITIONS["ratio"][0]
    now = Figure(value=ratio.value if days else None, n=days, interval=_finite(ratio.interval))
    return [*cells, Cell(key="ratio", name=name, column=name, unit=Unit.INDEX, now=now)]


def _finite(interval: Any) -> Any:
    """An interval without an upper end is told as none."""
    return interval if interval and interval.high != float("inf") else None


def _by_network(scope: Scope, period: Period, column: str) -> list[Part]:
    """A count by the networks that links were made for."""
    rows = (
        ClickDay.objects.filter(**scope.days, day__gte=period.first, day__lte=period.last)
        .values("link_id").annotate(total=Sum(column)).filter(total__gt=0).values_list("link_id", "total")
    )  # fmt: skip
    totals = dict(rows)
    networks = dict(TrackedLink.objects.filter(pk__in=totals).values_list("pk", "network"))
    sums: dict[str, int] = {}
    for link, count in totals.items():
        network = networks.get(link, "")
        sums[network] = sums.get(network, 0) + count
    return [
        Part(key=network, name=network_name(network) if network else "made for no network", value=float(count))
        for network, count in sorted(sums.items(), key=lambda row: -row[1])
    ]
