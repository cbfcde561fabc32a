"""Hosts of a brand's own."""

from typing import Any
from urllib.parse import urlsplit

from dakika_core.values.addresses import AddressError, clean_destination
from django.conf import settings
from django.db import IntegrityError, transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.links.models import LinkDomain
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors


def add_domain(actor: Any, brand: Brand, host: str) -> LinkDomain:
    """Take a host as the brand's own; whoever runs it leads it to the redirect. ValidationError for what is no host."""
    require(actor, brand, "links.rules")
    try:
        cleaned = clean_destination(f"https://{host.strip()}/")
    except AddressError:
        raise field_errors({"host": "This is not a host name, such as go.example.org."}) from None
    parts = urlsplit(cleaned)
    name = parts.hostname or ""
    if parts.path != "/" or parts.query or parts.port or "." not in name or name.replace(".", "").isdigit():
        raise field_errors({"host": "Give the host name alone, such as go.example.org."})
    if name in (urlsplit(settings.LINKS_ADDRESS).hostname, urlsplit(settings.PUBLIC_ADDRESS).hostname):
        raise field_errors({"host": "This host belongs to the application itself."})
    try:
        with transaction.atomic():
            domain = LinkDomain.objects.create(brand=brand, host=name, created_at=clock.now())
            audit.record(actor, "add_link_domain", domain, brand_id=brand.pk, host=name)
    except IntegrityError:
        raise field_errors({"host": "This host is taken already."}) from None
    return domain


def choose_domain(actor: Any, brand: Brand, pk: int | None) -> None:
    """New links stand on this host from now on; None for the one that all share. LinkDomain.DoesNotExist."""
    require(actor, brand, "links.rules")
    with transaction.atomic():
        LinkDomain.objects.filter(brand=brand, is_chosen=True).update(is_chosen=False)
        if pk is not None:
            domain = LinkDomain.objects.get(brand=brand, pk=pk)
            domain.is_chosen = True
            domain.save(update_fields=["is_chosen"])
            audit.record(actor, "choose_link_domain", domain, brand_id=brand.pk)


def remove_domain(actor: Any, brand: Brand, pk: int) -> None:
    """Let a host go. Conflict while links stand on it: their addresses are out in the world."""
    require(actor, brand, "links.rules")
    with transaction.atomic():
        domain = LinkDomain.objects.select_for_update().get(brand=brand, pk=pk)
        count = domain.links.count()
        if count:
            raise Conflict("domain_in_use", f"{count} links stand on this host. Their addresses would lead nowhere.")
        audit.record(actor, "remove_link_domain", domain, brand_id=brand.pk, host=domain.host)
        domain.delete()
