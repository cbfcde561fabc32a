"""Reads of brands."""

from typing import Any

from django.db.models import Exists, OuterRef, Subquery

from dakika_server.accounts.models import Passkey, TotpSecret, User, UserSession
from dakika_server.accounts.permissions import Role
from dakika_server.brands.models import Brand, Campaign, Invitation, Membership
from dakika_server.shared import clock


def brands_of(user: Any) -> list[dict[str, Any]]:
    """The brands a person may see, by name."""
    found = Membership.objects.filter(user=user).select_related("brand").order_by("brand__name")
    return [{"slug": m.brand.slug, "name": m.brand.name, "role": m.role} for m in found]


def team_of(brand: Brand) -> list[Membership]:
    """Who works for a brand, by name; guests are none of them."""
    found = Membership.objects.filter(brand=brand, user__is_program=False).exclude(role=Role.GUEST.value)
    return list(found.select_related("user").order_by("user__name", "user_id"))


def campaigns_of(brand_id: int) -> list[Campaign]:
    """Campaigns, the latest first."""
    return list(Campaign.objects.filter(brand_id=brand_id).order_by("-first_day", "name"))


def members_of(brand: Brand, viewer: User, *, shows_all: bool) -> list[dict[str, Any]]:
    """Everybody with a role, by name. shows_all: addresses and signing in of all, else of the viewer alone."""
    found = (
        Membership.objects.filter(brand=brand).select_related("user")
        .annotate(
            seen_at=Subquery(UserSession.objects.filter(user=OuterRef("user")).order_by("-seen_at").values("seen_at")[:1]),
            has_codes=Exists(TotpSecret.objects.filter(user=OuterRef("user"), confirmed_at__isnull=False)),
            has_passkeys=Exists(Passkey.objects.filter(user=OuterRef("user"))),
        )
        .order_by("user__name", "user_id")
    )  # fmt: skip
    return [
        {
            "id": one.user_id, "name": one.user.name or one.user.email, "role": one.role,
            "is_me": one.user_id == viewer.pk, "is_program": one.user.is_program,
            "email": one.user.email if shown and not one.user.is_program else "",
            "seen_at": one.seen_at if shown else None,
            "has_second_factor": (one.has_codes or one.has_passkeys) if shown else None,
        }
        for one in found
        for shown in (shows_all or one.user_id == viewer.pk,)
    ]  # fmt: skip


def invitations_of(brand: Brand) -> list[dict[str, Any]]:
    """Who was asked and has not come, the latest first."""
    found = Invitation.objects.filter(brand=brand, taken_at=None).select_related("made_by").order_by("-made_at", "-pk")
    now = clock.now()
    return [
        {"id": one.pk, "email": one.email, "role": one.role, "by": one.made_by.name if one.made_by else "",
         "made_at": one.made_at, "until": one.until, "is_over": one.until <= now}
        for one in found
    ]  # fmt: skip
