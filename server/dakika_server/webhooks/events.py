"""What happens, as areas tell it: kinds by name, and each happening once, in the transaction that makes it happen."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from django.conf import settings
from django.db import transaction

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand
from dakika_server.jobs.asking import ask
from dakika_server.shared import clock
from dakika_server.shared.hooks import Registry
from dakika_server.shared.log import words_of
from dakika_server.shared.models import AuditEntry
from dakika_server.webhooks.models import HookDelivery, HookEvent, WebHook

CHANGED, TEST = "brand.changed", "test"


@dataclass(frozen=True, kw_only=True)
class EventKind:
    """A kind of happening: its words where one chooses, and what is told of one, by name and meaning."""

    words: str
    about: Mapping[str, str]


EVENTS: Registry[EventKind] = Registry(
    "kinds of events",
    {
        CHANGED: EventKind(
            words="Somebody changed something: every entry of the log",
            about={
                "entry": "its number in the log", "action": "what was done, as a word", "words": "the same for people",
                "person": "who did it: number and name; null where nobody did", "subject": "what it was done to",
                "subject_id": "its number", "detail": "what else is known of it",
            },
        )
    },
)  # fmt: skip


def happened(brand_id: int, kind: str, *, key: str, about: Callable[[], dict[str, Any]]) -> int:
    """Tell whoever wants to hear of it, once by the key; how many addresses that is. Part of the caller's transaction.

    about is asked only where somebody wants to hear. Raises KeyError for a kind that is none.
    """
    EVENTS[kind]
    hooks = list(
        WebHook.objects.filter(brand=brand_id, is_on=True, kinds__contains=[kind]).values_list("pk", flat=True)
    )
    if not hooks:
        return 0
    now = clock.now()
    with transaction.atomic():
        event, is_new = HookEvent.objects.get_or_create(
            brand_id=brand_id, kind=kind, key=key[:160], defaults={"at": now, "about": about()}
        )
        if not is_new:
            return 0
        HookDelivery.objects.bulk_create(HookDelivery(webhook_id=pk, event=event, next_at=now) for pk in hooks)
        for pk in hooks:
            ask("webhooks.send", webhook_id=pk)
    return len(hooks)


def page(brand: Brand, path: str) -> str:
    """The address of a page of the brand, for people."""
    return f"{settings.PUBLIC_ADDRESS}/{brand.slug}/{path}"


def tell_of_entry(entry: AuditEntry) -> None:
    """An entry of the log has been written."""
    if entry.brand_id is None:
        return
    happened(entry.brand_id, CHANGED, key=str(entry.pk), about=lambda: {
        "entry": entry.pk, "action": entry.action, "words": words_of(entry.action),
        "person": User.objects.filter(pk=entry.actor_id).values("id", "name").first() if entry.actor_id else None,
        "subject": entry.subject, "subject_id": entry.subject_id, "detail": entry.detail,
    })  # fmt: skip


def unname(person: User, name: str, instead: str) -> None:
    """Take a person's name out of events that tell what they did: who goes for good is a number there."""
    for event in HookEvent.objects.filter(kind=CHANGED, about__person__id=person.pk):
        detail = event.about["detail"]
        event.about["person"]["name"] = instead
        event.about["detail"] = {key: instead if name and value == name else value for key, value in detail.items()}
        event.save(update_fields=["about"])
