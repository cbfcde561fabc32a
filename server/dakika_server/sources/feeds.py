"""Following web feeds: fetched through the guarded fetcher, asked whether anything changed, never twice."""

import re
from calendar import timegm
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from dakika_core.sources.plain_text import text_of
from dakika_core.sources.retry import wait_seconds
from dakika_core.values.addresses import AddressError, clean_destination, resolve
from django.db import IntegrityError, transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require_editor
from dakika_server.networks.fetcher import FetchError, fetch
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.models import Feed, FeedItem

ACCEPT = "application/atom+xml, application/rss+xml, application/xml;q=0.9, text/xml;q=0.9, text/html;q=0.5"
LARGEST = 4 * 1024 * 1024
EVERY = timedelta(hours=1)
LONGEST_WAIT = timedelta(days=2)
MOST_ITEMS = 500
# RFC 4287 and RSS 2.0 need no document type; entities declared in one are how a small file becomes a large one.
_DECLARES = re.compile(rb"<!\s*(DOCTYPE[^>\[]*\[|ENTITY)", re.IGNORECASE)


class FeedError(Exception):
    """What came is no feed that can be read; the text says why."""


@dataclass(frozen=True, kw_only=True)
class ParsedFeed:
    """A feed as read: its title, its site, its items."""

    title: str
    site: str
    items: list[dict[str, Any]]


def parse_feed(content: bytes, address: str, headers: dict[str, str] | None = None) -> ParsedFeed:
    """Read RSS or Atom. Raises FeedError when it is neither, or declares entities of its own."""
    import feedparser

    if _DECLARES.search(content):
        raise FeedError("The feed declares entities of its own, which can swell without bound. It is not read.")
    kept = {k: v for k, v in (headers or {}).items() if k == "content-type"}
    read = feedparser.parse(content, response_headers={**kept, "content-location": address}, sanitize_html=True)
    if not read.get("version"):
        raise FeedError("There is no RSS or Atom feed at this address.")
    items = []
    for entry in read.entries[:MOST_ITEMS]:
        link = str(entry.get("link", ""))
        guid = str(entry.get("id") or link or entry.get("title", ""))[:500]
        if not guid:
            continue
        body = entry.get("summary") or next((c.get("value", "") for c in entry.get("content", [])), "")
        items.append({
            "guid": _clean(guid), "title": _clean(text_of(str(entry.get("title", ""))))[:500],
            "summary": _clean(text_of(str(body), longest=4000)), "author": _clean(str(entry.get("author", "")))[:200],
            "address": _address(address, link), "published_at": _instant(entry),
        })  # fmt: skip
    channel = read.feed
    title = _clean(text_of(str(channel.get("title", "")))) or address
    return ParsedFeed(title=title[:300], site=_address(address, str(channel.get("link", ""))), items=items)


def _clean(text: str) -> str:
    return text.replace("\x00", "").encode("utf-8", "replace").decode()


def _address(base: str, reference: str) -> str:
    """An http(s) address, or nothing: a feed's links are shown as links."""
    try:
        return clean_destination(resolve(base, reference)) if reference else ""
    except (AddressError, ValueError):
        return ""


def _instant(entry: Any) -> datetime | None:
    for name in ("published_parsed", "updated_parsed", "created_parsed"):
        value = entry.get(name)
        if value:
            try:
                found = datetime.fromtimestamp(timegm(value), tz=UTC)
            except (ValueError, OverflowError, OSError):
                continue
            return found if 1990 <= found.year <= 2100 else None
    return None


def follow_feed(actor: Any, brand: Brand, *, address: str) -> Feed:
    """Follow a feed. The address may be a page's that names one.

    Raises ValidationError when no feed is found there, Conflict when it is followed already.
    """
    require_editor(actor, brand)
    try:
        address, parsed, headers = _find(address)
    except (AddressError, FetchError, FeedError) as error:
        raise field_errors({"address": str(error)}) from None
    now = clock.now()
    try:
        with transaction.atomic():
            feed, is_new = Feed.objects.get_or_create(
                brand=brand, address=address, defaults={"title": parsed.title, "site": parsed.site, "added_at": now}
            )
            if not is_new and feed.is_followed:
                raise Conflict("already_followed", f"“{feed.title}” is followed already.")
            feed.is_followed, feed.message, feed.failures = True, "", 0
            _store(feed, parsed, headers, now)
            audit.record(actor, "follow_feed", feed, brand_id=brand.pk)
    except IntegrityError:
        raise Conflict("already_followed", "This feed is followed already.") from None
    return feed


def _find(address: str) -> tuple[str, ParsedFeed, dict[str, str]]:
    """The feed at an address, or the first one that the page there names."""
    from dakika_core.sources.discovery import read_site

    fetched = fetch(clean_destination(address), accept=ACCEPT, most_bytes=LARGEST)
    try:
        return fetched.address, parse_feed(fetched.content, fetched.address, fetched.headers), fetched.headers
    except FeedError:
        if "html" not in fetched.headers.get("content-type", ""):
            raise
    named = read_site(fetched.text, fetched.address, {}).feeds
    if not named:
        raise FeedError("The page names no feed. Give the address of an RSS or Atom feed.")
    fetched = fetch(named[0], accept=ACCEPT, most_bytes=LARGEST)
    return fetched.address, parse_feed(fetched.content, fetched.address, fetched.headers), fetched.headers


def fetch_items(feed_id: int) -> int:
    """Fetch a feed if anything changed; returns how many items are new. What goes wrong is written on the feed."""
    feed = Feed.objects.filter(pk=feed_id, is_followed=True).first()
    if feed is None:
        return 0
    asked = {"If-None-Match": feed.etag, "If-Modified-Since": feed.modified}
    now = clock.now()
    try:
        fetched = fetch(feed.address, accept=ACCEPT, most_bytes=LARGEST, headers={k: v for k, v in asked.items() if v})
        if fetched.status == 304:
            Feed.objects.filter(pk=feed.pk).update(fetched_at=now, next_at=now + EVERY, failures=0, message="")
            return 0
        return _store(feed, parse_feed(fetched.content, fetched.address, fetched.headers), fetched.headers, now)
    except (FetchError, FeedError) as error:
        import random

        wait = min(EVERY * 2 ** min(feed.failures, 8), LONGEST_WAIT) + timedelta(
            seconds=wait_seconds(6, random.Random())
        )
        Feed.objects.filter(pk=feed.pk).update(failures=feed.failures + 1, message=str(error)[:500], next_at=now + wait)
        return 0


def _store(feed: Feed, parsed: ParsedFeed, headers: dict[str, str], now: datetime) -> int:
    with transaction.atomic():
        before = FeedItem.objects.filter(feed=feed).count()
        FeedItem.objects.bulk_create(
            [FeedItem(brand_id=feed.brand_id, feed=feed, seen_at=now, **item) for item in parsed.items],
            ignore_conflicts=True,
        )
        feed.title, feed.site = parsed.title, parsed.site
        feed.etag, feed.modified = headers.get("etag", "")[:300], headers.get("last-modified", "")[:100]
        feed.fetched_at, feed.next_at, feed.failures, feed.message = now, now + EVERY, 0, ""
        feed.save()
        return FeedItem.objects.filter(feed=feed).count() - before


def stop_feed(actor: Any, feed: Feed) -> None:
    """Stop following a feed; its items stay."""
    require_editor(actor, feed.brand)
    with transaction.atomic():
        Feed.objects.filter(pk=feed.pk).update(is_followed=False, next_at=None)
        audit.record(actor, "stop_feed", feed, brand_id=feed.brand_id)
