"""How a figure was made, in words and numbers."""

from dakika_core.metrics.catalogue import AddsUp, Metric, Unit
from dakika_core.values.figure import Figure


def write_number(value: float | None, unit: Unit = Unit.COUNT) -> str:
    """A number as the interface writes it: counts with separators, rates as percent."""
    if value is None:
        return "missing"
    if unit is Unit.RATE:
        return f"{value * 100:.3g} %"
    return f"{value:,.0f}" if abs(value) >= 100 or value == int(value) else f"{value:,.2f}"


def formula_of(metric: Metric, figure: Figure) -> str:
    """The formula with the numbers put in; for what is only added up, what was added."""
    if metric.adds_up is AddsUp.RATIO_OF_SUMS:
        top, bottom = write_number(figure.numerator), write_number(figure.denominator)
        return f"{top} ÷ {bottom} = {write_number(figure.value, metric.unit)}"
    what = {AddsUp.SUM: "sum", AddsUp.LAST: "last known", AddsUp.MEDIAN: "median"}[metric.adds_up]
    return f"{what} over {figure.n:,} = {write_number(figure.value, metric.unit)}"
