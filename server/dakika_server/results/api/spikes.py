"""Days that stand out over HTTP."""

from typing import Any

from dakika_core.metrics.catalogue import Metric
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import study_of
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.serializers.spikes import (
    BehindQuerySerializer,
    BehindSerializer,
    SpikesQuerySerializer,
    SpikesSerializer,
)
from dakika_server.results.spikes import behind, can_stand_out, is_by_day, spikes_of
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.parsers import read


class SpikesView(BrandView):
    """Which days stand out."""

    @extend_schema(operation_id="list_spikes", parameters=[SpikesQuerySerializer], responses=SpikesSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Spikes and dips of the period."""
        values = read(SpikesQuerySerializer, request.query_params)
        metric = _metric(self.brand.pk, values)
        stands_out = can_stand_out(metric)
        found = spikes_of(study_of(self.brand, values, clock.now()), metric, clock.now()) if stands_out else []
        behind_it = "posts" if is_by_day(metric) else "links"
        return Response(SpikesSerializer({"is_by_day": stands_out, "behind": behind_it, "spikes": found}).data)


class BehindView(BrandView):
    """What is behind a day."""

    @extend_schema(operation_id="read_behind", parameters=[BehindQuerySerializer], responses=BehindSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The posts that make up its excess."""
        values = read(BehindQuerySerializer, request.query_params)
        metric = _metric(self.brand.pk, values)
        study = study_of(self.brand, values, clock.now())
        if not is_by_day(metric):
            raise field_errors({"metric": f"{metric.name} has no course by day."})
        if not study.period.first <= values["day"] <= study.period.last:
            raise field_errors({"day": "The day lies outside of the period."})
        return Response(BehindSerializer(behind(study, metric, values["day"], clock.now())).data)


def _metric(brand_id: int, values: dict[str, Any]) -> Metric:
    metric = catalogue_of(brand_id).get(values["metric"])
    if metric is None:
        raise field_errors({"metric": f"There is no metric {values['metric']}."})
    return metric
