"""Reads of brands."""

from typing import Any

from dakika_server.accounts.permissions import Role
from dakika_server.brands.models import Brand, Campaign, Membership


def brands_of(user: Any) -> list[dict[str, Any]]:
    """The brands a person may see, by name."""
    found = Membership.objects.filter(user=user).select_related("brand").order_by("brand__name")
    return [{"slug": m.brand.slug, "name": m.brand.name, "role": m.role} for m in found]


def team_of(brand: Brand) -> list[Membership]:
    """Who works for a brand, by name; guests are none of them."""
    found = Membership.objects.filter(brand=brand).exclude(role=Role.GUEST.value)
    return list(found.select_related("user").order_by("user__name", "user_id"))


def campaigns_of(brand_id: int) -> list[Campaign]:
    """Campaigns, the latest first."""
    return list(Campaign.objects.filter(brand_id=brand_id).order_by("-first_day", "name"))
