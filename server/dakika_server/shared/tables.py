"""All tables as the migrations make them, so that an empty database need not live through their history.

Migrating an empty database takes Django a minute and a half: before each of several hundred steps it draws its
picture of all models anew, and nearly all of them point to one another. What comes out is the same each time. So it
is kept as SQL beside the settings, and whoever begins with nothing is given that, with the migrations it holds noted
as applied. `manage.py describe_tables` writes it; a test holds it against the migrations.

In the trade's words: schema bootstrap, squashed migrations.
"""

import os
import re
import shutil
import subprocess
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings
from django.core.management.base import CommandError
from django.db import transaction
from django.db.backends.base.base import BaseDatabaseWrapper
from django.db.migrations.recorder import MigrationRecorder

from dakika_server.shared.locks import Lock, key_of

Key = tuple[str, str]  # an app and the name of one of its migrations

_HEAD = """\
-- Written by `manage.py describe_tables`; not to be changed by hand.
-- The tables of an empty database, with these migrations applied:
"""
_APPLIED = re.compile(r"^-- {3}(\w+)\.(\w+)$", re.MULTILINE)
# What pg_dump says of its session, its version and the order it goes by: not ours to set, or another on each machine.
_OF_THE_SESSION = re.compile(
    r"^(SET (\w+_timeout|client_\w+|standard_conforming_strings|check_function_bodies|xmloption|row_security"
    r"|default_\w+) = |SELECT pg_catalog\.set_config|\\(un)?restrict |--$|-- (Name|PostgreSQL|Dumped|TOC|Data))"
)


def kept() -> str:
    """The tables as SQL, with the migrations that they hold in front."""
    return Path(settings.TABLES_FILE).read_text()


def migrations_in(text: str) -> list[Key]:
    """The migrations that are applied where these tables stand."""
    return [(app, name) for app, name in _APPLIED.findall(text)]


def is_empty(connection: BaseDatabaseWrapper) -> bool:
    """Whether a database holds no table at all, not even one of somebody else's."""
    with connection.cursor() as cursor:
        return not connection.introspection.table_names(cursor)


@contextmanager
def empty_database(connection: BaseDatabaseWrapper) -> Iterator[None]:
    """Whoever asks this connection meanwhile meets a new database, that is taken away in the end."""
    usual, own = connection.settings_dict["NAME"], f"dakika_empty_{os.getpid()}"
    with connection.cursor() as cursor:
        cursor.execute(f'DROP DATABASE IF EXISTS "{own}" WITH (FORCE)')
        cursor.execute(f'CREATE DATABASE "{own}" TEMPLATE template0')
    connection.close()
    connection.settings_dict["NAME"] = own
    try:
        yield
    finally:
        connection.close()
        connection.settings_dict["NAME"] = usual
        with connection.cursor() as cursor:
            cursor.execute(f'DROP DATABASE "{own}" WITH (FORCE)')


def put_in_place(connection: BaseDatabaseWrapper, text: str) -> bool:
    """Make the tables of an empty database and note their migrations as applied: all of it, or nothing.

    Returns whether it did: of several processes that begin with one database at once, the first does.
    """
    recorder = MigrationRecorder(connection)
    with transaction.atomic(using=connection.alias), connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s)", [key_of(Lock.EMPTY_DATABASE, 0)])
        if not is_empty(connection):
            return False
        # Functions name one another, whichever comes first.
        cursor.execute("SET LOCAL check_function_bodies = false")
        cursor.execute(text)
        recorder.migration_qs.bulk_create(recorder.Migration(app=app, name=name) for app, name in migrations_in(text))
    return True


def described(connection: BaseDatabaseWrapper, applied: Iterable[Key]) -> str:
    """A database's tables, indexes, functions and triggers as SQL.

    Raises CommandError where pg_dump is missing or fails.
    """
    program = shutil.which("pg_dump")
    if program is None:
        raise CommandError("pg_dump is missing:  apt-get install postgresql-client")
    of = connection.settings_dict
    known = {"PGHOST": of["HOST"], "PGPORT": of["PORT"], "PGUSER": of["USER"], "PGPASSWORD": of["PASSWORD"]}
    done = subprocess.run(
        [program, "--schema-only", "--no-owner", "--no-privileges", of["NAME"]],
        env=os.environ | {name: str(value) for name, value in known.items()}, capture_output=True, text=True,
    )  # fmt: skip
    if done.returncode != 0:
        raise CommandError(f"pg_dump failed: {done.stderr.strip()}")
    lines = [line for line in done.stdout.splitlines() if not _OF_THE_SESSION.match(line)]
    told = "".join(f"--   {app}.{name}\n" for app, name in applied)
    return f"{_HEAD}{told}{_without_gaps(lines)}"


def _without_gaps(lines: Iterable[str]) -> str:
    return re.sub(r"\n{2,}", "\n\n", "\n" + "\n".join(lines)).rstrip() + "\n"
