"""Guests: people without an account, who see and may do what a link of their own allows, until it ends.

Its key is told once and kept as a digest (`shared.keys`).

In the trade's words: share link, external reviewer.
"""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from dakika_core.plan.states import State
from dakika_core.values.period import Period
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.db.models import Q, QuerySet
from django.http import Http404

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require
from dakika_server.plan.models import Guest, PlannedPost
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.keys import digest_of_key, new_key

LONGEST = timedelta(days=366)
MOST = 200
# Ideas and what is not ready to be shown stay with the team.
SHOWN = (
    State.IN_REVIEW.value, State.APPROVED.value, State.SCHEDULED.value, State.PUBLISHING.value, State.PUBLISHED.value,
    State.BY_HAND.value,
)  # fmt: skip
_ORDER = list(Guest.May.values)


def invite(
    actor: Any, brand: Brand, *, name: str, may: str, until: datetime, campaigns: Sequence[int] = (),
    first_day: date | None = None, last_day: date | None = None,
) -> tuple[Guest, str]:  # fmt: skip
    """A link for a guest, and what it opens with: shown now and never again.

    Raises field errors where nothing is shared, where it ends in the past or more than a year ahead, for campaigns of
    elsewhere.
    """
    require(actor, brand, "plan.publish")
    if may == Guest.May.APPROVE:
        # Else whoever plans could let themselves in to say yes to it.
        require(actor, brand, "plan.guests")
    name = " ".join(name.replace("\x00", "").split())[:80]
    found = list(Campaign.objects.filter(brand=brand, pk__in=campaigns))
    wrong: dict[str, str] = {}
    if not name:
        wrong["name"] = "Say who it is for."
    if len(found) != len(set(campaigns)):
        wrong["campaigns"] = "There is no such campaign."
    if not found and (first_day is None or last_day is None):
        wrong["first_day"] = "Choose campaigns or days: what the guest is to see."
    if first_day and last_day and last_day < first_day:
        wrong["last_day"] = "The last day lies before the first."
    now = clock.now()
    if not now < until <= now + LONGEST:
        wrong["until"] = "Choose an end within a year from now."
    if Guest.objects.filter(brand=brand, revoked_at=None, until__gt=now).count() >= MOST:
        wrong["name"] = "There are very many guests already. Take back some links."
    if wrong:
        raise field_errors(wrong)
    key, digest = new_key()
    with transaction.atomic():
        made = Guest.objects.create(
            brand=brand, name=name, digest=digest, may=may, first_day=first_day, last_day=last_day,
            until=until, made_by=actor, made_at=now,
        )  # fmt: skip
        made.campaigns.set(found)
        audit.record(actor, "invite_guest", made, brand_id=brand.pk, may=may, until=until.isoformat())
    return made, key


def revoke_guest(actor: Any, brand: Brand, pk: int) -> None:
    """Take a link back: it opens nothing from now on. What its guest said stays. Raises Http404."""
    require(actor, brand, "plan.publish")
    with transaction.atomic():
        found = Guest.objects.select_for_update().filter(brand=brand, pk=pk).first()
        if found is None:
            raise Http404
        found.revoked_at = found.revoked_at or clock.now()
        found.save(update_fields=["revoked_at"])
        audit.record(actor, "revoke_guest", found, brand_id=brand.pk)


def guests_of(brand: Brand) -> list[Guest]:
    """A brand's guests, the latest first."""
    return list(Guest.objects.filter(brand=brand).prefetch_related("campaigns").order_by("-made_at")[:MOST])


def guest_with(key: str) -> Guest:
    """The guest whose link it is. Raises Http404 for what opens nothing, or no longer."""
    now = clock.now()
    guest = (
        Guest.objects.select_related("brand").filter(digest=digest_of_key(key), revoked_at=None, until__gt=now).first()
    )
    if guest is None:
        raise Http404
    if guest.seen_at is None or now - guest.seen_at > timedelta(minutes=5):
        Guest.objects.filter(pk=guest.pk).update(seen_at=now)
    return guest


def allows(guest: Guest, wanted: str) -> bool:
    """Whether a guest may do something; each may what stands before it, too."""
    return _ORDER.index(guest.may) >= _ORDER.index(wanted)


def require_guest(guest: Guest, wanted: str) -> None:
    """Raises PermissionDenied where a guest may not."""
    if not allows(guest, wanted):
        raise PermissionDenied("Your link lets you look. Ask who sent it to you for more.")


def shown_to(guest: Guest) -> QuerySet[PlannedPost]:
    """Planned posts that a guest sees: those of the link's campaigns, and those of its days."""
    within = Q(pk__in=())
    chosen = list(guest.campaigns.values_list("pk", flat=True))
    if chosen:
        within |= Q(campaign__in=chosen)
    if guest.first_day and guest.last_day:
        days = Period(first=guest.first_day, last=guest.last_day, zone=ZoneInfo(guest.brand.time_zone))
        within |= Q(scheduled_at__gte=days.start, scheduled_at__lt=days.end)
    return PlannedPost.objects.filter(within, brand=guest.brand, state__in=SHOWN)
