"""Hashtags: sets, proposals with why, and those that are followed."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.hashtags.following import course_of, followed
from dakika_server.plan.hashtags.proposals import proposals
from dakika_server.plan.hashtags.sets import follow_hashtag, keep_hashtags, leave_hashtag, remove_hashtags
from dakika_server.plan.models import HashtagSet
from dakika_server.plan.serializers.hashtags import (
    FollowedHashtagsSerializer,
    HashtagCourseSerializer,
    HashtagProposalsSerializer,
    HashtagQuerySerializer,
    HashtagSetInputSerializer,
    HashtagSetSerializer,
    HashtagWordSerializer,
)
from dakika_server.shared import clock
from dakika_server.shared.parsers import read


class HashtagSetsView(BrandView):
    """Hashtags that are put in together."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="list_hashtag_sets", responses=HashtagSetSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """All of them by name."""
        return Response(
            HashtagSetSerializer(HashtagSet.objects.filter(brand=self.brand).order_by("name"), many=True).data
        )

    @extend_schema(
        operation_id="add_hashtag_set", request=HashtagSetInputSerializer, responses={201: HashtagSetSerializer}
    )
    def post(self, request: Request, brand: str) -> Response:
        """Another."""
        made = keep_hashtags(request.user, self.brand, **read(HashtagSetInputSerializer, request.data))
        return Response(HashtagSetSerializer(made).data, status=201)


class HashtagSetView(BrandView):
    """One of them."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="change_hashtag_set", request=HashtagSetInputSerializer, responses=HashtagSetSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Another name, or other hashtags."""
        made = keep_hashtags(request.user, self.brand, pk=pk, **read(HashtagSetInputSerializer, request.data))
        return Response(HashtagSetSerializer(made).data)

    @extend_schema(operation_id="remove_hashtag_set", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take it away."""
        remove_hashtags(request.user, self.brand, pk)
        return Response(status=204)


class HashtagProposalsView(BrandView):
    """Which hashtags to take."""

    is_question = True

    @extend_schema(
        operation_id="propose_hashtags", request=HashtagQuerySerializer, responses=HashtagProposalsSerializer
    )
    def post(self, request: Request, brand: str) -> Response:
        """By why they are proposed, with what is known of each."""
        asked = read(HashtagQuerySerializer, request.data)
        return Response(HashtagProposalsSerializer(proposals(self.brand, clock.now(), **asked)).data)


class FollowedHashtagsView(BrandView):
    """Hashtags that are looked at over time."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="list_followed_hashtags", responses=FollowedHashtagsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """How they stand."""
        return Response(FollowedHashtagsSerializer(followed(self.brand, clock.now())).data)

    @extend_schema(operation_id="follow_hashtag", request=HashtagWordSerializer, responses={201: HashtagWordSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Another."""
        made = follow_hashtag(request.user, self.brand, read(HashtagWordSerializer, request.data)["tag"])
        return Response(HashtagWordSerializer(made).data, status=201)

    @extend_schema(operation_id="leave_hashtag", parameters=[HashtagWordSerializer], responses={204: None})
    def delete(self, request: Request, brand: str) -> Response:
        """No longer."""
        leave_hashtag(request.user, self.brand, read(HashtagWordSerializer, request.query_params)["tag"])
        return Response(status=204)


class HashtagCourseView(BrandView):
    """One over time."""

    reads = "plan.read"

    @extend_schema(
        operation_id="read_hashtag_course", parameters=[HashtagWordSerializer], responses=HashtagCourseSerializer
    )
    def get(self, request: Request, brand: str) -> Response:
        """By month, ours and in the field, and how much it is used."""
        asked = read(HashtagWordSerializer, request.query_params)
        return Response(HashtagCourseSerializer(course_of(self.brand, clock.now(), asked["tag"])).data)
