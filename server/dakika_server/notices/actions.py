"""Telling people, and their reading of it."""

from collections.abc import Collection
from typing import Any

from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import members_who
from dakika_server.notices.models import Notification
from dakika_server.shared import clock

MOST_SHOWN = 60


def notify(
    brand: Brand, *, kind: str, key: str, text: str, detail: str = "", path: str = "", permission: str = "brand.read",
    people: Collection[int] | None = None,
) -> int:  # fmt: skip
    """Tell everybody of the brand who has a permission, each once by the key; how many were told anew.

    people: those of them alone, by their numbers.
    """
    rows = [
        Notification(
            brand=brand, person_id=member.user_id, at=clock.now(), key=key[:160], kind=kind, text=text[:400],
            detail=detail[:600], path=path[:400],
        )
        for member in members_who(brand, permission)
        if people is None or member.user_id in people
    ]  # fmt: skip
    before = Notification.objects.filter(brand=brand, key=key[:160]).count()
    with transaction.atomic():
        Notification.objects.bulk_create(rows, ignore_conflicts=True)
    return Notification.objects.filter(brand=brand, key=key[:160]).count() - before


def mark_read(person: Any, brand: Brand, ids: list[int] | None) -> int:
    """Take notifications as read, all of them where none are named; how many were not before."""
    own = Notification.objects.filter(brand=brand, person=person, read_at=None)
    if ids is not None:
        own = own.filter(pk__in=ids)
    return own.update(read_at=clock.now())
