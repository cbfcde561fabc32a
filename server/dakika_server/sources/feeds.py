"""Following web feeds: fetched through the guarded fetcher, asked whether anything changed, never twice."""

import logging
import random
from datetime import datetime, timedelta
from typing import Any

from dakika_core.sources.discovery import read_site
from dakika_core.sources.feeds import FeedError, ParsedFeed, parse_feed
from dakika_core.sources.retry import next_try
from dakika_core.values.addresses import AddressError, clean_destination
from django.db import IntegrityError, OperationalError, transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.networks.fetcher import Fetched, FetchError, fetch, place_for_people
from dakika_server.shared import audit, clock
from dakika_server.shared.apart import TooMuch, called
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.models import Feed, FeedItem

log = logging.getLogger(__name__)
ACCEPT = "application/atom+xml, application/rss+xml, application/xml;q=0.9, text/xml;q=0.9, text/html;q=0.5"
LARGEST = 4 * 1024 * 1024
EVERY = timedelta(hours=1)
LONGEST_WAIT = timedelta(days=2)
# What reading one may cost; it happens in a process of its own.
READING_SECONDS, READING_MEGABYTES = 20, 900


def read_feed(fetched: Fetched) -> ParsedFeed:
    """A feed that was fetched, read apart. Raises FeedError, also for one that takes too long to read."""
    try:
        found: ParsedFeed = called(
            parse_feed, fetched.content, fetched.address, fetched.headers, seconds=READING_SECONDS,
            megabytes=READING_MEGABYTES,
        )  # fmt: skip
    except TooMuch:
        raise FeedError("The feed takes far longer to read than a feed of its size does. It is not read.") from None
    return found


def follow_feed(actor: Any, brand: Brand, *, address: str) -> Feed:
    """Follow a feed. The address may be a page's that names one.

    Raises ValidationError when no feed is found there, Conflict when it is followed already.
    """
    require(actor, brand, "sources.follow")
    try:
        with place_for_people():
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
    fetched = fetch(clean_destination(address), accept=ACCEPT, most_bytes=LARGEST)
    try:
        return fetched.address, read_feed(fetched), fetched.headers
    except FeedError:
        if "html" not in fetched.headers.get("content-type", ""):
            raise
    try:
        named = called(
            read_site, fetched.text, fetched.address, {}, seconds=READING_SECONDS, megabytes=READING_MEGABYTES
        ).feeds
    except TooMuch:
        raise FeedError("The page takes far longer to read than a page of its size does. It is not read.") from None
    if not named:
        raise FeedError("The page names no feed. Give the address of an RSS or Atom feed.")
    fetched = fetch(named[0], accept=ACCEPT, most_bytes=LARGEST)
    return fetched.address, read_feed(fetched), fetched.headers


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
        return _store(feed, read_feed(fetched), fetched.headers, now)
    except (FetchError, FeedError) as error:
        _note_failure(feed, str(error), now)
    except OperationalError:
        raise
    except Exception:
        # Whatever it is, the feed is asked again later and not for ever.
        log.exception("feed %s could not be followed up", feed.pk)
        _note_failure(feed, "What came from there could not be taken in.", now)
    return 0


def _note_failure(feed: Feed, message: str, now: datetime) -> None:
    again = next_try(now, feed.failures, every=EVERY, longest=LONGEST_WAIT, chance=random.Random())
    Feed.objects.filter(pk=feed.pk).update(failures=feed.failures + 1, message=message[:500], next_at=again)


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
    require(actor, feed.brand, "sources.follow")
    with transaction.atomic():
        Feed.objects.filter(pk=feed.pk).update(is_followed=False, next_at=None)
        audit.record(actor, "stop_feed", feed, brand_id=feed.brand_id)
