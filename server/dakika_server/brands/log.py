"""What happened in a brand: searched, narrowed, paged, and written out."""

import csv
import io
import json
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from itertools import islice
from typing import Any

from dakika_core.sources.files.guard import neutralise
from django.db.models import Exists, OuterRef, Q, QuerySet, TextField
from django.db.models.functions import Cast

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand
from dakika_server.shared.log import VERBS, Changed, changes_of, thing_of, words_of
from dakika_server.shared.models import AuditEntry, RowChange
from dakika_server.shared.paging import paged

PAGE, AT_ONCE = 40, 500
# The worker, among those who did something.
NOBODY = 0
HEAD = ("when", "who", "what", "about", "number", "detail", "from", "row", "name", "way", "column", "before", "after")


@dataclass(frozen=True, kw_only=True)
class Chosen:
    """What is looked for. person: a number, NOBODY for the worker; subject: a model's name; days: the brand's."""

    person: int | None = None
    subject: str = ""
    text: str = ""
    first: date | None = None
    last: date | None = None


def entries_of(brand: Brand, chosen: Chosen) -> QuerySet[AuditEntry]:
    """A brand's entries, narrowed."""
    found = AuditEntry.objects.filter(brand_id=brand.pk)
    if chosen.person is not None:
        found = found.filter(actor_id=chosen.person or None)
    if chosen.subject:
        found = found.filter(subject=chosen.subject)
    if chosen.first:
        found = found.filter(at__gte=datetime.combine(chosen.first, time(), brand.zone))
    if chosen.last and chosen.last < date.max:
        found = found.filter(at__lt=datetime.combine(chosen.last + timedelta(days=1), time(), brand.zone))
    for word in chosen.text.replace("\x00", "").split()[:8]:
        found = found.filter(_says(word))
    return found


def _says(word: str) -> Q:
    """Whether an entry says a word: what was done, its details, who did it, or what a row was before or is after."""
    rows = (
        RowChange.objects.filter(transaction=OuterRef("transaction"))
        .annotate(was=Cast("before", TextField()), becomes=Cast("after", TextField()))
        .filter(Q(name__icontains=word) | Q(was__icontains=word) | Q(becomes__icontains=word))
    )  # fmt: skip
    # What is told as "added" stands as "add".
    verbs = [verb for verb, told in VERBS.items() if word.lower() in told.split()]
    people = User.objects.filter(name__icontains=word).values("pk")
    said = Q(action__icontains=word) | Q(subject__icontains=word) | Q(detail__icontains=word) | Q(Exists(rows))
    said = said | Q(actor_id__in=people) | Q(address__startswith=word)
    for verb in verbs:
        said = said | Q(action__startswith=verb)
    return said


def page_of(brand: Brand, chosen: Chosen, cursor: str | None) -> tuple[list[dict[str, Any]], str | None]:
    """A page of entries, the newest first, and the cursor of the next."""
    rows, next_ = paged(entries_of(brand, chosen), ["-at", "-id"], cursor, PAGE)
    return told(rows), next_


def told(entries: Sequence[AuditEntry]) -> list[dict[str, Any]]:
    """Entries as people read them: two queries, however many."""
    changes = changes_of(entries)
    people = {entry.actor_id for entry in entries if entry.actor_id}
    people |= {
        number
        for rows in changes.values() for row in rows for value in row.values if value.is_person
        for number in (value.before, value.after) if isinstance(number, int)
    }  # fmt: skip
    names = dict(User.objects.filter(pk__in=people).values_list("pk", "name"))
    return [
        {
            "id": entry.pk, "at": entry.at, "person": entry.actor_id,
            # Guests without an account are called what they were called then.
            "who": names.get(entry.actor_id or 0, "") or str(entry.detail.get("by", "")),
            "is_gone": bool(entry.actor_id) and entry.actor_id not in names,
            "words": words_of(entry.action), "thing": thing_of(entry.subject), "number": entry.subject_id,
            "name": _name(entry, changes[entry.pk]), "address": entry.address, "detail": entry.detail,
            "rows": [_row(row, names) for row in changes[entry.pk]],
        }
        for entry in entries
    ]  # fmt: skip


def _name(entry: AuditEntry, rows: Sequence[Changed]) -> str:
    """What that is called which an entry is about."""
    thing = thing_of(entry.subject)
    own = next((row.name for row in rows if row.thing == thing and row.number == entry.subject_id and row.name), "")
    return own or str(entry.detail.get("name") or entry.detail.get("host") or entry.detail.get("tag") or "")


def _row(row: Changed, names: dict[int, str]) -> dict[str, Any]:
    return {
        "thing": row.thing, "number": row.number, "name": row.name, "way": row.way,
        "values": [
            {"name": value.name,
             "before": names.get(value.before, value.before) if value.is_person else value.before,
             "after": names.get(value.after, value.after) if value.is_person else value.after}
            for value in row.values
        ],
    }  # fmt: skip


def choices_of(brand: Brand) -> dict[str, Any]:
    """Who did something, and what entries are about: what a log can be narrowed by."""
    found = AuditEntry.objects.filter(brand_id=brand.pk)
    numbers = list(found.order_by().values_list("actor_id", flat=True).distinct())
    names = dict(User.objects.filter(pk__in=[one for one in numbers if one]).values_list("pk", "name"))
    people = [{"id": one or NOBODY, "name": names.get(one or 0, "") if one else ""} for one in numbers]
    subjects = found.order_by().values_list("subject", flat=True).distinct()
    return {
        "people": sorted(people, key=lambda one: (one["id"] == NOBODY, str(one["name"]).lower())),
        "subjects": sorted(({"key": one, "name": thing_of(one)} for one in subjects), key=lambda one: one["name"]),
    }


def as_csv(brand: Brand, chosen: Chosen) -> Iterator[str]:
    """All that is chosen, as lines of CSV (RFC 4180): one for each column that changed. Texts run nothing."""
    yield _line(HEAD)
    found = entries_of(brand, chosen).order_by("-at", "-pk").iterator(AT_ONCE)
    while some := list(islice(found, AT_ONCE)):
        for entry in told(some):
            yield from (_line(cells) for cells in _cells(brand, entry))


def _cells(brand: Brand, entry: dict[str, Any]) -> Iterator[list[Any]]:
    who = entry["who"] or ("somebody who is gone" if entry["is_gone"] else "Dakika")
    first = [
        entry["at"].astimezone(brand.zone).isoformat(timespec="seconds"), who, entry["words"], entry["thing"],
        entry["number"], json.dumps(entry["detail"], ensure_ascii=False) if entry["detail"] else "", entry["address"],
    ]  # fmt: skip
    if not entry["rows"]:
        yield [*first, "", entry["name"], "", "", "", ""]
    for row in entry["rows"]:
        for value in row["values"] or [{"name": "", "before": None, "after": None}]:
            sides = [
                "" if side is None else side if isinstance(side, str) else json.dumps(side, ensure_ascii=False)
                for side in (value["before"], value["after"])
            ]
            yield [*first, row["thing"], row["name"], row["way"], value["name"], *sides]


def _line(cells: Sequence[Any]) -> str:
    out = io.StringIO()
    csv.writer(out).writerow([neutralise(cell) for cell in cells])
    return out.getvalue()
