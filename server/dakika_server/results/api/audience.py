"""The audience over HTTP."""

from typing import Any
from urllib.parse import urlencode

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.serializers import PeriodSerializer
from dakika_server.figures.study import StudySerializer, study_of
from dakika_server.printing.actions import ask
from dakika_server.printing.api import PrintedPageSerializer
from dakika_server.results.audience import audience_of
from dakika_server.shared import clock
from dakika_server.shared.parsers import read


class MakeUpSegmentSerializer(serializers.Serializer[Any]):
    """One part of an audience."""

    name = serializers.CharField()
    share = serializers.FloatField()
    change = serializers.FloatField(allow_null=True)
    others = serializers.FloatField(allow_null=True)


class MakeUpSerializer(serializers.Serializer[Any]):
    """One dimension."""

    key = serializers.CharField()
    segments = MakeUpSegmentSerializer(many=True)
    day = serializers.DateField()
    day_before = serializers.DateField(allow_null=True)
    profiles = serializers.IntegerField()
    followers = serializers.FloatField()
    others = serializers.IntegerField()


class AudienceSerializer(serializers.Serializer[Any]):
    """The make-up of an audience."""

    period = PeriodSerializer()
    profiles = serializers.IntegerField()
    dimensions = MakeUpSerializer(many=True)


class AudienceView(BrandView):
    """Who follows."""

    @extend_schema(operation_id="read_audience", parameters=[StudySerializer], responses=AudienceSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """By dimension, with the change over the period."""
        study = study_of(self.brand, read(StudySerializer, request.query_params), clock.now())
        values = {"period": study.period, "profiles": len(study.profiles), "dimensions": audience_of(study)}
        return Response(AudienceSerializer(values).data)


class AudiencePdfView(BrandView):
    """The audience on one page, for advertisers."""

    is_own_choice = True

    @extend_schema(
        operation_id="print_audience", request=None, parameters=[StudySerializer],
        responses={202: PrintedPageSerializer},
    )  # fmt: skip
    def post(self, request: Request, brand: str) -> Response:
        """Have the page made a PDF by the worker."""
        values = read(StudySerializer, request.query_params)
        study = study_of(self.brand, values, clock.now())
        # The days are named, so that the paper shows what was asked for even as midnight passes.
        asked = values | {"first": study.period.first, "last": study.period.last}
        person: Any = request.user
        path = f"/{self.brand.slug}/results/audience/sheet?{urlencode(asked)}"
        name = f"{self.brand.slug}-audience-{study.period.first}-{study.period.last}.pdf"
        return Response(PrintedPageSerializer(ask(person, self.brand, path, name)).data, status=202)
