"""An installation of an earlier version, brought up to this one in the database that PGDATABASE names.

`python -m upgrades.bringing_up NAME` prints what the API then answers at the addresses of before, as JSON. With `begin`
behind the name it only puts the older installation there, with `answers` it only asks.
"""

import gzip
import json
import os
import sys
from pathlib import Path
from typing import Any


def main(name: str, part: str = "") -> None:
    kept = kept_of(name)
    os.environ["DAKIKA_FIXED_NOW"] = kept["now"]
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "dakika_server.config.settings")
    import django

    django.setup()
    from django.core.management import call_command

    from upgrades.asking import answers

    if part != "answers":
        migrate_to(kept["migrations"])
        fill(kept["tables"])
    if part == "begin":
        return
    if not part:
        call_command("migrate", verbosity=0)
    json.dump(answers({path: renamed(path) for path in kept["answers"]}), sys.stdout)


def kept_of(name: str) -> dict[str, Any]:
    """What was kept of a version: its instant, migrations, rows and answers."""
    found: dict[str, Any] = json.loads(gzip.decompress((Path(__file__).parent / f"{name}.json.gz").read_bytes()))
    return found


# Where an address of before is now: the longest beginning counts.
MOVED = {
    "/results/basis?metric=": "/figures/results.course/basis?cell=",
    "/results/export?what=posts": "/figures/results.posts/table?",
    **{
        f"/links/{part}": f"/site/{part}"
        for part in ("attribution", "conversions", "funnel", "goals", "sites", "traffic")
    },
}


def renamed(path: str) -> str:
    """An address of before as it is now."""
    for before in sorted(MOVED, key=len, reverse=True):
        if (
            path == before
            or path.startswith((f"{before}?", f"{before}/"))
            or ("?" in before and path.startswith(before))
        ):
            return MOVED[before] + path[len(before) :]
    return path


def migrate_to(leaves: dict[str, str]) -> None:
    """The tables of before, empty; other packages' as they are now."""
    from django.db import connection
    from django.db.migrations.executor import MigrationExecutor

    executor = MigrationExecutor(connection)
    known = {executor.loader.graph.nodes[label, name].app_label for label, name in leaves.items()}
    ours = {label for label, _ in executor.loader.graph.leaf_nodes() if is_ours(label)}
    others = [key for key in executor.loader.graph.leaf_nodes() if key[0] not in ours]
    assert known <= ours
    executor.migrate([*others, *leaves.items()])


def is_ours(label: str) -> bool:
    from django.apps import apps

    return apps.get_app_config(label).name.startswith("dakika_server")


def fill(tables: dict[str, dict[str, Any]]) -> None:
    """The rows as they were, without what the database does by itself when rows come in."""
    from django.db import connection, transaction

    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET LOCAL session_replication_role = replica")
        for table, kept in tables.items():
            with cursor.copy(f'COPY "{table}" ({", ".join(kept["columns"])}) FROM STDIN') as copy:
                copy.write(kept["rows"])
            if '"id"' in kept["columns"]:
                cursor.execute("SELECT pg_get_serial_sequence(%s, 'id')", [table])
                if sequence := cursor.fetchone()[0]:
                    cursor.execute(f"SELECT setval('{sequence}', (SELECT max(id) FROM {table}))")


if __name__ == "__main__":
    main(*sys.argv[1:])
