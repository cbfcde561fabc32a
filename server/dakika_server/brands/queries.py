"""Reads of brands."""

from typing import Any

from dakika_server.brands.models import Campaign, Membership


def brands_of(user: Any) -> list[dict[str, Any]]:
    """The brands a person may see, by name."""
    found = Membership.objects.filter(user=user).select_related("brand").order_by("brand__name")
    return [{"slug": m.brand.slug, "name": m.brand.name, "role": m.role} for m in found]


def campaigns_of(brand_id: int) -> list[Campaign]:
    """Campaigns, the latest first."""
    return list(Campaign.objects.filter(brand_id=brand_id).order_by("-first_day", "name"))
