"""Rules and hosts of a brand's links."""

from typing import Any
from urllib.parse import urlsplit

from dakika_core.links.utm import PLACES
from django.conf import settings
from django.db.models import Count
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.links.actions import add_domain, choose_domain, remove_domain, rules_of, save_settings
from dakika_server.links.models import LinkDomain, LinkSettings
from dakika_server.links.serializers.making import (
    ChoiceSerializer,
    DomainSerializer,
    LinkSettingsSerializer,
    ShownSettingsSerializer,
    shown_rules,
)
from dakika_server.shared.parsers import read


class LinkSettingsView(BrandView):
    """The brand's rules."""

    changes = "links.rules"

    @extend_schema(operation_id="read_link_settings", responses=ShownSettingsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Rules, words, hosts, and the places that rules may hold."""
        return Response(self._shown())

    @extend_schema(operation_id="save_link_settings", request=LinkSettingsSerializer, responses=ShownSettingsSerializer)
    def put(self, request: Request, brand: str) -> Response:
        """Keep them."""
        save_settings(request.user, self.brand, **read(LinkSettingsSerializer, request.data))
        return Response(self._shown())

    def _shown(self) -> Any:
        kept = LinkSettings.objects.filter(brand=self.brand).first()
        values = {
            "rules": shown_rules(rules_of(self.brand)), "home": kept.home if kept else "",
            "over_words": kept.over_words if kept else "",
            "places": [{"name": name, "meaning": meaning} for name, meaning in PLACES.items()],
            "domains": LinkDomain.objects.filter(brand=self.brand).annotate(count=Count("links")).order_by("host"),
            "shared_host": urlsplit(settings.LINKS_ADDRESS).netloc,
        }  # fmt: skip
        return ShownSettingsSerializer(values).data


class DomainChoiceView(BrandView):
    """Hosts of the brand's own."""

    changes = "links.rules"

    @extend_schema(operation_id="add_link_domain", request=DomainSerializer, responses={201: DomainSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """One more."""
        domain = add_domain(request.user, self.brand, read(DomainSerializer, request.data)["host"])
        return Response(DomainSerializer(domain).data, status=201)

    @extend_schema(operation_id="choose_link_domain", request=ChoiceSerializer, responses={204: None})
    def put(self, request: Request, brand: str) -> Response:
        """The one that new links stand on."""
        try:
            choose_domain(request.user, self.brand, read(ChoiceSerializer, request.data)["id"])
        except LinkDomain.DoesNotExist:
            raise Http404 from None
        return Response(status=204)


class DomainView(BrandView):
    """One host."""

    changes = "links.rules"

    @extend_schema(operation_id="remove_link_domain", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Let it go."""
        try:
            remove_domain(request.user, self.brand, pk)
        except LinkDomain.DoesNotExist:
            raise Http404 from None
        return Response(status=204)
