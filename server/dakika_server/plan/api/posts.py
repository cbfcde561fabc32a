"""Planned posts: written, scheduled, moved, taken back, handed to other brands, published by hand."""

from datetime import timedelta
from typing import Any

from django.http import Http404, HttpResponseBase
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.media.serving import to_keep
from dakika_server.plan.actions import (
    delete_planned_post,
    fill_slots,
    move_post,
    save_planned_post,
    schedule_post,
    take_back,
)
from dakika_server.plan.by_hand import add_channel, channels, is_out, set_channel_rules
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.copying import write_again
from dakika_server.plan.handing import brands_for, hand_to
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.plan.outgoing import MediaGone, file_out
from dakika_server.plan.queries import planned_posts
from dakika_server.plan.serializers.channels import (
    ByHandSerializer,
    ChannelInputSerializer,
    ChannelRulesInputSerializer,
    ChannelSerializer,
)
from dakika_server.plan.serializers.posts import (
    FilledSerializer,
    FillSerializer,
    HandedSerializer,
    HandInputSerializer,
    MoveSerializer,
    PlannedPostInputSerializer,
    PlannedPostSerializer,
    ScheduleSerializer,
    WritableBrandSerializer,
)
from dakika_server.shared.errors import Conflict
from dakika_server.shared.parsers import read


def common_in(values: dict[str, Any]) -> Common | None:
    """What versions have in common, as it is sent."""
    told = values.get("common")
    return Common(**{**told, "media": tuple(told["media"])}) if told is not None else None


def _input(data: Any) -> dict[str, Any]:
    values = read(PlannedPostInputSerializer, data)
    return {**values, "common": common_in(values), "versions": [VersionInput(**one) for one in values["versions"]]}


def shown(planned: PlannedPost) -> Any:
    """A planned post as it stands."""
    return PlannedPostSerializer(planned_posts(planned.brand_id).get(pk=planned.pk)).data


def new_post(view: BrandView, request: Request) -> Response:
    """A new draft."""
    values = _input(request.data)
    values.pop("edition", None)
    return Response(shown(save_planned_post(request.user, view.brand, **values)), status=201)


class WriteAgainView(BrandView):
    """A new draft from a post that is out."""

    changes = "plan.write"

    @extend_schema(operation_id="write_again", request=None, responses={201: PlannedPostSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """The words of the post, with links of its own."""
        return Response(shown(write_again(request.user, self.brand, pk)), status=201)


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
        return Response(shown(changed))

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
        """Publish at a time, or now, after the grace in which it can be taken back."""
        asked = read(ScheduleSerializer, request.data)
        scheduled = schedule_post(
            request.user, self.planned(pk), at=asked["scheduled_at"], edition=asked["edition"],
            grace=timedelta(seconds=asked["grace"]),
        )  # fmt: skip
        return Response(shown(scheduled))

    @extend_schema(operation_id="take_back", responses=PlannedPostSerializer)
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Make it a draft again."""
        return Response(shown(take_back(request.user, self.planned(pk))))


class MoveView(PlannedPostView):
    """Another time for it."""

    http_method_names = ["post", "options"]

    @extend_schema(operation_id="move_post", request=MoveSerializer, responses=PlannedPostSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Put it at another time; a scheduled one takes the permission to schedule."""
        asked = read(MoveSerializer, request.data)
        moved = move_post(request.user, self.planned(pk), at=asked["scheduled_at"], edition=asked["edition"])
        return Response(shown(moved))


class HandView(PlannedPostView):
    """One post for several brands."""

    http_method_names = ["get", "post", "options"]

    @extend_schema(operation_id="brands_to_hand_to", responses=WritableBrandSerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """Other brands that one may write for."""
        self.planned(pk)
        return Response(WritableBrandSerializer(brands_for(request.user, self.brand), many=True).data)

    @extend_schema(
        operation_id="hand_to_brands", request=HandInputSerializer, responses={201: HandedSerializer(many=True)}
    )
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """A draft for each, on its own profiles and with its own links."""
        made = hand_to(request.user, self.planned(pk), read(HandInputSerializer, request.data)["brands"])
        return Response(HandedSerializer(made, many=True).data, status=201)


class ByHandView(BrandView):
    """A version that a person published."""

    changes = "plan.publish"

    @extend_schema(operation_id="published_by_hand", request=ByHandSerializer, responses=PlannedPostSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """It is out, at an address."""
        version = Version.objects.filter(planned_post__brand=self.brand, pk=pk).select_related("planned_post").first()
        if version is None:
            raise Http404
        asked = read(ByHandSerializer, request.data)
        return Response(shown(is_out(request.user, version, address=asked["address"], at=asked["at"]).planned_post))


class VersionFileView(BrandView):
    """A file of a version, to take along."""

    reads = "plan.read"

    @extend_schema(operation_id="read_version_file", responses={(200, "application/octet-stream"): OpenApiTypes.BINARY})
    def get(self, request: Request, brand: str, pk: int, place: int) -> HttpResponseBase:
        """As its network or channel takes it: cut to its shape and as light as it must be. From 0 in their order."""
        found = Version.objects.filter(planned_post__brand=self.brand, pk=pk).select_related("profile").first()
        if found is None:
            raise Http404
        try:
            file = file_out(found, place)
            return to_keep(file.content(), file.name, file.media_type)
        except MediaGone as gone:
            raise Conflict("file_gone", str(gone)) from None


class ChannelsView(BrandView):
    """Channels that are published to by hand."""

    reads, changes = "plan.read", "plan.publish"

    @extend_schema(operation_id="list_channels", responses=ChannelSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """Those of the brand, with what they take."""
        return Response(ChannelSerializer(channels(self.brand), many=True).data)

    @extend_schema(operation_id="add_channel", request=ChannelInputSerializer, responses={201: ChannelSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Another."""
        made = add_channel(request.user, self.brand, **read(ChannelInputSerializer, request.data))
        return Response(ChannelSerializer(channels(self.brand).get(pk=made.pk)).data, status=201)


class ChannelView(BrandView):
    """One of them."""

    reads, changes = "plan.read", "plan.publish"

    @extend_schema(operation_id="set_channel_rules", request=ChannelRulesInputSerializer, responses=ChannelSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Say what it takes."""
        profile = channels(self.brand).filter(pk=pk).first()
        if profile is None:
            raise Http404
        set_channel_rules(request.user, profile, read(ChannelRulesInputSerializer, request.data)["rules"])
        return Response(ChannelSerializer(channels(self.brand).get(pk=pk)).data)


class FillView(BrandView):
    """Drafts for standing slots."""

    changes = "plan.write"

    @extend_schema(operation_id="fill_slots", request=FillSerializer, responses={201: FilledSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """An empty draft at every free standing slot of some profiles in the days ahead."""
        values = read(FillSerializer, request.data)
        made = fill_slots(request.user, self.brand, values["profiles"], days=values["days"])
        return Response(FilledSerializer({"drafts": made}).data, status=201)
