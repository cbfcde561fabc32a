"""Everything about a brand as one archive, and about a person as one text: plain JSON, without what opens anything.

In the trade's words: data portability, right of access.
"""

import json
import re
import zipfile
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from django.core.serializers.json import DjangoJSONEncoder
from django.db import connection, transaction
from django.db.models import BinaryField, Field, Model, QuerySet

from dakika_server.accounts.models import User
from dakika_server.brands.everything.tables import (
    brand_files,
    our_models,
    paths_to_brand,
    rows_of_brand,
    rows_of_person,
)
from dakika_server.brands.models import Brand
from dakika_server.shared import clock
from dakika_server.shared.models import AuditEntry

# What lets somebody in, or stands for somebody: it leaves the installation in no file.
_OPENS = re.compile(r"(password|secret|token|digest|sealed|private|verifier)")
_KEYS = {
    "accounts_passkey": {"key", "public_key", "credential_id"}, "plan_guest": {"key"}, "plan_calendarkey": {"key"},
    "notices_noticebrowser": {"endpoint", "p256dh", "auth"}, "plan_pushsubscriber": {"endpoint", "p256dh", "auth"},
}  # fmt: skip
AT_ONCE = 2000
README = """Everything that this installation of Dakika keeps of {name}, on {day:%-d %B %Y}.

tables/NAME.jsonl  a line for each row of a table, as JSON (RFC 8259): its columns by their names, instants in UTC
files/             pictures, videos and documents

Left out is what opens something: passwords, tokens, keys and their digests.
"""


def columns_of(model: type[Model]) -> list["Field[Any, Any]"]:
    """The columns of a table that may leave the installation."""
    table = model._meta.db_table
    return [
        field for field in model._meta.concrete_fields
        if not _OPENS.search(field.name) and field.name not in _KEYS.get(table, set())
        and not isinstance(field, BinaryField)
    ]  # fmt: skip


def give_brand(brand: Brand, to: Path) -> dict[str, int]:
    """Write everything of a brand into an archive; how many rows of each table. Raises OSError.

    All tables as they are in one moment. The file is there whole or not at all, and for its owner's eyes alone.
    """
    new = to.with_name(f"{to.name}.new")
    try:
        new.unlink(missing_ok=True)
        new.touch(mode=0o600)
        with _one_moment(), zipfile.ZipFile(new, "w", zipfile.ZIP_DEFLATED) as archive:
            counts = _put_in(archive, brand)
        new.replace(to)
    finally:
        new.unlink(missing_ok=True)
    return counts


@contextmanager
def _one_moment() -> Iterator[None]:
    """What is read within is of one moment, whoever writes meanwhile."""
    if connection.in_atomic_block:
        yield
        return
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
        yield


def _put_in(archive: zipfile.ZipFile, brand: Brand) -> dict[str, int]:
    counts: dict[str, int] = {}
    archive.writestr("README.txt", README.format(name=brand.name, day=clock.now()))
    for model in sorted(paths_to_brand(), key=lambda one: one._meta.db_table):
        table = model._meta.db_table
        with archive.open(f"tables/{table}.jsonl", "w", force_zip64=True) as out:
            counts[table] = 0
            for line in _lines(model, rows_of_brand(model, brand.pk)):
                out.write(line)
                counts[table] += 1
    for file in _all(brand_files(brand.pk)):
        try:
            archive.writestr(f"files/{file.name}", file.read())
        except FileNotFoundError:
            # Somebody took it away meanwhile.
            continue
        counts["files"] = counts.get("files", 0) + 1
    return {name: count for name, count in counts.items() if count}


def _all(told: Iterable[Iterable[Any]]) -> Iterator[Any]:
    for some in told:
        yield from some


def _lines(model: type[Model], rows: QuerySet[Any]) -> Iterator[bytes]:
    names = [field.attname for field in columns_of(model)]
    for row in rows.order_by("pk").values(*names).iterator(chunk_size=AT_ONCE):
        yield (json.dumps(row, cls=DjangoJSONEncoder, ensure_ascii=False) + "\n").encode()


def person_as_text(person: User) -> str:
    """Everything about a person, as JSON: their account, what names them, letters to them, what they did."""
    found: dict[str, list[Mapping[str, Any]]] = {}
    for model in our_models():
        if model is User:
            found[model._meta.db_table] = _values(model, User.objects.filter(pk=person.pk))
            continue
        for rows in rows_of_person(model, person).values():
            values = _values(model, rows)
            if values:
                known = found.setdefault(model._meta.db_table, [])
                known += [one for one in values if one not in known]
    found["shared_auditentry"] = _values(AuditEntry, AuditEntry.objects.filter(actor_id=person.pk))
    for model, values in _by_address(person):
        found[model._meta.db_table] = values
    told = {"of": {"name": person.name, "email": person.email}, "on": clock.now(), "tables": found}
    return json.dumps(told, cls=DjangoJSONEncoder, ensure_ascii=False, indent=1)


def _by_address(person: User) -> Iterator[tuple[type[Model], list[Mapping[str, Any]]]]:
    """What knows a person by their address alone: letters, and records of signing in."""
    from django.apps import apps

    for label, column in (("notices.Mail", "to"), ("axes.AccessLog", "username"), ("axes.AccessAttempt", "username"),
                          ("axes.AccessFailureLog", "username"), ("brands.Invitation", "email")):  # fmt: skip
        model = apps.get_model(label)
        values = _values(model, model._default_manager.filter(**{f"{column}__iexact": person.email}))
        if values:
            yield model, values


def _values(model: type[Model], rows: QuerySet[Any]) -> list[Mapping[str, Any]]:
    return list(rows.order_by("pk").values(*[field.attname for field in columns_of(model)]))
