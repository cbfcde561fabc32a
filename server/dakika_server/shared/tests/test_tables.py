"""Promise: an empty database is given all tables at once, whole or not at all; any other is migrated as ever."""

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.db import DEFAULT_DB_ALIAS, ProgrammingError, connection, connections
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.recorder import MigrationRecorder

from dakika_server.shared.tables import empty_database, is_empty, kept, migrations_in, put_in_place


def test_the_kept_tables_hold_every_migration_there_is() -> None:
    there = set(MigrationLoader(None).disk_migrations)
    assert there == set(migrations_in(kept())), "run `manage.py describe_tables`"


@pytest.mark.django_db(transaction=True)
def test_an_empty_database_is_given_them_and_can_be_worked_with() -> None:
    with empty_database(connection):
        assert is_empty(connection)
        put_in_place(connection, kept())
        assert not is_empty(connection)
        assert set(MigrationRecorder(connection).applied_migrations()) == set(migrations_in(kept()))
        call_command("migrate", check_unapplied=True, verbosity=0)
        assert get_user_model().objects.create(email="a@ninthbell.example").pk == 1
        # Whatever names its tables by a path of its own finds them.
        with connection.cursor() as cursor:
            cursor.execute("SHOW search_path")
            assert "public" in cursor.fetchone()[0]


@pytest.mark.django_db(transaction=True)
def test_of_several_who_begin_at_once_one_makes_them() -> None:
    def begin() -> bool:
        try:
            return put_in_place(connections[DEFAULT_DB_ALIAS], kept())
        finally:
            connections[DEFAULT_DB_ALIAS].close()

    with empty_database(connection):
        with ThreadPoolExecutor(3) as pool:
            made = list(pool.map(lambda _: begin(), range(3)))
        assert sorted(made) == [False, False, True]
        call_command("migrate", check_unapplied=True, verbosity=0)


@pytest.mark.django_db(transaction=True)
def test_what_fails_halfway_leaves_nothing() -> None:
    with empty_database(connection):
        with pytest.raises(ProgrammingError):
            put_in_place(connection, f"{kept()}\nALTER TABLE nobodys ADD COLUMN x int;\n")
        assert is_empty(connection)


@pytest.mark.django_db(transaction=True)
def test_a_database_with_a_table_in_it_lives_through_its_migrations(monkeypatch: Any, settings: Any) -> None:
    settings.TABLES_FILE = Path("/nowhere")
    asked: list[bool] = []
    monkeypatch.setattr("django.core.management.commands.migrate.Command.handle", lambda *_, **__: asked.append(True))
    with empty_database(connection):
        with connection.cursor() as cursor:
            cursor.execute("CREATE TABLE somebodys (id int)")
        call_command("migrate", verbosity=0)
    with empty_database(connection):
        call_command("migrate", step_by_step=True, verbosity=0)
        call_command("migrate", "accounts", verbosity=0)
        with pytest.raises(FileNotFoundError):
            call_command("migrate", verbosity=0)
    assert len(asked) == 3
