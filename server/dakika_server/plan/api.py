"""The plan over HTTP."""

from typing import Any

from dakika_core.values.period import Period
from django.db.models import FilteredRelation, Q
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView, read
from dakika_server.plan.actions import (
    VersionInput,
    check_version,
    delete_planned_post,
    fill_slots,
    keep_idea,
    move_post,
    save_planned_post,
    schedule_post,
    take_back,
)
from dakika_server.plan.copying import write_again
from dakika_server.plan.models import PlannedPost
from dakika_server.plan.queries import planned_between, planned_posts, unscheduled
from dakika_server.plan.serializers import (
    CheckInputSerializer,
    CheckSerializer,
    FilledSerializer,
    FillSerializer,
    IdeaSerializer,
    MoveSerializer,
    PlannedPostInputSerializer,
    PlannedPostSerializer,
    PlanQuerySerializer,
    PlanSerializer,
    ScheduleSerializer,
)
from dakika_server.sources.models import Post, Profile

LONGEST_DAYS = 100


def _input(data: Any) -> dict[str, Any]:
    values = read(PlannedPostInputSerializer, data)
    values["versions"] = [VersionInput(**version) for version in values["versions"]]
    return values


class PlanView(BrandView):
    """The calendar."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="read_plan", parameters=[PlanQuerySerializer], responses=PlanSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """What is planned and what was published between two days."""
        days = read(PlanQuerySerializer, request.query_params)
        if not 0 <= (days["last"] - days["first"]).days <= LONGEST_DAYS:
            raise serializers.ValidationError({"last": f"Ask for 1 to {LONGEST_DAYS} days."})
        period = Period(first=days["first"], last=days["last"], zone=self.brand.zone)
        published = (
            Post.objects.filter(
                brand=self.brand, profile__kind="own", published_at__gte=period.start, published_at__lt=period.end,
                version__isnull=True,
            )
            .annotate(m=FilteredRelation("measures", condition=Q(measures__age_hours=72)))
            .order_by("published_at")
            .values_list("pk", "published_at", "profile__network", "text", "m__index")
        )  # fmt: skip
        values = {
            "planned": planned_between(self.brand.pk, period.start, period.end), "drafts": unscheduled(self.brand.pk),
            "published": [
                {"id": pk, "at": at, "network": network, "text": text[:120], "index": index}
                for pk, at, network, text, index in published
            ],
        }  # fmt: skip
        return Response(PlanSerializer(values).data)

    @extend_schema(operation_id="plan_post", request=PlannedPostInputSerializer, responses={201: PlannedPostSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A new draft."""
        values = _input(request.data)
        values.pop("edition", None)
        made = save_planned_post(request.user, self.brand, **values)
        return Response(_shown(made), status=201)


def _shown(planned: PlannedPost) -> Any:
    return PlannedPostSerializer(planned_posts(planned.brand_id).get(pk=planned.pk)).data


class IdeasView(BrandView):
    """Ideas from posts."""

    changes = "plan.write"

    @extend_schema(operation_id="keep_idea", request=IdeaSerializer, responses={201: PlannedPostSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Keep one, with the way back to the post."""
        values = read(IdeaSerializer, request.data)
        idea = keep_idea(request.user, self.brand, note=values["note"], post_id=values["post"])
        return Response(_shown(idea), status=201)


class WriteAgainView(BrandView):
    """A new draft from a post that is out."""

    changes = "plan.write"

    @extend_schema(operation_id="write_again", request=None, responses={201: PlannedPostSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """The words of the post, with links of its own."""
        return Response(_shown(write_again(request.user, self.brand, pk)), status=201)


class PlannedPostView(BrandView):
    """One planned post."""

    reads, changes = "plan.read", "plan.write"

    def planned(self, pk: int) -> PlannedPost:
        """The brand's planned post, or 404."""
        found = planned_posts(self.brand.pk).filter(pk=pk).first()
        if found is None:
            raise Http404
        return found

    @extend_schema(operation_id="read_planned_post", responses=PlannedPostSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The post with its versions."""
        return Response(PlannedPostSerializer(self.planned(pk)).data)

    @extend_schema(
        operation_id="change_planned_post", request=PlannedPostInputSerializer, responses=PlannedPostSerializer
    )
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Write it anew."""
        changed = save_planned_post(request.user, self.brand, planned=self.planned(pk), **_input(request.data))
        return Response(_shown(changed))

    @extend_schema(operation_id="delete_planned_post", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Throw it away."""
        delete_planned_post(request.user, self.planned(pk))
        return Response(status=204)


class ScheduleView(PlannedPostView):
    """Setting the time."""

    changes = "plan.publish"

    http_method_names = ["post", "delete", "options"]

    @extend_schema(operation_id="schedule_post", request=ScheduleSerializer, responses=PlannedPostSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Publish at a time, or now."""
        asked = read(ScheduleSerializer, request.data)
        scheduled = schedule_post(request.user, self.planned(pk), at=asked["scheduled_at"], edition=asked["edition"])
        return Response(_shown(scheduled))

    @extend_schema(operation_id="take_back", responses=PlannedPostSerializer)
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Make it a draft again."""
        return Response(_shown(take_back(request.user, self.planned(pk))))


class MoveView(PlannedPostView):
    """Another time for it."""

    http_method_names = ["post", "options"]

    @extend_schema(operation_id="move_post", request=MoveSerializer, responses=PlannedPostSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Put it at another time; a scheduled one takes the permission to schedule."""
        asked = read(MoveSerializer, request.data)
        moved = move_post(request.user, self.planned(pk), at=asked["scheduled_at"], edition=asked["edition"])
        return Response(_shown(moved))


class FillView(BrandView):
    """Drafts for standing slots."""

    changes = "plan.write"

    @extend_schema(operation_id="fill_slots", request=FillSerializer, responses={201: FilledSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """An empty draft at every free standing slot of some profiles in the days ahead."""
        values = read(FillSerializer, request.data)
        made = fill_slots(request.user, self.brand, values["profiles"], days=values["days"])
        return Response(FilledSerializer({"drafts": made}).data, status=201)


class CheckView(BrandView):
    """Checking texts as they are typed."""

    is_question = True

    @extend_schema(operation_id="check_versions", request=CheckInputSerializer, responses=CheckSerializer(many=True))
    def post(self, request: Request, brand: str) -> Response:
        """Length and problems of each version by its network's rules."""
        versions = read(CheckInputSerializer, request.data)["versions"]
        profiles = {
            p.pk: p for p in Profile.objects.filter(brand=self.brand, pk__in=[v["profile_id"] for v in versions])
        }
        checks = [
            {"profile_id": v["profile_id"], **_check(profiles[v["profile_id"]], v["text"])}
            for v in versions
            if v["profile_id"] in profiles
        ]
        return Response(CheckSerializer(checks, many=True).data)


def _check(profile: Profile, text: str) -> dict[str, Any]:
    found = check_version(profile, text)
    return {"count": found.count, "limit": found.limit, "problems": found.problems}
