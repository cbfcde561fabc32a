"""Sites and goals."""

import secrets
from collections.abc import Sequence
from typing import Any

from dakika_core.values.addresses import AddressError, clean_destination
from django.db import IntegrityError, transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.site.models import Goal, Site, Visit
from dakika_server.site.visiting import note_pages_reached

MOST_HOSTS = 20


def _host(text: str) -> str:
    try:
        cleaned = clean_destination(f"https://{text.strip()}/")
    except AddressError:
        raise field_errors({"hosts": f"“{text}” is no host name, such as orrery.example."}) from None
    return cleaned.removeprefix("https://").rstrip("/")


def save_site(actor: Any, brand: Brand, *, name: str, hosts: Sequence[str], pk: int | None = None) -> Site:
    """Declare a site: only from these hosts does the script's counting come in. Site.DoesNotExist, ValidationError."""
    require(actor, brand, "site.setup")
    if not name.strip():
        raise field_errors({"name": "Give the site a name."})
    found = sorted({_host(host) for host in hosts if host.strip()})
    if not 1 <= len(found) <= MOST_HOSTS:
        raise field_errors({"hosts": f"Name 1 to {MOST_HOSTS} hosts that the script may report from."})
    try:
        with transaction.atomic():
            if pk is None:
                site = Site.objects.create(
                    brand=brand, name=name.strip(), hosts=found, key=secrets.token_urlsafe(15), created_at=clock.now()
                )
            else:
                site = Site.objects.select_for_update().get(brand=brand, pk=pk)
                site.name, site.hosts = name.strip(), found
                site.save(update_fields=["name", "hosts"])
            audit.record(actor, "save_site", site, brand_id=brand.pk, hosts=found)
    except IntegrityError:
        raise field_errors({"name": "There is a site of this name already."}) from None
    return site


def save_goal(
    actor: Any, brand: Brand, *, name: str, kind: str, pattern: str = "", cents: int = 0, currency: str = "EUR",
    is_archived: bool = False, pk: int | None = None,
) -> Goal:  # fmt: skip
    """Set a goal. A page goal looks back: visits of before that reached the page are noted too."""
    require(actor, brand, "site.setup")
    if not name.strip():
        raise field_errors({"name": "Give the goal a name."})
    if kind != Goal.Kind.IMPORT and not pattern.strip():
        raise field_errors({"pattern": "Say which page or which event reaches it."})
    if kind == Goal.Kind.PAGE and not pattern.strip().startswith("/"):
        raise field_errors({"pattern": "A page is named by its path, beginning with a slash; * stands for any part."})
    values = {"name": name.strip(), "kind": kind, "pattern": pattern.strip(), "cents": cents, "currency": currency,
              "is_archived": is_archived}  # fmt: skip
    try:
        with transaction.atomic():
            if pk is None:
                goal = Goal.objects.create(brand=brand, **values)
            else:
                goal = Goal.objects.select_for_update().get(brand=brand, pk=pk)
                for key, value in values.items():
                    setattr(goal, key, value)
                goal.save()
            audit.record(actor, "save_goal", goal, brand_id=brand.pk)
            if kind == Goal.Kind.PAGE and not is_archived:
                note_pages_reached(brand.pk, Visit.objects.filter(brand=brand).iterator(chunk_size=2000))
    except IntegrityError:
        raise field_errors({"name": "There is a goal of this name already."}) from None
    return goal
