"""plan.campaign: what of a campaign is planned and out, by kind of content and network, and week by week."""

from collections import Counter
from datetime import date, datetime, timedelta
from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from rest_framework import serializers

from dakika_server.brands.models import Campaign
from dakika_server.figures.kinds import (
    Basis,
    Behind,
    Cell,
    FigureKind,
    FigureSet,
    Series,
    cell_key,
    cell_of,
    cell_parts,
    count_of,
)
from dakika_server.figures.study import LARGEST_KEY, Study
from dakika_server.networks.definitions import network_name
from dakika_server.plan.campaigns import campaign_counts, published_of, waiting_of
from dakika_server.shared.errors import field_errors

COLUMNS = {
    "planned": ("Planned", "Posts that are not out yet: one for each profile that it goes to."),
    "published": ("Published", "Posts of our own profiles that are out and were not taken away."),
}
NO_TIME = "without a time yet"


class CampaignParameters(serializers.Serializer[Any]):
    """Which campaign; the latest one where none is named."""

    # The study narrows by campaigns under their own name.
    of_campaign = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)


class PlanCampaign(FigureKind):
    """A campaign as it is planned and carried out."""

    key, name, params = "plan.campaign", "A campaign's plan", CampaignParameters

    def _campaign(self, study: Study, params: dict[str, Any]) -> Campaign | None:
        found = Campaign.objects.filter(brand=study.brand)
        if number := params.get("of_campaign"):
            campaign = found.filter(pk=number).first()
            if campaign is None:
                raise field_errors({"of_campaign": "There is no such campaign."})
            return campaign
        return found.order_by("-first_day", "-pk").first()

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row for each kind of content on each network; weeks as a course."""
        campaign = self._campaign(study, params)
        if campaign is None:
            return FigureSet(title="No campaign", cells=[], note="There is no campaign to tell of.")
        counts = campaign_counts(study.brand, campaign)
        weeks = [row["monday"].isoformat() for row in counts["weeks"]]
        return FigureSet(
            title=f"{campaign.name}: planned and published", made=campaign, definitions=[*COLUMNS.values()],
            days=(campaign.first_day, campaign.last_day),
            note="" if counts["kinds"] else "No post stands in it yet.",
            cells=[
                Cell(key=cell_key(f"{row['network']} {row['format']}", column), name=f"{name}, {_row(row)}",
                     row=_row(row), column=name, unit=Unit.COUNT, now=count_of(row[column]))
                for row in counts["kinds"]
                for column, (name, _) in COLUMNS.items()
            ],
            series=[
                Series(key=column, name=name, unit=Unit.COUNT, places=weeks,
                       values=[float(row[column]) for row in counts["weeks"]])
                for column, (name, _) in COLUMNS.items()
            ] if weeks else [],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """A count by week."""
        made = self.compute(study, params)
        one, campaign = cell_of(made, cell), made.made
        row, column = cell_parts(cell)
        network, _, kind = row.partition(" ")
        times: list[datetime | None]
        if column == "planned":
            waiting = waiting_of(study.brand, campaign)
            times = [each.due for each in waiting if (each.network, each.kind) == (network, kind)]
        else:
            found = published_of(study.brand, campaign).filter(profile__network=network, format=kind)
            times = list(found.values_list("published_at", flat=True))
        weeks = Counter(None if at is None else _monday(at.astimezone(study.brand.zone).date()) for at in times)
        return Basis(
            key=cell, name=one.name, unit=Unit.COUNT, definition=COLUMNS[column][1], figure=one.now, rule=Rule.SUM,
            parts=[
                Part(key="" if week is None else week.isoformat(), value=float(count),
                     name=NO_TIME if week is None else f"week of {week.day} {week:%B %Y}")
                for week, count in sorted(weeks.items(), key=lambda each: (each[0] is None, each[0] or date.min))
            ],
            parts_name="week", is_counted_here=True, days="The whole campaign",
            behind=Behind(path=f"plan/campaigns/{campaign.pk}", name="The campaign"),
        )  # fmt: skip


def _row(row: dict[str, Any]) -> str:
    return f"{network_name(row['network'])}, {row['format'].replace('_', ' ')}"


def _monday(day: date) -> date:
    return day - timedelta(days=day.weekday())
