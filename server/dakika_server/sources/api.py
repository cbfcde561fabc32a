"""Sources over HTTP."""

from typing import Any
from urllib.parse import urlencode

from dakika_core.sources.cells import shorten
from dakika_core.sources.mapping import NAMES
from django.http import Http404, HttpResponse, HttpResponseRedirect
from drf_spectacular.utils import extend_schema
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.brands.views import BrandView, read
from dakika_server.shared import clock
from dakika_server.shared.errors import Problem
from dakika_server.sources.actions import (
    add_competitor,
    choose_accounts,
    finish_consent,
    start_collection,
    start_connection,
    stop_following,
)
from dakika_server.sources.imports import confirm_import, correct_mapping, discard_import, preview_of, upload_file
from dakika_server.sources.models import Connection, Import, Profile
from dakika_server.sources.queries import imports_of, profiles_of, runs_of
from dakika_server.sources.serializers import (
    ChooseInputSerializer,
    CollectInputSerializer,
    CompetitorInputSerializer,
    ConfirmInputSerializer,
    ConnectInputSerializer,
    ConnectionSerializer,
    ConsentSerializer,
    ImportSerializer,
    MappingInputSerializer,
    PreviewSerializer,
    RunSerializer,
    SourcesSerializer,
    UploadSerializer,
)

SHOWN_POSTS, SHOWN_PROBLEMS, SAMPLE = 12, 500, 3


class SourcesView(BrandView):
    """Profiles and runs."""

    @extend_schema(operation_id="read_sources", responses=SourcesSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Followed profiles and the latest runs."""
        values = {"profiles": profiles_of(self.brand.pk), "runs": runs_of(self.brand.pk)}
        return Response(SourcesSerializer(values).data)


class ProfileView(BrandView):
    """One profile."""

    @extend_schema(operation_id="stop_following", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Stop collecting it; history stays."""
        profile = Profile.objects.filter(brand=self.brand, pk=pk).select_related("brand").first()
        if profile is None:
            raise Http404
        stop_following(request.user, profile)
        return Response(status=204)


class CollectView(BrandView):
    """Collecting now."""

    @extend_schema(
        operation_id="start_collection", request=CollectInputSerializer, responses={202: RunSerializer(many=True)}
    )
    def post(self, request: Request, brand: str) -> Response:
        """Ask for runs of one profile or all."""
        values = read(CollectInputSerializer, request.data)
        runs = start_collection(request.user, self.brand, profile_id=values.get("profile_id"))
        return Response(RunSerializer(runs, many=True).data, status=202)


class CompetitorsByHandleView(BrandView):
    """Following competitors."""

    @extend_schema(operation_id="add_competitor", request=CompetitorInputSerializer, responses={201: SourcesSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Follow a profile by handle."""
        values = read(CompetitorInputSerializer, request.data)
        add_competitor(
            request.user, self.brand, network_key=values["network"], handle=values["handle"], name=values["name"]
        )
        shown = {"profiles": profiles_of(self.brand.pk), "runs": runs_of(self.brand.pk)}
        return Response(SourcesSerializer(shown).data, status=201)


class ConnectionsView(BrandView):
    """Connecting one's own profiles."""

    @extend_schema(operation_id="start_connection", request=ConnectInputSerializer, responses={201: ConsentSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """The address of the network's consent page."""
        values = read(ConnectInputSerializer, request.data)
        address = start_connection(request.user, self.brand, network_key=values["network"])
        return Response({"address": address}, status=201)


class ConnectionView(BrandView):
    """A consent that was given."""

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
        known = set(
            Profile.objects.filter(brand=self.brand, network=connection.network, is_followed=True).values_list(
                "external_id", flat=True
            )
        )
        offered = [{**entry, "is_connected": entry["external_id"] in known} for entry in connection.offered]
        values = {"id": connection.pk, "network": connection.network, "offered": offered}
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
        return HttpResponseRedirect(f"{home}?connection={connection.pk}")


class ImportsView(BrandView):
    """Files."""

    parser_classes = [MultiPartParser]

    @extend_schema(operation_id="list_imports", responses=ImportSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """The latest files."""
        return Response(ImportSerializer(imports_of(self.brand.pk), many=True).data)

    @extend_schema(operation_id="upload_file", request=UploadSerializer, responses={201: PreviewSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Upload a file: the proposed mapping and a preview. Nothing comes in before it is confirmed."""
        file = read(UploadSerializer, request.data)["file"]
        item = upload_file(request.user, self.brand, name=file.name or "file", size=file.size or 0, file=file)
        return Response(_previewed(item), status=201)


class ImportView(BrandView):
    """One file."""

    def item(self, pk: int) -> Import:
        """The brand's file, or 404."""
        found = Import.objects.filter(brand=self.brand, pk=pk).select_related("brand", "profile").first()
        if found is None:
            raise Http404
        return found

    @extend_schema(operation_id="read_import", responses=PreviewSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """Mapping and preview."""
        return Response(_previewed(self.item(pk)))

    @extend_schema(operation_id="correct_mapping", request=MappingInputSerializer, responses=PreviewSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Correct the mapping."""
        values = read(MappingInputSerializer, request.data)
        item = correct_mapping(
            request.user, self.item(pk), mapping=values["mapping"], is_day_first=values["is_day_first"]
        )
        return Response(_previewed(item))

    @extend_schema(operation_id="confirm_import", request=ConfirmInputSerializer, responses=ImportSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Bring the rows in."""
        item = confirm_import(request.user, self.item(pk), **read(ConfirmInputSerializer, request.data))
        return Response(ImportSerializer(item).data)

    @extend_schema(operation_id="discard_import", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Throw it away."""
        discard_import(request.user, self.item(pk))
        return Response(status=204)


def _previewed(item: Import) -> Any:
    preview = preview_of(item)
    values = {
        "item": item, "encoding": item.encoding, "delimiter": item.delimiter, "header": item.header,
        "sample": [[shorten("" if c is None else c) for c in row] for row in item.rows[:SAMPLE]],
        "mapping": item.mapping, "is_day_first": item.is_day_first, "known_fields": list(NAMES),
        "mapping_problems": preview.mapping_problems, "readable": len(preview.posts),
        "posts": preview.posts[:SHOWN_POSTS], "problem_count": len(preview.problems),
        "problems": preview.problems[:SHOWN_PROBLEMS],
    }  # fmt: skip
    return PreviewSerializer(values).data
