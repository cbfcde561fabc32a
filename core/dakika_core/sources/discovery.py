"""Which profiles does a web page name as its owner's?

In the trade's words: profile discovery.
"""

import json
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from html.parser import HTMLParser
from urllib.parse import unquote, urlsplit

from dakika_core.values.addresses import resolve

MOST_LINKS = 2000
LONGEST_TITLE = 200
_FEEDS = ("application/rss+xml", "application/atom+xml")
_HANDLE = re.compile(r"^[\w.\-]{1,100}$")
# What a network's own pages are called, and shares of a page: no profiles.
_NOT_HANDLES = frozenset(
    {"share", "sharer", "intent", "login", "search", "about", "help", "privacy", "terms", "hashtag"}
)


@dataclass(frozen=True, kw_only=True)
class FoundProfile:
    """A profile that a page links to; `evidence` says how (link, rel-me, structured data)."""

    network: str
    handle: str
    address: str
    evidence: str


@dataclass(frozen=True, kw_only=True)
class SitePage:
    """What a page says of itself: name, picture, feeds, its owner's profiles (the likeliest first).

    links_me are all addresses that it calls its owner's (rel=me), on whatever server.
    """

    name: str
    picture: str
    feeds: tuple[str, ...] = ()
    profiles: tuple[FoundProfile, ...] = ()
    links_me: tuple[str, ...] = ()


@dataclass
class _Seen:
    links: list[tuple[str, str]] = field(default_factory=list)
    feeds: list[str] = field(default_factory=list)
    meta: dict[str, str] = field(default_factory=dict)
    title: str = ""


class _Reader(HTMLParser):
    """Collects links, feeds, metadata and structured data. Never runs anything; bounded in what it keeps."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.seen = _Seen()
        self._data: list[str] | None = None
        self._in_title = False

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        given = {name: value or "" for name, value in attrs}
        rel = given.get("rel", "").lower().split()
        if tag in ("a", "link") and given.get("href") and len(self.seen.links) < MOST_LINKS:
            if tag == "link" and "alternate" in rel and given.get("type", "").lower() in _FEEDS:
                self.seen.feeds.append(given["href"])
            elif tag == "a" or "me" in rel:
                self.seen.links.append((given["href"], "rel-me" if "me" in rel else "link"))
        elif tag == "meta":
            name = (given.get("property") or given.get("name") or "").lower()
            if name and given.get("content"):
                self.seen.meta.setdefault(name, given["content"][:2000])
                if name == "og:see_also":
                    self.seen.links.append((given["content"], "structured data"))
        elif tag == "script" and given.get("type", "").lower() == "application/ld+json":
            self._data = []
        elif tag == "title":
            self._in_title = True

    def handle_endtag(self, tag: str) -> None:
        if tag == "title":
            self._in_title = False
        elif tag == "script" and self._data is not None:
            self._take("".join(self._data))
            self._data = None

    def handle_data(self, data: str) -> None:
        if self._data is not None:
            self._data.append(data)
        elif self._in_title and len(self.seen.title) < LONGEST_TITLE:
            self.seen.title += data

    def _take(self, text: str) -> None:
        try:
            found = json.loads(text)
        except (ValueError, RecursionError):
            return
        for item in found if isinstance(found, list) else [found]:
            same = item.get("sameAs", []) if isinstance(item, dict) else []
            for address in same if isinstance(same, list) else [same]:
                if isinstance(address, str) and len(self.seen.links) < MOST_LINKS:
                    self.seen.links.append((address, "structured data"))


def read_site(page: str, address: str, patterns: Mapping[str, str]) -> SitePage:
    """Read a page found at `address`; patterns map a network's key to its profile address with {handle}.

    Profiles come the likeliest first: what the page says of itself (structured data, rel=me)
    before plain links, then in the order of the page; each once. Broken markup is read as far as it goes.
    """
    reader = _Reader()
    reader.feed(page)
    reader.close()
    seen = reader.seen
    found: dict[tuple[str, str], FoundProfile] = {}
    for evidence in ("structured data", "rel-me", "link"):
        for href, how in seen.links:
            if how == evidence:
                profile = _profile_at(_absolute(address, href), evidence, patterns)
                if profile:
                    found.setdefault((profile.network, profile.handle.lower()), profile)
    name = seen.meta.get("og:site_name") or seen.meta.get("og:title") or seen.title
    return SitePage(
        name=" ".join(name.split())[:LONGEST_TITLE] or (urlsplit(address).hostname or ""),
        picture=_absolute(address, seen.meta.get("og:image", "")),
        feeds=tuple(dict.fromkeys(_absolute(address, href) for href in seen.feeds)),
        profiles=tuple(found.values()),
        links_me=tuple(dict.fromkeys(_absolute(address, href) for href, how in seen.links if how == "rel-me")),
    )


def _absolute(base: str, reference: str) -> str:
    try:
        return resolve(base, reference.strip()) if reference.strip() else ""
    except ValueError:
        return ""


def _profile_at(address: str, evidence: str, patterns: Mapping[str, str]) -> FoundProfile | None:
    try:
        parts = urlsplit(address)
    except ValueError:
        return None
    for network, pattern in patterns.items():
        wanted = urlsplit(pattern)
        if not pattern or (parts.hostname or "").removeprefix("www.") != wanted.hostname:
            continue
        before, _, after = wanted.path.partition("{handle}")
        path = unquote(parts.path)
        if path.startswith(before) and path.rstrip("/").endswith(after):
            rest = path[len(before) :].rstrip("/")
            handle = (rest.removesuffix(after) if after else rest).removeprefix("@")
            if _HANDLE.match(handle) and handle.lower() not in _NOT_HANDLES:
                return FoundProfile(network=network, handle=handle, address=address, evidence=evidence)
    return None
