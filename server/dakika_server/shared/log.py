"""What happened, as people read it: an entry in words, and what each row was before and is after."""

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import timedelta
from functools import cache
from typing import Any

from django.apps import apps
from django.conf import settings
from django.db import connection, transaction
from django.db.models import Exists, Field, OuterRef

from dakika_server.shared import clock
from dakika_server.shared.models import AuditEntry, RowChange

# The verbs that actions begin with, as they are told of what has been done.
VERBS: Mapping[str, str] = {
    "add": "added", "ask": "asked for", "back": "sent back", "begin": "began", "boost": "boost",
    "bring": "brought",
    "change": "changed", "choose": "chose", "connect": "connected", "consent": "consented", "copy": "copied",
    "delete": "threw away", "disconnect": "disconnected",
    "drop": "dropped", "edit": "edited", "end": "ended", "erase": "erased", "fill": "filled", "finish": "finished",
    "follow": "followed", "forget": "forgot", "go": "went", "import": "imported", "invite": "invited", "join": "joined",
    "keep": "kept", "leave": "left", "make": "made", "merge": "merged", "move": "moved", "published": "published",
    "put": "put", "read": "read", "remark": "remarked", "remove": "removed", "rename": "renamed", "renew": "renewed",
    "repeat": "repeated", "replace": "replaced", "reset": "reset", "revoke": "revoked", "save": "saved", "say": "said",
    "schedule": "scheduled", "send": "sent", "set": "set", "settle": "settled", "share": "shared", "shut": "shut",
    "start": "started", "stop": "stopped", "submit": "submitted", "subscribe": "subscribed", "tag": "tagged",
    "take": "took", "throw": "threw", "try": "tried", "undo": "took back", "unsubscribe": "unsubscribed",
    "upload": "uploaded", "use": "used", "withdraw": "withdrew", "write": "wrote",
}  # fmt: skip
# How many rows of one entry are told one by one.
MOST_ROWS = 40


# What rows were is of use with an entry of the same transaction: what machines changed by themselves goes after a day.
WITHOUT_ENTRY = timedelta(days=1)


def forget_old(kept: timedelta) -> tuple[int, int]:
    """Forget what happened longer ago than it is kept, and rows that no entry is of; how many entries and rows."""
    now = clock.now()
    with transaction.atomic(), connection.cursor() as cursor:
        # The database lets nobody else take away from it.
        cursor.execute("SET LOCAL dakika.erases_log = 'on'")
        entries, _ = AuditEntry.objects.filter(at__lt=now - kept).delete()
        rows, _ = RowChange.objects.filter(at__lt=now - kept).delete()
        of = AuditEntry.objects.filter(transaction=OuterRef("transaction"))
        loose, _ = RowChange.objects.filter(at__lt=now - WITHOUT_ENTRY).exclude(Exists(of)).delete()
    return entries, rows + loose


@dataclass(frozen=True, kw_only=True)
class Value:
    """A column of a row before and after; person: whose number these are, where they are people's."""

    name: str
    before: Any
    after: Any
    is_person: bool = False


@dataclass(frozen=True, kw_only=True)
class Changed:
    """A row that was made, changed or taken away."""

    thing: str
    name: str
    number: int | None
    way: str
    values: Sequence[Value]


def words_of(action: str) -> str:
    """An action as it is told: "add_link_domain" as "added link domain"."""
    verb, _, rest = action.partition("_")
    return f"{VERBS.get(verb, verb)} {rest.replace('_', ' ')}".strip()


def thing_of(subject: str) -> str:
    """What an entry is about, by the name of its model: "TrackedLink" as "tracked link"."""
    return re.sub(r"(?<=[a-z])(?=[A-Z])", " ", subject).lower()


def changes_of(entries: Iterable[AuditEntry]) -> dict[int, list[Changed]]:
    """What rows were before and after, by entry. One query.

    Of a transaction with several entries each has the rows that it is about, and those that are no entry's own stand
    with the first.
    """
    entries = list(entries)
    by_transaction: dict[str, list[AuditEntry]] = {}
    for entry in entries:
        if entry.transaction:
            by_transaction.setdefault(entry.transaction, []).append(entry)
    found: dict[int, list[Changed]] = {entry.pk: [] for entry in entries}
    for row in RowChange.objects.filter(transaction__in=by_transaction).order_by("pk"):
        own = by_transaction[row.transaction]
        subject = _tables().get(row.table, "")
        owner = next((one for one in own if (one.subject, one.subject_id) == (subject, row.row)), min(own, key=_number))
        if len(found[owner.pk]) < MOST_ROWS:
            found[owner.pk].append(_told(row))
    return found


def _number(entry: AuditEntry) -> int:
    return entry.pk


@cache
def _tables() -> dict[str, str]:
    return {model._meta.db_table: model.__name__ for model in apps.get_models()}


@cache
def _columns(table: str) -> "dict[str, Field[Any, Any]]":
    model = next((one for one in apps.get_models() if one._meta.db_table == table), None)
    return {str(field.column): field for field in model._meta.concrete_fields} if model else {}


def _told(row: RowChange) -> Changed:
    before, after = row.before or {}, row.after or {}
    way = "made" if row.before is None else "taken away" if row.after is None else "changed"
    columns = _columns(row.table)
    values = [
        Value(
            name=str(columns[name].verbose_name) if name in columns else name.replace("_", " "),
            before=before.get(name), after=after.get(name), is_person=_is_person(columns.get(name)),
        )
        for name in columns if name in before or name in after
        if name not in ("id", "brand_id") and not _is_nothing(before.get(name), after.get(name))
    ]  # fmt: skip
    return Changed(thing=thing_of(_tables().get(row.table, row.table)), name=row.name, number=row.row, way=way,
                   values=values)  # fmt: skip


def _is_person(field: "Field[Any, Any] | None") -> bool:
    related = getattr(field, "related_model", None)
    return related is not None and related._meta.label == settings.AUTH_USER_MODEL


def _is_nothing(before: Any, after: Any) -> bool:
    """Whether a column says nothing on either side: a row that was made has many that are empty."""
    return before in (None, "", [], {}) and after in (None, "", [], {})
