"""Connecting one's own profiles, following others', hearing from networks."""

from urllib.parse import urlencode

from django.core.exceptions import PermissionDenied
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseRedirect
from django.views.decorators.csrf import csrf_exempt
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.brands.views import BrandView
from dakika_server.networks.definitions import network_api
from dakika_server.shared import clock
from dakika_server.shared.errors import Problem
from dakika_server.shared.parsers import read
from dakika_server.sources.actions import (
    add_competitor,
    choose_accounts,
    discover_site,
    finish_consent,
    follow_found,
    search_profiles,
    start_connection,
    take_hook,
)
from dakika_server.sources.actions.connecting import offered_to
from dakika_server.sources.models import Connection
from dakika_server.sources.queries import profiles_of, runs_of
from dakika_server.sources.serializers.connecting import (
    ChooseInputSerializer,
    CompetitorInputSerializer,
    ConnectInputSerializer,
    ConnectionSerializer,
    ConsentSerializer,
    FollowInputSerializer,
    FoundAccountSerializer,
    SearchQuerySerializer,
    SiteInputSerializer,
    SiteSerializer,
)
from dakika_server.sources.serializers.profiles import SourcesSerializer

LARGEST_HOOK = 64 * 1024


class ConnectionsView(BrandView):
    """Connecting one's own profiles."""

    changes = "sources.connect"

    @extend_schema(operation_id="start_connection", request=ConnectInputSerializer, responses={201: ConsentSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """The address of the network's consent page."""
        values = read(ConnectInputSerializer, request.data)
        address = start_connection(request.user, self.brand, network_key=values["network"], renews=values.get("renews"))
        return Response({"address": address}, status=201)


class ConnectionView(BrandView):
    """A consent that was given."""

    changes = "sources.connect"

    def connection(self, pk: int) -> Connection:
        """The person's own consent for this brand, or 404."""
        found = Connection.objects.filter(
            brand=self.brand, user_id=self.request.user.pk or 0, pk=pk, credential__isnull=False
        ).select_related("brand", "credential").first()  # fmt: skip
        if found is None:
            raise Http404
        return found

    @extend_schema(operation_id="read_connection", responses=ConnectionSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The accounts it offers."""
        connection = self.connection(pk)
        publish = network_api(connection.network).scopes.get("publish", "")
        granted = connection.credential.scopes if connection.credential else []
        values = {
            "id": connection.pk, "network": connection.network, "may_publish": publish in granted,
            "offered": offered_to(request.user, connection),
        }  # fmt: skip
        return Response(ConnectionSerializer(values).data)

    @extend_schema(operation_id="choose_accounts", request=ChooseInputSerializer, responses={201: SourcesSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Connect the chosen ones."""
        values = read(ChooseInputSerializer, request.data)
        choose_accounts(request.user, self.connection(pk), external_ids=values["external_ids"])
        shown = {"profiles": profiles_of(self.brand.pk), "runs": runs_of(self.brand.pk)}
        return Response(SourcesSerializer(shown).data, status=201)


class ConsentReturnView(APIView):
    """Where networks send people back to. Not part of the described API: a browser comes here."""

    @extend_schema(exclude=True)
    def get(self, request: Request) -> HttpResponse:
        """Take the code and go on to choosing, or back with what went wrong."""
        state = request.query_params.get("state", "")
        begun = Connection.objects.select_related("brand").filter(state=state, user=request.user.pk).first()
        home = f"/{begun.brand.slug}/sources" if begun else "/"
        if request.query_params.get("error"):
            return HttpResponseRedirect(f"{home}?{urlencode({'consent': 'cancelled'})}")
        try:
            connection = finish_consent(
                request.user, state=state, code=request.query_params.get("code", ""), now=clock.now()
            )
        except Problem as problem:
            return HttpResponseRedirect(f"{home}?{urlencode({'consent': str(problem.detail)})}")
        if connection.renews is not None:
            return HttpResponseRedirect(f"{home}?{urlencode({'renewed': connection.renews.name})}")
        return HttpResponseRedirect(f"{home}?connection={connection.pk}")


class CompetitorsByHandleView(BrandView):
    """Following competitors."""

    changes = "sources.follow"

    @extend_schema(operation_id="add_competitor", request=CompetitorInputSerializer, responses={201: SourcesSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Follow a profile by handle."""
        values = read(CompetitorInputSerializer, request.data)
        add_competitor(
            request.user, self.brand, network_key=values["network"], handle=values["handle"], name=values["name"]
        )
        shown = {"profiles": profiles_of(self.brand.pk), "runs": runs_of(self.brand.pk)}
        return Response(SourcesSerializer(shown).data, status=201)


class SearchView(BrandView):
    """Finding somebody's profile while one types."""

    @extend_schema(
        operation_id="search_profiles", parameters=[SearchQuerySerializer], responses=FoundAccountSerializer(many=True)
    )
    def get(self, request: Request, brand: str) -> Response:
        """At most eight accounts."""
        values = read(SearchQuerySerializer, request.query_params)
        found = search_profiles(request.user, self.brand, network_key=values["network"], text=values["text"])
        return Response(FoundAccountSerializer(found, many=True).data)


class SiteView(BrandView):
    """A competitor by their web site."""

    changes = "sources.follow"

    @extend_schema(operation_id="discover_site", request=SiteInputSerializer, responses=SiteSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Which profiles the site names."""
        site = discover_site(request.user, self.brand, address=read(SiteInputSerializer, request.data)["address"])
        return Response(SiteSerializer(site).data)


class FollowView(BrandView):
    """Following several profiles of one competitor."""

    changes = "sources.follow"

    @extend_schema(operation_id="follow_found", request=FollowInputSerializer, responses={201: SourcesSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Under one name."""
        values = read(FollowInputSerializer, request.data)
        follow_found(
            request.user, self.brand, name=values["name"], website=values["website"],
            profiles=[(one["network"], one["handle"]) for one in values["profiles"]],
        )  # fmt: skip
        shown = {"profiles": profiles_of(self.brand.pk), "runs": runs_of(self.brand.pk)}
        return Response(SourcesSerializer(shown).data, status=201)


@csrf_exempt
def network_hook(request: HttpRequest, network: str, profile: int) -> HttpResponse:
    """Where a network tells that something is new. Signed, bounded; it only leads to asking the network itself."""
    if request.method != "POST":
        return HttpResponse(status=405, headers={"Allow": "POST"})
    if int(request.headers.get("Content-Length") or 0) > LARGEST_HOOK:
        return HttpResponse(status=413)
    try:
        take_hook(
            network=network, profile_id=profile, body=request.body[:LARGEST_HOOK],
            signature=request.headers.get("Signature-256", ""),
        )  # fmt: skip
    except PermissionDenied:
        return HttpResponse(status=403)
    return HttpResponse(status=202)
