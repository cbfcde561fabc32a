"""competitors.band: the set's spread over time with us in it, our percentile, and what is usual for our audience."""

from typing import Any

from dakika_core.competitors.band import SizeLine
from dakika_core.competitors.field import PUBLIC
from dakika_core.competitors.ranks import percentile_interval
from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.competitors.benchmark import RATE, Benchmark, benchmark_of, sizes_words
from dakika_server.competitors.field import SetSerializer, in_set
from dakika_server.competitors.kinds.table import PUBLIC_ALONE
from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, Series, cell_of
from dakika_server.figures.study import Study

QUARTILES = ("least", "a quarter below", "the middle", "a quarter above", "most")
PERCENTILE = (
    "How many in a hundred of the others stand below us by this metric, equals by half. The interval counts nobody as "
    "surely above or below who may not be."
)
ABOVE = (
    "Our interactions for 1,000 followers, divided by what a line through the others (both on the log scale) says is "
    "usual for an audience of our size. We are not part of the line."
)


class BandParameters(SetSerializer):
    """Which metric of which set."""

    metric = serializers.ChoiceField(choices=list(PUBLIC), default="interactions_per_1000")


class Band(FigureKind):
    """The benchmark of a metric."""

    key, name, params = "competitors.band", "The benchmark", BandParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """Everybody's."""
        del values
        return None

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Our percentile, how far we stand from the usual of our size, and the band over time."""
        study = in_set(study, params.get("set"))
        found = benchmark_of(study, PUBLIC[params["metric"]], params["by"])
        places = [first.isoformat() for first in found.bins.firsts]
        unit = found.metric.unit
        return FigureSet(
            title=found.title, note=sizes_words(found), made=found, cells=_cells(found),
            definitions=[(found.metric.name, found.metric.definition), ("percentile", PERCENTILE),
                         ("above the usual of our size", ABOVE)],
            series=[
                Series(key="ours", name="ours", unit=unit, places=places, values=[f.value for f in found.ours]),
                *(
                    Series(key=f"q{i}", name=name, unit=unit, places=places,
                           values=[None if v != v else float(v) for v in found.band[i]])
                    for i, name in enumerate(QUARTILES)
                ),
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What is divided by what."""
        made = self.compute(study, params)
        one, found = cell_of(made, cell), made.made
        if cell == "percentile":
            place = found.place
            others = place.of - 1
            parts = [
                Part(key="below", name="a hundred times those below, equals by half",
                     value=round(place.percentile * others / 100, 6) * 100),
                Part(key="others", name="all others with a value", value=others),
            ]  # fmt: skip
            definition, what = PERCENTILE, ""
        else:
            line, size = found.sizes[0]
            rate = line.now[RATE.key].value
            parts = [Part(key="ours", name="ours", value=rate),
                     Part(key="usual", name="usual for our audience", value=size.expected)]  # fmt: skip
            definition, what = ABOVE, study.age_words
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=definition, figure=one.now, rule=Rule.RATIO,
            parts=parts, parts_name="side", what=what, note=PUBLIC_ALONE,
            interval_of="single profiles around the line" if cell == "above" else "the posts as a sample",
            behind=Behind(path="competitors", name="Everybody side by side"),
        )  # fmt: skip


def _cells(found: Benchmark) -> list[Cell]:
    cells = []
    place, size = found.place, found.size
    if place is not None and place.percentile is not None:
        figure = Figure(value=place.percentile, n=place.of - 1, interval=percentile_interval(place))
        cells.append(Cell(key="percentile", name=f"{found.metric.name}, our percentile", unit=Unit.NUMBER, now=figure,
                          column="percentile"))  # fmt: skip
    if isinstance(size, SizeLine) and size.above is not None:
        figure = Figure(value=size.above, n=size.peers, interval=size.above_interval)
        cells.append(Cell(key="above", name="above the usual of our size", unit=Unit.INDEX, now=figure,
                          column="above the usual of our size"))  # fmt: skip
    return cells
