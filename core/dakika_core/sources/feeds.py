"""Web feeds as they are read: RSS and Atom through feedparser, everything in them made plain and bounded."""

import re
from calendar import timegm
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from dakika_core.sources.plain_text import text_of
from dakika_core.values.addresses import AddressError, clean_destination, resolve

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
