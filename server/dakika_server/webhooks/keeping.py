"""Addresses that are told: made, changed, tried, taken away; and what became of each telling."""

import secrets
from collections.abc import Sequence
from typing import Any
from urllib.parse import urlsplit

from dakika_core.values.addresses import AddressError, clean_destination
from django.db import transaction
from django.db.models import Count, Max, Q, QuerySet
from django.http import Http404

from dakika_server.accounts.actions import clean_name
from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.networks.fetcher import is_standin
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.vault import seal
from dakika_server.webhooks.events import EVENTS, TEST
from dakika_server.webhooks.models import BOTH_FOR, HookDelivery, HookEvent, WebHook

PERMISSION = "brand.webhooks"
# So that a secret is known for one wherever it turns up.
PREFIX = "dakika_hook_"
MOST = 20
State = HookDelivery.State


def webhooks_of(brand: Brand) -> QuerySet[WebHook]:
    """A brand's addresses by name, with how many tellings wait and when one was taken last."""
    return WebHook.objects.filter(brand=brand).order_by("name", "pk").annotate(
        waiting=Count("deliveries", filter=Q(deliveries__state=State.WAITING)),
        taken_at=Max("deliveries__tried_at", filter=Q(deliveries__state=State.TAKEN)),
    )  # fmt: skip


def webhook_of(brand: Brand, pk: int) -> WebHook:
    """One of them. Raises Http404."""
    found = webhooks_of(brand).filter(pk=pk).first()
    if found is None:
        raise Http404
    return found


def make_webhook(actor: Any, brand: Brand, *, name: str, address: str, kinds: Sequence[str]) -> tuple[WebHook, str]:
    """An address that is told from now on, and its secret, which is told once. Raises field errors."""
    require(actor, brand, PERMISSION)
    values = _checked(name, address, kinds)
    secret = _new_secret()
    with transaction.atomic():
        Brand.objects.select_for_update().get(pk=brand.pk)
        if WebHook.objects.filter(brand=brand).count() >= MOST:
            raise field_errors({"name": f"There are {MOST} addresses. Take one away first."})
        made = WebHook.objects.create(
            brand=brand, made_by=actor, made_at=clock.now(), secret=seal(secret), **values
        )  # fmt: skip
        audit.record(actor, "add_webhook", made, brand_id=brand.pk, host=urlsplit(made.address).hostname)
    return webhook_of(brand, made.pk), secret


def change_webhook(
    actor: Any, brand: Brand, pk: int, *, name: str, address: str, kinds: Sequence[str], is_on: bool
) -> WebHook:
    """Other words, another address, other kinds, or off and on. Raises Http404 and field errors."""
    require(actor, brand, PERMISSION)
    values = _checked(name, address, kinds)
    with transaction.atomic():
        found = _locked(brand, pk)
        if is_on and not found.is_on:
            # Whoever switches it on again has looked: it begins anew.
            found.off_because, found.failures, found.failing_since, found.rests_until = "", 0, None, None
        for field, value in {**values, "is_on": is_on}.items():
            setattr(found, field, value)
        found.save()
        audit.record(actor, "change_webhook", found, brand_id=brand.pk)
        if is_on:
            ask("webhooks.send", webhook_id=found.pk)
    return webhook_of(brand, pk)


def remove_webhook(actor: Any, brand: Brand, pk: int) -> None:
    """It is told nothing more, and its history goes. Raises Http404."""
    require(actor, brand, PERMISSION)
    with transaction.atomic():
        found = _locked(brand, pk)
        audit.record(actor, "remove_webhook", found, brand_id=brand.pk, name=found.name)
        found.delete()


def renew_secret(actor: Any, brand: Brand, pk: int) -> tuple[WebHook, str]:
    """A new secret, told once; the old one goes on signing beside it for a day. Raises Http404."""
    require(actor, brand, PERMISSION)
    secret = _new_secret()
    with transaction.atomic():
        found = _locked(brand, pk)
        found.secret_before, found.before_until, found.secret = found.secret, clock.now() + BOTH_FOR, seal(secret)
        found.save(update_fields=["secret_before", "before_until", "secret"])
        audit.record(actor, "renew_webhook", found, brand_id=brand.pk)
    return webhook_of(brand, pk), secret


def try_webhook(actor: Any, brand: Brand, pk: int) -> HookDelivery:
    """Send an event that tells nothing, to see whether it arrives. Raises Http404, and field errors while it is off."""
    require(actor, brand, PERMISSION)
    now = clock.now()
    with transaction.atomic():
        found = _locked(brand, pk)
        if not found.is_on:
            raise field_errors({"is_on": "It is off. Switch it on first."})
        event = HookEvent.objects.create(
            brand=brand, kind=TEST, key=secrets.token_hex(16), at=now, about={"text": "Nothing happened. It works."}
        )
        made = HookDelivery.objects.create(webhook=found, event=event, next_at=now)
        _at_once(found)
        audit.record(actor, "try_webhook", found, brand_id=brand.pk)
    return made


def send_again(actor: Any, brand: Brand, pk: int, delivery_pk: int) -> HookDelivery:
    """Tell it once more, whether it was taken or not: the same event with the same number. Raises Http404."""
    require(actor, brand, PERMISSION)
    with transaction.atomic():
        found = _locked(brand, pk)
        if not found.is_on:
            raise field_errors({"is_on": "It is off. Switch it on first."})
        delivery = HookDelivery.objects.select_for_update().filter(webhook=found, pk=delivery_pk).first()
        if delivery is None:
            raise Http404
        delivery.state, delivery.attempts, delivery.next_at = State.WAITING, 0, clock.now()
        delivery.save(update_fields=["state", "attempts", "next_at"])
        _at_once(found)
        audit.record(actor, "send_event_again", found, brand_id=brand.pk, event=delivery.event_id)
    return delivery


def deliveries_of(webhook: WebHook) -> QuerySet[HookDelivery]:
    """What it was told, with what of."""
    return HookDelivery.objects.filter(webhook=webhook).select_related("event")


def _at_once(webhook: WebHook) -> None:
    WebHook.objects.filter(pk=webhook.pk).update(rests_until=None)
    ask("webhooks.send", webhook_id=webhook.pk)


def _locked(brand: Brand, pk: int) -> WebHook:
    found = WebHook.objects.select_for_update().filter(brand=brand, pk=pk).first()
    if found is None:
        raise Http404
    return found


def _new_secret() -> str:
    return PREFIX + secrets.token_urlsafe(32)


def _checked(name: str, address: str, kinds: Sequence[str]) -> dict[str, Any]:
    wrong: dict[str, str] = {}
    if not (name := clean_name(name)[:80]):
        wrong["name"] = "Say whom it tells."
    try:
        address = clean_destination(address)
        if urlsplit(address).scheme != "https" and not is_standin(address):
            wrong["address"] = "Only addresses that begin with https:// are told."
    except (AddressError, ValueError) as error:
        wrong["address"] = str(error)
    if strange := sorted({*kinds} - {*EVENTS}):
        wrong["kinds"] = f"There is no event {strange[0]}."
    if not kinds:
        wrong["kinds"] = "Say what it is told of."
    if wrong:
        raise field_errors(wrong)
    return {"name": name, "address": address, "kinds": sorted({*kinds})}
