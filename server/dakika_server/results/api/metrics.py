"""The catalogue and a team's own metrics over HTTP."""

from typing import Any

from dakika_core.metrics.catalogue import MEASURES, POST_UNITS, SUBJECTS, WAY_NAMES, Metric, team_metric
from dakika_core.metrics.formula import FormulaError
from dakika_core.results.basis import formula_of
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.models import Brand
from dakika_server.brands.views import BrandView
from dakika_server.figures.study import study_of
from dakika_server.networks.definitions import all_networks
from dakika_server.results.actions.own_metrics import add_own_metric, change_own_metric, remove_own_metric
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.models import OwnMetric
from dakika_server.results.serializers.metrics import (
    CatalogueSerializer,
    MetricSerializer,
    OwnMetricInputSerializer,
    TriedFormulaSerializer,
    TryFormulaSerializer,
)
from dakika_server.results.spikes import OF_FOLLOWERS
from dakika_server.results.summary import summary_of
from dakika_server.shared import clock
from dakika_server.shared.parsers import read


def _shown(metric: Metric, own_id: int | None) -> dict[str, Any]:
    networks = all_networks().values()
    return {
        "key": metric.key, "name": metric.name, "definition": metric.definition, "note": metric.note,
        "unit": metric.unit, "over": metric.over, "adds_up": metric.adds_up, "formula": metric.formula,
        "is_of_posts": metric.is_of_posts, "is_team": metric.is_team, "more_is_better": metric.more_is_better,
        "id": own_id, "measure": metric.measure, "way": metric.way if metric.measure else "",
        "own_networks": [n.key for n in networks if metric.is_supplied_by(n.own_metrics)],
        # Gains and losses of followers are told to owners alone.
        "public_networks": [
            n.key for n in networks if metric.total.key not in OF_FOLLOWERS and metric.is_supplied_by(n.public_metrics)
        ],
    }  # fmt: skip


def _all(brand: Brand) -> list[dict[str, Any]]:
    ids = dict(OwnMetric.objects.filter(brand=brand).values_list("key", "pk"))
    return [_shown(metric, ids.get(metric.key)) for metric in catalogue_of(brand.pk).values()]


def _measures() -> list[dict[str, str]]:
    """The base measures under their headings, in the order in which a chooser offers them."""
    found = [{"key": m.key, "name": m.plural[0].upper() + m.plural[1:], "definition": f"{m.definition}.",
              "subject": m.subject} for m in MEASURES.values()]  # fmt: skip
    return sorted(found, key=lambda one: SUBJECTS.index(one["subject"]))


class MetricsView(BrandView):
    """The catalogue."""

    changes = "results.metrics"

    @extend_schema(operation_id="list_metrics", responses=CatalogueSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Every metric with its definition and who supplies it."""
        found = {
            "metrics": _all(self.brand), "names": sorted(POST_UNITS), "measures": _measures(),
            "ways": [{"key": way, "name": name} for way, name in WAY_NAMES.items()],
        }  # fmt: skip
        return Response(CatalogueSerializer(found).data)

    @extend_schema(operation_id="add_own_metric", request=OwnMetricInputSerializer, responses={201: MetricSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A metric of the team's own."""
        made = add_own_metric(request.user, self.brand, **read(OwnMetricInputSerializer, request.data))
        return Response(next(m for m in MetricSerializer(_all(self.brand), many=True).data if m["id"] == made.pk), 201)


class OwnMetricView(BrandView):
    """One metric of the team's own."""

    changes = "results.metrics"

    @extend_schema(operation_id="change_own_metric", request=OwnMetricInputSerializer, responses=MetricSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Another name, definition or formula."""
        change_own_metric(request.user, self.brand, pk, **read(OwnMetricInputSerializer, request.data))
        return Response(next(m for m in MetricSerializer(_all(self.brand), many=True).data if m["id"] == pk))

    @extend_schema(operation_id="remove_own_metric", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Away with it."""
        remove_own_metric(request.user, self.brand, pk)
        return Response(status=204)


class TryFormulaView(BrandView):
    """A formula while it is written."""

    @extend_schema(operation_id="try_formula", parameters=[TryFormulaSerializer], responses=TriedFormulaSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """What it gives on the period, or where it is wrong."""
        values = read(TryFormulaSerializer, request.query_params)
        nothing = {"unit": None, "now": None, "before": None, "written": "", "fault": None}
        try:
            metric = team_metric("tried", "Tried", "", values["formula"], more_is_better=True)
        except FormulaError as error:
            return Response(TriedFormulaSerializer({**nothing, "fault": error}).data)
        (found,) = summary_of(study_of(self.brand, values, clock.now()), [metric])
        made = {
            "unit": metric.unit, "now": found.now, "before": found.before, "fault": None,
            "written": formula_of(metric, found.now, found.sums),
        }  # fmt: skip
        return Response(TriedFormulaSerializer(made).data)
