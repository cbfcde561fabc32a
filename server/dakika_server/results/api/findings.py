"""Findings over HTTP."""

from typing import Any

from django.db.models import Case, Q, Value, When
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.models import Brand
from dakika_server.brands.views import BrandView
from dakika_server.results.actions.findings import is_looking, look_again, set_finding_state
from dakika_server.results.models import Finding
from dakika_server.results.queries import often_hidden
from dakika_server.results.serializers.findings import (
    FindingsSerializer,
    FindingStateSerializer,
)
from dakika_server.shared.parsers import read
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
    values = {"found_at": newest, "is_looking": is_looking(brand), "findings": found}
    return FindingsSerializer(values, context={"posts": posts, "hidden": often_hidden(posts)}).data


class FindingsView(BrandView):
    """All findings."""

    changes = "results.findings"

    @extend_schema(operation_id="list_findings", responses=FindingsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """As they were computed last."""
        return Response(_shown(self.brand))

    @extend_schema(operation_id="find_again", request=None, responses={202: FindingsSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Have them computed now, by the worker; asking twice is asking once."""
        look_again(request.user, self.brand)
        return Response(_shown(self.brand), status=202)


class FindingStateView(BrandView):
    """One finding."""

    changes = "results.findings"

    @extend_schema(operation_id="set_finding_state", request=FindingStateSerializer, responses={204: None})
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Pin it, dismiss it, or take that back."""
        set_finding_state(request.user, self.brand, pk, **read(FindingStateSerializer, request.data))
        return Response(status=204)
