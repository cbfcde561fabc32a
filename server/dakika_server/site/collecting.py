"""Where the page script reports to, and the script itself: no session, no cookie; a site's key opens its counting."""

import hmac
import re
from datetime import UTC, datetime
from functools import lru_cache
from hashlib import sha256
from pathlib import Path
from urllib.parse import urlsplit

from dakika_core.links.agents import browser_of, device_of, language_of
from dakika_core.links.bots import BotReason, classify, known_crawlers
from dakika_core.links.countries import Countries
from dakika_core.links.visitors import visitor_hash
from dakika_core.site.visits import arrival_of
from django.conf import settings
from django.db import connection
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_exempt

from dakika_server.shared import clock
from dakika_server.shared.callers import calls_in_minute
from dakika_server.shared.parsers import read_json
from dakika_server.shared.security import client_address
from dakika_server.site.models import Site
from dakika_server.site.visiting import VisitIn, as_cents, take_event, take_page

LARGEST_BODY = 4096
MOST_A_MINUTE = 120
REMEMBERED = re.compile(r"^[0-9a-f]{32}$")
EVENT = re.compile(r"^[A-Za-z0-9 _.:-]{1,80}$")
SCRIPT = Path(__file__).parent / "visit.js"


def visit_script(request: HttpRequest) -> HttpResponse:  # noqa: ARG001 (called with it)
    """The script that a site puts into its pages."""
    return HttpResponse(
        _script(), content_type="text/javascript; charset=utf-8",
        headers={"Cache-Control": "public, max-age=3600", "Cross-Origin-Resource-Policy": "cross-origin"},
    )  # fmt: skip


@lru_cache(maxsize=1)
def _script() -> bytes:
    return SCRIPT.read_bytes()


@csrf_exempt
def collect(request: HttpRequest, key: str) -> HttpResponse:
    """Take one report: 204, also for what is left out (bots, people who do not want it); 4xx says what is wrong."""
    origin = request.headers.get("Origin", "")
    if request.method == "OPTIONS":
        return _answer(204, origin)
    if request.method != "POST":
        return HttpResponse(status=405, headers={"Allow": "POST, OPTIONS"})
    site = Site.objects.select_related("brand").filter(key=key[:40]).first()
    if site is None:
        return _answer(404, origin)
    if _host_of(origin) not in site.hosts:
        return _answer(403, origin)
    if _wants_nothing(request) or _is_bot(request):
        return _answer(204, origin)
    address = client_address(request)
    # More than a person can look at.
    if calls_in_minute(f"collect-{site.pk}", address) > MOST_A_MINUTE:
        return _answer(429, origin)
    try:
        body = read_json(request.body) if len(request.body) <= LARGEST_BODY else None
    except ValueError:
        body = None
    if not isinstance(body, dict):
        return _answer(400, origin)
    return _answer(_take(site, request, address, body), origin)


def _take(site: Site, request: HttpRequest, address: str, body: dict[str, object]) -> int:
    page, referrer, remembered, name = (str(body.get(k) or "")[:2048] for k in ("u", "r", "i", "e"))
    if _host_of(page) not in site.hosts:
        return 403
    now, agent = clock.now(), request.headers.get("User-Agent", "")[:300]
    visitor = visitor_of(site, address, agent, now, remembered if REMEMBERED.match(remembered) else "")
    if name:
        if not EVENT.match(name):
            return 400
        try:
            cents = as_cents(body["v"]) if body.get("v") is not None else None
        except (ValueError, TypeError, OverflowError):
            return 400
        order = str(body.get("k") or "")[:80]
        told = order or f"{visitor.hex()} {now.timestamp():.3f}"
        take_event(site, visitor, name, now, cents=cents, key=f"event {told}")
        return 204
    arrival = arrival_of(page, referrer, site.hosts)
    visit = VisitIn(
        visitor=visitor, arrival=arrival, started=now, ended=now, pages=1, paths=[arrival.path],
        device=device_of(agent), browser=browser_of(agent),
        language=language_of(request.headers.get("Accept-Language", "")),
        country=country_of(address),
    )  # fmt: skip
    take_page(site, visit)
    return 204


def visitor_of(site: Site, address: str, agent: str, now: datetime, remembered: str = "") -> bytes:
    """A hash of the day's; of what the person agreed to be remembered by, where they did."""
    if remembered:
        return hmac.new(settings.SECRET_KEY.encode(), f"{site.pk} {remembered}".encode(), sha256).digest()[:16]
    return visitor_hash(f"{site.pk} {address}", agent, _salt_of(now.astimezone(UTC).date().isoformat()))


@lru_cache(maxsize=4)
def _salt_of(day: str) -> bytes:
    """The day's salt, the same for every process; whoever comes first makes it."""
    import secrets

    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO links_visitorsalt (day, salt) VALUES (%s, %s) "
            "ON CONFLICT (day) DO UPDATE SET day = excluded.day RETURNING salt",
            [day, secrets.token_bytes(32)],
        )
        return bytes(cursor.fetchone()[0])


def country_of(address: str) -> str:
    """The country of a network address by the packaged table."""
    return str(_countries().of(address))


@lru_cache(maxsize=1)
def _countries() -> Countries:
    return Countries(settings.COUNTRIES_FILE)


def _host_of(address: str) -> str:
    try:
        return urlsplit(address).netloc.lower()
    except ValueError:
        return ""


def _wants_nothing(request: HttpRequest) -> bool:
    """Do Not Track and Global Privacy Control are respected here too, whatever a script did."""
    return request.headers.get("DNT") == "1" or request.headers.get("Sec-GPC") == "1"


def _is_bot(request: HttpRequest) -> bool:
    headers = {name.lower(): value for name, value in request.headers.items()}
    return classify("GET", headers, known_crawlers()) is not BotReason.NONE


def _answer(status: int, origin: str) -> HttpResponse:
    response = HttpResponse(status=status)
    if origin:
        response["Access-Control-Allow-Origin"] = origin
        response["Access-Control-Allow-Methods"] = "POST"
        response["Access-Control-Allow-Headers"] = "Content-Type"
        response["Vary"] = "Origin"
    return response
