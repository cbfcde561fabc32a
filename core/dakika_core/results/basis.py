"""How a figure was made, in words and numbers."""

from collections.abc import Mapping

from dakika_core.metrics.catalogue import AddsUp, Metric, Unit
from dakika_core.metrics.formula import write_tree
from dakika_core.values.figure import Figure


def write_number(value: float | None, unit: Unit = Unit.COUNT) -> str:
    """A number as the interface writes it: counts with separators, rates as percent."""
    if value is None:
        return "missing"
    if unit is Unit.CHANGE:
        return f"{value * 100:+.3g} %"
    if unit is Unit.RATE:
        return f"{value * 100:.3g} %"
    return f"{value:,.0f}" if abs(value) >= 100 or value == int(value) else f"{value:,.2f}"


def formula_of(metric: Metric, figure: Figure, sums: Mapping[str, float] | None = None) -> str:
    """The formula with the numbers put in; for what is only added up, what was added."""
    value = write_number(figure.value, metric.unit)
    if sums and metric.formula and metric.adds_up is not AddsUp.SUM:
        return f"{write_tree(metric.read.tree, lambda key: write_number(sums[key]))} = {value}"
    if metric.adds_up is AddsUp.RATIO_OF_SUMS:
        return f"{write_number(figure.numerator)} ÷ {write_number(figure.denominator)} = {value}"
    if metric.adds_up is AddsUp.CHANGE:
        return f"{write_number(figure.numerator)} ÷ {write_number(figure.denominator)} − 1 = {value}"
    words = {
        AddsUp.SUM: "sum", AddsUp.LAST: "last known", AddsUp.GEOMETRIC_MEAN: "geometric mean", AddsUp.MEDIAN: "median",
        AddsUp.LARGEST: "largest",
    }  # fmt: skip
    return f"{words[metric.adds_up]} over {figure.n:,} = {value}"
