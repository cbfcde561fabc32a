"""site.attribution: who brought the conversions, by every model."""

from collections import Counter
from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.site.attribution import Model, Path, weights_of
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, cell_key, cell_of, cell_parts
from dakika_server.figures.study import LARGEST_KEY, Study
from dakika_server.site.api.names import names_of
from dakika_server.site.attribution import Asked, credited, paths_of
from dakika_server.site.currencies import currency_of

SHOWN = 200
WAYS_SHOWN = 60
MODELS = {
    Model.LAST: ("last click", "The last visit before a conversion has all of it."),
    Model.LAST_NON_DIRECT: ("last that was not direct", "The last visit that was not typed in has all of it."),
    Model.FIRST: ("first click", "The first visit has all of it."),
    Model.LINEAR: ("linear", "Each visit has the same part."),
    Model.POSITION: ("by position", "The first and the last visit have 40 % each, those between the rest."),
    Model.DECAY: ("time decay", "The nearer to the conversion, the more: half as much for each week before it."),
    Model.SHAPLEY: ("Shapley values", "Each that took part has the same part, however often (Shapley 1953)."),
    Model.MARKOV: ("removal effect", "By how far conversions would fall if it led nowhere, in a chain of visits."),
}


class AttributionParameters(serializers.Serializer[Any]):
    """By what, and how conversions are looked at."""

    by = serializers.ChoiceField(choices=["channel", "campaign", "post"], default="channel")
    goal = serializers.IntegerField(required=False, min_value=0, max_value=LARGEST_KEY, default=0)
    window = serializers.IntegerField(required=False, min_value=1, max_value=365, default=30)
    stage = serializers.CharField(max_length=40, allow_blank=True, required=False, default="")
    of = serializers.ChoiceField(choices=["conversions", "value"], required=False, default="conversions")


def _asked(study: Study, params: dict[str, Any]) -> Asked:
    return Asked(
        brand=study.brand, period=study.period, by=params["by"], goal_id=params["goal"], window_days=params["window"],
        stage=params["stage"], currency=currency_of(study.brand),
    )  # fmt: skip


class Attribution(FigureKind):
    """Eight answers side by side."""

    key, name, params = "site.attribution", "Attribution", AttributionParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """What each model gives each channel, campaign or post."""
        rows, count, cents, _ = credited(_asked(study, params))
        is_value = params["of"] == "value"
        if is_value:
            rows.sort(key=lambda row: (-row.cents[Model.LINEAR.value], row.key))
        names = names_of(study.brand, params["by"], [row.key for row in rows])
        cells = [
            Cell(key=cell_key(row.key, model.value), name=f"{names.get(row.key) or row.key or 'none'}, {name}",
                 unit=Unit.MONEY if is_value else Unit.NUMBER, row=names.get(row.key) or row.key or "none", column=name,
                 now=Figure(value=row.cents[model.value] / 100 if is_value else row.counts[model.value], n=count))
            for row in rows[:SHOWN]
            for model, (name, _) in MODELS.items()
        ]  # fmt: skip
        whole = f"{cents / 100:,.2f} {currency_of(study.brand)}" if is_value else f"{count:,} conversions"
        return FigureSet(title=f"{whole}, by eight models", cells=cells, definitions=list(MODELS.values()))

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """The ways to conversions that it stands on, each with its part; of removal effects the share of all."""
        made = cell_of(self.compute(study, params), cell)
        key, column = cell_parts(cell)
        model = Model(column)
        paths = [path for path in paths_of(_asked(study, params)) if path.is_converted]
        is_value, value = params["of"] == "value", made.now.value or 0.0
        whole = sum(path.cents for path in paths) / 100 if is_value else float(len(paths))
        if model is Model.MARKOV:
            rule, what = Rule.PRODUCT, "factor"
            parts = [Part(key="share", name="its share of all removal effects", value=value / whole if whole else 0.0),
                     Part(key="whole", name="value of all" if is_value else "conversions", value=whole)]  # fmt: skip
        else:
            rule, what = Rule.SUM, "way"
            names = names_of(study.brand, params["by"], sorted({n for p in paths for n in p.touches}))
            parts = _ways(paths, model, key, names, is_value=is_value)
            if is_value and (apart := value - sum(part.value or 0.0 for part in parts)):
                parts.append(Part(key="rounding", name="cents that do not divide evenly", value=apart))
        money = f" In {currency_of(study.brand)}; other currencies are told apart." if is_value else ""
        return Basis(
            key=cell, name=made.name, unit=made.unit, definition=MODELS[model][1], figure=made.now, rule=rule,
            parts=parts, parts_name=what, is_counted_here=True, counted=f"{len(paths):,} conversions",
            note=f"Every model gives every conversion away exactly once.{money}",
            behind=Behind(path="site/attribution", name="The conversions behind it"),
        )  # fmt: skip


def _ways(paths: list[Path], model: Model, key: str, names: dict[str, str], *, is_value: bool) -> list[Part]:
    """Of each way (its visits in their order) the credit of one channel, the largest first."""
    credit: Counter[tuple[str, ...]] = Counter()
    for path in paths:
        touches = tuple(sorted(set(path.touches))) if model is Model.SHAPLEY else path.touches
        part = sum(w for name, w in zip(touches, weights_of(path, model), strict=True) if name == key)
        if worth := part * (path.cents / 100 if is_value else 1.0):
            credit[path.touches] += worth  # type: ignore[assignment]
    order = sorted(credit.items(), key=lambda row: (-row[1], row[0]))
    parts = [
        Part(
            key=" > ".join(way), name=" → ".join(names.get(name) or name or "none" for name in way), value=float(value)
        )
        for way, value in order[:WAYS_SHOWN]
    ]
    rest = sum(value for _, value in order[WAYS_SHOWN:])
    if rest:
        parts.append(Part(key="rest", name=f"{len(order) - WAYS_SHOWN:,} other ways", value=float(rest)))
    return parts
