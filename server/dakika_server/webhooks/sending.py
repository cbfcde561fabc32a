"""Events on their way: each until it is taken or given up. Who was slow or away is left in peace for a while.

A kill between sending and writing down sends once more: whoever gets events tells them apart by their number.

In the trade's words: retries, circuit breaker, dead letter.
"""

import json
import logging
import time
from datetime import datetime, timedelta

from dakika_core.webhooks.again import GIVEN_UP_AFTER, next_try
from dakika_core.webhooks.signing import signed_headers
from django.db import transaction
from django.db.models import Q

from dakika_server.jobs.asking import ask
from dakika_server.networks.fetcher import Fetched, FetchError, post
from dakika_server.notices.actions import notify
from dakika_server.shared import clock
from dakika_server.shared.vault import unseal
from dakika_server.webhooks.keeping import PERMISSION
from dakika_server.webhooks.models import HookDelivery, HookEvent, WebHook

log = logging.getLogger(__name__)
MOST_AT_ONCE, LONGEST_TURN_SECONDS = 200, 60.0
CLAIMED_FOR = timedelta(minutes=2)
# What happened so long ago is told to nobody any more.
LASTS, KEPT = timedelta(days=7), timedelta(days=30)
NOTICE = "programs"
State = HookDelivery.State


def send(webhook_id: int) -> None:
    """Send what is due to an address, for a turn, the oldest first; what is left is asked for anew."""
    until = time.monotonic() + LONGEST_TURN_SECONDS
    for _ in range(MOST_AT_ONCE):
        delivery = _claimed(webhook_id)
        if delivery is None:
            return
        _send(delivery)
        if time.monotonic() > until:
            break
    ask("webhooks.send", webhook_id=webhook_id)


def _claimed(webhook_id: int) -> HookDelivery | None:
    now = clock.now()
    with transaction.atomic():
        due = HookDelivery.objects.select_for_update(skip_locked=True, of=("self",)).filter(
            Q(webhook__rests_until=None) | Q(webhook__rests_until__lte=now),
            webhook=webhook_id, webhook__is_on=True, state=State.WAITING, next_at__lte=now,
        )  # fmt: skip
        delivery = due.select_related("webhook__brand", "event").order_by("next_at", "pk").first()
        if delivery is None:
            return None
        delivery.attempts += 1
        delivery.next_at = now + CLAIMED_FOR
        delivery.save(update_fields=["attempts", "next_at"])
    return delivery


def body_of(event: HookEvent) -> bytes:
    """What is sent: the same bytes each time."""
    told = {
        "id": str(event.number), "kind": event.kind, "at": event.at.isoformat(), "brand": event.brand.slug,
        "about": event.about,
    }  # fmt: skip
    return json.dumps(told, ensure_ascii=False, separators=(",", ":")).encode()


def _send(delivery: HookDelivery) -> None:
    webhook, event, now = delivery.webhook, delivery.event, clock.now()
    if now - event.at > LASTS:
        _end(delivery, State.FAILED, None, "It happened more than a week ago.", 0)
        return
    secrets = [unseal(webhook.secret)]
    if webhook.secret_before is not None and webhook.before_until is not None and now < webhook.before_until:
        secrets.append(unseal(webhook.secret_before))
    event.brand = webhook.brand
    body, begun = body_of(event), time.monotonic()
    headers = signed_headers(secrets, address=webhook.address, body=body, created=int(now.timestamp()))
    try:
        answer = post(webhook.address, body, headers)
    except FetchError as error:
        _failed(delivery, None, str(error), begun)
        return
    if 200 <= answer.status < 300:
        _taken(delivery, answer, begun)
    elif answer.status == 410:
        _end(delivery, State.FAILED, answer.status, "The address says that it is gone for good.", _since(begun))
        _switch_off(webhook, "The address says that it is gone for good (410).")
    else:
        _failed(delivery, answer, f"It answered {answer.status}.", begun)


def _since(begun: float) -> int:
    return int((time.monotonic() - begun) * 1000)


def _end(delivery: HookDelivery, state: str, status: int | None, error: str, took: int) -> None:
    HookDelivery.objects.filter(pk=delivery.pk).update(
        state=state, status=status, error=error[:300], took_ms=took, tried_at=clock.now(), next_at=None
    )


def _taken(delivery: HookDelivery, answer: Fetched, begun: float) -> None:
    with transaction.atomic():
        _end(delivery, State.TAKEN, answer.status, "", _since(begun))
        WebHook.objects.filter(pk=delivery.webhook_id).exclude(failures=0).update(
            failures=0, failing_since=None, rests_until=None
        )


def _failed(delivery: HookDelivery, answer: Fetched | None, error: str, begun: float) -> None:
    """Try it again later, and leave the address in peace until then."""
    now = clock.now()
    retry_after = answer.headers.get("retry-after", "") if answer else ""
    status = answer.status if answer else None
    with transaction.atomic():
        webhook = WebHook.objects.select_for_update().filter(pk=delivery.webhook_id).first()
        if webhook is None:
            return
        webhook.failures += 1
        webhook.failing_since = webhook.failing_since or now
        again = next_try(delivery.attempts, now, retry_after)
        rest = next_try(min(webhook.failures, 4), now, retry_after)
        webhook.rests_until = rest
        webhook.save(update_fields=["failures", "failing_since", "rests_until"])
        if again is None:
            _end(delivery, State.FAILED, status, f"{error} It was tried {delivery.attempts} times.", _since(begun))
        else:
            HookDelivery.objects.filter(pk=delivery.pk).update(
                status=status, error=error[:300], took_ms=_since(begun), tried_at=now, next_at=again
            )
        if now - webhook.failing_since >= GIVEN_UP_AFTER:
            _switch_off(webhook, f"Nothing was taken for three days. {error}")


def _switch_off(webhook: WebHook, why: str) -> None:
    """Nothing more is sent until somebody has looked; those who may are told."""
    with transaction.atomic():
        if WebHook.objects.filter(pk=webhook.pk, is_on=True).update(is_on=False, off_because=why[:300]):
            log.warning("webhook %d is switched off", webhook.pk)
            notify(
                webhook.brand, kind=NOTICE, key=f"webhook:{webhook.pk}:{clock.now():%Y%m%d%H%M}",
                text=f"“{webhook.name}” is told nothing more: its address does not take it.", detail=why,
                path="team/webhooks", permission=PERMISSION,
            )  # fmt: skip


def webhooks_due(now: datetime) -> list[int]:
    """Addresses to which something is due: put off before, or left by a worker that was killed."""
    due = HookDelivery.objects.filter(state=State.WAITING, next_at__lte=now, webhook__is_on=True).filter(
        Q(webhook__rests_until=None) | Q(webhook__rests_until__lte=now)
    )
    return sorted(set(due.values_list("webhook_id", flat=True)[:5000]))


def forget_old(now: datetime) -> int:
    """Events go after a month, with what became of them; how many."""
    return HookEvent.objects.filter(at__lt=now - KEPT).delete()[0]
