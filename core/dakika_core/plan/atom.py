"""Atom feeds, as RFC 4287 writes them."""

import re
import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from html import escape
from xml.etree import ElementTree as ET

from dakika_core.networks.text_rules import ADDRESS

NAMESPACE = "http://www.w3.org/2005/Atom"
# What XML 1.0 (2.2) lets stand in a document; everything else would make it unreadable as a whole.
_NO_CHARACTER = re.compile("[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
_BLANK_LINE = re.compile(r"\n\s*\n")


@dataclass(frozen=True, kw_only=True)
class AtomEntry:
    """An item. link: where it leads, or nothing; seen: a picture that tells that somebody saw it, or nothing."""

    guid: uuid.UUID
    title: str
    text: str
    published_at: datetime
    updated_at: datetime
    link: str = ""
    picture: str = ""
    picture_words: str = ""
    seen: str = ""


@dataclass(frozen=True, kw_only=True)
class AtomFeed:
    """A feed: its own address, the site it is of, and who writes it."""

    guid: uuid.UUID
    title: str
    author: str
    address: str
    site: str
    updated_at: datetime
    entries: Sequence[AtomEntry]


def as_atom(feed: AtomFeed) -> bytes:
    """A feed as a document in UTF-8 (media type application/atom+xml, RFC 4287, 7)."""
    ET.register_namespace("", NAMESPACE)
    root = ET.Element(_name("feed"))
    _put(root, "id", feed.guid.urn)
    _put(root, "title", feed.title)
    _put(root, "updated", _instant(feed.updated_at))
    _put(_put(root, "author", ""), "name", feed.author)
    _link(root, "self", feed.address, "application/atom+xml")
    if feed.site:
        _link(root, "alternate", feed.site, "text/html")
    for one in feed.entries:
        entry = _put(root, "entry", "")
        _put(entry, "id", one.guid.urn)
        _put(entry, "title", one.title or one.text[:80] or "Untitled")
        _put(entry, "published", _instant(one.published_at))
        _put(entry, "updated", _instant(one.updated_at))
        if one.link:
            _link(entry, "alternate", one.link, "text/html")
        _put(entry, "content", content_of(one)).set("type", "html")
    document: bytes = ET.tostring(root, encoding="utf-8", xml_declaration=False)
    return b"<?xml version='1.0' encoding='utf-8'?>\n" + document


def content_of(entry: AtomEntry) -> str:
    """An item's words as HTML: paragraphs, lines, addresses as links, its picture; all of it escaped."""
    words = [f"<p>{_linked(part.strip())}</p>" for part in _BLANK_LINE.split(entry.text) if part.strip()]
    if entry.picture:
        words.insert(0, f'<p><img src="{escape(entry.picture)}" alt="{escape(entry.picture_words)}"></p>')
    if entry.seen:
        words.append(f'<img src="{escape(entry.seen)}" alt="" width="1" height="1">')
    return "".join(words)


def _linked(text: str) -> str:
    found, last = [], 0
    for match in ADDRESS.finditer(text):
        address = escape(match[0])
        found += [escape(text[last : match.start()]), f'<a href="{address}">{address}</a>']
        last = match.end()
    return "".join([*found, escape(text[last:])]).replace("\n", "<br>")


def _name(tag: str) -> str:
    return f"{{{NAMESPACE}}}{tag}"


def _put(parent: ET.Element, tag: str, text: str) -> ET.Element:
    found = ET.SubElement(parent, _name(tag))
    found.text = _NO_CHARACTER.sub("", text) or None
    return found


def _link(parent: ET.Element, rel: str, address: str, media_type: str) -> None:
    ET.SubElement(parent, _name("link"), {"rel": rel, "href": _NO_CHARACTER.sub("", address), "type": media_type})


def _instant(at: datetime) -> str:
    """RFC 3339, as RFC 4287, 3.3 asks for."""
    return at.astimezone(UTC).isoformat(timespec="seconds").replace("+00:00", "Z")
