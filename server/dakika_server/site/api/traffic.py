"""Traffic over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import StudySerializer, study_of
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.site.queries.traffic import traffic_of
from dakika_server.site.serializers.traffic import TrafficSerializer


class TrafficView(BrandView):
    """Traffic by day."""

    @extend_schema(operation_id="read_traffic", parameters=[StudySerializer], responses=TrafficSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Clicks, visits and conversions, and the days that stand out."""
        now = clock.now()
        study = study_of(self.brand, read(StudySerializer, request.query_params), now)
        found = traffic_of(study, now)
        spikes = [{"day": day, "z": z} for day, z in found.spikes]
        return Response(TrafficSerializer({**vars(found), "period": study.period, "spikes": spikes}).data)
