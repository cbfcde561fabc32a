"""links.spread: clicks by what they came from, on and for."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from django.db.models import Sum
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Cell, FigureKind, FigureSet, cell_key, cell_of, cell_parts, count_of
from dakika_server.figures.study import Study
from dakika_server.links.kinds.asked import BEHIND, PEOPLE, LinksParameters, by_step, scope_of, spans_of, step_of
from dakika_server.links.models import ClickDay, ClickSpread, TrackedLink
from dakika_server.links.queries import Scope
from dakika_server.links.queries.figures import DIMENSIONS, spreads_of
from dakika_server.networks.definitions import network_name

# What is said of a link itself, and so of its clicks.
OF_LINKS = {"network": "network", "campaign": "campaign_id", "destination": "destination"}


class SpreadParameters(LinksParameters):
    """By what, and which links."""

    dimension = serializers.ChoiceField(choices=[*DIMENSIONS, *OF_LINKS], default="referrer")


class Spread(FigureKind):
    """Clicks by referrer, device, browser, language, country, reason, network, campaign or destination."""

    key, name, params = "links.spread", "What clicks came from", SpreadParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Of each value the clicks, most first."""
        dimension = params["dimension"]
        shares = spreads_of(scope_of(study, params), *spans_of(study)).get(dimension, [])
        cells = []
        for share in shares:
            row = str(share.id or "") if dimension == "campaign" else share.name
            name = network_name(share.name) if dimension == "network" and share.name else share.name or "not known"
            cells.append(
                Cell(key=cell_key(row, "clicks"), name=name, unit=Unit.COUNT, row=name, column="clicks",
                     now=count_of(share.count), before=count_of(share.before), more_is_better=dimension != "reason")
            )  # fmt: skip
        return FigureSet(title=f"Clicks by {dimension}", cells=cells, definitions=[("clicks", PEOPLE)])

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """By week or month, or by the links that it is said of."""
        made = cell_of(self.compute(study, params), cell)
        value, _ = cell_parts(cell)
        scope, (begun, _) = scope_of(study, params), spans_of(study)
        dimension = params["dimension"]
        if dimension in OF_LINKS:
            what, parts = "link", _of_links(scope, begun, OF_LINKS[dimension], value)
        else:
            rows = ClickSpread.objects.filter(
                **scope.sums, dimension=dimension, value=value, day__gte=begun.first, day__lte=begun.last
            )
            what, parts = step_of(begun), by_step(rows, begun, "count")
        return Basis(
            key=cell, name=f"{made.name}, clicks", unit=Unit.COUNT, definition=PEOPLE, figure=made.now,
            before=made.before, rule=Rule.SUM, parts=parts, parts_name=what, is_counted_here=True, behind=BEHIND,
            what="on our links",
        )  # fmt: skip


def _of_links(scope: Scope, period: Any, column: str, value: str) -> list[Part]:
    wanted = {column: int(value) if value else None} if column == "campaign_id" else {column: value}
    links = {link.pk: link for link in TrackedLink.objects.filter(brand=scope.brand, **wanted)}
    rows = (
        ClickDay.objects.filter(**scope.days, day__gte=period.first, day__lte=period.last)
        .values("link_id").annotate(total=Sum("people")).filter(total__gt=0).values_list("link_id", "total")
    )  # fmt: skip
    return [
        Part(key=str(pk), name=links[pk].name or links[pk].code, value=float(total))
        for pk, total in rows
        if pk in links
    ]
