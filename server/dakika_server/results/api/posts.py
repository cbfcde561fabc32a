"""Posts over HTTP: the table, its totals, rankings, one post."""

from typing import Any

from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import kind_asked, study_of
from dakika_server.measures.models import PostMeasure
from dakika_server.results import queries
from dakika_server.results.actions.posts import set_campaign
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.serializers.posts import (
    PostDetailSerializer,
    PostsPageSerializer,
    PostsQuerySerializer,
    TopPostsSerializer,
    TopQuerySerializer,
    TotalsQuerySerializer,
    TotalsSerializer,
)
from dakika_server.results.serializers.tags import PostEditSerializer
from dakika_server.results.tables import counted, of_posts, table_of, totals_of
from dakika_server.results.top import top_posts
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.parsers import read
from dakika_server.sources.models import Post
from dakika_server.sources.queries import readings_of
from dakika_server.sources.serializers.profiles import picture_address


class PostsView(BrandView):
    """The table of posts."""

    @extend_schema(operation_id="list_posts", parameters=[PostsQuerySerializer], responses=PostsPageSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """A part of the posts of the period, sorted."""
        values = read(PostsQuerySerializer, request.query_params)
        study = study_of(self.brand, values, clock.now(), kind=kind_asked(values))
        catalogue = catalogue_of(self.brand.pk)
        measures = table_of(study, values["text"])
        shown = of_posts(catalogue, values["columns"])
        posts, following = queries.page_of(
            queries.ordered(
                measures, values["sort"], catalogue, young_of=self.brand.pk if values["young"] == "among" else None
            ),
            values["sort"],
            values.get("cursor"),
            values["limit"],
            shown,
        )
        page = {
            "next": following, "posts": posts, "age_hours": study.age_hours,
            **counted(study, measures, values["text"]),
        }  # fmt: skip
        return Response(PostsPageSerializer(page).data)


class TotalsView(BrandView):
    """The totals of the table."""

    @extend_schema(operation_id="read_totals", parameters=[TotalsQuerySerializer], responses=TotalsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Each column by its own rule, over all posts and by group."""
        values = read(TotalsQuerySerializer, request.query_params)
        study = study_of(self.brand, values, clock.now(), kind=kind_asked(values))
        shown = of_posts(catalogue_of(self.brand.pk), values["columns"])
        whole, groups = totals_of(study, values["text"], shown, values.get("by"))
        return Response(TotalsSerializer({"whole": whole, "groups": groups}).data)


class TopView(BrandView):
    """The best and the worst posts."""

    @extend_schema(operation_id="list_top_posts", parameters=[TopQuerySerializer], responses=TopPostsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """A ranking that respects uncertainty."""
        values = read(TopQuerySerializer, request.query_params)
        study = study_of(self.brand, values, clock.now())
        metric = of_posts(catalogue_of(self.brand.pk), values["metric"]).get(values["metric"])
        if metric is None:
            raise field_errors({"metric": f"There is no metric {values['metric']} of single posts."})
        found = top_posts(study, metric, is_bottom=values["end"] == "bottom", limit=values["limit"])
        return Response(TopPostsSerializer(found).data)


class PostDetailView(BrandView):
    """A post's own page."""

    changes = "results.tag"

    @extend_schema(operation_id="edit_post", request=PostEditSerializer, responses={204: None})
    def patch(self, request: Request, brand: str, pk: int) -> Response:
        """Put it into a campaign or take it out."""
        set_campaign(request.user, self.brand, pk, **read(PostEditSerializer, request.data))
        return Response(status=204)

    @extend_schema(operation_id="read_post", responses=PostDetailSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The post, its readings, and how it stands to the typical at each age."""
        post = Post.objects.filter(brand=self.brand, pk=pk).select_related("profile", "campaign").first()
        if post is None:
            raise Http404
        measures = list(PostMeasure.objects.filter(post=post).order_by("age_hours"))
        # The ages in their order, then the final count, then the latest.
        ages = [m for m in measures if m.age_hours > 0] + [m for m in measures if m.age_hours <= 0]
        return Response(
            PostDetailSerializer(
                {
                    "id": post.pk, "text": post.text, "url": post.url, "published_at": post.published_at,
                    "has_time": post.has_time, "removed_at": post.removed_at, "format": post.format,
                    "hashtags": post.hashtags,
                    "network": post.profile.network, "profile": post.profile.name, "profile_id": post.profile_id,
                    "is_own": post.profile.kind == "own", "campaign": post.campaign.name if post.campaign else None,
                    "campaign_id": post.campaign_id,
                    "picture": picture_address(post.picture), "language": post.language, "is_boosted": post.is_boosted,
                    "tags": post.post_tags.filter(is_off=False).select_related("tag").order_by("tag__name"),
                    "hidden": queries.often_hidden([post.pk]).get(post.pk),
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
