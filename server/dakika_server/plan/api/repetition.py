"""Posts that come again."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.api.posts import PlannedPostView
from dakika_server.plan.repeating import (
    RepetitionInput,
    end_repetition,
    preview_repetition,
    repeat_post,
    repetition_of,
)
from dakika_server.plan.returning import leave_return, return_of, set_return
from dakika_server.plan.serializers.repetition import (
    RepetitionEndedSerializer,
    RepetitionInputSerializer,
    RepetitionMadeSerializer,
    RepetitionPreviewSerializer,
    RepetitionRuleSerializer,
    RepetitionSerializer,
    SeasonReturnInputSerializer,
    SeasonReturnSerializer,
)
from dakika_server.shared.parsers import read


class RepetitionPreviewView(PlannedPostView):
    """A repetition looked at beforehand."""

    is_question = True
    http_method_names = ["post", "options"]

    @extend_schema(
        operation_id="preview_repetition", request=RepetitionRuleSerializer, responses=RepetitionPreviewSerializer
    )
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Its times, what is wrong with each, and how posts did that came again."""
        asked = RepetitionInput(**read(RepetitionRuleSerializer, request.data))
        return Response(RepetitionPreviewSerializer(preview_repetition(self.planned(pk), asked)).data)


class RepeatView(PlannedPostView):
    """Making it come again."""

    http_method_names = ["post", "options"]

    @extend_schema(
        operation_id="repeat_post", request=RepetitionInputSerializer, responses={201: RepetitionMadeSerializer}
    )
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """All times that can be, as drafts or set to go out."""
        asked: dict[str, Any] = read(RepetitionInputSerializer, request.data)
        becomes_scheduled = asked.pop("becomes_scheduled")
        made, left_out = repeat_post(
            request.user, self.planned(pk), RepetitionInput(**asked), becomes_scheduled=becomes_scheduled
        )
        told = {"id": made.pk, "posts": made.posts.count(), "left_out": left_out}
        return Response(RepetitionMadeSerializer(told).data, status=201)


class RepetitionView(BrandView):
    """A repetition."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="read_repetition", responses=RepetitionSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """With its posts and where they stand."""
        return Response(RepetitionSerializer(repetition_of(self.brand, pk)).data)

    @extend_schema(operation_id="end_repetition", responses=RepetitionEndedSerializer)
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take back what is not out yet."""
        return Response({"posts": end_repetition(request.user, self.brand, pk)})


class SeasonReturnView(BrandView):
    """A post that comes back with its season."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="read_season_return", responses=SeasonReturnSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """When next, and its link's busiest weeks."""
        return Response(SeasonReturnSerializer(return_of(self.brand, pk)).data)

    @extend_schema(
        operation_id="set_season_return", request=SeasonReturnInputSerializer, responses=SeasonReturnSerializer
    )
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Let it come back every year."""
        set_return(request.user, self.brand, pk, **read(SeasonReturnInputSerializer, request.data))
        return Response(SeasonReturnSerializer(return_of(self.brand, pk)).data)

    @extend_schema(operation_id="leave_season_return", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """No longer."""
        leave_return(request.user, self.brand, pk)
        return Response(status=204)
