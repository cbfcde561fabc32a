"""Looking at links before they are made; many at once; their QR codes."""

import io
from typing import Any

import segno
from dakika_core.links.pasted import PasteError, read_pasted
from dakika_core.sources.plain_text import title_of
from django.http import Http404, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.exceptions import ValidationError
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.models import Campaign
from dakika_server.brands.views import BrandView
from dakika_server.links.actions import Draft, make_links, proposal_of, rules_of
from dakika_server.links.actions.settings import checked_rules
from dakika_server.links.queries import one_link
from dakika_server.links.serializers.making import (
    AddressSerializer,
    DraftSerializer,
    LinkSerializer,
    PastedSerializer,
    PasteSerializer,
    PreviewSerializer,
    ProposalSerializer,
    ReachedSerializer,
    RowsSerializer,
    short_address,
)
from dakika_server.networks.definitions import all_networks
from dakika_server.networks.fetcher import FetchError, fetch, place_for_people
from dakika_server.shared.errors import field_errors
from dakika_server.shared.parsers import read

# Four modules of quiet zone on every side and medium error correction (ISO/IEC 18004).
QUIET_ZONE, CORRECTION = 4, "m"
PNG_SCALE = 16


class PreviewView(BrandView):
    """A link as it would come out."""

    is_question = True

    @extend_schema(operation_id="preview_link", request=PreviewSerializer, responses=ProposalSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Nothing is stored."""
        given = read(PreviewSerializer, request.data)
        rules = given.pop("rules", None)
        proposal = proposal_of(self.brand, Draft(**given), checked_rules(rules) if rules else None)
        return Response(ProposalSerializer(proposal).data)


class CheckView(BrandView):
    """Whether a page is there."""

    changes = "links.make"

    @extend_schema(operation_id="check_destination", request=AddressSerializer, responses=ReachedSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Call the page through the guarded fetcher and tell each step."""
        steps: list[tuple[int, str]] = []
        values: dict[str, Any] = {"is_reachable": True, "error": "", "title": ""}
        try:
            with place_for_people():
                page = fetch(read(AddressSerializer, request.data)["destination"], accept="text/html", seen=steps)
            values["title"] = title_of(page.text[:200_000])
        except FetchError as error:
            values |= {"is_reachable": False, "error": str(error)}
        values["steps"] = [{"status": status, "address": address} for status, address in steps]
        return Response(ReachedSerializer(values).data)


class BulkPreviewView(BrandView):
    """A pasted list, looked at."""

    changes = "links.make"

    @extend_schema(operation_id="preview_links", request=PasteSerializer, responses=PastedSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Each row as it would come out, or what is wrong with it. Nothing is stored."""
        given = read(PasteSerializer, request.data)
        try:
            pasted = read_pasted(given["text"])
        except PasteError as error:
            raise field_errors({"text": str(error)}) from None
        rules, networks = rules_of(self.brand), {n.name.lower(): key for key, n in all_networks().items()}
        campaigns = {c.name.lower(): c.pk for c in Campaign.objects.filter(brand=self.brand)}
        rows, codes = [], set[str]()
        for number, cells in enumerate(pasted.rows, 1):
            row: dict[str, Any] = {"row": number, "draft": None, "target": "", "error": ""}
            try:
                body = self._body(cells, given, networks, campaigns)
                draft = read(DraftSerializer, body)
                if draft["code"] and draft["code"] in codes:
                    raise field_errors({"code": f"“{draft['code']}” stands in this list twice."})
                codes.add(draft["code"])
                row |= {"draft": body, "target": proposal_of(self.brand, Draft(**draft), rules).target}
            except ValidationError as error:
                detail: Any = error.detail
                row["error"] = str(next(iter(detail.values()))[0])
            rows.append(row)
        values = {"columns": pasted.columns, "rows": rows, "problems": sum(1 for row in rows if row["error"])}
        return Response(PastedSerializer(values).data)

    def _body(
        self, cells: dict[str, str], given: dict[str, Any], networks: dict[str, str], campaigns: dict[str, int]
    ) -> dict[str, Any]:
        network, campaign = cells.get("network", "").lower(), cells.get("campaign", "").lower()
        if campaign and campaign not in campaigns:
            raise field_errors({"campaign": f"There is no campaign “{cells['campaign']}”."})
        return {
            "destination": cells.get("destination", ""), "name": cells.get("name", "")[:200],
            "code": cells.get("code", ""),
            "network": networks.get(network, network) or given["network"],
            "campaign_id": campaigns.get(campaign) or given.get("campaign_id"),
            "utm": {part: cells[part][:100] for part in ("content", "term", "medium") if cells.get(part)},
        }  # fmt: skip


class BulkView(BrandView):
    """Many links at once."""

    changes = "links.make"

    @extend_schema(operation_id="make_links", request=RowsSerializer, responses={201: LinkSerializer(many=True)})
    def post(self, request: Request, brand: str) -> Response:
        """All of them, or none with the errors by row."""
        rows = read(RowsSerializer, request.data)["rows"]
        made = make_links(request.user, self.brand, [Draft(**row) for row in rows])
        return Response(LinkSerializer(made, many=True).data, status=201)


class QrView(BrandView):
    """A link's short address as a QR code."""

    @extend_schema(
        operation_id="read_link_code", responses={(200, "image/svg+xml"): OpenApiTypes.BINARY},
        parameters=[OpenApiParameter("form", str, enum=["svg", "png"])],
    )  # fmt: skip
    def get(self, request: Request, brand: str, pk: int) -> HttpResponse:
        """As SVG or PNG, with the quiet zone that the standard wants."""
        link = one_link(self.brand, pk)
        if link is None:
            raise Http404
        form = "png" if request.query_params.get("form") == "png" else "svg"
        out = io.BytesIO()
        code = segno.make_qr(short_address(link), error=CORRECTION)
        code.save(out, kind=form, border=QUIET_ZONE, scale=PNG_SCALE if form == "png" else 8)
        return HttpResponse(
            out.getvalue(), content_type="image/png" if form == "png" else "image/svg+xml",
            headers={"Content-Disposition": f'inline; filename="{link.code}.{form}"'},
        )  # fmt: skip
