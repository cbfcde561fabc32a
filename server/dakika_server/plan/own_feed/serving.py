"""What readers of the feed ask for: the feed itself, whether it changed, pictures, and a sign that an item was seen.

No session, no cookie. Whoever knows the address may read; it is given out by the brand.
"""

import base64
from datetime import datetime
from hashlib import sha256
from uuid import UUID

from dakika_core.links.bots import BotReason, classify, known_crawlers
from dakika_core.plan.atom import AtomEntry, AtomFeed, as_atom
from django.conf import settings
from django.db import connection
from django.http import FileResponse, HttpRequest, HttpResponse
from django.utils.http import http_date, parse_http_date_safe

from dakika_server.links.serializers.making import short_address
from dakika_server.media import storage
from dakika_server.media.models import Asset
from dakika_server.plan.models import OwnFeed, OwnFeedItem
from dakika_server.plan.own_feed.keeping import address_of, hour_of
from dakika_server.shared import clock
from dakika_server.shared.callers import calls_in_minute
from dakika_server.shared.security import client_address

MOST_ENTRIES = 50
# One transparent pixel (GIF89a).
PIXEL = base64.b64decode("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7")
_SEEN = """
INSERT INTO plan_ownfeedseen (brand_id, item_id, hour, views) VALUES (%s, %s, %s, 1)
ON CONFLICT (item_id, hour, brand_id) DO UPDATE SET views = plan_ownfeedseen.views + 1
"""


def feed(request: HttpRequest, key: str) -> HttpResponse:
    """The feed; 304 where nothing changed since it was read (RFC 9110, 13.1)."""
    if request.method not in ("GET", "HEAD"):
        return HttpResponse(status=405, headers={"Allow": "GET, HEAD"})
    found = OwnFeed.objects.select_related("brand").filter(key=key[:40], is_on=True).first()
    if found is None:
        return HttpResponse("There is no such feed, or not any more.\n", status=404, content_type="text/plain")
    items = list(
        OwnFeedItem.objects.filter(brand=found.brand_id, removed_at=None).select_related("link")
        .order_by("-published_at", "-pk")[:MOST_ENTRIES]
    )  # fmt: skip
    changed = max([found.changed_at, *(item.updated_at for item in items)])
    document = as_atom(_told(found, items, changed))
    mark = f'"{sha256(document).hexdigest()[:32]}"'
    headers = {
        "ETag": mark, "Last-Modified": http_date(changed.timestamp()), "Cache-Control": "public, max-age=300",
        "Access-Control-Allow-Origin": "*",
    }  # fmt: skip
    if _is_known(request, mark, changed):
        return HttpResponse(status=304, headers=headers)
    return HttpResponse(document, content_type="application/atom+xml; charset=utf-8", headers=headers)


def seen(request: HttpRequest, guid: UUID) -> HttpResponse:
    """A picture of one pixel that an item holds: whoever loads it sees the item.

    Programs are not counted, nor is the same reader again within a minute.
    """
    answer = HttpResponse(
        PIXEL, content_type="image/gif",
        headers={"Cache-Control": "no-store, private", "Cross-Origin-Resource-Policy": "cross-origin"},
    )  # fmt: skip
    told = {name.lower(): value for name, value in request.headers.items()} | {
        "user-agent": request.headers.get("User-Agent", "")
    }
    if request.method == "GET" and classify("GET", told, known_crawlers()) is BotReason.NONE:
        item = OwnFeedItem.objects.filter(guid=guid, removed_at=None).values("pk", "brand_id").first()
        if item is not None and calls_in_minute(f"feed-seen-{guid}", client_address(request)) == 1:
            with connection.cursor() as cursor:
                cursor.execute(_SEEN, [item["brand_id"], item["pk"], hour_of(clock.now())])
    return answer


def picture(request: HttpRequest, guid: UUID) -> HttpResponse | FileResponse:
    """An item's picture, as long as the item stands in the feed."""
    item = OwnFeedItem.objects.filter(guid=guid, removed_at=None).first()
    asset = item and Asset.objects.filter(brand=item.brand_id, pk=item.picture or 0, state=Asset.State.READY).first()
    rendition = asset and asset.renditions.filter(purpose="full").first()
    if not rendition or request.method not in ("GET", "HEAD"):
        return HttpResponse(status=404)
    try:
        content = storage.opened(rendition.file)
    except FileNotFoundError:
        return HttpResponse(status=404)
    return FileResponse(
        content, content_type=rendition.media_type,
        headers={"Cache-Control": "public, max-age=86400", "Cross-Origin-Resource-Policy": "cross-origin"},
    )  # fmt: skip


def _told(found: OwnFeed, items: list[OwnFeedItem], changed: datetime) -> AtomFeed:
    home = settings.PUBLIC_ADDRESS
    pictures = {
        asset.pk: asset.words for asset in
        Asset.objects.filter(pk__in=[item.picture for item in items if item.picture], kind=Asset.Kind.PICTURE)
    }  # fmt: skip
    return AtomFeed(
        guid=found.guid, title=found.title, author=found.brand.name, address=address_of(found), site=found.site,
        updated_at=changed,
        entries=[
            AtomEntry(
                guid=item.guid, title=item.title, text=item.text, published_at=item.published_at,
                updated_at=item.updated_at, link=short_address(item.link) if item.link else found.site,
                picture=f"{home}/feeds/pictures/{item.guid}" if item.picture in pictures else "",
                picture_words=pictures.get(item.picture or 0, ""), seen=f"{home}/feeds/seen/{item.guid}.gif",
            )
            for item in items
        ],
    )  # fmt: skip


def _is_known(request: HttpRequest, mark: str, changed: datetime) -> bool:
    """Whether the reader has it: by its mark, or where it sent none by its date."""
    told = request.headers.get("If-None-Match")
    if told is not None:
        return told.strip() == "*" or mark in [one.strip().removeprefix("W/") for one in told.split(",")]
    since = parse_http_date_safe(request.headers.get("If-Modified-Since", ""))
    return since is not None and int(changed.timestamp()) <= since
