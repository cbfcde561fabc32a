"""Reports: listed, made, changed, shown, copied."""

from dakika_core.reports.languages import LANGUAGES
from django.db.models import Count, Q
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.permissions import membership_of
from dakika_server.brands.views import BrandView
from dakika_server.reports.keeping import (
    add_item,
    copy_report,
    go_back,
    make_report,
    name_version,
    put_away,
    report_of,
    reports_of,
    save_report,
)
from dakika_server.reports.models import Report
from dakika_server.reports.serializers.content import ReportContentSerializer, ReportItemSerializer
from dakika_server.reports.serializers.reports import (
    BeginningsSerializer,
    CopyReportSerializer,
    GoBackSerializer,
    MakeReportSerializer,
    NameVersionSerializer,
    PutAnswerSerializer,
    PutIntoReportSerializer,
    ReportAwaySerializer,
    ReportListSerializer,
    ReportQuerySerializer,
    ReportRowSerializer,
    ReportSerializer,
    ReportVersionSerializer,
    ShownReportSerializer,
    ShowQuerySerializer,
    shown_pages,
)
from dakika_server.reports.showing import Shower
from dakika_server.reports.templates import TEMPLATES
from dakika_server.shared import clock
from dakika_server.shared.paging import paged
from dakika_server.shared.parsers import read

# How large a figure begins, by how it is drawn.
SIZES = {"tiles": (12, 2), "table": (12, 4), "grid": (12, 4)}


class ReportsView(BrandView):
    """A brand's reports."""

    reads, changes = "reports.read", "reports.write"

    @extend_schema(operation_id="list_reports", parameters=[ReportQuerySerializer], responses=ReportListSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The latest changed first; by words of their title, by label."""
        asked = read(ReportQuerySerializer, request.query_params)
        is_open = Q(links__revoked_at=None, links__until__gt=clock.now())
        found = (
            reports_of(self.brand)
            .filter(is_template=asked["templates"])
            .annotate(open_links=Count("links", filter=is_open))
        )
        if asked.get("text"):
            found = found.filter(title__icontains=asked["text"].replace("\x00", ""))
        if asked.get("label"):
            found = found.filter(label=asked["label"].replace("\x00", ""))
        rows, following = paged(found, ["-changed_at", "-pk"], asked.get("cursor"), asked["limit"])
        labels = Report.objects.filter(brand=self.brand, removed_at=None).exclude(label="")
        told = {
            "reports": rows, "next": following,
            "labels": list(labels.order_by("label").values_list("label", flat=True).distinct()[:100]),
        }  # fmt: skip
        return Response(ReportListSerializer(told).data)

    @extend_schema(operation_id="make_report", request=MakeReportSerializer, responses={201: ReportSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """From a template."""
        made = make_report(request.user, self.brand, **read(MakeReportSerializer, request.data))
        return Response(ReportSerializer(made).data, status=201)


class BeginningsView(BrandView):
    """What one can begin from."""

    reads = "reports.read"

    @extend_schema(operation_id="list_report_templates", responses=BeginningsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Templates and languages."""
        told = {
            "templates": [
                {"key": key, "name": name, "words": words, "pages": [page["title"] for page in pages()]}
                for key, (name, words, _, pages) in TEMPLATES.items()
            ],
            "own": reports_of(self.brand).filter(is_template=True).order_by("title")[:100],
            "languages": [{"key": key, "name": name} for key, name in LANGUAGES.items()],
        }
        return Response(BeginningsSerializer(told).data)


class ReportView(BrandView):
    """A report."""

    reads, changes = "reports.read", "reports.write"

    @extend_schema(operation_id="read_report", responses=ReportSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """As it is kept."""
        return Response(ReportSerializer(report_of(self.brand, pk)).data)

    @extend_schema(operation_id="save_report", request=ReportContentSerializer, responses=ReportSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Keep it as it is now, of the edition that was read."""
        report = report_of(self.brand, pk)
        saved = save_report(request.user, report, **read(ReportContentSerializer, request.data))
        return Response(ReportSerializer(saved).data)


class ReportShownView(BrandView):
    """A report's pages as they are seen."""

    reads = "reports.read"

    @extend_schema(operation_id="show_report", parameters=[ShowQuerySerializer], responses=ShownReportSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """With their figures and words as they are now."""
        report = report_of(self.brand, pk)
        named = read(ShowQuerySerializer, request.query_params).get("pages")
        wanted = None if named is None else set(named.split(","))
        pages = [page for page in report.pages if wanted is None or page["id"] in wanted]
        return Response(shown_pages(Shower(report, self.brand, clock.now()), pages, report.language))


class ReportItemsView(BrandView):
    """Putting a figure into a report from wherever it stands."""

    changes = "reports.write"

    @extend_schema(
        operation_id="put_into_report", request=PutIntoReportSerializer, responses={201: PutAnswerSerializer}
    )
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """On the page that is named, else on the last with room, else on a new one."""
        report = report_of(self.brand, pk)
        asked = read(PutIntoReportSerializer, request.data)
        w, h = SIZES.get(asked["drawing"], (6, 4))
        page = asked.pop("page")
        item = read(ReportItemSerializer, {**asked, "id": "new", "x": 0, "y": 0, "w": w, "h": h})
        saved, name = add_item(request.user, report, item=item, page=page)
        told = {"report": saved.pk, "page": name, "edition": saved.edition}
        return Response(PutAnswerSerializer(told).data, status=201)


class ReportVersionsView(BrandView):
    """What a report was."""

    reads, changes = "reports.read", "reports.write"

    @extend_schema(operation_id="list_report_versions", responses=ReportVersionSerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The latest first."""
        report = report_of(self.brand, pk)
        found = report.versions.select_related("by").order_by("-edition")[:100]
        return Response(ReportVersionSerializer(found, many=True).data)

    @extend_schema(
        operation_id="name_report_version", request=NameVersionSerializer, responses={201: ReportVersionSerializer}
    )
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Keep it as it is now under a name."""
        made = name_version(request.user, report_of(self.brand, pk), read(NameVersionSerializer, request.data)["name"])
        return Response(ReportVersionSerializer(made).data, status=201)

    @extend_schema(operation_id="go_back_in_report", request=GoBackSerializer, responses=ReportSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Make it what it was."""
        found = go_back(request.user, report_of(self.brand, pk), read(GoBackSerializer, request.data)["edition"])
        return Response(ReportSerializer(found).data)


class ReportCopyView(BrandView):
    """Copying."""

    changes = "reports.write"

    @extend_schema(operation_id="copy_report", request=CopyReportSerializer, responses={201: ReportRowSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Here or into another brand of the person's, as a report or a template."""
        asked = read(CopyReportSerializer, request.data)
        to = membership_of(request.user, asked["brand"]).brand if asked.get("brand") else self.brand
        made = copy_report(request.user, report_of(self.brand, pk), to, is_template=asked["is_template"])
        return Response(ReportRowSerializer(made).data, status=201)


class ReportAwayView(BrandView):
    """Taking away."""

    changes = "reports.write"

    @extend_schema(operation_id="put_away_report", request=ReportAwaySerializer, responses={204: None})
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Away, or back within thirty days."""
        report = Report.objects.filter(brand=self.brand, pk=pk).first()
        if report is None:
            raise Http404
        put_away(request.user, report, **read(ReportAwaySerializer, request.data))
        return Response(status=204)
