"""The brand's messages to browsers as its people set them up, and what was sent."""

import secrets
from typing import Any

from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet, Sum

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.links.models import ClickHour
from dakika_server.networks.web_push import new_keys
from dakika_server.plan.models import PushChannel, PushMessage, PushSeen, PushSubscriber
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict
from dakika_server.shared.vault import seal


def push_of(brand: Brand) -> dict[str, Any]:
    """A brand's messages: where people ask for them, and how many browsers did."""
    channel = PushChannel.objects.filter(brand=brand).first()
    if channel is None:
        return {"is_on": False, "page": "", "script": "", "worker": "", "browsers": 0, "edition": 0}
    home = f"{settings.PUBLIC_ADDRESS}/push"
    return {
        "is_on": channel.is_on, "page": f"{home}/{channel.key}/", "edition": channel.edition,
        "script": f'<script async src="{home}/ask.js" data-push="{channel.key}" data-worker="/messages.js"></script>',
        "worker": f'importScripts("{home}/{channel.key}/worker.js");',
        "browsers": PushSubscriber.objects.filter(brand=brand).count(),
    }  # fmt: skip


def set_push(actor: Any, brand: Brand, *, is_on: bool, edition: int) -> PushChannel:
    """Set it up, or switch it; its keys stay, for browsers know them. Raises Conflict where a colleague was faster."""
    require(actor, brand, "plan.publish")
    with transaction.atomic():
        Brand.objects.select_for_update(no_key=True).get(pk=brand.pk)
        channel = PushChannel.objects.select_for_update().filter(brand=brand).first()
        if (channel.edition if channel else 0) != edition:
            raise Conflict("changed_meanwhile", "Somebody has changed this since you opened it. Look at it again.")
        if channel is None:
            public, private = new_keys()
            channel = PushChannel(
                brand=brand, key=secrets.token_urlsafe(9), public_key=public, private_key=seal(private), edition=0
            )
        channel.is_on, channel.changed_at = is_on, clock.now()
        channel.edition += 1
        channel.save()
        audit.record(actor, "set_push", brand, brand_id=brand.pk, on=is_on)
    return channel


def messages_of(brand: Brand) -> QuerySet[PushMessage]:
    """All that was ever sent."""
    return PushMessage.objects.filter(brand=brand)


def told(messages: list[PushMessage]) -> list[dict[str, Any]]:
    """Messages with how often they were shown, and people's clicks on their links."""
    seen = dict(
        PushSeen.objects.filter(message__in=messages).values_list("message").annotate(n=Sum("views")).order_by()
    )
    links = [one.link_id for one in messages if one.link_id]
    clicks = dict(
        ClickHour.objects.filter(link_id__in=links).values_list("link_id").annotate(n=Sum("people")).order_by()
    )
    return [
        {"message": one, "views": seen.get(one.pk, 0), "clicks": clicks.get(one.link_id, 0) if one.link_id else None}
        for one in messages
    ]
