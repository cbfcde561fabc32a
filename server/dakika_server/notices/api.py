"""Notices over HTTP."""

from typing import Any

from django.conf import settings
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.accounts.api.session import OwnView
from dakika_server.accounts.permissions import roles_with
from dakika_server.accounts.sessions import device_of
from dakika_server.brands.models import Membership
from dakika_server.brands.views import BrandView
from dakika_server.networks.web_push import NoSubscription, subscription_of
from dakika_server.notices.actions import MOST_SHOWN, mark_read
from dakika_server.notices.choices import choices_of, keep_choices
from dakika_server.notices.models import Notification
from dakika_server.notices.pushing import browsers_of, keep_browser, push_key
from dakika_server.notices.serializers import (
    BrowserSerializer,
    BrowsersSerializer,
    ChoicesInputSerializer,
    ChoicesSerializer,
    NotificationsSerializer,
    ReadSerializer,
    SubscriptionSerializer,
    TicketSerializer,
)
from dakika_server.notices.tickets import ticket_for
from dakika_server.shared.callers import slow_down
from dakika_server.shared.errors import field_errors
from dakika_server.shared.paging import PartSerializer, part_of
from dakika_server.shared.parsers import read

MOST_A_MINUTE = 20


class TicketView(APIView):
    """A ticket to listen with."""

    @extend_schema(operation_id="read_ticket", responses=TicketSerializer)
    def get(self, request: Request) -> Response:
        """For all brands that one may look at; good for a minute."""
        if not settings.EVENTS_ADDRESS:
            return Response(TicketSerializer({"address": "", "ticket": ""}).data)
        person: Any = request.user
        own = Membership.objects.filter(user=person, role__in=roles_with("brand.read")).select_related("brand")
        ticket = ticket_for(person, {member.brand_id: member.brand.slug for member in own})
        return Response(TicketSerializer({"address": settings.EVENTS_ADDRESS, "ticket": ticket}).data)


class NotificationsView(BrandView):
    """What one is told of a brand."""

    is_own_choice = True

    @extend_schema(operation_id="list_notifications", parameters=[PartSerializer], responses=NotificationsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The newest first."""
        person: Any = request.user
        own = Notification.objects.filter(brand=self.brand, person=person, is_shown=True)
        found, headers = part_of(request, own, ("-at", "-pk"), MOST_SHOWN)
        values = {"unread": own.filter(read_at=None).count(), "notifications": found}
        return Response(NotificationsSerializer(values).data, headers=headers)

    @extend_schema(operation_id="read_notifications", request=ReadSerializer, responses=NotificationsSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Take some or all as read."""
        mark_read(request.user, self.brand, read(ReadSerializer, request.data).get("ids"))
        return self.get(request, brand)


class ChoicesView(BrandView):
    """How one wants to be told."""

    is_own_choice = True

    @extend_schema(operation_id="read_notice_choices", responses=ChoicesSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Kind by kind, and one's hours."""
        return Response(ChoicesSerializer(choices_of(self.membership)).data)

    @extend_schema(operation_id="keep_notice_choices", request=ChoicesInputSerializer, responses=ChoicesSerializer)
    def put(self, request: Request, brand: str) -> Response:
        """For the brand, kind by kind; hours are those of the person in all brands."""
        keep_choices(self.membership, **read(ChoicesInputSerializer, request.data))
        return self.get(request, brand)


class BrowsersView(OwnView):
    """Browsers of one's own that show notices."""

    @extend_schema(operation_id="list_browsers", responses=BrowsersSerializer)
    def get(self, request: Request) -> Response:
        """The latest first, and the key with which a browser asks its push service."""
        return Response(BrowsersSerializer({"key": push_key().public_key, "browsers": browsers_of(self.person)}).data)

    @extend_schema(operation_id="keep_browser", request=SubscriptionSerializer, responses={201: BrowserSerializer})
    def post(self, request: Request) -> Response:
        """Have this browser show them."""
        slow_down("browsers", str(self.person.pk), MOST_A_MINUTE)
        try:
            found = subscription_of(read(SubscriptionSerializer, request.data))
        except NoSubscription as error:
            raise field_errors(
                {"endpoint": f"This browser gave no subscription that could be used: {error}."}
            ) from None
        kept = keep_browser(self.person, found, device_of(request.headers.get("User-Agent", "")))
        return Response(BrowserSerializer(kept).data, status=201)


class BrowserView(OwnView):
    """One of them."""

    @extend_schema(operation_id="forget_browser", responses={204: None})
    def delete(self, request: Request, pk: int) -> Response:
        """It shows nothing any more."""
        if not browsers_of(self.person).filter(pk=pk).delete()[0]:
            raise Http404
        return Response(status=204)
