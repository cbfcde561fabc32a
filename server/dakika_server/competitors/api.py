"""Competitors over HTTP."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView, read
from dakika_server.competitors.queries import standings_of
from dakika_server.figures.serializers import FigureSerializer, PeriodSerializer
from dakika_server.figures.study import StudySerializer, study_of
from dakika_server.shared import clock
from dakika_server.sources.health import holes_in


class StandingSerializer(serializers.Serializer[Any]):
    """One profile in the table."""

    profile_id = serializers.IntegerField()
    name = serializers.CharField()
    handle = serializers.CharField()
    group = serializers.CharField()
    network = serializers.CharField()
    is_own = serializers.BooleanField()
    followers = FigureSerializer()
    growth = FigureSerializer()
    posts_per_week = FigureSerializer()
    interactions_per_post = FigureSerializer()
    interactions_per_1000 = FigureSerializer()


class CompetitorsSerializer(serializers.Serializer[Any]):
    """All profiles over a period."""

    period = PeriodSerializer()
    age_hours = serializers.IntegerField()
    holes = serializers.CharField(allow_blank=True)
    profiles = StandingSerializer(many=True)


class CompetitorsView(BrandView):
    """Own and competitor profiles."""

    @extend_schema(operation_id="read_competitors", parameters=[StudySerializer], responses=CompetitorsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Audience, pace and reactions of every followed profile."""
        study = study_of(self.brand, read(StudySerializer, request.query_params), clock.now(), kind=None)
        rows = [
            {"profile_id": p.pk, "name": p.name, "handle": p.handle, "network": p.network, "is_own": p.kind == "own",
             "group": p.competitor.name if p.competitor else self.brand.name, **vars(standing)}
            for p, standing in standings_of(study)
            if p.is_followed
        ]  # fmt: skip
        followed = [profile for profile in study.profiles if profile.is_followed]
        holes = holes_in(self.brand, followed, study.period.first, study.period.last, clock.now())
        values = {"period": study.period, "age_hours": study.age_hours, "holes": holes, "profiles": rows}
        return Response(CompetitorsSerializer(values).data)
