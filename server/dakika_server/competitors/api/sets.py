"""Peer sets, and the person's own choices of them, over HTTP."""

from typing import Any

from django.db.models.functions import Lower
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_exempt
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.models import Brand
from dakika_server.brands.views import BrandView
from dakika_server.competitors.actions import (
    keep_set,
    leave_digest,
    mark_looked,
    read_digest,
    remove_set,
    stop_by_token,
)
from dakika_server.competitors.digest import digest_of
from dakika_server.competitors.field import set_of
from dakika_server.competitors.models import DigestReader
from dakika_server.competitors.serializers import (
    ChosenSetSerializer,
    DigestSerializer,
    PeerSetInputSerializer,
    PeerSetSerializer,
    PeerSetsSerializer,
)
from dakika_server.notices.stopping import answer_stop
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.sources.models import PeerSet


def _all_sets(brand: Brand, person: Any) -> dict[str, Any]:
    found = PeerSet.objects.filter(brand=brand).order_by(Lower("name")).prefetch_related("profiles")
    digests = DigestReader.objects.filter(brand=brand, person=person).values_list("peers_id", flat=True)
    return PeerSetsSerializer({"sets": found, "digests": [pk or 0 for pk in digests], "mail": person.email or ""}).data


class PeerSetsView(BrandView):
    """The brand's peer sets."""

    changes = "competitors.sets"

    @extend_schema(operation_id="list_peer_sets", responses=PeerSetsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """By name."""
        return Response(_all_sets(self.brand, request.user))

    @extend_schema(operation_id="make_peer_set", request=PeerSetInputSerializer, responses={201: PeerSetSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Make one."""
        values = read(PeerSetInputSerializer, request.data)
        kept = keep_set(request.user, self.brand, name=values["name"], profiles=values["profiles"])
        return Response(PeerSetSerializer(kept).data, status=201)


class PeerSetView(BrandView):
    """One peer set."""

    changes = "competitors.sets"

    @extend_schema(operation_id="change_peer_set", request=PeerSetInputSerializer, responses=PeerSetSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Its name and profiles anew."""
        values = read(PeerSetInputSerializer, request.data)
        kept = keep_set(request.user, self.brand, name=values["name"], profiles=values["profiles"], set_id=pk,
                        edition=values.get("edition"))  # fmt: skip
        return Response(PeerSetSerializer(kept).data)

    @extend_schema(operation_id="remove_peer_set", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Remove it; what was collected stays."""
        remove_set(request.user, self.brand, set_id=pk)
        return Response(status=204)


class DigestView(BrandView):
    """The person's weekly digest of a set."""

    is_own_choice = True

    @extend_schema(operation_id="preview_digest", parameters=[ChosenSetSerializer], responses=DigestSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """What it would say of the seven days up to yesterday, were it written now."""
        values = read(ChosenSetSerializer, request.query_params)
        subject, text = digest_of(self.brand, set_of(self.brand, values.get("set")), clock.now())
        return Response(DigestSerializer({"subject": subject, "text": text}).data)

    @extend_schema(operation_id="read_digest_weekly", request=ChosenSetSerializer, responses={204: None})
    def put(self, request: Request, brand: str) -> Response:
        """Send it to me every Monday."""
        values = read(ChosenSetSerializer, request.data)
        read_digest(request.user, self.brand, set_of(self.brand, values.get("set")))
        return Response(status=204)

    @extend_schema(operation_id="leave_digest", parameters=[ChosenSetSerializer], responses={204: None})
    def delete(self, request: Request, brand: str) -> Response:
        """Send it no longer."""
        values = read(ChosenSetSerializer, request.query_params)
        leave_digest(request.user, self.brand, set_of(self.brand, values.get("set")))
        return Response(status=204)


class LookedView(BrandView):
    """What the person has seen of the others' posts."""

    is_own_choice = True

    @extend_schema(operation_id="mark_posts_looked", request=ChosenSetSerializer, responses={204: None})
    def post(self, request: Request, brand: str) -> Response:
        """All up to now."""
        values = read(ChosenSetSerializer, request.data)
        mark_looked(request.user, self.brand, set_of(self.brand, values.get("set")))
        return Response(status=204)


@csrf_exempt
def stop_digest(request: HttpRequest, token: str) -> HttpResponse:
    """End a digest from within its letter, without signing in."""
    return answer_stop(request, "digest", lambda: stop_by_token(token))
