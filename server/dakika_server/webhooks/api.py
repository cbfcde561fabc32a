"""Webhooks, as they are asked for over HTTP."""

from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.accounts.sessions import require_sure
from dakika_server.brands.views import BrandView
from dakika_server.shared.paging import paged
from dakika_server.shared.parsers import read
from dakika_server.webhooks.events import EVENTS
from dakika_server.webhooks.keeping import (
    PERMISSION,
    change_webhook,
    deliveries_of,
    make_webhook,
    remove_webhook,
    renew_secret,
    send_again,
    try_webhook,
    webhook_of,
    webhooks_of,
)
from dakika_server.webhooks.models import LONGEST_ADDRESS, LONGEST_KIND, HookDelivery, WebHook
from dakika_server.webhooks.sending import body_of

PAGE = 30


class WebHookSerializer(serializers.ModelSerializer[WebHook]):
    """An address that is told. waiting: how much is on its way; taken_at: when it took something last."""

    waiting = serializers.IntegerField()
    taken_at = serializers.DateTimeField(allow_null=True)

    class Meta:
        model = WebHook
        fields = [
            "id", "name", "address", "kinds", "is_on", "off_because", "made_at", "failing_since", "rests_until",
            "before_until", "waiting", "taken_at",
        ]  # fmt: skip
        read_only_fields = fields


class EventKindSerializer(serializers.Serializer[Any]):
    """A kind of event."""

    name = serializers.CharField()
    words = serializers.CharField()
    about = serializers.DictField(child=serializers.CharField())


class WebHooksSerializer(serializers.Serializer[Any]):
    """All of a brand's, and what they can be told of."""

    webhooks = WebHookSerializer(many=True)
    kinds = EventKindSerializer(many=True)


class WebHookInputSerializer(serializers.Serializer[Any]):
    """An address to be told."""

    name = serializers.CharField(max_length=80)
    address = serializers.CharField(max_length=LONGEST_ADDRESS)
    kinds = serializers.ListField(child=serializers.CharField(max_length=LONGEST_KIND), max_length=60)


class WebHookChangeSerializer(WebHookInputSerializer):
    """An address as it is to be."""

    is_on = serializers.BooleanField()


class WebHookMadeSerializer(serializers.Serializer[Any]):
    """An address with its secret, which is told now and never again."""

    webhook = WebHookSerializer()
    secret = serializers.CharField()


class HookDeliverySerializer(serializers.ModelSerializer[HookDelivery]):
    """One telling. body: what is sent."""

    kind = serializers.CharField(source="event.kind")
    number = serializers.UUIDField(source="event.number")
    at = serializers.DateTimeField(source="event.at")
    body = serializers.SerializerMethodField()

    class Meta:
        model = HookDelivery
        fields = ["id", "number", "kind", "at", "state", "attempts", "status", "error", "took_ms", "tried_at",
                  "next_at", "body"]  # fmt: skip
        read_only_fields = fields

    def get_body(self, delivery: HookDelivery) -> str:
        """As text."""
        delivery.event.brand = self.context["brand"]
        return body_of(delivery.event).decode()


class HookDeliveriesSerializer(serializers.Serializer[Any]):
    """A page of them. next: the cursor of the page that follows, null at the end."""

    deliveries = HookDeliverySerializer(many=True)
    next = serializers.CharField(allow_null=True)


class _View(BrandView):
    reads = changes = PERMISSION
    takes_tokens = False

    def told(self, delivery: HookDelivery) -> Response:
        """One telling."""
        return Response(HookDeliverySerializer(delivery, context={"brand": self.brand}).data, status=202)


class WebHooksView(_View):
    """Addresses that are told."""

    @extend_schema(operation_id="list_webhooks", responses=WebHooksSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """By name, with what they can be told of."""
        kinds = [{"name": name, "words": kind.words, "about": kind.about} for name, kind in sorted(EVENTS.items())]
        return Response(WebHooksSerializer({"webhooks": webhooks_of(self.brand), "kinds": kinds}).data)

    @extend_schema(operation_id="make_webhook", request=WebHookInputSerializer, responses={201: WebHookMadeSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Another one; its secret is told once."""
        require_sure(request._request)
        made, secret = make_webhook(request.user, self.brand, **read(WebHookInputSerializer, request.data))
        return Response(WebHookMadeSerializer({"webhook": made, "secret": secret}).data, status=201)


class WebHookView(_View):
    """One of them."""

    @extend_schema(operation_id="change_webhook", request=WebHookChangeSerializer, responses=WebHookSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Other words, another address, other kinds, off or on."""
        require_sure(request._request)
        changed = change_webhook(request.user, self.brand, pk, **read(WebHookChangeSerializer, request.data))
        return Response(WebHookSerializer(changed).data)

    @extend_schema(operation_id="remove_webhook", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """It is told nothing more."""
        remove_webhook(request.user, self.brand, pk)
        return Response(status=204)


class SecretView(_View):
    """Its secret."""

    @extend_schema(operation_id="renew_webhook_secret", request=None, responses=WebHookMadeSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """A new one; the old one signs beside it for a day."""
        require_sure(request._request)
        found, secret = renew_secret(request.user, self.brand, pk)
        return Response(WebHookMadeSerializer({"webhook": found, "secret": secret}).data)


class DeliveriesView(_View):
    """What an address was told."""

    @extend_schema(
        operation_id="list_webhook_deliveries", responses=HookDeliveriesSerializer,
        parameters=[OpenApiParameter("cursor", str, description="where the page before ended")],
    )  # fmt: skip
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The newest first, page by page."""
        found = webhook_of(self.brand, pk)
        rows, next_ = paged(deliveries_of(found), ["-id"], request.query_params.get("cursor"), PAGE)
        return Response(
            HookDeliveriesSerializer({"deliveries": rows, "next": next_}, context={"brand": self.brand}).data
        )

    @extend_schema(operation_id="try_webhook", request=None, responses={202: HookDeliverySerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Send an event that tells nothing."""
        return self.told(try_webhook(request.user, self.brand, pk))


class DeliveryView(_View):
    """One telling."""

    @extend_schema(operation_id="send_event_again", request=None, responses={202: HookDeliverySerializer})
    def post(self, request: Request, brand: str, pk: int, delivery: int) -> Response:
        """Once more, under the same number."""
        return self.told(send_again(request.user, self.brand, pk, delivery))
