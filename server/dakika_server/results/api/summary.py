"""Figures and their basis over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.footing import age_words, newest_day
from dakika_server.figures.study import StudySerializer, on_its_footing, study_of
from dakika_server.measures.models import LATEST
from dakika_server.measures.queries import freshest
from dakika_server.results.catalogue import catalogue_of, chosen
from dakika_server.results.serializers.summary import (
    FootingSerializer,
    SummaryQuerySerializer,
    SummarySerializer,
)
from dakika_server.results.summary import summary_of
from dakika_server.shared import clock
from dakika_server.shared.parsers import read


class SummaryView(BrandView):
    """The strip of figures and the main chart."""

    @extend_schema(operation_id="read_summary", parameters=[SummaryQuerySerializer], responses=SummarySerializer)
    def get(self, request: Request, brand: str) -> Response:
        """All figures of the study."""
        values = read(SummaryQuerySerializer, request.query_params)
        study = study_of(self.brand, values, clock.now())
        metrics = chosen(catalogue_of(self.brand.pk), values["metrics"])
        found = {
            "period": study.period, "compared": study.compared, "age_hours": study.age_hours,
            "whole_days": study.whole_days,
            "age_why": study.footing.why if study.footing else "", "as_of": freshest(study.profile_ids),
            "metrics": summary_of(study, metrics),
        }  # fmt: skip
        return Response(SummarySerializer(found, context={"at": study.age_words}).data)


class FootingView(BrandView):
    """What a study can stand on."""

    @extend_schema(operation_id="read_footing", parameters=[StudySerializer], responses=FootingSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The age that its posts allow and why, how many posts have which, and where the newest ones are."""
        study = on_its_footing(
            study_of(self.brand, {**read(StudySerializer, request.query_params), "age": LATEST}, clock.now()),
            clock.now(),
        )
        found = study.footing
        assert found is not None
        values = {
            "age_hours": found.age_hours, "age_words": age_words(found.age_hours), "why": found.why,
            "posts": found.posts, "newest_day": newest_day(study.profile_ids, study.period),
            "known": [{"age_hours": age, "posts": known} for age, known in found.known.items()],
        }  # fmt: skip
        return Response(FootingSerializer(values).data)
