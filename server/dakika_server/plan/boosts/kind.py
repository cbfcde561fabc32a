"""plan.boosts: what was paid for single posts, and what it brought."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure, Interval

from dakika_server.figures.kinds import (
    Basis,
    Behind,
    Cell,
    FigureKind,
    FigureSet,
    NoParameters,
    cell_key,
    cell_of,
    cell_parts,
)
from dakika_server.figures.study import Study
from dakika_server.plan.boosts.listing import boosts_of, told

MOST_BOOSTS, LONGEST_NAME = 200, 60
# Money is kept in hundredths.
CENTS = 100.0
# What of what is one of them, and times how many.
RATES = {"per_thousand": ("impressions", 1000), "per_click": ("clicks", 1), "per_conversion": ("conversions", 1)}
COLUMNS = {
    "spent": ("Spent", Unit.MONEY, "What its network has taken for the boost, in the boost's own currency."),
    "impressions": ("Impressions paid for", Unit.COUNT, "How often it was shown for money, as its network tells."),
    "clicks": ("Clicks", Unit.COUNT, "People's clicks on the boost's own tracked link."),
    "conversions": ("Conversions", Unit.COUNT, "Goals reached on visits by that link."),
    "per_thousand": ("Per 1,000 shown", Unit.MONEY, "What a thousand impressions cost."),
    "per_click": ("Per click", Unit.MONEY, "What a click cost, with the interval of chance in their number (Poisson)."),
    "per_conversion": ("Per conversion", Unit.MONEY, "What a conversion cost, with the interval of chance likewise."),
}  # fmt: skip


class Boosts(FigureKind):
    """Every boost of the brand, the newest first."""

    key, name, params = "plan.boosts", "Boosts", NoParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row a boost."""
        del params
        found = boosts_of(study.brand).select_related("post").order_by("-made_at", "-pk")[:MOST_BOOSTS]
        rows = {str(row["boost"].pk): row for row in told(study.brand, list(found))}
        return FigureSet(
            title=f"{len(rows)} boost{'' if len(rows) == 1 else 's'}", made=rows,
            note="" if rows else "Nothing was boosted yet.",
            definitions=[(name, definition) for name, _, definition in COLUMNS.values()],
            cells=[
                Cell(key=cell_key(pk, column), name=f"{name}, {_name(row)}", row=f"{_name(row)} ({pk})", column=name,
                     unit=unit, now=_figure(row, column), more_is_better=column not in RATES and column != "spent")
                for pk, row in rows.items()
                for column, (name, unit, _) in COLUMNS.items()
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What one costs by what was spent and how many came; counts as they stand."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        pk, column = cell_parts(cell)
        row = made.made[pk]
        rule, parts = Rule.SUM, [Part(key=column, name="as its network tells", value=one.now.value or 0.0)]
        if column in RATES and one.now.value is not None:
            of, times = RATES[column]
            rule, parts = Rule.RATIO, [
                Part(key="spent", name="spent" if times == 1 else f"spent, times {times:,}",
                     value=times * row["boost"].spent / CENTS),
                Part(key=of, name=of, value=float(_count(row, of) or 0)),
            ]  # fmt: skip
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=COLUMNS[column][2], figure=one.now, rule=rule,
            parts=parts,
            parts_name="number", what=f"in {row['boost'].currency}", days="As long as it ran",
            is_counted_here=column in ("clicks", "conversions"), interval_of="what came, by chance",
            behind=Behind(path=f"results/paid?boost={pk}", name="The boost"),
        )  # fmt: skip


def _name(row: dict[str, Any]) -> str:
    post = row["boost"].post
    words = " ".join(post.text.split()) if post else "a post that is gone"
    return words if len(words) <= LONGEST_NAME else f"{words[:LONGEST_NAME].rstrip()}…"


def _count(row: dict[str, Any], of: str) -> float | None:
    value: float | None = row["boost"].impressions if of == "impressions" else row[of]
    return value


def _figure(row: dict[str, Any], column: str) -> Figure:
    if column == "spent":
        return Figure(value=row["boost"].spent / CENTS, n=1)
    if column not in RATES:
        value = _count(row, column)
        return Figure(value=None if value is None else float(value), n=int(value or 0))
    value, interval = row[column], row.get(f"{column}_interval")
    of, _ = RATES[column]
    return Figure(
        value=None if value is None else value / CENTS, n=int(_count(row, of) or 0),
        interval=Interval(low=interval.low / CENTS, high=interval.high / CENTS) if interval else None,
    )  # fmt: skip
