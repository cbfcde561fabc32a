"""Results over HTTP."""

from datetime import timedelta
from typing import Any

from dakika_core.metrics.catalogue import CATALOGUE, AddsUp
from dakika_core.results.basis import formula_of
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.queries import campaigns_of
from dakika_server.brands.views import BrandView, read
from dakika_server.networks.definitions import network_name
from dakika_server.results import queries
from dakika_server.results.models import PostMeasure
from dakika_server.results.queries import too_young
from dakika_server.results.serializers import (
    BasisQuerySerializer,
    BasisSerializer,
    LineSerializer,
    PostDetailSerializer,
    PostsPageSerializer,
    PostsQuerySerializer,
    SummarySerializer,
)
from dakika_server.results.study import StudySerializer, study_of
from dakika_server.results.summary import summary_of
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.health import holes_in
from dakika_server.sources.models import Post
from dakika_server.sources.queries import data_as_of, readings_of

LINE_DAYS = 190


class SummaryView(BrandView):
    """The strip of figures and the main chart."""

    @extend_schema(operation_id="read_summary", parameters=[StudySerializer], responses=SummarySerializer)
    def get(self, request: Request, brand: str) -> Response:
        """All figures of the study."""
        study = study_of(self.brand, read(StudySerializer, request.query_params), clock.now())
        values = {
            "period": study.period, "compared": study.compared, "age_hours": study.age_hours,
            "as_of": queries.freshest(study), "metrics": summary_of(study),
        }  # fmt: skip
        return Response(SummarySerializer(values).data)


class BasisView(BrandView):
    """How one figure is made."""

    @extend_schema(operation_id="read_basis", parameters=[BasisQuerySerializer], responses=BasisSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The basis of a figure of the summary."""
        values = read(BasisQuerySerializer, request.query_params)
        study = study_of(self.brand, values, clock.now())
        found = next((m for m in summary_of(study) if m.metric.key == values["metric"]), None)
        if found is None:
            raise field_errors({"metric": f"There is no metric {values['metric']}."})
        metric = CATALOGUE[found.metric.key]
        thing = {"followers": "profiles", "net_followers": "days"}.get(metric.key, "posts")
        definition = metric.definition
        if metric.key == "er_followers":
            definition = definition.replace(
                "equal age", f"{study.age_hours} h" if study.age_hours else "their latest reading"
            )
        return Response(
            BasisSerializer(
                {
                    "key": metric.key, "name": metric.name, "definition": definition, "note": metric.note,
                    "formula": formula_of(metric, found.now), "formula_before": formula_of(metric, found.before),
                    "counted": f"{found.now.n:,} {thing}"
                    + (" that have both" if metric.adds_up is AddsUp.RATIO_OF_SUMS else ""),
                    "missing": found.missing_note, "figure": found.now, "period": study.period,
                    "compared": study.compared, "time_zone": self.brand.time_zone, "as_of": queries.freshest(study),
                    "holes": holes_in(
                        self.brand, study.profiles, study.period.first, study.period.last, clock.now()
                    ),
                    "profiles": [f"{p.name} · {network_name(p.network)}" for p in study.profiles],
                }
            ).data
        )  # fmt: skip


class PostsView(BrandView):
    """The table of posts."""

    @extend_schema(operation_id="list_posts", parameters=[PostsQuerySerializer], responses=PostsPageSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """A part of the posts of the period, sorted."""
        values = read(PostsQuerySerializer, request.query_params)
        study = study_of(self.brand, values, clock.now())
        posts = queries.posts_table(study, sort=values["sort"], text=values["text"])
        offset = values["offset"]
        page = {
            "total": posts.count(), "offset": offset, "posts": posts[offset : offset + values["limit"]],
            "too_young": too_young(posts),
        }  # fmt: skip
        return Response(PostsPageSerializer(page).data)


class PostDetailView(BrandView):
    """A post's own page."""

    @extend_schema(operation_id="read_post", responses=PostDetailSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The post, its readings, and how it stands to the typical at each age."""
        post = Post.objects.filter(brand=self.brand, pk=pk).select_related("profile", "campaign").first()
        if post is None:
            raise Http404
        measures = list(PostMeasure.objects.filter(post=post).order_by("age_hours"))
        ages = [m for m in measures if m.age_hours] + [m for m in measures if not m.age_hours]
        return Response(
            PostDetailSerializer(
                {
                    "id": post.pk, "text": post.text, "url": post.url, "published_at": post.published_at,
                    "removed_at": post.removed_at, "format": post.format, "hashtags": post.hashtags,
                    "network": post.profile.network, "profile": post.profile.name, "profile_id": post.profile_id,
                    "is_own": post.profile.kind == "own", "campaign": post.campaign.name if post.campaign else None,
                    "followers": measures[0].followers if measures else None, "ages": ages,
                    "readings": [_reading(post, r) for r in readings_of(post.pk)],
                }
            ).data
        )  # fmt: skip


def _reading(post: Post, reading: Any) -> dict[str, Any]:
    parts = [reading.reactions, reading.comments, reading.shares, reading.saves]
    known = [p for p in parts if p is not None]
    return {
        "taken_at": reading.taken_at, "age_hours": (reading.taken_at - post.published_at).total_seconds() / 3600,
        "impressions": reading.impressions, "reach": reading.reach, "link_clicks": reading.link_clicks,
        "interactions": sum(known) if known else None,
    }  # fmt: skip


class LineView(BrandView):
    """The minute line."""

    @extend_schema(operation_id="read_line", responses=LineSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Own posts of the last half-year as ticks, campaigns as bands, days without data."""
        now = clock.now()
        since = now - timedelta(days=LINE_DAYS)
        ticks = [
            {"id": pk, "at": at, "network": network, "text": text[:80],
             "height": max(0.0, (aged if aged is not None else latest) or 0.0) ** 0.5}
            for pk, at, network, _, aged, latest, text in queries.line_posts(self.brand.pk, since)
        ]  # fmt: skip
        today = now.astimezone(self.brand.zone).date()
        values = {
            "posts": ticks, "campaigns": campaigns_of(self.brand.pk), "as_of": data_as_of(self.brand.pk),
            "holes": queries.holes(self.brand.pk, since.date(), today - timedelta(days=1)),
        }  # fmt: skip
        return Response(LineSerializer(values).data)
