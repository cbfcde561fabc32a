"""Comparing groups over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import study_of
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.groups import compare
from dakika_server.results.serializers.groups import GroupsQuerySerializer, GroupsSerializer
from dakika_server.results.tables import of_posts
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.parsers import read


class GroupsView(BrandView):
    """Groups against one another."""

    @extend_schema(operation_id="compare_groups", parameters=[GroupsQuerySerializer], responses=GroupsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """How much better, how sure, raw and adjusted."""
        values = read(GroupsQuerySerializer, request.query_params)
        metric = of_posts(catalogue_of(self.brand.pk), values["metric"]).get(values["metric"])
        if metric is None:
            raise field_errors({"metric": f"There is no metric {values['metric']} of single posts."})
        study = study_of(self.brand, values, clock.now())
        return Response(GroupsSerializer(compare(study, values["by"], metric)).data)
