"""The short link's redirect: find, write the click down, commit, send on. One statement of SQL.

It stands outside the API and its middleware's session work; nothing but stored http(s)
addresses is ever followed.
"""

import secrets
import uuid
from datetime import date
from functools import lru_cache
from urllib.parse import urlsplit

from dakika_core.links.addresses import redirect_target
from dakika_core.links.bots import AgentPatterns, BotReason, classify, device_of
from dakika_core.links.visitors import visitor_hash
from django.db import connection, transaction
from django.http import HttpRequest, HttpResponse

from dakika_server.shared import clock
from dakika_server.shared.security import client_address

_INSERT = """
WITH found AS (SELECT id, brand_id, target FROM links_trackedlink WHERE code = %s),
written AS (
    INSERT INTO links_click (brand_id, link_id, key, at, referrer, device, visitor, bot_reason)
    SELECT brand_id, id, %s, %s, %s, %s, %s, %s FROM found)
SELECT target FROM found
"""


@lru_cache(maxsize=1)
def patterns() -> AgentPatterns:
    """Published patterns of crawlers, compiled once per process."""
    import crawleruseragents

    return AgentPatterns(entry["pattern"] for entry in crawleruseragents.CRAWLER_USER_AGENTS_DATA)


@lru_cache(maxsize=4096)
def _is_crawler(agent: str) -> bool:
    return patterns().match(agent)


class CachedPatterns(AgentPatterns):
    """The patterns, asked once for each agent string: a match costs half a millisecond."""

    def __init__(self) -> None:
        pass

    def match(self, agent: str) -> bool:
        """Whether the agent string is a known crawler's."""
        return _is_crawler(agent)


@lru_cache(maxsize=2)
def salt_of(day: date) -> bytes:
    """The day's salt, the same for every process; whoever comes first makes it."""
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO links_visitorsalt (day, salt) VALUES (%s, %s) ON CONFLICT (day) DO NOTHING",
            [day, secrets.token_bytes(32)],
        )
        cursor.execute("SELECT salt FROM links_visitorsalt WHERE day = %s", [day])
        return bytes(cursor.fetchone()[0])


def follow_link(request: HttpRequest, code: str) -> HttpResponse:
    """302 to the stored address once the click is committed; 404 for codes that are not ours."""
    if request.method not in ("GET", "HEAD"):
        return HttpResponse(status=405, headers={"Allow": "GET, HEAD"})
    now = clock.now()
    agent = request.headers.get("User-Agent", "")[:500]
    headers = {name.lower(): value for name, value in request.headers.items()}
    reason: BotReason = classify(request.method, headers, CachedPatterns())
    visitor = visitor_hash(client_address(request), agent, salt_of(now.date()))
    key = uuid.uuid4()
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(
            _INSERT,
            [
                code[:32],
                key,
                now,
                _host_of(request.headers.get("Referer", "")),
                device_of(agent),
                visitor,
                reason.value,
            ],
        )
        found = cursor.fetchone()
    if found is None:
        return HttpResponse("This link is not known.\n", status=404, content_type="text/plain; charset=utf-8")
    target = redirect_target(found[0], request.META.get("QUERY_STRING", "")[:2000], key.hex)
    return HttpResponse(
        status=302, headers={"Location": target, "Cache-Control": "no-store, private", "Referrer-Policy": "unsafe-url"}
    )


def _host_of(referrer: str) -> str:
    try:
        return (urlsplit(referrer).hostname or "")[:255]
    except ValueError:
        return ""
