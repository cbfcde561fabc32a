"""Figures and their basis over HTTP."""

from dakika_core.metrics.catalogue import AddsUp, Over
from dakika_core.results.basis import formula_of
from dakika_core.values.figure import Figure
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView, read
from dakika_server.measures.models import FINAL, LATEST
from dakika_server.networks.definitions import network_name
from dakika_server.results import queries
from dakika_server.results.basis import figures_of
from dakika_server.results.catalogue import catalogue_of, chosen
from dakika_server.results.footing import age_words, newest_day
from dakika_server.results.related import related_to
from dakika_server.results.serializers.summary import (
    BasisQuerySerializer,
    BasisSerializer,
    FootingSerializer,
    SummaryQuerySerializer,
    SummarySerializer,
)
from dakika_server.results.study import StudySerializer, on_its_footing, study_of
from dakika_server.results.summary import summary_of
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.health import holes_in

_COUNTED = {"net_followers": "days", "gained_followers": "days", "lost_followers": "days", "posts": "posts",
            "posts_per_week": "posts", "tracked_clicks": "clicks", "visits": "visits", "conversions": "conversions",
            "visit_rate": "clicks", "conversion_rate": "visits"}  # fmt: skip


def _thing(things: str, count: int) -> str:
    return things.removesuffix("s") if count == 1 else things


def _missing(figure: Figure, things: str) -> str:
    """That something is missing, where no other words tell why."""
    if not figure.missing:
        return ""
    verb = "tells" if figure.missing == 1 else "tell"
    return f"{figure.missing:,} {_thing(things, figure.missing)} {verb} nothing of it."


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
            "age_why": study.footing.why if study.footing else "", "as_of": queries.freshest(study),
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


class BasisView(BrandView):
    """How one figure is made."""

    @extend_schema(operation_id="read_basis", parameters=[BasisQuerySerializer], responses=BasisSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The basis of a figure of the summary."""
        values = read(BasisQuerySerializer, request.query_params)
        study = study_of(self.brand, values, clock.now()).of_whole_days()
        metric = catalogue_of(self.brand.pk).get(values["metric"])
        if metric is None:
            raise field_errors({"metric": f"There is no metric {values['metric']}."})
        (found,) = summary_of(study, [metric])
        figure, before = figures_of(study, found)
        age = {LATEST: "their latest reading", FINAL: "their final count"}.get(study.age_hours, f"{study.age_hours} h")
        thing = _COUNTED.get(metric.key, "profiles" if metric.over is Over.PROFILE else "posts")
        is_of_posts = metric.over in (Over.RECEIVED, Over.PUBLISHED)
        has_both = metric.adds_up is AddsUp.RATIO_OF_SUMS and is_of_posts
        return Response(
            BasisSerializer(
                {
                    "key": metric.key, "name": metric.name, "unit": metric.unit, "over": metric.over,
                    "definition": metric.definition.replace("equal age", age), "note": metric.note,
                    "formula": formula_of(metric, figure, found.sums),
                    "formula_before": formula_of(metric, before, found.sums_before),
                    "counted": f"{figure.n:,} {_thing(thing, figure.n)}" + (" that have both" if has_both else ""),
                    "counted_before": "" if before.value is None else f"{before.n:,} {_thing(thing, before.n)}",
                    "what": metric.counted(study.age_words), "related": related_to(study, metric),
                    "missing": found.missing_note or _missing(figure, thing), "figure": figure, "period": study.period,
                    "compared": study.compared, "time_zone": self.brand.time_zone, "as_of": queries.freshest(study),
                    # Clicks and visits are counted here: no network's silence touches them.
                    "holes": "" if metric.over is Over.BROUGHT else holes_in(
                        self.brand, study.profiles, study.period.first, study.period.last, clock.now()
                    ),
                    "profiles": [f"{p.name} · {network_name(p.network)}" for p in study.profiles],
                }
            ).data
        )  # fmt: skip
