"""competitors.gap: the difference in interactions a week, split over audience, pace and reaction."""

import math
from typing import Any

from dakika_core.competitors.gap import Lever, logarithmic_mean
from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.competitors.field import in_set
from dakika_server.competitors.gap import MIDDLE, NAMES, GapAgainst, gap_of, gap_words
from dakika_server.competitors.kinds.table import PUBLIC_ALONE
from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, cell_of
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import LARGEST_KEY, Study

DEFINITION = (
    "Interactions a week are the followers of the profile that a post was on, times posts a week, times interactions "
    "for each post and follower. What a factor makes of the difference is the logarithmic mean of both products times "
    "the log of the factor's ratio (logarithmic mean Divisia index): the parts add up to the whole."
)


class GapParameters(serializers.Serializer[Any]):
    """Of which set, against whom: the middle of the set, or a competitor by its key in the table."""

    set = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)
    against = serializers.RegexField(r"^(middle|c\d{1,18})$", default=MIDDLE, max_length=20)


class GapKind(FigureKind):
    """The gap and its levers."""

    key, name, params = "competitors.gap", "The gap", GapParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """Everybody's."""
        del values
        return None

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Theirs less ours, by factor."""
        found = gap_of(in_set(study, params.get("set")), params["against"])
        return FigureSet(
            title=gap_words(found), note=found.problem, made=found, cells=_cells(found),
            definitions=[("the gap", DEFINITION)],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """A factor's part as a product, or the whole as their sum."""
        made = self.compute(study, params)
        one, gap = cell_of(made, cell), made.made.gap
        if cell == "whole":
            rule, name = Rule.SUM, "factor"
            parts = [Part(key=lever.factor, name=NAMES[lever.factor], value=lever.part) for lever in gap.levers]
        else:
            lever: Lever = next(lever for lever in gap.levers if lever.factor == cell)
            rule, name = Rule.PRODUCT, "factor"
            parts = [
                Part(key="mean", name="logarithmic mean of theirs and ours",
                     value=logarithmic_mean(gap.theirs, gap.ours)),
                Part(key="log", name=f"log of {lever.theirs:,.6g} / {lever.ours:,.6g}",
                     value=math.log(lever.theirs / lever.ours)),
            ]  # fmt: skip
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=DEFINITION, figure=one.now, rule=rule, parts=parts,
            parts_name=name, what=study.age_words, note=PUBLIC_ALONE,
            interval_of="the posts as a sample" if one.now.interval else "",
            counted=f"{made.made.posts[0]:,} posts of ours", behind=Behind(path="results/posts", name="Our posts"),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row a factor: both sides, its part, and what it alone would have to become."""
        del params
        found: GapAgainst = made.made
        rows: list[Row] = []
        for lever in found.gap.levers if found.gap else ():
            held = lever.interval
            rows.append(
                [NAMES[lever.factor], lever.ours, lever.theirs, lever.part, held.low if held else None,
                 held.high if held else None, lever.needed, lever.field_low, lever.field_high, lever.best_quarter]
            )  # fmt: skip
        head = ["factor", "ours", found.name, "part, interactions a week", "low", "high", "needed by itself",
                "least in the field", "most in the field", "our best 13 weeks"]  # fmt: skip
        return Sheet(name="gap", head=head, rows=rows, definitions=made.definitions, about=about(study))


def _cells(found: GapAgainst) -> list[Cell]:
    gap = found.gap
    if gap is None:
        return []
    cells = [
        Cell(key=lever.factor, name=f"the part of {NAMES[lever.factor]}", unit=Unit.NUMBER,
             column=NAMES[lever.factor], now=Figure(value=lever.part, n=found.posts[0], interval=lever.interval))
        for lever in gap.levers
    ]  # fmt: skip
    difference = Figure(value=sum(lever.part for lever in gap.levers), n=found.posts[0])
    name = f"interactions a week of {found.name} less ours"
    whole = Cell(key="whole", name=name, unit=Unit.NUMBER, column="the whole", now=difference)
    return [*cells, whole]
