"""Telling people, and their reading of it."""

from collections.abc import Collection
from typing import Any

from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import members_who
from dakika_server.jobs.asking import ask
from dakika_server.notices.choices import wishes_of
from dakika_server.notices.models import Notification
from dakika_server.shared import clock

MOST_SHOWN = 60


def notify(
    brand: Brand, *, kind: str, key: str, text: str, detail: str = "", path: str = "", permission: str = "brand.read",
    people: Collection[int] | None = None, letter: str = "",
) -> int:  # fmt: skip
    """Tell everybody of the brand who has a permission, each once by the key; how many were told anew.

    people: those of them alone, by their numbers. letter: what a letter says in place of text and detail. Whether it
    is shown and by letter is each one's choice. Raises KeyError for a kind that is none.
    """
    now = clock.now()
    members = members_who(brand, permission).select_related("user")
    told = [
        member.user for member in members
        if (people is None or member.user_id in people) and not member.user.is_program
    ]  # fmt: skip
    wishes = wishes_of(brand, kind, told)
    rows = [
        Notification(
            brand=brand, person=person, at=now, key=key[:160], kind=kind, text=text[:400], detail=detail[:600],
            path=path[:400], letter=letter, is_shown=wishes[person.pk].is_shown,
            mail_at=wishes[person.pk].mail_at(now), push_at=wishes[person.pk].push_at(now),
        )
        for person in told
    ]  # fmt: skip
    before = Notification.objects.filter(brand=brand, key=key[:160]).count()
    with transaction.atomic():
        Notification.objects.bulk_create(rows, ignore_conflicts=True)
        if any(row.push_at is not None and row.push_at <= now for row in rows):
            ask("notices.push")
    return Notification.objects.filter(brand=brand, key=key[:160]).count() - before


def mark_read(person: Any, brand: Brand, ids: list[int] | None) -> int:
    """Take notifications as read, all of them where none are named; how many were not before."""
    own = Notification.objects.filter(brand=brand, person=person, read_at=None)
    if ids is not None:
        own = own.filter(pk__in=ids)
    return own.update(read_at=clock.now())
