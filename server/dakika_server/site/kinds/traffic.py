"""site.traffic: clicks, visits and conversions by day."""

from typing import Any

import numpy as np
from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import CATALOGUE, Unit

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, Series, cell_of, count_of
from dakika_server.figures.study import Study
from dakika_server.networks.definitions import network_name
from dakika_server.results.brought import brought_in
from dakika_server.results.related import related_to
from dakika_server.shared import clock
from dakika_server.site.models import Visit
from dakika_server.site.queries.traffic import NAMES, traffic_of

SITE_VISITS = "Visits to the brand's sites in the period, however they came."


class TrafficByDay(FigureKind):
    """What links and networks brought to the site."""

    key, name = "site.traffic", "Traffic by day"

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Clicks, visits and conversions; all visits of the site where everything is studied."""
        del params
        found = traffic_of(study, clock.now())
        courses = {"tracked_clicks": found.clicks, "visits": found.visits, "conversions": found.conversions}
        cells = [
            Cell(
                key=key,
                name=CATALOGUE[key].name,
                unit=Unit.COUNT,
                column=CATALOGUE[key].name,
                now=count_of(sum(course)),
            )
            for key, course in courses.items()
        ]
        if found.site_visits is not None:
            name = "Visits of the site"
            cells.append(
                Cell(key="site_visits", name=name, unit=Unit.COUNT, column=name, now=count_of(found.site_visits))
            )
        days = [day.isoformat() for day in study.period.dates()]
        return FigureSet(
            title="Clicks, visits and conversions by day", cells=cells,
            definitions=[(CATALOGUE[key].name, CATALOGUE[key].definition) for key in NAMES],
            series=[
                Series(key=key, name=CATALOGUE[key].name, unit=Unit.COUNT, places=days, values=course)
                for key, course in courses.items()
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """By network; all visits by how they came."""
        made = cell_of(self.compute(study, params), cell)
        if cell == "site_visits":
            parts, definition, related = _by_channel(study), SITE_VISITS, []
        else:
            metric = CATALOGUE[cell]
            definition, related = metric.definition, related_to(study, metric)
            parts = [
                Part(key=network, name=network_name(network) if network else "for no network", value=float(total))
                for network, course in brought_in(study, study.period).items()
                if (total := np.nansum(course[cell]))
            ]
        return Basis(
            key=cell, name=made.name, unit=Unit.COUNT, definition=definition, figure=made.now, rule=Rule.SUM,
            parts=parts, parts_name="network" if cell != "site_visits" else "way there", related=related,
            is_counted_here=True, note="Today is in it as far as it has come.",
            behind=Behind(path="links" if cell == "tracked_clicks" else "site", name="What is behind it"),
        )  # fmt: skip


def _by_channel(study: Study) -> list[Part]:
    from django.db.models import Count

    rows = (
        Visit.objects.filter(brand=study.brand, started_at__gte=study.period.start, started_at__lt=study.period.end)
        .values("channel").annotate(total=Count("pk")).order_by("-total")
    )  # fmt: skip
    return [Part(key=row["channel"], name=network_name(row["channel"]), value=float(row["total"])) for row in rows]
