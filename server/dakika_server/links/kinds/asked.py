"""Whose clicks a figure of links is of, and how they stand by week or month."""

from datetime import date, timedelta
from typing import Any

from dakika_core.metrics.basis import Part
from dakika_core.values.period import Period
from django.db.models import QuerySet, Sum
from django.db.models.functions import TruncMonth, TruncWeek
from rest_framework import serializers

from dakika_server.figures.kinds import Behind
from dakika_server.figures.study import LARGEST_KEY, Study
from dakika_server.links.queries import Scope, begun_days, links_of

BEHIND = Behind(path="links", name="The links behind it")
PEOPLE = "People's clicks on short links in the period; bots and clicks after a link's end are counted apart."


class LinksParameters(serializers.Serializer[Any]):
    """Which links, besides the networks and campaigns of the study."""

    link = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)
    text = serializers.CharField(max_length=200, required=False, allow_blank=True)
    post = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY, help_text="carries them")


def scope_of(study: Study, params: dict[str, Any]) -> Scope:
    """Whose clicks are meant: all of the brand where nothing else is asked."""
    text, link = params.get("text", "").strip(), params.get("link")
    if not (study.networks or study.campaigns or text or link or params.get("post")):
        return Scope(brand=study.brand)
    found = links_of(
        study.brand, networks=study.networks, campaigns=study.campaigns, text=text, post_id=params.get("post")
    )
    if link:
        found = found.filter(pk=link)
    return Scope(brand=study.brand, links=tuple(found.values_list("pk", flat=True)))


def spans_of(study: Study) -> tuple[Period, Period]:
    """The days that have begun, and as many of the comparison."""
    return begun_days(study.period, study.compared, study.today)


# Longer periods are told by month, shorter ones by week (ISO 8601: from Monday on).
LONG_DAYS = 92


def step_of(period: Period) -> str:
    """By what a sum over a period is told: "week" or "month"."""
    return "week" if period.days <= LONG_DAYS else "month"


def steps_of(period: Period) -> list[Period]:
    """A period cut at the ends of its weeks or months."""
    found, first = [], period.first
    while first <= period.last:
        if step_of(period) == "week":
            end = first + timedelta(days=7 - first.weekday())
        else:
            end = date(first.year + first.month // 12, first.month % 12 + 1, 1)
        last = min(period.last, end - timedelta(days=1))
        found.append(Period(first=first, last=last, zone=period.zone))
        first = end
    return found


def step_part(first: date, step: str, value: float) -> Part:
    """A week's or month's part of a sum."""
    name = f"{first:%B %Y}" if step == "month" else f"week of {first.day} {first:%B %Y}"
    return Part(key=first.isoformat(), name=name, value=value)


def by_step(rows: QuerySet[Any], period: Period, column: str) -> list[Part]:
    """A sum over rows of a period, by the week or month of their day."""
    step = step_of(period)
    cut = TruncWeek("day") if step == "week" else TruncMonth("day")
    sums = rows.annotate(step=cut).values("step").annotate(total=Sum(column)).order_by("step")
    return [step_part(row["step"], step, float(row["total"])) for row in sums if row["total"]]
