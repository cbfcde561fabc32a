"""links.hours: clicks by hour of week."""

from typing import Any

from dakika_core.metrics.basis import Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure
from django.db import connection

from dakika_server.figures.kinds import Basis, Cell, FigureKind, FigureSet, Series, cell_of
from dakika_server.figures.study import Study
from dakika_server.links.kinds.asked import BEHIND, PEOPLE, LinksParameters, scope_of, step_of, step_part
from dakika_server.links.queries.figures import hours_of_week
from dakika_server.results.tables import WEEKDAYS

_OF_HOUR = """
SELECT date_trunc(%(step)s, hour AT TIME ZONE %(zone)s)::date, sum(people) FROM links_clickhour
WHERE brand_id = %(brand)s AND link_id = ANY(%(links)s) AND hour >= %(start)s AND hour < %(end)s
    AND extract(isodow FROM hour AT TIME ZONE %(zone)s) = %(weekday)s
    AND extract(hour FROM hour AT TIME ZONE %(zone)s) = %(hour)s
GROUP BY 1 ORDER BY 1
"""


class Hours(FigureKind):
    """When links are clicked."""

    key, name, params = "links.hours", "Clicks by hour of week", LinksParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """The 168 hours of the brand's week, Monday first."""
        found = hours_of_week(scope_of(study, params), study.period)
        cells = [
            Cell(key=f"{day}-{hour}", name=f"{WEEKDAYS[day]} {hour:02d}:00", unit=Unit.COUNT, row=WEEKDAYS[day],
                 column=f"{hour:02d}:00", now=Figure(value=float(count), n=count))
            for day, hours in enumerate(found)
            for hour, count in enumerate(hours)
        ]  # fmt: skip
        course = Series(key="clicks", name="clicks", unit=Unit.COUNT, places=[cell.name for cell in cells],
                        values=[cell.now.value for cell in cells])  # fmt: skip
        return FigureSet(
            title="Clicks by hour of the brand's week", cells=cells, series=[course], definitions=[("clicks", PEOPLE)]
        )

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """An hour by week or month."""
        made = cell_of(self.compute(study, params), cell)
        weekday, _, hour = cell.partition("-")
        scope, period = scope_of(study, params), study.period
        with connection.cursor() as cursor:
            cursor.execute(
                _OF_HOUR,
                {"zone": str(period.zone), "brand": study.brand.pk, "start": period.start, "end": period.end,
                 "links": [0] if scope.links is None else list(scope.links), "weekday": int(weekday) + 1,
                 "hour": int(hour), "step": step_of(period)},
            )  # fmt: skip
            parts = [step_part(first, step_of(period), float(total)) for first, total in cursor.fetchall() if total]
        return Basis(
            key=cell, name=f"Clicks, {made.name}", unit=Unit.COUNT, definition=PEOPLE, figure=made.now, rule=Rule.SUM,
            parts=parts, parts_name=step_of(period), is_counted_here=True, behind=BEHIND, what="on our links",
            note="Hours are those of the brand's clocks.",
        )  # fmt: skip
