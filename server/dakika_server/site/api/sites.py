"""Sites, goals and access logs over HTTP."""

from datetime import timedelta

from django.conf import settings
from django.db.models import Count, Max, Q
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.shared import clock
from dakika_server.shared.parsers import read, uploads_up_to
from dakika_server.site.actions import sites as acts
from dakika_server.site.actions.logs import SHOWN, upload_log
from dakika_server.site.models import AccessLog, Goal, Site
from dakika_server.site.serializers import sites as shapes


class SitesView(BrandView):
    """What is set up for visits."""

    changes = "site.setup"

    @extend_schema(operation_id="list_sites", responses=shapes.SitesSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Sites, goals, and where the script is."""
        week = Q(visit__started_at__gte=clock.now() - timedelta(days=7))
        values = {
            "sites": Site.objects.filter(brand=self.brand).order_by("name")
            .annotate(visits=Count("visit", filter=week), last_at=Max("visit__started_at")),
            "goals": Goal.objects.filter(brand=self.brand).order_by("is_archived", "name")
            .annotate(count=Count("conversions")),
            "logs": AccessLog.objects.filter(brand=self.brand).select_related("site")
            .order_by("-created_at")[:SHOWN],
            "script": f"{settings.PUBLIC_ADDRESS}/visit.js",
        }  # fmt: skip
        return Response(shapes.SitesSerializer(values).data)

    @extend_schema(operation_id="add_site", request=shapes.WebSiteSerializer, responses={201: shapes.WebSiteSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """One more site."""
        site = acts.save_site(request.user, self.brand, **read(shapes.WebSiteSerializer, request.data))
        return Response(shapes.WebSiteSerializer(site).data, status=201)


class SiteView(BrandView):
    """One site."""

    changes = "site.setup"

    @extend_schema(operation_id="save_site", request=shapes.WebSiteSerializer, responses=shapes.WebSiteSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Change its name or hosts."""
        try:
            site = acts.save_site(request.user, self.brand, pk=pk, **read(shapes.WebSiteSerializer, request.data))
        except Site.DoesNotExist:
            raise Http404 from None
        return Response(shapes.WebSiteSerializer(site).data)


class SiteLogsView(BrandView):
    """A site's access logs."""

    changes = "site.setup"

    parser_classes = [uploads_up_to("IMPORT_MAX_BYTES")]

    @extend_schema(
        operation_id="upload_log", request=shapes.LogUploadSerializer, responses={201: shapes.AccessLogSerializer}
    )
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Bring a log in; a worker reads it."""
        file = read(shapes.LogUploadSerializer, request.data)["file"]
        try:
            log = upload_log(request.user, self.brand, pk, name=file.name or "log", size=file.size or 0, file=file)
        except Site.DoesNotExist:
            raise Http404 from None
        return Response(shapes.AccessLogSerializer(log).data, status=201)


class GoalsView(BrandView):
    """Goals."""

    changes = "site.setup"

    @extend_schema(operation_id="add_goal", request=shapes.GoalSerializer, responses={201: shapes.GoalSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """One more goal."""
        goal = acts.save_goal(request.user, self.brand, **read(shapes.GoalSerializer, request.data))
        return Response(shapes.GoalSerializer(goal).data, status=201)


class GoalView(BrandView):
    """One goal."""

    changes = "site.setup"

    @extend_schema(operation_id="save_goal", request=shapes.GoalSerializer, responses=shapes.GoalSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Change it."""
        try:
            goal = acts.save_goal(request.user, self.brand, pk=pk, **read(shapes.GoalSerializer, request.data))
        except Goal.DoesNotExist:
            raise Http404 from None
        return Response(shapes.GoalSerializer(goal).data)
