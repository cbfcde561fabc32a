"""Changes to brands and campaigns."""

import json
from collections.abc import Sequence
from datetime import date
from typing import Any
from zoneinfo import available_timezones

from django.db import IntegrityError, transaction
from django.utils.text import slugify

from dakika_server.accounts.permissions import Role, roles_with
from dakika_server.brands.models import Brand, Campaign, Membership, Preference
from dakika_server.brands.permissions import require
from dakika_server.shared import audit
from dakika_server.shared.errors import field_errors
from dakika_server.shared.hooks import Hook

MOST_SLUGS = 50
MONDAY = 0
# Addresses that are something else's.
TAKEN_SLUGS = frozenset(
    {
        "guest",
        "api",
        "health",
        "ready",
        "static",
        "assets",
        "go",
        "share",
        "feeds",
        "hooks",
        "collect",
        "l",
        "begin",
        "report",
        "push",
        "join",
        "reset",
        "address",
    }
)
MOST_PREFERENCES = 40
LONGEST_PREFERENCE = 4_000
zone_changed: Hook[[Brand], None] = Hook("a brand has another time zone")


def add_brand(actor: Any, *, name: str, time_zone: str, first_weekday: int) -> Brand:
    """Make a brand; who makes it may change it. Raises ValidationError for an empty name or an unknown time zone.

    Whoever may change the settings of some brand may make one; a demo, which everybody with it is an admin of, is none.
    """
    admins = Membership.objects.filter(user=actor, role__in=roles_with("brand.change"), brand__is_demo=False)
    if not admins.exists():
        raise field_errors({"name": "Your role lets you make no brands. Ask an admin of your team."})
    return _made(actor, _checked(name, time_zone), time_zone, first_weekday)


def _made(actor: Any, name: str, time_zone: str, first_weekday: int) -> Brand:
    base = slugify(name)[:40] or "brand"
    for number in range(2 if base in TAKEN_SLUGS else 1, MOST_SLUGS):
        slug = base if number == 1 else f"{base}-{number}"
        try:
            with transaction.atomic():
                brand = Brand.objects.create(name=name, slug=slug, time_zone=time_zone, first_weekday=first_weekday)
                Membership.objects.create(user=actor, brand=brand, role=Role.ADMIN.value)
                audit.record(actor, "add_brand", brand, brand_id=brand.pk)
                return brand
        except IntegrityError:
            continue
    raise field_errors({"name": "There are too many brands of this name. Choose another."})


def first_brand(actor: Any, *, name: str, time_zone: str) -> Brand:
    """The brand that an installation begins with. Raises field errors."""
    return _made(actor, _checked(name, time_zone), time_zone, MONDAY)


def change_brand(actor: Any, brand: Brand, *, name: str, time_zone: str, first_weekday: int) -> Brand:
    """Change name, time zone and first day of the week. Its address stays, so that links to it go on working.

    Raises ValidationError for an empty name or an unknown time zone. With another zone, days begin
    at other instants: what is kept by day is worked out anew in the background.
    """
    require(actor, brand, "brand.change")
    has_other_zone = time_zone != brand.time_zone
    brand.name, brand.time_zone, brand.first_weekday = _checked(name, time_zone), time_zone, first_weekday
    with transaction.atomic():
        brand.save(update_fields=["name", "time_zone", "first_weekday"])
        if has_other_zone:
            zone_changed(brand)
        audit.record(actor, "change_brand", brand, brand_id=brand.pk)
    return brand


def _checked(name: str, time_zone: str) -> str:
    name = " ".join(name.replace("\x00", "").split())
    if not name:
        raise field_errors({"name": "Give the brand a name."})
    if time_zone not in available_timezones():
        raise field_errors({"time_zone": f"There is no time zone called {time_zone[:60]}."})
    return name


def keep_campaign(
    actor: Any, brand: Brand, *, campaign: Campaign | None = None, name: str, first_day: date, last_day: date,
    colour: int, goal_metric: str = "", goal_amount: float | None = None, profiles: Sequence[int] = (),
    utm_campaign: str = "", owner: int | None = None,
) -> Campaign:  # fmt: skip
    """Make a campaign, or change one. Raises ValidationError when the name is taken, or for an owner of elsewhere."""
    require(actor, brand, "brand.campaigns")
    if owner is not None and not Membership.objects.filter(brand=brand, user=owner).exists():
        raise field_errors({"owner": "This person does not work for the brand."})
    if goal_metric and not goal_amount:
        raise field_errors({"goal_amount": "Say how much is to be reached."})
    action = "change_campaign" if campaign else "add_campaign"
    campaign = campaign or Campaign(brand=brand)
    campaign.name, campaign.first_day, campaign.last_day, campaign.colour = name.strip(), first_day, last_day, colour
    campaign.goal_metric, campaign.goal_amount = goal_metric, goal_amount if goal_metric else None
    campaign.profiles, campaign.utm_campaign, campaign.owner_id = list(profiles), utm_campaign.strip(), owner
    try:
        with transaction.atomic():
            campaign.save()
            audit.record(actor, action, campaign, brand_id=brand.pk)
    except IntegrityError:
        raise field_errors({"name": "There is a campaign of this name already."}) from None
    return campaign


def keep_preference(membership: Membership, name: str, value: Any) -> None:
    """Keep what a person chose to see. Raises ValidationError for more than is sensible.

    Anybody may, whatever their role: it changes nothing for others.
    """
    written = json.dumps(value)
    if len(written) > LONGEST_PREFERENCE or "\\u0000" in written:
        raise field_errors({"value": "This is more than can be kept."})
    kept = Preference.objects.filter(membership=membership)
    if kept.count() >= MOST_PREFERENCES and not kept.filter(name=name).exists():
        raise field_errors({"value": "There are too many choices kept."})
    Preference.objects.update_or_create(membership=membership, name=name, defaults={"value": value})
