"""The brand's own feed: set up, and what stands in it."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.own_feed.keeping import items_of, own_feed_of, put_away, set_own_feed, told
from dakika_server.plan.serializers.own_feed import (
    OwnFeedAwaySerializer,
    OwnFeedInputSerializer,
    OwnFeedItemSerializer,
    OwnFeedPageSerializer,
    OwnFeedQuerySerializer,
    OwnFeedSerializer,
)
from dakika_server.shared.paging import paged
from dakika_server.shared.parsers import read


class OwnFeedView(BrandView):
    """The feed."""

    reads, changes = "plan.read", "plan.publish"

    @extend_schema(operation_id="read_own_feed", parameters=[OwnFeedQuerySerializer], responses=OwnFeedPageSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """With a page of its items, how often each was seen and clicked on."""
        asked = read(OwnFeedQuerySerializer, request.query_params)
        items, following = paged(
            items_of(self.brand), ["-published_at", "-pk"], asked.get("cursor"), asked["limit"]
        )  # fmt: skip
        found = {"feed": own_feed_of(self.brand), "items": told(items), "next": following}
        return Response(OwnFeedPageSerializer(found).data)

    @extend_schema(operation_id="set_own_feed", request=OwnFeedInputSerializer, responses=OwnFeedSerializer)
    def put(self, request: Request, brand: str) -> Response:
        """Set it up, or differently."""
        set_own_feed(request.user, self.brand, **read(OwnFeedInputSerializer, request.data))
        return Response(OwnFeedSerializer(own_feed_of(self.brand)).data)


class OwnFeedItemView(BrandView):
    """An item."""

    changes = "plan.publish"

    @extend_schema(operation_id="put_away_feed_item", request=OwnFeedAwaySerializer, responses=OwnFeedItemSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Take it out, or put it back."""
        item = put_away(request.user, self.brand, pk, **read(OwnFeedAwaySerializer, request.data))
        return Response(OwnFeedItemSerializer(told([item])[0]).data)
