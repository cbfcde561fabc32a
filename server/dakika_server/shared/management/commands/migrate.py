"""Django's own command, but for an empty database: that is given the tables as they stand."""

from typing import Any

from django.core.management.commands import migrate
from django.db import connections

from dakika_server.shared.tables import is_empty, kept, put_in_place


class Command(migrate.Command):
    """manage.py migrate: what an empty database would come to anyway is put in place at once, then what came since."""

    def add_arguments(self, parser: Any) -> None:
        """One more: living through the whole history all the same."""
        super().add_arguments(parser)
        parser.add_argument(
            "--step-by-step", action="store_true", help="Apply every migration, also to an empty database."
        )

    def handle(self, *args: Any, **options: Any) -> Any:
        """Put the tables in place where there is nothing and everything is asked for; then migrate."""
        connection = connections[options["database"]]
        is_partly = options["app_label"] or options["plan"] or options["check_unapplied"] or options["fake"]
        begins = not (is_partly or options.pop("step_by_step", False)) and is_empty(connection)
        if begins and put_in_place(connection, kept()) and options["verbosity"] >= 1:
            self.stdout.write("The database was empty: all tables were put in place as they stand.")
        return super().handle(*args, **options)
