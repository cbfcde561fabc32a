"""Sites, goals, conversions, attribution and funnels over HTTP."""

from datetime import timedelta
from typing import Any

from dakika_core.links.attribution import Model, Path, weights_of
from dakika_core.values.numbers import whole_number
from dakika_core.values.period import Comparison
from django.conf import settings
from django.db.models import Count, Max, Q
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.views import BrandView, read
from dakika_server.links.actions import sites as acts
from dakika_server.links.actions.logs import SHOWN as SHOWN_LOGS
from dakika_server.links.actions.logs import upload_log
from dakika_server.links.attribution import OWN, WORD, Asked, credited, way_to
from dakika_server.links.currencies import currency_of, in_other_currencies
from dakika_server.links.funnels import funnels_of
from dakika_server.links.models import AccessLog, Conversion, Goal, Site
from dakika_server.links.queries import begun_days
from dakika_server.links.serializers import visits as shapes
from dakika_server.links.visiting import days_between
from dakika_server.networks.definitions import all_networks
from dakika_server.results.study import period_of
from dakika_server.shared import clock
from dakika_server.sources.models import Post

SHOWN = 200
LONGEST_NAME = 120


class SitesView(BrandView):
    """What is set up for visits."""

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
            .order_by("-created_at")[:SHOWN_LOGS],
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

    parser_classes = [MultiPartParser]

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

    @extend_schema(operation_id="add_goal", request=shapes.GoalSerializer, responses={201: shapes.GoalSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """One more goal."""
        goal = acts.save_goal(request.user, self.brand, **read(shapes.GoalSerializer, request.data))
        return Response(shapes.GoalSerializer(goal).data, status=201)


class GoalView(BrandView):
    """One goal."""

    @extend_schema(operation_id="save_goal", request=shapes.GoalSerializer, responses=shapes.GoalSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Change it."""
        try:
            goal = acts.save_goal(request.user, self.brand, pk=pk, **read(shapes.GoalSerializer, request.data))
        except Goal.DoesNotExist:
            raise Http404 from None
        return Response(shapes.GoalSerializer(goal).data)


class ConversionsView(BrandView):
    """Conversions one by one."""

    @extend_schema(
        operation_id="list_conversions",
        parameters=[shapes.VisitsQuerySerializer],
        responses=shapes.ConversionListSerializer,
    )
    def get(self, request: Request, brand: str) -> Response:
        """The latest of the period."""
        asked = read(shapes.VisitsQuerySerializer, request.query_params)
        period = period_of(self.brand, asked, clock.now())
        found = Conversion.objects.filter(brand=self.brand, at__gte=period.start, at__lt=period.end)
        if asked["goal"]:
            found = found.filter(goal_id=asked["goal"])
        shown = found.select_related("goal", "visit").order_by("-at")[:SHOWN]
        return Response(shapes.ConversionListSerializer({"total": found.count(), "conversions": shown}).data)

    @extend_schema(
        operation_id="take_conversions", request=shapes.ConversionsInSerializer, responses={200: shapes.TakenSerializer}
    )
    def post(self, request: Request, brand: str) -> Response:
        """Take conversions in; the same key again adds nothing."""
        rows = read(shapes.ConversionsInSerializer, request.data)["rows"]
        added, stages = acts.take_conversions(request.user, self.brand, [acts.ConversionIn(**row) for row in rows])
        return Response(shapes.TakenSerializer({"added": added, "stages": stages}).data)


class ConversionView(BrandView):
    """One conversion and how it came about."""

    def _find(self, pk: int) -> Conversion:
        found = Conversion.objects.filter(brand=self.brand, pk=pk).select_related("goal", "visit").first()
        if found is None:
            raise Http404
        return found

    @extend_schema(
        operation_id="read_conversion", parameters=[shapes.VisitsQuerySerializer], responses=shapes.WaySerializer
    )
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The visits before it, and what each model gives them."""
        conversion = self._find(pk)
        steps = way_to(self.brand.pk, conversion, read(shapes.VisitsQuerySerializer, request.query_params)["window"])
        weights: dict[str, list[float]] = {}
        if steps:
            path = Path(
                touches=tuple(step.channel for step in steps),
                ages_days=tuple(days_between(step.at, conversion.at) for step in steps), cents=conversion.cents,
            )  # fmt: skip
            weights = {m.value: weights_of(path, m) for m in Model if m not in (Model.SHAPLEY, Model.MARKOV)}
        return Response(shapes.WaySerializer({"conversion": conversion, "steps": steps, "weights": weights}).data)

    @extend_schema(operation_id="change_stage", request=shapes.StageSerializer, responses=shapes.ConversionSerializer)
    def patch(self, request: Request, brand: str, pk: int) -> Response:
        """Set the contact's stage."""
        try:
            acts.change_stage(request.user, self.brand, pk, read(shapes.StageSerializer, request.data)["stage"])
        except Conversion.DoesNotExist:
            raise Http404 from None
        return Response(shapes.ConversionSerializer(self._find(pk)).data)


def names_of(brand: Brand, by: str, keys: list[str]) -> dict[str, str]:
    """What channels, campaigns and posts are called."""
    if by in ("channel", "network"):
        networks = all_networks()
        return {key: networks[key].name if key in networks else key for key in keys}
    if by == "campaign":
        numbers = [n for key in keys if (n := whole_number(key.removeprefix(OWN))) is not None]
        known = dict(Campaign.objects.filter(brand=brand, pk__in=numbers).values_list("pk", "name"))
        return {
            key: key.removeprefix(WORD) if key.startswith(WORD) else known.get(
                whole_number(key.removeprefix(OWN)) or 0, key
            )
            for key in keys
        }  # fmt: skip
    numbers = [n for key in keys if (n := whole_number(key)) is not None]
    posts = Post.objects.filter(profile__brand=brand, pk__in=numbers).values_list("pk", "text")
    return {str(pk): text[:LONGEST_NAME] for pk, text in posts}


class AttributionView(BrandView):
    """Who brought the conversions."""

    @extend_schema(
        operation_id="read_attribution",
        parameters=[shapes.VisitsQuerySerializer],
        responses=shapes.AttributionSerializer,
    )
    def get(self, request: Request, brand: str) -> Response:
        """Eight answers side by side."""
        asked = read(shapes.VisitsQuerySerializer, request.query_params)
        period = period_of(self.brand, asked, clock.now())
        currency = currency_of(self.brand)
        rows, count, cents, direct = credited(
            Asked(
                brand=self.brand, period=period, by=asked["by"], goal_id=asked["goal"],
                window_days=asked["window"], stage=asked["stage"], currency=currency,
            )
        )  # fmt: skip
        names = names_of(self.brand, asked["by"], [row.key for row in rows])
        stages = (
            Conversion.objects.filter(brand=self.brand).exclude(stage="").values_list("stage", flat=True).distinct()
        )
        values = {
            "period": period, "models": [m.value for m in Model], "conversions": count, "cents": cents,
            "currency": currency, "direct_alone": direct,
            "other_currencies": in_other_currencies(self.brand, period, currency, asked["goal"]),
            "stages": sorted(stages[:50]),
            "rows": [
                {"key": r.key, "name": names.get(r.key, r.key), "counts": r.counts, "cents": r.cents, "low": r.low,
                 "high": r.high}
                for r in rows[:SHOWN]
            ],
        }  # fmt: skip
        return Response(shapes.AttributionSerializer(values).data)


class FunnelView(BrandView):
    """From being seen to being bought."""

    @extend_schema(
        operation_id="read_funnel", parameters=[shapes.FunnelQuerySerializer], responses=shapes.FunnelsSerializer
    )
    def get(self, request: Request, brand: str) -> Response:
        """Funnels by post, campaign or network."""
        asked = read(shapes.FunnelQuerySerializer, request.query_params)
        now = clock.now()
        period = period_of(self.brand, asked, now)
        period, compared = begun_days(
            period, period.compared(Comparison(asked["compare"])), now.astimezone(self.brand.zone).date()
        )
        currency = currency_of(self.brand)
        found = funnels_of(self.brand, period, compared, asked["by"], asked["goal"], currency)
        posts = [row.key for row in [*found.apart.quiet, *found.apart.busy]]
        names = names_of(self.brand, asked["by"], [row.key for row in found.rows[:SHOWN]])
        values: dict[str, Any] = {
            "period": period, "compared": compared, "total": found.total, "total_before": found.total_before,
            "rows": found.rows[:SHOWN], "before": list(found.before.values()), "quiet": found.apart.quiet[:12],
            "busy": found.apart.busy[:12], "without_impressions": found.without_impressions,
            "currency": currency,
            "other_currencies": in_other_currencies(self.brand, period, currency, asked["goal"]),
        }  # fmt: skip
        shown = shapes.FunnelsSerializer(values, context={"names": names | names_of(self.brand, "post", posts)})
        return Response(shown.data)
