"""Notices as messages to people's own browsers: each once, none of what was read, none in quiet hours.

What may have been shown before a kill is sent once more under the same topic and tag: it takes the place of itself.
"""

import json
import logging
from datetime import timedelta

from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet

from dakika_server.accounts.models import User
from dakika_server.networks.fetcher import FetchError
from dakika_server.networks.web_push import Subscription, new_keys, push
from dakika_server.notices.models import NoticeBrowser, Notification, PushKey
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.locks import Lock, wait_within_transaction
from dakika_server.shared.vault import seal, unseal

log = logging.getLogger(__name__)
# A notice is news for a day; what could not be told is tried so often.
LASTS, MOST_TRIES, AGAIN = timedelta(hours=24), 4, timedelta(minutes=5)
AT_ONCE, MOST_BROWSERS = 200, 20


def push_key() -> PushKey:
    """The installation's own, made the first time."""
    found = PushKey.objects.first()
    if found is None:
        with transaction.atomic():
            wait_within_transaction(Lock.PUSH_KEY, 0)
            found = PushKey.objects.first()
            if found is None:
                public, private = new_keys()
                found = PushKey.objects.create(public_key=public, private_key=seal(private))
    return found


def browsers_of(person: User) -> QuerySet[NoticeBrowser]:
    """The browsers of somebody's that show notices, the latest first."""
    return NoticeBrowser.objects.filter(person=person).order_by("-since", "-pk")


def keep_browser(person: User, found: Subscription, device: str) -> NoticeBrowser:
    """Have a browser show somebody's notices; it shows nobody else's from then on. Raises field errors for too many."""
    with transaction.atomic():
        User.objects.select_for_update().get(pk=person.pk)
        known = NoticeBrowser.objects.filter(endpoint=found.endpoint)
        if not known.filter(person=person).exists() and browsers_of(person).count() >= MOST_BROWSERS:
            raise field_errors({"browser": f"There are {MOST_BROWSERS} browsers. Take one away first."})
        kept, _ = NoticeBrowser.objects.update_or_create(
            endpoint=found.endpoint,
            defaults={"person": person, "p256dh": found.p256dh, "auth": found.auth, "device": device[:120],
                      "since": clock.now()},
        )  # fmt: skip
    return kept


def push_due() -> int:
    """Send what is due; how many notices that was."""
    now, done = clock.now(), 0
    due = Notification.objects.filter(push_at__lte=now, pushed_at=None).order_by("push_at", "pk")
    for pk in list(due.values_list("pk", flat=True)[:AT_ONCE]):
        notice = _claimed(pk)
        if notice is not None:
            _send(notice)
            done += 1
    return done


def _claimed(pk: int) -> Notification | None:
    """One that is to be sent, put off for whoever finds it if we die; None for what needs no message any more."""
    now = clock.now()
    with transaction.atomic():
        rows = Notification.objects.select_for_update(skip_locked=True, of=("self",)).select_related("brand", "person")
        notice = rows.filter(pk=pk, push_at__lte=now, pushed_at=None).first()
        if notice is None:
            return None
        if notice.read_at is not None or now - notice.at > LASTS or notice.push_tries >= MOST_TRIES:
            Notification.objects.filter(pk=pk).update(pushed_at=now)
            return None
        notice.push_tries += 1
        notice.push_at = now + AGAIN * notice.push_tries
        notice.save(update_fields=["push_tries", "push_at"])
    return notice


def _send(notice: Notification) -> None:
    key, left = push_key(), notice.at + LASTS - clock.now()
    told = {
        "title": notice.brand.name, "text": notice.text, "tag": f"notice-{notice.pk}",
        "address": f"{settings.PUBLIC_ADDRESS}/{notice.brand.slug}/{notice.path}",
    }  # fmt: skip
    payload, is_done = json.dumps(told, ensure_ascii=False).encode(), True
    for browser in browsers_of(notice.person):
        to = Subscription(endpoint=browser.endpoint, p256dh=browser.p256dh, auth=browser.auth)
        try:
            answer = push(
                to, payload, unseal(key.private_key), seconds=int(left.total_seconds()), topic=f"notice-{notice.pk}"
            )
        except FetchError as error:
            log.info("a browser could not be told: %s", error)
            is_done = False
            continue
        if answer.status in (404, 410):
            # RFC 8030, 7.3: the subscription is over.
            browser.delete()
        elif answer.status == 429 or answer.status >= 500:
            is_done = False
    if is_done:
        Notification.objects.filter(pk=notice.pk).update(pushed_at=clock.now())
