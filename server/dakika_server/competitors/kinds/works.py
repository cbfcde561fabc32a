"""competitors.works: what does better than usual with the others, and our own use of it."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.competitors.field import in_set
from dakika_server.competitors.kinds.table import PUBLIC_ALONE
from dakika_server.competitors.works import GROUPINGS, Work, Works, works_of
from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, cell_key, cell_of, cell_parts
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import LARGEST_KEY, Study

DEFINITION = (
    "What its posts get against each profile's own typical, divided by the same of that profile's other posts: "
    "geometric means, 95 % interval."
)
HELD = "The same with profile and format held."


class WorksParameters(serializers.Serializer[Any]):
    """Of which set, by what."""

    set = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)
    by = serializers.ChoiceField(choices=GROUPINGS, default="format")


class FieldWorks(FigureKind):
    """Groups of the others' posts."""

    key, name, params = "competitors.works", "What works in the field", WorksParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """Everybody's."""
        del values
        return None

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Of each group its ratio to the others' other posts, raw and with all else held."""
        found = works_of(in_set(study, params.get("set")), params["by"])
        return FigureSet(
            title=f"What works in the field, by {params['by']}", made=found,
            note="" if found.groups else "The others published nothing here that can be sorted so.",
            cells=[cell for work in found.groups for cell in _cells(work)],
            definitions=[("ratio to their other posts", DEFINITION), ("all else the same", HELD)],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """One side divided by the other, or what holding all else makes of it."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        key, column = cell_parts(cell)
        result = next(work for work in made.made.groups if work.key == key).result
        if column == "ratio":
            rule, definition = Rule.RATIO, DEFINITION
            others = result.index / result.raw.value
            parts = [
                Part(key="inside", name="its posts", value=result.index),
                Part(key="outside", name="all their other posts", value=others),
            ]
        else:
            rule, definition, raw = Rule.PRODUCT, HELD, result.raw.value if result.raw else 1.0
            parts = [Part(key="raw", name="the raw ratio", value=raw),
                     Part(key="held", name="what holding profile and format makes of it",
                          value=result.adjusted.value / raw)]  # fmt: skip
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=definition, figure=one.now, rule=rule, parts=parts,
            parts_name="side" if rule is Rule.RATIO else "factor", what=study.age_words,
            interval_of="the posts as a sample", note=PUBLIC_ALONE, counted=f"{result.n:,} posts",
            missing=f"{made.made.left_out:,} posts have no index." if made.made.left_out else "",
            behind=Behind(path="competitors/posts", name="Their posts"),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row a group, with our own use."""
        del params
        found: Works = made.made
        rows: list[Row] = []
        for work in found.groups:
            r = work.result
            row: Row = [r.name, r.n, r.index]
            for ratio in (r.raw, r.adjusted):
                row += [ratio.value, ratio.interval.low, ratio.interval.high] if ratio else [None, None, None]
            rows.append([*row, r.q, r.verdict, work.ours, work.our_index])
        head = ["group", "posts", "index", "ratio", "low", "high", "all else the same", "low", "high", "q", "verdict",
                "our posts", "our index"]  # fmt: skip
        return Sheet(name="works", head=head, rows=rows, definitions=made.definitions, about=about(study))


def _cells(work: Work) -> list[Cell]:
    r = work.result
    return [
        Cell(key=cell_key(work.key, column), name=f"{r.name}, {name}", unit=Unit.INDEX, row=r.name, column=name,
             now=Figure(value=ratio.value, n=r.n, interval=ratio.interval))
        for column, name, ratio in (("ratio", "ratio to their other posts", r.raw),
                                    ("held", "all else the same", r.adjusted))
        if ratio is not None and r.index
    ]  # fmt: skip
