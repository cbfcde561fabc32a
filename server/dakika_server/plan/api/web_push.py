"""Messages to browsers: set up, and what was sent."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.serializers.own_feed import OwnFeedQuerySerializer
from dakika_server.plan.serializers.web_push import PushInputSerializer, PushPageSerializer, PushSerializer
from dakika_server.plan.web_push.keeping import messages_of, push_of, set_push, told
from dakika_server.shared.paging import paged
from dakika_server.shared.parsers import read


class PushView(BrandView):
    """Messages to browsers."""

    reads, changes = "plan.read", "plan.publish"

    @extend_schema(operation_id="read_push", parameters=[OwnFeedQuerySerializer], responses=PushPageSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """With a page of what was sent, how often each was shown and clicked on."""
        asked = read(OwnFeedQuerySerializer, request.query_params)
        messages, following = paged(messages_of(self.brand), ["-made_at", "-pk"], asked.get("cursor"), asked["limit"])
        found = {"channel": push_of(self.brand), "messages": told(messages), "next": following}
        return Response(PushPageSerializer(found).data)

    @extend_schema(operation_id="set_push", request=PushInputSerializer, responses=PushSerializer)
    def put(self, request: Request, brand: str) -> Response:
        """Set it up, or switch it."""
        set_push(request.user, self.brand, **read(PushInputSerializer, request.data))
        return Response(PushSerializer(push_of(self.brand)).data)
