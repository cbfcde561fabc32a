"""results.groups: groups of posts against the posts outside of them."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Metric, Unit
from dakika_core.results.groups import Ratio
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, cell_key, cell_parts, no_cell
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study
from dakika_server.figures.words import listed
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.groups import GROUPINGS, Comparison, Group, compare
from dakika_server.results.kinds.words import counted_words, defined
from dakika_server.results.tables import of_posts
from dakika_server.shared.errors import field_errors

TYPICAL = "The geometric mean of its posts, as on a profile of average level."
RATIO = "The group's geometric mean divided by that of all other posts; 95 % interval."
# By what each is called in the table.
COLUMNS = {"typical": "typical post", "ratio": "ratio to the others", "held": "ratio, all else the same"}


class GroupsParameters(serializers.Serializer[Any]):
    """Which groups, by which metric."""

    by = serializers.ChoiceField(choices=GROUPINGS, default="format")
    metric = serializers.CharField(default="index", max_length=60)


class Groups(FigureKind):
    """How many times the others, and how sure."""

    key, name, params = "results.groups", "Groups of posts", GroupsParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Of each group what is typical, its ratio to the others, and the same with profile and format held."""
        metric = _metric(study, params["metric"])
        found = compare(study, params["by"], metric)
        return FigureSet(
            title=f"{metric.name} by {params['by']}", made=found,
            cells=[cell for group in found.groups for cell in _cells(group, metric)],
            definitions=[
                *defined([metric]), ("ratio to the others", RATIO),
                ("q", "Chance of a false alarm after Benjamini and Hochberg over the groups shown."),
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What is divided by what, or multiplied with it."""
        metric = _metric(study, params["metric"])
        found = compare(study, params["by"], metric)
        key, column = cell_parts(cell)
        group = next((one for one in found.groups if one.key == key), None)
        made = next((c for c in _cells(group, metric) if c.key == cell), None) if group else None
        if group is None or made is None:
            raise no_cell(cell)
        rule, parts, definition = _parts(group, column, found)
        return Basis(
            key=cell, name=f"{group.result.name}, {COLUMNS[column]}", unit=made.unit, definition=definition,
            note=_note(metric, group, column, found), figure=made.now, rule=rule, parts=parts,
            parts_name="factor" if rule is Rule.PRODUCT else "side",
            what=study.age_words, counted=counted_words(made.now, "posts"),
            missing=f"{found.left_out:,} posts of the period have no value above 0." if found.left_out else "",
            interval_of="the posts as a sample", behind=Behind(path="results/posts", name="The posts behind it"),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row a group, with the intervals of both ratios and its verdict."""
        del params
        found: Comparison = made.made
        rows: list[Row] = []
        for group in found.groups:
            r = group.result
            ratios: Row = []
            for ratio in (r.raw, r.adjusted):
                ratios += [ratio.value, ratio.interval.low, ratio.interval.high] if ratio else [None, None, None]
            rows.append([r.name, r.n, r.index, group.typical, group.others, *ratios, r.q, r.verdict])
        return Sheet(
            name="groups", rows=rows, about=about(study), definitions=made.definitions,
            head=["group", "posts", "level", "typical post", "typical post of the others", "ratio to the others", "low",
                  "high", f"ratio with {listed(found.held)} held the same", "low of it", "high of it", "q", "verdict"],
        )  # fmt: skip


def _note(metric: Metric, group: Group, column: str, found: Comparison) -> str:
    """What a careful reader must know: one interval of several looked at together is no verdict."""
    q = group.result.q
    if column == "typical" or q is None:
        return metric.note
    return (
        f"One of {len(found.groups)} groups looked at together: the interval is of this one alone. The chance of a "
        f"false alarm among them is {q:.2g} (Benjamini and Hochberg); below .05 a group is called better or worse."
    )


def _metric(study: Study, key: str) -> Metric:
    metric = of_posts(catalogue_of(study.brand.pk), key).get(key)
    if metric is None:
        raise field_errors({"metric": f"There is no metric {key} of single posts."})
    return metric


def _cells(group: Group, metric: Metric) -> list[Cell]:
    r = group.result
    figures: dict[str, tuple[Unit, Figure]] = {"typical": (metric.unit, Figure(value=group.typical, n=r.n))}
    for column, ratio in (("ratio", r.raw), ("held", r.adjusted)):
        if ratio is not None:
            figures[column] = Unit.INDEX, _ratio(ratio, r.n)
    return [
        Cell(key=cell_key(group.key, column), name=f"{r.name}, {COLUMNS[column]}", unit=unit, now=figure, row=r.name,
             column=COLUMNS[column], more_is_better=metric.more_is_better)
        for column, (unit, figure) in figures.items()
    ]  # fmt: skip


def _ratio(ratio: Ratio, n: int) -> Figure:
    return Figure(value=ratio.value, n=n, interval=ratio.interval)


def _parts(group: Group, column: str, found: Comparison) -> tuple[Rule, list[Part], str]:
    r = group.result
    if column == "typical":
        if group.typical is None or not r.index:
            return Rule.PRODUCT, [], TYPICAL
        return Rule.PRODUCT, [
            Part(key="level", name="how its posts stand to the level of their profiles", value=r.index),
            Part(key="middle", name="the level of an average profile", value=group.typical / r.index),
        ], TYPICAL  # fmt: skip
    if column == "ratio":
        if group.typical is None or group.others is None:
            return Rule.RATIO, [], RATIO
        return Rule.RATIO, [
            Part(key="typical", name="a typical post of the group", value=group.typical),
            Part(key="others", name="a typical post of the others", value=group.others),
        ], RATIO  # fmt: skip
    held = listed(found.held)
    definition = (
        f"The ratio to the others with {held} held the same: a regression of the logs on the group and on them."
    )
    if r.raw is None or r.adjusted is None:
        return Rule.RATIO, [], definition
    return Rule.RATIO, [
        Part(key="raw", name="the ratio as it is", value=r.raw.value),
        Part(key="mix", name=f"what the group's {held} alone would make of it", value=r.raw.value / r.adjusted.value),
    ], definition  # fmt: skip
