"""Findings over HTTP."""

from typing import Any

from django.db.models import Case, Q, Value, When
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.models import Brand
from dakika_server.brands.views import BrandView, read
from dakika_server.results.actions.findings import set_finding_state
from dakika_server.results.findings import find
from dakika_server.results.models import Finding
from dakika_server.results.serializers.findings import (
    FindingsSerializer,
    FindingStateSerializer,
    FoundSerializer,
)
from dakika_server.shared import clock
from dakika_server.sources.models import Post

MOST = 100


def _shown(brand: Brand) -> Any:
    found = list(
        Finding.objects.filter(Q(is_current=True) | Q(state=Finding.State.PINNED), brand=brand)
        .annotate(place=Case(When(state="pinned", then=Value(0)), When(state="new", then=Value(1)), default=Value(2)))
        .order_by("place", "-weight", "pk")[:MOST]
    )
    numbers = {pk for finding in found for pk in finding.posts}
    posts = {p.pk: p for p in Post.objects.filter(brand=brand, pk__in=numbers).select_related("profile")}
    newest = Finding.objects.filter(brand=brand).order_by("-found_at").values_list("found_at", flat=True).first()
    return FindingsSerializer({"found_at": newest, "findings": found}, context={"posts": posts}).data


class FindingsView(BrandView):
    """All findings."""

    @extend_schema(operation_id="list_findings", responses=FindingsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """As they were computed last."""
        return Response(_shown(self.brand))

    @extend_schema(operation_id="find_again", request=None, responses=FoundSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Compute them now."""
        return Response(FoundSerializer({"count": find(self.brand, clock.now())}).data)


class FindingStateView(BrandView):
    """One finding."""

    @extend_schema(operation_id="set_finding_state", request=FindingStateSerializer, responses={204: None})
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Pin it, dismiss it, or take that back."""
        set_finding_state(request.user, self.brand, pk, **read(FindingStateSerializer, request.data))
        return Response(status=204)
