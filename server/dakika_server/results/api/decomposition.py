"""What made the difference, over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import study_of
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.decomposition import decomposed
from dakika_server.results.serializers.decomposition import DecompositionQuerySerializer, DecompositionSerializer
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.parsers import read


class DecompositionView(BrandView):
    """A change taken apart."""

    @extend_schema(
        operation_id="read_decomposition", parameters=[DecompositionQuerySerializer], responses=DecompositionSerializer
    )
    def get(self, request: Request, brand: str) -> Response:
        """Posts, networks and formats by what each contributes to the change of a figure."""
        values = read(DecompositionQuerySerializer, request.query_params)
        metric = catalogue_of(self.brand.pk).get(values["metric"])
        if metric is None:
            raise field_errors({"metric": f"There is no metric {values['metric']}."})
        study = study_of(self.brand, values, clock.now()).of_whole_days()
        found = decomposed(study, metric)
        shown = {**vars(found), "period": study.period, "compared": study.compared}
        return Response(DecompositionSerializer(shown).data)
