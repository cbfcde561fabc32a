"""Messages on their way: made once per post, sent through the browsers' push services, each until it is taken.

A message that may have been taken before a kill is sent again under the same topic (RFC 8030, 5.4) and tag: it takes
the place of itself, in the service and in the browser. What is shown is counted by a token, once.
"""

import json
import logging
import time
from datetime import datetime, timedelta
from uuid import UUID

from dakika_core.networks.text_rules import ADDRESS
from dakika_core.plan.states import State
from dakika_core.values.text import cut
from django.db import IntegrityError, connection, transaction
from django.db.models import F, Min

from dakika_server.jobs.asking import ask
from dakika_server.links.serializers.making import short_address
from dakika_server.networks.fetcher import Fetched, FetchError
from dakika_server.networks.web_push import Subscription, as_base64url, push
from dakika_server.plan.models import PlannedPost, PushChannel, PushDelivery, PushMessage, PushSubscriber
from dakika_server.plan.own_feed.putting_up import link_of, page_of, title_of
from dakika_server.shared import audit, clock
from dakika_server.shared.vault import unseal

log = logging.getLogger(__name__)
# A message is news for a day: services keep it so long for a browser that is away, and nothing older is sent.
LASTS = timedelta(hours=24)
LONGEST_TITLE, LONGEST_TEXT = 90, 160
MOST_AT_ONCE, LONGEST_TURN_SECONDS = 200, 60.0
CLAIMED_FOR = timedelta(minutes=2)
AGAIN_MINUTES = (1, 5, 15, 60, 240)
MOST_FAILURES = 5
PUSH_MEDIUM = "push"
_TO_ALL = """
INSERT INTO plan_pushdelivery (message_id, subscriber_id, token, state, attempts, next_at)
SELECT %(message)s, id, gen_random_uuid(), 'waiting', 0, %(now)s FROM plan_pushsubscriber
WHERE brand_id = %(brand)s AND since <= %(now)s
"""


def make_due(now: datetime) -> int:
    """Make messages of what is out and meant to be one; how many. A kill in between loses none and makes none twice."""
    out = PlannedPost.objects.filter(
        as_push=True, push_message=None, versions__state=State.PUBLISHED.value, brand__push_channel__is_on=True,
        versions__published_at__gt=now - LASTS,
    )  # fmt: skip
    done = 0
    for pk in out.order_by("pk").values_list("pk", flat=True).distinct()[:100]:
        try:
            with transaction.atomic():
                done += _make(pk, now)
        except IntegrityError:
            # Somebody else made it at the same moment.
            continue
    return done


def _make(pk: int, now: datetime) -> bool:
    planned = PlannedPost.objects.select_for_update(of=("self",)).select_related("brand", "created_by").get(pk=pk)
    channel = PushChannel.objects.filter(brand=planned.brand_id, is_on=True).first()
    if channel is None or PushMessage.objects.filter(planned_post=planned).exists():
        return False
    published = planned.versions.filter(state=State.PUBLISHED.value).aggregate(at=Min("published_at"))["at"]
    if published and published <= now - LASTS:
        return False
    title, text = words_of(planned)
    page = page_of(planned)
    link = link_of(planned, page, PUSH_MEDIUM) if page else None
    message = PushMessage.objects.create(
        brand=planned.brand, planned_post=planned, title=title, text=text, link=link,
        address=short_address(link) if link else page[:2048], made_at=now,
    )  # fmt: skip
    with connection.cursor() as cursor:
        cursor.execute(_TO_ALL, {"message": message.pk, "brand": planned.brand_id, "now": now})
        message.asked = cursor.rowcount
    message.save(update_fields=["asked"])
    audit.record(None, "make_push_message", message, brand_id=planned.brand_id)
    if message.asked:
        ask("plan.send_push", message_id=message.pk)
    return True


def words_of(planned: PlannedPost) -> tuple[str, str]:
    """What a message says: its title, and the beginning of the words that follow; addresses are left out."""
    title = title_of(planned)
    words = " ".join(ADDRESS.sub(" ", planned.text).split())
    rest = words.removeprefix(title).strip() if not planned.headline.strip() else words
    return cut(title, LONGEST_TITLE), cut(rest, LONGEST_TEXT)


def send(message_id: int) -> None:
    """Send what is due of a message, for a turn; what is left is asked for anew."""
    until = time.monotonic() + LONGEST_TURN_SECONDS
    for _ in range(MOST_AT_ONCE):
        delivery = _claimed(message_id)
        if delivery is None:
            return
        _send(delivery)
        if time.monotonic() > until:
            break
    ask("plan.send_push", message_id=message_id)


def messages_due(now: datetime) -> list[int]:
    """Messages of which something is due: put off before, or left by a worker that was killed."""
    due = PushDelivery.objects.filter(next_at__lte=now, message__brand__push_channel__is_on=True)
    return sorted(set(due.order_by("next_at").values_list("message_id", flat=True)[:5000]))


def _claimed(message_id: int) -> PushDelivery | None:
    now = clock.now()
    with transaction.atomic():
        due = PushDelivery.objects.select_for_update(skip_locked=True, of=("self",)).filter(
            message=message_id, next_at__lte=now, message__brand__push_channel__is_on=True
        )
        delivery = due.select_related("message", "subscriber").order_by("next_at", "pk").first()
        if delivery is None:
            return None
        delivery.attempts += 1
        delivery.next_at = now + CLAIMED_FOR
        delivery.save(update_fields=["attempts", "next_at"])
    return delivery


def _send(delivery: PushDelivery) -> None:
    message, subscriber = delivery.message, delivery.subscriber
    if clock.now() > message.made_at + LASTS:
        _end(delivery, "failed")
        return
    channel = PushChannel.objects.get(brand=message.brand_id)
    try:
        to = Subscription(endpoint=subscriber.endpoint, p256dh=subscriber.p256dh, auth=subscriber.auth)
        left = message.made_at + LASTS - clock.now()
        answer = push(
            to, payload_of(delivery), unseal(channel.private_key), seconds=int(left.total_seconds()),
            topic=topic_of(message.guid),
        )  # fmt: skip
    except FetchError as error:
        log.info("a browser could not be told: %s", error)
        _again(delivery, None)
        return
    if 200 <= answer.status < 300:
        _end(delivery, "taken")
    elif answer.status in (404, 410):
        # RFC 8030, 7.3: the subscription is over.
        _end(delivery, "gone")
    elif answer.status == 429 or answer.status >= 500:
        _again(delivery, answer)
    else:
        log.warning("a push service answered with %s", answer.status)
        _end(delivery, "failed")


def payload_of(delivery: PushDelivery) -> bytes:
    """What the worker in the browser is told; far under the 3,993 bytes that go into one record (RFC 8291, 4)."""
    message = delivery.message
    told = {
        "title": message.title, "text": message.text, "address": message.address, "tag": message.guid.hex,
        "token": str(delivery.token),
    }  # fmt: skip
    return json.dumps(told, ensure_ascii=False).encode()


def topic_of(guid: UUID) -> str:
    """At most 32 characters of base64url (RFC 8030, 5.4)."""
    return as_base64url(guid.bytes)


def _again(delivery: PushDelivery, answer: Fetched | None) -> None:
    if delivery.attempts > len(AGAIN_MINUTES):
        _end(delivery, "failed")
        return
    wait = timedelta(minutes=AGAIN_MINUTES[delivery.attempts - 1])
    told = answer.headers.get("retry-after", "") if answer else ""
    if told.isascii() and told.isdigit():
        wait = max(wait, timedelta(seconds=min(int(told), int(LASTS.total_seconds()))))
    PushDelivery.objects.filter(pk=delivery.pk, state=PushDelivery.State.WAITING).update(next_at=clock.now() + wait)


def _end(delivery: PushDelivery, how: str) -> None:
    """taken, gone or failed: counted once, whoever comes first."""
    with transaction.atomic():
        state = PushDelivery.State.TAKEN if how == "taken" else PushDelivery.State.FAILED
        ended = PushDelivery.objects.filter(pk=delivery.pk, state=PushDelivery.State.WAITING).update(
            state=state, next_at=None
        )
        if not ended:
            return
        PushMessage.objects.filter(pk=delivery.message_id).update(**{how: F(how) + 1})
        subscriber = PushSubscriber.objects.filter(pk=delivery.subscriber_id)
        if how == "taken":
            subscriber.exclude(failures=0).update(failures=0)
        elif how == "gone":
            subscriber.delete()
        else:
            subscriber.update(failures=F("failures") + 1)
            subscriber.filter(failures__gte=MOST_FAILURES).delete()
