"""Visits and conversions come in here, whoever tells of them: the page script, an access log, a file, the API.

A visit that carries a click's identifier belongs to that click's link, and to the latest post that
carried the link by then. What it reached of the brand's goals is noted in the same transaction.
"""

import json
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, NamedTuple
from uuid import UUID

from dakika_core.site.visits import GAP, MOST_PATHS, Arrival, channel_of, reaches
from django.db import connection, transaction

from dakika_server.links.models import Click, LinkUse, TrackedLink
from dakika_server.networks.definitions import all_networks
from dakika_server.shared.locks import Lock, number_of, wait_within_transaction
from dakika_server.site.models import Conversion, Goal, Site, Visit

_COLUMNS = (
    "brand_id, site_id, visitor, started_at, ended_at, pages, paths, channel, referrer, source, medium, utm_campaign, "
    "content, click_key, link_id, post_id, campaign_id, device, browser, language, country, origin"
)
_STAGE = f"""
CREATE TEMP TABLE IF NOT EXISTS visit_rows ON COMMIT DROP AS SELECT {_COLUMNS} FROM site_visit WITH NO DATA
"""
_TAKE = f"""
WITH made AS (
    INSERT INTO site_visit ({_COLUMNS}) SELECT {_COLUMNS} FROM visit_rows
    ON CONFLICT (brand_id, visitor, started_at) DO NOTHING RETURNING id, visitor, ended_at, paths::text
), emptied AS (DELETE FROM visit_rows)
SELECT * FROM made
"""


class Seen(NamedTuple):
    """What goals need to know of a visit."""

    pk: int
    visitor: bytes
    ended_at: datetime
    paths: list[str]


@dataclass(frozen=True, kw_only=True)
class VisitIn:
    """A whole visit, or the first page of one."""

    visitor: bytes
    arrival: Arrival
    started: datetime
    ended: datetime
    pages: int
    paths: Sequence[str]
    device: str = ""
    browser: str = ""
    language: str = ""
    country: str = ""


class Channels:
    """What sources and referring hosts are called; asked once for a batch."""

    def __init__(self) -> None:
        networks = all_networks()
        self.by_source = {(n.utm_source or key).lower(): key for key, n in networks.items()}
        self.by_host = {host: key for key, network in networks.items() for host in network.referrer_hosts}

    def of(self, arrival: Arrival, network: str) -> str:
        """The channel of an arrival; `network` of its click, if any."""
        return channel_of(arrival, network, self.by_source, self.by_host)[:100]


def take_visits(site: Site, visits: Sequence[VisitIn], origin: str) -> int:
    """Take whole visits in; those known already add nothing. Returns how many are new."""
    links = _links_of_clicks(site.brand_id, [v.arrival.click for v in visits if v.arrival.click])
    posts = _posts_of(links.values())
    channels = Channels()
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(_STAGE)
        with cursor.copy(f"COPY visit_rows ({_COLUMNS}) FROM STDIN") as copy:
            for visit in visits:
                copy.write_row(_row(site, visit, origin, channels, links, posts))
        # The constraint alone decides what is new, also between two at once.
        cursor.execute(_TAKE)
        fresh = [
            Seen(pk=pk, visitor=bytes(visitor), ended_at=ended, paths=json.loads(paths))
            for pk, visitor, ended, paths in cursor.fetchall()
        ]
        note_pages_reached(site.brand_id, fresh)
    return len(fresh)


def _row(
    site: Site, visit: VisitIn, origin: str, channels: Channels, links: dict[UUID, TrackedLink],
    posts: dict[int, list[tuple[datetime, int]]],
) -> tuple[Any, ...]:  # fmt: skip
    """A visit in the order of _COLUMNS."""
    arrival = visit.arrival
    link = links.get(arrival.click) if arrival.click else None
    return (
        site.brand_id, site.pk, visit.visitor, visit.started, visit.ended, visit.pages,
        json.dumps(list(visit.paths)[:MOST_PATHS]).replace("\\u0000", ""),
        channels.of(arrival, link.network if link else ""), *(
            text.replace("\x00", "")
            for text in (arrival.referrer, arrival.source, arrival.medium, arrival.campaign, arrival.content)
        ), arrival.click, link.pk if link else None, _post_by(posts.get(link.pk, []), visit.started) if link else None,
        link.campaign_id if link else None, visit.device, visit.browser, visit.language, visit.country, origin,
    )  # fmt: skip


def _links_of_clicks(brand_id: int, keys: Iterable[UUID]) -> dict[UUID, TrackedLink]:
    rows = Click.objects.filter(brand_id=brand_id, key__in=list(keys)).values_list("key", "link_id")
    found = dict(rows)
    links = TrackedLink.objects.in_bulk(set(found.values()))
    return {key: links[pk] for key, pk in found.items()}


def _posts_of(links: Iterable[TrackedLink]) -> dict[int, list[tuple[datetime, int]]]:
    found: dict[int, list[tuple[datetime, int]]] = {}
    uses = LinkUse.objects.filter(link__in={link.pk for link in links}).order_by("post__published_at")
    for link, at, post in uses.values_list("link_id", "post__published_at", "post_id"):
        found.setdefault(link, []).append((at, post))
    return found


def _post_by(uses: list[tuple[datetime, int]], at: datetime) -> int | None:
    """The latest post that carried the link by then; the first one for a visit that came before all of them."""
    before = [post for published, post in uses if published <= at]
    return before[-1] if before else (uses[0][1] if uses else None)


def note_pages_reached(brand_id: int, visits: Iterable[Visit | Seen]) -> int:
    """Conversions for page goals that the visits reached: one a goal and visit, however often it is noted."""
    goals = list(Goal.objects.filter(brand_id=brand_id, kind=Goal.Kind.PAGE, is_archived=False))
    if not goals:
        return 0
    rows = [
        Conversion(
            brand_id=brand_id, goal=goal, visit_id=visit.pk, visitor=visit.visitor,
            key=f"visit {visit.pk} goal {goal.pk}", at=visit.ended_at, cents=goal.cents, currency=goal.currency,
        )
        for visit in visits for goal in goals if reaches(goal.pattern, visit.paths)
    ]  # fmt: skip
    return len(Conversion.objects.bulk_create(rows, ignore_conflicts=True))


def take_page(site: Site, visit: VisitIn) -> Visit:
    """One page told by the script: carries a running visit on, or begins one. Two at once never make two of one."""
    with transaction.atomic():
        wait_within_transaction(Lock.VISITOR, number_of(visit.visitor))
        running = (
            Visit.objects.filter(brand_id=site.brand_id, visitor=visit.visitor, ended_at__gte=visit.started - GAP)
            .order_by("-started_at").first()
        )  # fmt: skip
        arrival = visit.arrival
        if running is None or (arrival.is_new and arrival.click != running.click_key):
            take_visits(site, [visit], "script")
            return Visit.objects.get(brand_id=site.brand_id, visitor=visit.visitor, started_at=visit.started)
        running.pages += 1
        running.ended_at = max(running.ended_at, visit.ended)
        if arrival.path not in running.paths and len(running.paths) < MOST_PATHS:
            running.paths = [*running.paths, arrival.path]
        running.save(update_fields=["pages", "ended_at", "paths"])
        note_pages_reached(site.brand_id, [running])
        return running


def take_event(site: Site, visitor: bytes, name: str, at: datetime, *, cents: int | None, key: str) -> int:
    """An event told by the script: a conversion for each goal that waits for it; returns how many are new."""
    visit = (
        Visit.objects.filter(brand_id=site.brand_id, visitor=visitor, started_at__lte=at)
        .order_by("-started_at")
        .first()
    )
    goals = Goal.objects.filter(brand_id=site.brand_id, kind=Goal.Kind.EVENT, pattern=name, is_archived=False)
    rows = [
        Conversion(
            brand_id=site.brand_id, goal=goal, visit=visit, visitor=visitor, key=f"{key} goal {goal.pk}"[:120], at=at,
            cents=goal.cents if cents is None else cents, currency=goal.currency,
        )
        for goal in goals
    ]  # fmt: skip
    before = Conversion.objects.filter(key__in=[row.key for row in rows], brand_id=site.brand_id).count()
    Conversion.objects.bulk_create(rows, ignore_conflicts=True)
    return len(rows) - before


def forget_visitor(brand_id: int, visitor: bytes) -> int:
    """Take out everything that is kept of a visitor; what they bought stays as a figure without them."""
    with transaction.atomic():
        Conversion.objects.filter(brand_id=brand_id, visitor=visitor).update(visitor=None, contact="", visit=None)
        count, _ = Visit.objects.filter(brand_id=brand_id, visitor=visitor).delete()
    return count


def days_between(first: datetime, last: datetime) -> float:
    """Days from one instant to another."""
    return (last - first) / timedelta(days=1)


def as_cents(value: Any) -> int:
    """An amount such as 12.50 in cents; ValueError for what is none, is negative, or beyond any till."""
    cents = round(float(value) * 100)
    if not 0 <= cents < 10**12:
        raise ValueError("an amount is between 0 and 10,000,000,000")
    return cents
