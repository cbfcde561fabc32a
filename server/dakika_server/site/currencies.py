"""Amounts in several currencies stay apart: one is shown as value, the others are told beside it. None is converted."""

from dataclasses import dataclass

from dakika_core.values.period import Period
from django.db.models import Count, Sum

from dakika_server.brands.models import Brand
from dakika_server.site.models import Conversion, Goal

DEFAULT = "EUR"


@dataclass(frozen=True, kw_only=True)
class InCurrency:
    """What conversions of a period are worth in one currency (ISO 4217)."""

    currency: str
    cents: int
    conversions: int


def currency_of(brand: Brand) -> str:
    """The currency that is shown: that of most of the brand's goals with a worth, else of most of its conversions."""
    for rows in (Goal.objects.filter(brand=brand, cents__gt=0), Conversion.objects.filter(brand=brand)):
        found = rows.values_list("currency").annotate(n=Count("pk")).order_by("-n", "currency").first()
        if found:
            return str(found[0])
    return DEFAULT


def in_other_currencies(brand: Brand, period: Period, shown: str, goal_id: int = 0) -> list[InCurrency]:
    """The conversions of a period whose worth is in another currency than the one that is shown."""
    rows = Conversion.objects.filter(brand=brand, at__gte=period.start, at__lt=period.end).exclude(currency=shown)
    if goal_id:
        rows = rows.filter(goal_id=goal_id)
    summed = rows.exclude(cents=0).values_list("currency").annotate(total=Sum("cents"), n=Count("pk")).order_by("-n")
    return [InCurrency(currency=currency, cents=int(total), conversions=n) for currency, total, n in summed[:10]]
