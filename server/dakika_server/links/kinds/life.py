"""links.life: one link over its life, from the day it was made."""

from datetime import timedelta
from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.period import Period
from django.db.models import Count, Sum
from django.db.models.functions import TruncDay, TruncHour

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, Series, cell_of, count_of
from dakika_server.figures.study import Study
from dakika_server.links.kinds.asked import PEOPLE, LinksParameters, by_step, scope_of, step_of
from dakika_server.links.models import Click, ClickDay, ClickHour, ClickTotal, TrackedLink
from dakika_server.links.queries.figures import life_of
from dakika_server.shared import clock

WITHIN = "within "
# Hours are counted click by click up to a day, by the hourly sums afterwards, as the link's page does.
BY_CLICK_HOURS = 24
_DEFINITIONS = [
    ("Clicks", PEOPLE.replace("in the period", "since the link was made")),
    ("Within so many hours", "People's clicks from the first post that carried the link, else from when it was made."),
]


class Life(FigureKind):
    """A link's clicks by day and by its age; the most clicked one of the study where none is named."""

    key, name, params = "links.life", "A link over its life", LinksParameters

    def _link(self, study: Study, params: dict[str, Any]) -> TrackedLink | None:
        scope = scope_of(study, params)
        found = TrackedLink.objects.filter(brand=study.brand).select_related("brand")
        if scope.links is not None:
            found = found.filter(pk__in=scope.links)
        if params.get("link"):
            return found.first()
        most = (
            ClickTotal.objects.filter(link__in=found).order_by("-people", "link_id").values_list("link_id", flat=True)
        )
        return found.filter(pk=most[0]).first() if most[:1] else found.order_by("pk").first()

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """All clicks, those within its first hours and days, and the course."""
        link = self._link(study, params)
        if link is None:
            return FigureSet(title="No link", cells=[], note="There is no tracked link to tell of.")
        life = life_of(link, clock.now())
        days = [(life.first + timedelta(days=i)).isoformat() for i in range(len(life.people))]
        cells = [Cell(key="all", name="Clicks", column="Clicks", unit=Unit.COUNT, now=count_of(sum(life.people)))]
        cells += [
            Cell(key=f"{WITHIN}{age.hours}", name=f"Within {_hours(age.hours)}", column=f"Within {_hours(age.hours)}",
                 unit=Unit.COUNT, now=count_of(age.count))
            for age in life.ages
        ]  # fmt: skip
        return FigureSet(
            title=f"{link.name or link.code} over its life", cells=cells, definitions=_DEFINITIONS, made=link,
            days=(life.first, life.first + timedelta(days=len(life.people) - 1)),
            series=[Series(key="people", name="Clicks", unit=Unit.COUNT, places=days, values=life.people)],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """By week or month; within its first hours by hour, within its first days by day."""
        made = self.compute(study, params)
        one, link, zone = cell_of(made, cell), made.made, study.brand.zone
        if cell == "all":
            first, last = made.days or (study.period.first, study.period.last)
            life = Period(first=first, last=last, zone=zone)
            rows = ClickDay.objects.filter(brand_id=study.brand.pk, link_id=link.pk, day__gte=first, day__lte=last)
            parts, what = by_step(rows, life, "people"), step_of(life)
        else:
            parts, what = _within(link, int(cell.removeprefix(WITHIN)))
        return Basis(
            key=cell, name=one.name, unit=Unit.COUNT, definition=_DEFINITIONS[0 if cell == "all" else 1][1],
            figure=one.now, rule=Rule.SUM, parts=parts, parts_name=what, is_counted_here=True, what="on this link",
            days="Since it was made", behind=Behind(path=f"links/{link.pk}", name="The link"),
        )  # fmt: skip


def _hours(hours: int) -> str:
    if hours % 24:
        return f"{hours} hour{'s' if hours > 1 else ''}"
    return f"{hours // 24} day{'s' if hours > 24 else ''}"


def _within(link: TrackedLink, hours: int) -> tuple[list[Part], str]:
    zone = link.brand.zone
    carried = link.uses.order_by("post__published_at").values_list("post__published_at", flat=True).first()
    until = (carried or link.created_at) + timedelta(hours=hours)
    rows: Any
    if hours < BY_CLICK_HOURS:
        clicks = Click.objects.filter(link=link, bot_reason="", is_over=False, at__lt=until)
        rows = clicks.annotate(step=TruncHour("at", tzinfo=zone)).values("step").annotate(n=Count("pk"))
        name, what = "%a %d %b %Y %H:%M", "hour"
    else:
        sums = ClickHour.objects.filter(brand_id=link.brand_id, link_id=link.pk, hour__lt=until)
        rows = sums.annotate(step=TruncDay("hour", tzinfo=zone)).values("step").annotate(n=Sum("people"))
        name, what = "%a %d %b %Y", "day"
    return [
        Part(key=row["step"].isoformat(), name=row["step"].strftime(name), value=float(row["n"]))
        for row in rows.order_by("step") if row["n"]
    ], what  # fmt: skip
