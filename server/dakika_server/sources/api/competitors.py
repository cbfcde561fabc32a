"""Competitors put in order, over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.shared.parsers import read
from dakika_server.sources.actions import merge_competitors, move_profile, rename_competitor
from dakika_server.sources.serializers.connecting import (
    CompetitorMergeSerializer,
    CompetitorNameSerializer,
    CompetitorSerializer,
    ProfileMoveSerializer,
)


class CompetitorView(BrandView):
    """One competitor."""

    changes = "sources.follow"

    @extend_schema(operation_id="rename_competitor", request=CompetitorNameSerializer, responses=CompetitorSerializer)
    def patch(self, request: Request, brand: str, pk: int) -> Response:
        """Give it another name."""
        values = read(CompetitorNameSerializer, request.data)
        found = rename_competitor(request.user, self.brand, competitor_id=pk, name=values["name"])
        return Response(CompetitorSerializer(found).data)


class MergeView(BrandView):
    """Two competitors that are one."""

    changes = "sources.follow"

    @extend_schema(operation_id="merge_competitors", request=CompetitorMergeSerializer, responses=CompetitorSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """All its profiles become the other's."""
        values = read(CompetitorMergeSerializer, request.data)
        found = merge_competitors(request.user, self.brand, competitor_id=pk, into=values["into"])
        return Response(CompetitorSerializer(found).data)


class MoveProfileView(BrandView):
    """A profile that is another competitor's."""

    changes = "sources.follow"

    @extend_schema(operation_id="move_profile", request=ProfileMoveSerializer, responses=CompetitorSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Put it under another competitor, or a new one."""
        values = read(ProfileMoveSerializer, request.data)
        found = move_profile(
            request.user, self.brand, profile_id=pk, competitor_id=values.get("competitor"),
            name=values.get("name") or "",
        )  # fmt: skip
        return Response(CompetitorSerializer(found.competitor).data)
