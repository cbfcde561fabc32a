"""The feed as its people set it up, and what stands in it."""

import secrets
from datetime import datetime
from typing import Any

from dakika_core.values.addresses import AddressError, clean_destination
from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet, Sum
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.links.models import ClickHour
from dakika_server.plan.models import OwnFeed, OwnFeedItem, OwnFeedSeen
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors


def own_feed_of(brand: Brand) -> dict[str, Any]:
    """A brand's feed: its address where there is one."""
    feed = OwnFeed.objects.filter(brand=brand).first()
    if feed is None:
        return {"is_on": False, "title": f"{brand.name}: news"[:120], "site": "", "address": "", "edition": 0}
    return {
        "is_on": feed.is_on, "title": feed.title, "site": feed.site, "address": address_of(feed),
        "edition": feed.edition,
    }  # fmt: skip


def set_own_feed(actor: Any, brand: Brand, *, is_on: bool, title: str, site: str, edition: int) -> OwnFeed:
    """Set it up, or differently; its address stays. Raises Conflict where a colleague changed it, field errors."""
    require(actor, brand, "plan.publish")
    title = " ".join(title.replace("\x00", "").split())[:120]
    if not title:
        raise field_errors({"title": "Give it a title."})
    if site.strip():
        try:
            site = clean_destination(site)
        except AddressError as error:
            raise field_errors({"site": str(error)}) from None
    with transaction.atomic():
        Brand.objects.select_for_update(no_key=True).get(pk=brand.pk)
        feed = OwnFeed.objects.select_for_update().filter(brand=brand).first()
        if (feed.edition if feed else 0) != edition:
            raise Conflict("changed_meanwhile", "Somebody has changed the feed since you opened it. Look at it again.")
        feed = feed or OwnFeed(brand=brand, key=secrets.token_urlsafe(9), edition=0)
        feed.is_on, feed.title, feed.site, feed.changed_at = is_on, title, site.strip()[:500], clock.now()
        feed.edition += 1
        feed.save()
        audit.record(actor, "set_own_feed", brand, brand_id=brand.pk, on=is_on)
    return feed


def put_away(actor: Any, brand: Brand, pk: int, *, is_away: bool) -> OwnFeedItem:
    """Take an item out of the feed, or put it back. Readers that have it keep it. Raises Http404."""
    require(actor, brand, "plan.publish")
    with transaction.atomic():
        item = OwnFeedItem.objects.select_for_update().filter(brand=brand, pk=pk).first()
        if item is None:
            raise Http404
        item.removed_at = clock.now() if is_away else None
        item.updated_at = clock.now()
        item.save(update_fields=["removed_at", "updated_at"])
        audit.record(actor, "put_away_feed_item", item, brand_id=brand.pk, away=is_away)
    return item


def items_of(brand: Brand) -> QuerySet[OwnFeedItem]:
    """All that ever stood in it."""
    return OwnFeedItem.objects.filter(brand=brand).select_related("link", "planned_post")


def told(items: list[OwnFeedItem]) -> list[dict[str, Any]]:
    """Items with how often they were seen, and people's clicks on their links."""
    seen = dict(
        OwnFeedSeen.objects.filter(item__in=items).values_list("item").annotate(n=Sum("views")).order_by()
    )  # fmt: skip
    links = [item.link_id for item in items if item.link_id]
    clicks = dict(
        ClickHour.objects.filter(link_id__in=links).values_list("link_id").annotate(n=Sum("people")).order_by()
    )
    return [
        {"item": item, "views": seen.get(item.pk, 0), "clicks": clicks.get(item.link_id, 0) if item.link_id else None}
        for item in items
    ]


def address_of(feed: OwnFeed) -> str:
    """Where the feed is read."""
    return f"{settings.PUBLIC_ADDRESS}/feeds/{feed.key}.atom"


def hour_of(at: datetime) -> datetime:
    """The beginning of an instant's hour."""
    return at.replace(minute=0, second=0, microsecond=0)
