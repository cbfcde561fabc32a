"""results.audience: who follows, by dimension."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, cell_key, cell_of, cell_parts
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study
from dakika_server.networks.definitions import network_name
from dakika_server.results.audience import Dimension, Segment, audience_of, shares_of

SHARE = "Share of the audience over the profiles that tell of it, weighted by followers."
COLUMNS = {
    "share": ("share", SHARE),
    "change": ("change", "The share now less the share before, of the profiles that were read at both days."),
    "others": ("share of competitors", "The same share over the competitors that tell of it."),
}


class Audience(FigureKind):
    """The make-up of the followers."""

    key, name = "results.audience", "Audience"

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Each part of each dimension: its share, its change, and that of competitors."""
        del params
        found = audience_of(study)
        return FigureSet(
            title="Who follows", made=found, definitions=[("share", SHARE)],
            cells=[cell for one in found for segment in one.segments for cell in _cells(one, segment)],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """The shares of the profiles and what each weighs."""
        made = cell_of(self.compute(study, params), cell)
        row, column = cell_parts(cell)
        dimension, _, segment = row.partition("/")
        told = shares_of(study, dimension, segment)
        if column == "change":
            rule, what = Rule.SUM, "side"
            parts = [
                Part(key="now", name="share now", value=told.of_same),
                Part(key="before", name="less the share before", value=-told.then),
            ]
        else:
            rule, what = Rule.MEAN, "profile"
            parts = [
                Part(key=str(p.pk), name=f"{p.name} on {network_name(p.network)}", value=share, weight=weight)
                for p, share, weight in (told.own if column == "share" else told.others)
            ]
        return Basis(
            key=cell, name=f"{segment}, {COLUMNS[column][0]}", unit=Unit.RATE, definition=COLUMNS[column][1],
            figure=made.now, before=made.before, rule=rule, parts=parts, parts_name=what,
            counted=f"{made.now.n} profile{'s' if made.now.n != 1 else ''}",
            behind=Behind(path="results/followers", name="Followers by day"),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row for each part of each dimension, with the days on which it was read."""
        del params
        found: list[Dimension] = made.made
        rows: list[Row] = [
            [
                d.key,
                s.name,
                s.share,
                s.change,
                s.others,
                d.day.isoformat(),
                d.day_before.isoformat() if d.day_before else "",
            ]
            for d in found
            for s in d.segments
        ]
        return Sheet(
            name="audience", rows=rows, about=about(study), definitions=made.definitions,
            head=["dimension", "segment", "share", "change", "share of competitors", "read", "read before"],
        )  # fmt: skip


def _cells(dimension: Dimension, segment: Segment) -> list[Cell]:
    row = f"{dimension.key}/{segment.name}"
    values = {"share": (segment.share, dimension.profiles), "change": (segment.change, dimension.profiles),
              "others": (segment.others, dimension.others)}  # fmt: skip
    return [
        Cell(key=cell_key(row, column), name=f"{segment.name}, {COLUMNS[column][0]}", unit=Unit.RATE, row=row,
             column=COLUMNS[column][0], now=Figure(value=value, n=n))
        for column, (value, n) in values.items()
        if value is not None
    ]  # fmt: skip
