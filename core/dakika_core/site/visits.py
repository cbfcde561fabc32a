"""Visits: requests of one visitor without a long break, and where each came from.

In the trade's words: sessions, traffic source, channel grouping.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from fnmatch import fnmatchcase
from urllib.parse import parse_qsl, urlsplit
from uuid import UUID

from dakika_core.links.addresses import CLICK_PARAMETER

GAP = timedelta(minutes=30)
MOST_PATHS = 30
LONGEST_PATH = 500
DIRECT = "direct"
# Before a source or host that is spelt like a channel of ours but is a stranger's word.
WORD = "word "


@dataclass(frozen=True, kw_only=True)
class Arrival:
    """What a page's address and the referrer say of where a visitor came from."""

    path: str
    click: UUID | None = None
    source: str = ""
    medium: str = ""
    campaign: str = ""
    content: str = ""
    referrer: str = ""

    @property
    def is_new(self) -> bool:
        """Whether it says that somebody was brought here anew, in the middle of a visit too."""
        return self.click is not None or bool(self.source)


def arrival_of(address: str, referrer: str, own_hosts: Iterable[str] = ()) -> Arrival:
    """Read a page's address (or path with query) and the referrer; a referrer of the site itself says nothing."""
    try:
        parts = urlsplit(address)
        query = dict(parse_qsl(parts.query[:4000], max_num_fields=60))
        path = parts.path or "/"
    except ValueError:
        query, path = {}, "/"
    try:
        host = (urlsplit(referrer).hostname or "")[:255]
    except ValueError:
        host = ""
    click = None
    try:
        click = UUID(query[CLICK_PARAMETER]) if CLICK_PARAMETER in query else None
    except ValueError:
        click = None
    return Arrival(
        path=path[:LONGEST_PATH], click=click, referrer="" if host in set(own_hosts) else host,
        **{name: query.get(f"utm_{name}", "")[:100].lower() for name in ("source", "medium", "campaign", "content")},
    )  # fmt: skip


def channel_of(
    arrival: Arrival, network_of_click: str, networks_by_source: Mapping[str, str], networks_by_host: Mapping[str, str]
) -> str:
    """Where a visit belongs: its click's network, else its UTM source, else its referrer's host, else direct.

    Sources and hosts that are a network's are called by the network's key, so that they fall together.
    """
    if network_of_click:
        return network_of_click
    if arrival.source:
        return networks_by_source.get(arrival.source) or _word(arrival.source, networks_by_source)
    if arrival.referrer:
        host = arrival.referrer.removeprefix("www.")
        return networks_by_host.get(host) or _word(host, networks_by_source)
    return DIRECT


def _word(word: str, networks_by_source: Mapping[str, str]) -> str:
    """What a stranger wrote, told apart where it is spelt like a name of ours."""
    is_ours = word == DIRECT or word in networks_by_source.values() or word.startswith(WORD)
    return f"{WORD}{word}" if is_ours else word


@dataclass(kw_only=True)
class Visit:
    """A visit while it is put together from requests."""

    visitor: bytes
    arrival: Arrival
    started: datetime
    ended: datetime
    paths: list[str] = field(default_factory=list)
    pages: int = 0

    def add(self, at: datetime, path: str) -> None:
        """One more page."""
        self.ended = max(self.ended, at)
        self.pages += 1
        if path not in self.paths and len(self.paths) < MOST_PATHS:
            self.paths.append(path)


class Sessions:
    """Puts requests together to visits as they come, in order of time; finished ones are handed on.

    A break of thirty minutes ends a visit (common practice, no source), and so does being brought
    anew by a click or a campaign. Memory grows with the visitors of half an hour, not with the file.
    """

    def __init__(self, gap: timedelta = GAP) -> None:
        self._gap = gap
        self._open: dict[bytes, Visit] = {}
        self._swept: datetime | None = None

    def add(self, visitor: bytes, at: datetime, arrival: Arrival) -> list[Visit]:
        """Take a request; returns visits that are over by now."""
        over = self._sweep(at)
        visit = self._open.get(visitor)
        if visit is not None and (at - visit.ended > self._gap or (arrival.is_new and arrival != visit.arrival)):
            over.append(self._open.pop(visitor))
            visit = None
        if visit is None:
            visit = self._open[visitor] = Visit(visitor=visitor, arrival=arrival, started=at, ended=at)
        visit.add(at, arrival.path)
        return over

    def rest(self) -> list[Visit]:
        """Visits that are still open at the end of the file."""
        left, self._open = list(self._open.values()), {}
        return left

    def _sweep(self, now: datetime) -> list[Visit]:
        if self._swept is not None and now - self._swept < self._gap:
            return []
        self._swept = now
        over = [visitor for visitor, visit in self._open.items() if now - visit.ended > self._gap]
        return [self._open.pop(visitor) for visitor in over]


def reaches(pattern: str, paths: Iterable[str]) -> bool:
    """Whether a page goal is reached: a path as written, or with * for any part."""
    return any(fnmatchcase(path, pattern) or path.rstrip("/") == pattern.rstrip("/") for path in paths)
