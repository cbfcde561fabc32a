"""results.difference: what made the change of a figure, with nothing left over."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Metric
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, no_cell
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study
from dakika_server.networks.definitions import network_name
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.decomposition import Decomposition, decomposed
from dakika_server.results.kinds.words import defined
from dakika_server.shared.errors import field_errors

FACTORS = {"number": "the number of posts", "size": "what a post brought", "mix": "where the posts went",
           "older": "posts of earlier days", "weight": "the weight of networks and formats",
           "rate": "rates within networks and formats"}  # fmt: skip
CHANGE = (
    "The figure of the period less that of the comparison, both of whole days; what each part adds to it sums to it."
)


class DifferenceParameters(serializers.Serializer[Any]):
    """Which figure's change."""

    metric = serializers.CharField(default="interactions", max_length=60)


class Difference(FigureKind):
    """A change taken apart."""

    key, name, params = "results.difference", "What made the difference", DifferenceParameters
    is_of_whole_days = True

    def _made(self, study: Study, key: str) -> tuple[Metric, Decomposition]:
        metric = catalogue_of(study.brand.pk).get(key)
        if metric is None:
            raise field_errors({"metric": f"There is no metric {key}."})
        return metric, decomposed(study.of_whole_days(), metric)

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """The change, and what each factor and network adds to it."""
        metric, found = self._made(study, params["metric"])
        parts = [
            *[(f"factor.{f.key}", FACTORS[f.key], f.contribution) for f in found.factors],
            *[
                (f"network.{g.key}", network_name(g.key) if g.key else "no network", g.contribution)
                for g in found.networks
            ],
            *[(f"format.{g.key}", g.key.replace("_", " "), g.contribution) for g in found.formats],
        ]
        cells = [] if found.change is None else [("change", "change", found.change), *parts]
        return FigureSet(
            title=found.title, note=found.reason or found.note, made=(metric, found),
            definitions=[*defined([metric]), ("contribution", CHANGE)],
            cells=[
                Cell(key=key, name=f"{metric.name}: {name}", unit=metric.unit, row=name, column="contribution",
                     now=Figure(value=value, n=1), more_is_better=metric.more_is_better)
                for key, name, value in cells
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What adds up to the change, or to a part of it."""
        metric, found = self._made(study, params["metric"])
        if found.change is None:
            raise no_cell(cell)
        kind, _, key = cell.partition(".")
        groups = {"network": found.networks, "format": found.formats}.get(kind, [])
        group = next((g for g in groups if g.key == key), None)
        factor = next((f for f in found.factors if kind == "factor" and f.key == key), None)
        if cell == "change":
            value, what = found.change, found.what.removesuffix("s")
            parts = [Part(key=str(item.key), name=_name(item), value=item.contribution) for item in found.items]
            if found.rest:
                parts.append(Part(key="rest", name=f"{found.rest:,} others", value=found.rest_contribution))
        elif group is not None or factor is not None:
            value, what = (group or factor).contribution, "side"  # type: ignore[union-attr]
            others = found.factors if factor else groups
            parts = [Part(key="change", name="the whole change", value=found.change)]
            parts += [
                Part(key=o.key, name=f"less {_told(o.key, kind)}", value=-o.contribution)
                for o in others
                if o.key != key
            ]
        else:
            raise no_cell(cell)
        return Basis(
            key=cell, name=_named(metric, study.age_words, "" if cell == "change" else _told(key, kind)),
            unit=metric.unit,
            definition=CHANGE, note=metric.note, figure=Figure(value=value, n=len(parts)), rule=Rule.SUM, parts=parts,
            parts_name=what, missing=found.note,
            behind=Behind(path=f"results/difference?metric={metric.key}", name="The change taken apart"),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row for each factor, network, format and post."""
        del params
        _, found = made.made
        rows: list[Row] = [
            *[["factor", FACTORS[f.key], f.now, f.before, f.contribution] for f in found.factors],
            *[
                ["network", network_name(g.key) if g.key else "", g.now, g.before, g.contribution]
                for g in found.networks
            ],
            *[["format", g.key, g.now, g.before, g.contribution] for g in found.formats],
            *[[found.what.removesuffix("s"), _name(i), i.now, i.before, i.contribution] for i in found.items],
        ]
        if found.rest:
            rows.append([found.what.removesuffix("s"), f"{found.rest} others", None, None, found.rest_contribution])
        return Sheet(
            name="difference", head=["by", "part", "now", "before", "contribution"], rows=rows,
            definitions=made.definitions, about=about(study),
        )  # fmt: skip


def _named(metric: Metric, at: str, part: str) -> str:
    of = " ".join(filter(None, [metric.name.lower(), metric.counted(at)]))
    return f"Change of {of}" + (f", {part}" if part else "")


def _told(key: str, kind: str) -> str:
    if kind == "factor":
        return FACTORS[key]
    return (network_name(key) if key else "no network") if kind == "network" else key.replace("_", " ")


def _name(item: Any) -> str:
    if item.post is not None:
        return f"{item.post.published_at:%Y-%m-%d} {item.post.text[:80]}".strip()
    return item.name or (network_name(item.network) if item.network else "no network")
