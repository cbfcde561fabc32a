"""site.funnel: from being seen to being bought, by network, campaign or post."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.site.funnel import Funnel, Rate
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, cell_key, cell_of, cell_parts
from dakika_server.figures.study import LARGEST_KEY, Study
from dakika_server.links.queries import begun_days
from dakika_server.site.api.names import names_of
from dakika_server.site.currencies import currency_of
from dakika_server.site.funnels import Funnels as Found
from dakika_server.site.funnels import funnels_of, posts_of

SHOWN = 200
WHOLE = "all"
RATES = {"click_rate": ("clicks", "impressions"), "visit_rate": ("visits", "clicks"),
         "conversion_rate": ("conversions", "visits")}  # fmt: skip
# Value is told in whole currency.
SCALE = {"cents": 100}
COUNTS = ("impressions", "clicks", "visits", "conversions", "cents")
NAMES = {"impressions": "impressions", "clicks": "clicks", "visits": "visits", "conversions": "conversions",
         "cents": "value", "click_rate": "clicks by impressions", "visit_rate": "visits by clicks",
         "conversion_rate": "conversions by visits"}  # fmt: skip
DEFINITIONS = {
    "impressions": "Times that the posts with a tracked link were shown, as their networks tell it until now.",
    "clicks": "People's clicks on the links that these posts carried last.",
    "visits": "Visits that are noted with these posts, whenever they came.",
    "conversions": "Goals reached on such visits.",
    "cents": "The value of these conversions in the most frequent currency.",
    "click_rate": "Clicks divided by impressions, over posts that have both.",
    "visit_rate": "Visits divided by clicks: how many arrive and wait for the page.",
    "conversion_rate": "Conversions divided by visits.",
}


class FunnelParameters(serializers.Serializer[Any]):
    """By what, and which goal."""

    by = serializers.ChoiceField(choices=["post", "campaign", "network"], default="network")
    goal = serializers.IntegerField(required=False, min_value=0, max_value=LARGEST_KEY, default=0)


class Funnels(FigureKind):
    """Seen, clicked, visited, converted: the posts that were published in the period."""

    key, name, params = "site.funnel", "Funnel", FunnelParameters

    def _found(self, study: Study, params: dict[str, Any]) -> tuple[Found, dict[str, str]]:
        period, compared = begun_days(study.period, study.compared, study.today)
        found = funnels_of(
            study.brand, period, compared, params["by"], params["goal"], currency_of(study.brand)
        )  # fmt: skip
        return found, names_of(study.brand, params["by"], [row.key for row in found.rows[:SHOWN]])

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """All posts together, and each group."""
        found, names = self._found(study, params)
        cells = _cells(WHOLE, "all posts", found.total, found.total_before)
        for row in found.rows[:SHOWN]:
            cells += _cells(
                f"{params['by']} {row.key}", names.get(row.key) or row.key or "none", row, found.before.get(row.key)
            )
        return FigureSet(
            title=f"From being seen to being bought, by {params['by']}", cells=cells,
            definitions=[(NAMES[key], definition) for key, definition in DEFINITIONS.items()],
            note=f"Of {found.without_impressions:,} posts nobody tells how often they were shown."
            if found.without_impressions else "",
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """Counts by post; rates of what is divided by what."""
        made = cell_of(self.compute(study, params), cell)
        row, column = cell_parts(cell)
        rule, what = Rule.SUM, "post"
        if column in RATES:
            rule, what = Rule.RATIO, "sum"
            above, below = RATES[column]
            parts = [Part(key="above", name=NAMES[above], value=made.now.numerator or 0.0),
                     Part(key="below", name=NAMES[below], value=made.now.denominator or 0.0)]  # fmt: skip
        else:
            parts = self._posts(study, params, row, column)
        return Basis(
            key=cell, name=made.name, unit=made.unit, definition=DEFINITIONS[column], figure=made.now,
            before=made.before, rule=rule, parts=parts, parts_name=what, is_counted_here=column != "impressions",
            interval_of="each by itself", behind=Behind(path="site?by=post", name="The posts behind it"),
            note="" if column != "cents" else f"In {currency_of(study.brand)}; other currencies are told apart.",
        )  # fmt: skip

    def _posts(self, study: Study, params: dict[str, Any], row: str, column: str) -> list[Part]:
        """The posts that a group's count is of: those that have both impressions and clicks, where any have."""
        period, _ = begun_days(study.period, study.compared, study.today)
        posts = posts_of(study.brand, period, params["goal"], currency_of(study.brand))
        _, _, key = row.partition(" ")
        if row != WHOLE:
            posts = [(f, told) for f, told in posts if (f.key if params["by"] == "post" else told[params["by"]]) == key]
        funnels = [funnel for funnel, _ in posts]
        if params["by"] != "post" or row == WHOLE:
            both = [f for f in funnels if f.impressions is not None and f.clicks is not None]
            funnels = both or funnels
        names = names_of(study.brand, "post", [f.key for f in funnels])
        return [
            Part(key=f.key, name=names.get(f.key) or f"post {f.key}", value=value / SCALE.get(column, 1))
            for f in funnels
            if (value := getattr(f, column))
        ]


def _cells(key: str, name: str, now: Funnel, before: Funnel | None) -> list[Cell]:
    cells = []
    for column in COUNTS:
        cells.append(
            Cell(key=cell_key(key, column), name=f"{name}, {NAMES[column]}",
                 unit=Unit.NUMBER if column in SCALE else Unit.COUNT, row=name, column=NAMES[column],
                 now=_count(now, column), before=None if before is None else _count(before, column))
        )  # fmt: skip
    for column in RATES:
        cells.append(
            Cell(key=cell_key(key, column), name=f"{name}, {NAMES[column]}", unit=Unit.RATE, row=name,
                 column=NAMES[column], now=_rate(getattr(now, column)),
                 before=None if before is None else _rate(getattr(before, column)))
        )  # fmt: skip
    return cells


def _count(funnel: Funnel, column: str) -> Figure:
    value: int | None = getattr(funnel, column)
    return Figure(value=None if value is None else value / SCALE.get(column, 1), n=value or 0)


def _rate(rate: Rate) -> Figure:
    return Figure(
        value=rate.value,
        n=rate.whole,
        numerator=float(rate.part),
        denominator=float(rate.whole),
        interval=rate.interval,
    )
