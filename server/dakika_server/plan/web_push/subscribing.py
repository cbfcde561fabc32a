"""What browsers ask for: the page on which messages are asked for, the scripts, and their coming and going.

No session and no cookie. A browser's address and keys are kept as long as its push service knows it, and are shown
to nobody.
"""

import json
from functools import lru_cache
from pathlib import Path
from uuid import UUID

from dakika_core.links.bots import BotReason, classify, known_crawlers
from django.conf import settings
from django.db import connection, transaction
from django.http import HttpRequest, HttpResponse
from django.utils.html import escape
from django.views.decorators.csrf import csrf_exempt

from dakika_server.networks.web_push import subscription_of
from dakika_server.plan.models import PushChannel, PushDelivery, PushSubscriber
from dakika_server.plan.own_feed.keeping import hour_of
from dakika_server.shared import clock
from dakika_server.shared.callers import calls_in_minute
from dakika_server.shared.parsers import read_json
from dakika_server.shared.security import client_address

LARGEST_BODY = 4096
MOST_A_MINUTE = 20
MOST_SUBSCRIBERS = 200_000
_HERE = Path(__file__).parent
_SEEN = """
INSERT INTO plan_pushseen (brand_id, message_id, hour, views) VALUES (%s, %s, %s, 1)
ON CONFLICT (message_id, hour, brand_id) DO UPDATE SET views = plan_pushseen.views + 1
"""


def asking_page(request: HttpRequest, key: str) -> HttpResponse:  # noqa: ARG001 (called with it)
    """A page of the brand's on which one asks for messages, and takes that back."""
    channel = _channel(key)
    if channel is None:
        return HttpResponse("There are no such messages, or not any more.\n", status=404, content_type="text/plain")
    page = _read("page.html").replace("{name}", escape(channel.brand.name)).replace("{key}", channel.key)
    return HttpResponse(page, headers={"Cache-Control": "no-cache"})


def asking_script(request: HttpRequest) -> HttpResponse:  # noqa: ARG001 (called with it)
    """The script that a page holds."""
    return _script(_read("ask.js"))


def worker_script(request: HttpRequest, key: str) -> HttpResponse:  # noqa: ARG001 (called with it)
    """What shows the messages in a browser."""
    channel = _channel(key)
    home = json.dumps(f"{settings.PUBLIC_ADDRESS}/push")
    named = f"var HOME = {home}, KEY = {json.dumps(channel.key)};\n" if channel else ""
    return _script(named + _read("worker.js") if channel else "", 200 if channel else 404)


def channel_key(request: HttpRequest, key: str) -> HttpResponse:  # noqa: ARG001 (called with it)
    """The public key that a browser asks its push service with (RFC 8292, 4)."""
    channel = _channel(key)
    return _answer(200, json.dumps({"key": channel.public_key})) if channel else _answer(404)


@csrf_exempt
def subscribe(request: HttpRequest, key: str) -> HttpResponse:
    """Take a browser's subscription (W3C Push API, PushSubscriptionJSON): 204; asked again it stays one."""
    if request.method != "POST":
        return HttpResponse(status=405, headers={"Allow": "POST"})
    channel = _channel(key)
    if channel is None:
        return _answer(404)
    if calls_in_minute(f"push-{channel.pk}", client_address(request)) > MOST_A_MINUTE:
        return _answer(429)
    try:
        told = read_json(request.body) if len(request.body) <= LARGEST_BODY else None
        found = subscription_of(told)
    except ValueError:
        return _answer(400)
    with transaction.atomic():
        known = PushSubscriber.objects.filter(brand=channel.brand_id, endpoint=found.endpoint)
        if not known and PushSubscriber.objects.filter(brand=channel.brand_id).count() >= MOST_SUBSCRIBERS:
            return _answer(503)
        PushSubscriber.objects.update_or_create(
            brand_id=channel.brand_id, endpoint=found.endpoint,
            defaults={"p256dh": found.p256dh, "auth": found.auth, "failures": 0},
            create_defaults={"p256dh": found.p256dh, "auth": found.auth, "since": clock.now()},
        )  # fmt: skip
    return _answer(204)


@csrf_exempt
def leave(request: HttpRequest, key: str) -> HttpResponse:
    """A browser that wants no more messages is forgotten: 204, whether it was known or not."""
    if request.method != "POST":
        return HttpResponse(status=405, headers={"Allow": "POST"})
    try:
        told = read_json(request.body) if len(request.body) <= LARGEST_BODY else None
    except ValueError:
        told = None
    endpoint = told.get("endpoint") if isinstance(told, dict) else None
    if not isinstance(endpoint, str):
        return _answer(400)
    # Switched off or not: whoever wants to leave may.
    PushSubscriber.objects.filter(brand__push_channel__key=key[:40], endpoint=endpoint[:1000]).delete()
    return _answer(204)


@csrf_exempt
def shown(request: HttpRequest, token: UUID) -> HttpResponse:
    """A browser tells that it showed a message: counted once."""
    if request.method != "POST":
        return HttpResponse(status=405, headers={"Allow": "POST"})
    told = {name.lower(): value for name, value in request.headers.items()}
    if classify("POST", told, known_crawlers()) is BotReason.NONE:
        now = clock.now()
        with transaction.atomic():
            if PushDelivery.objects.filter(token=token, shown_at=None).update(shown_at=now):
                message = PushDelivery.objects.values("message_id", "message__brand_id").get(token=token)
                with connection.cursor() as cursor:
                    cursor.execute(_SEEN, [message["message__brand_id"], message["message_id"], hour_of(now)])
    return _answer(204)


def _channel(key: str) -> PushChannel | None:
    return PushChannel.objects.select_related("brand").filter(key=key[:40], is_on=True).first()


@lru_cache(maxsize=4)
def _read(name: str) -> str:
    return (_HERE / name).read_text()


def _script(text: str, status: int = 200) -> HttpResponse:
    return HttpResponse(
        text, status=status, content_type="text/javascript; charset=utf-8",
        headers={"Cache-Control": "public, max-age=300", "Cross-Origin-Resource-Policy": "cross-origin"},
    )  # fmt: skip


def _answer(status: int, body: str = "") -> HttpResponse:
    kind = {"content_type": "application/json"} if body else {}
    return HttpResponse(body, status=status, headers={"Access-Control-Allow-Origin": "*"}, **kind)
