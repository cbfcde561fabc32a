"""Write the tables as all migrations make them."""

import re
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from dakika_server.shared.tables import described, empty_database


class Command(BaseCommand):
    """manage.py describe_tables, after every change to the migrations. It takes a minute or two."""

    help = "Write the tables that an empty database is given."

    def add_arguments(self, parser: Any) -> None:
        """Elsewhere, for comparing."""
        parser.add_argument("--to", type=Path, default=settings.TABLES_FILE, help="The file to be written.")

    def handle(self, *args: Any, **options: Any) -> None:
        """Migrate from nothing, without what comes after a migration, and write what came of it."""
        with empty_database(connection):
            executor = MigrationExecutor(connection)
            leaves = executor.loader.graph.leaf_nodes()
            plan = executor.migration_plan(leaves)
            executor.migrate(leaves, plan=plan)
            text = described(connection, [(migration.app_label, migration.name) for migration, _ in plan])
        options["to"].write_text(text)
        self.stdout.write(f"{len(re.findall('^CREATE (?:UNLOGGED )?TABLE ', text, re.MULTILINE))} tables")
