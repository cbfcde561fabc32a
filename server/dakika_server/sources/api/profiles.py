"""Profiles, runs, health."""

from typing import Any

from django.db.models import Count
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.shared import clock
from dakika_server.shared.paging import PartSerializer, part_of
from dakika_server.shared.parsers import read
from dakika_server.sources.actions import disconnect_profile, start_collection, stop_following, take_picture_of
from dakika_server.sources.health import coverages_of, health_of, troubles_of
from dakika_server.sources.models import Post, PostReading, PresenceReading, Profile
from dakika_server.sources.queries import audience_of, comments_of, follower_days_of, profiles_of, runs_of
from dakika_server.sources.serializers.health import HealthSerializer
from dakika_server.sources.serializers.profiles import (
    CollectInputSerializer,
    CommentSerializer,
    EraseQuerySerializer,
    PictureInputSerializer,
    ProfileDetailSerializer,
    RunSerializer,
    SourcesSerializer,
)

SHOWN_COMMENTS, SHOWN_RUNS = 30, 20


class SourcesView(BrandView):
    """Profiles and runs."""

    @extend_schema(operation_id="read_sources", responses=SourcesSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Followed profiles and the latest runs."""
        values = {"profiles": profiles_of(self.brand.pk), "runs": runs_of(self.brand.pk)}
        return Response(SourcesSerializer(values).data)


class HealthView(BrandView):
    """Whether everything is here that should be."""

    @extend_schema(operation_id="read_health", responses=HealthSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Every profile with coverage and troubles."""
        return Response(HealthSerializer(health_of(self.brand, clock.now())).data)


class ProfileView(BrandView):
    """One profile."""

    changes = "sources.follow"

    def profile(self, pk: int) -> Profile:
        """The brand's profile, or 404."""
        found = profiles_of(self.brand.pk).filter(pk=pk).first()
        if found is None:
            raise Http404
        return found

    @extend_schema(operation_id="read_profile", responses=ProfileDetailSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """What is known of it: coverage, runs, followers by day, audience, comments."""
        profile = self.profile(pk)
        now = clock.now()
        coverage = coverages_of(self.brand, [profile], now, days=90)[profile.pk]
        presence = PresenceReading.objects.filter(profile=profile).order_by("-day").first()
        comments = comments_of(self.brand.pk, profile_id=profile.pk)
        readings = PostReading.objects.filter(post__profile=profile).aggregate(
            n=Count("pk"), posts=Count("post", distinct=True)
        )
        values = {
            "profile": profile, "coverage": coverage, "troubles": troubles_of(profile, coverage, now),
            "runs": runs_of(self.brand.pk, SHOWN_RUNS, profile.pk), "days": follower_days_of(profile.pk),
            "audience": _dimensions(profile.pk), "online": presence.hours_utc if presence else None, "zone": "UTC",
            "comments": comments[:SHOWN_COMMENTS], "comment_count": comments.count(),
            "posts_with_readings": readings["posts"], "reading_count": readings["n"],
        }  # fmt: skip
        return Response(ProfileDetailSerializer(values).data)

    @extend_schema(operation_id="stop_following", parameters=[EraseQuerySerializer], responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Disconnect an own profile, or stop following a competitor's; history stays unless ?erase=true."""
        erase = read(EraseQuerySerializer, request.query_params)["erase"]
        profile = self.profile(pk)
        act: Any = disconnect_profile if profile.kind == Profile.Kind.OWN else stop_following
        act(request.user, profile, has_history_erased=erase)
        return Response(status=204)


def _dimensions(profile_id: int) -> list[dict[str, Any]]:
    """The audience's make-up now and on the first day that is known, segments by size."""
    found = []
    for dimension, readings in audience_of(profile_id).items():
        first, last = readings[0], readings[-1]
        before = first.segments if first.pk != last.pk else {}
        segments = [
            {"name": name, "share": share, "before": before.get(name)}
            for name, share in sorted(last.segments.items(), key=lambda pair: -pair[1])
        ]
        found.append({"dimension": dimension, "first": first.day, "last": last.day, "segments": segments})
    return found


class CollectView(BrandView):
    """Collecting now."""

    changes = "sources.collect"

    @extend_schema(
        operation_id="start_collection", request=CollectInputSerializer, responses={202: RunSerializer(many=True)}
    )
    def post(self, request: Request, brand: str) -> Response:
        """Ask for runs of one profile or all."""
        values = read(CollectInputSerializer, request.data)
        runs = start_collection(request.user, self.brand, profile_id=values.get("profile_id"))
        return Response(RunSerializer(runs, many=True).data, status=202)


class PictureView(BrandView):
    """The brand's picture."""

    changes = "sources.connect"

    @extend_schema(operation_id="take_picture_of", request=PictureInputSerializer, responses={204: None})
    def put(self, request: Request, brand: str) -> Response:
        """Take that of one of its profiles, and follow it."""
        take_picture_of(request.user, self.brand, profile_id=read(PictureInputSerializer, request.data)["profile_id"])
        return Response(status=204)


class PostCommentsView(BrandView):
    """Comments under a post."""

    @extend_schema(operation_id="list_comments", parameters=[PartSerializer], responses=CommentSerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The newest first, 200 at a time."""
        if not Post.objects.filter(brand=self.brand, pk=pk).exists():
            raise Http404
        rows = comments_of(self.brand.pk, post_id=pk)
        found, headers = part_of(request, rows, ("-written_at", "-pk"), 200)
        return Response(CommentSerializer(found, many=True).data, headers=headers)
