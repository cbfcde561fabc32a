"""A redirect of its own beside the tests' database."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from django.db import connection

from clicks.processes import Processes


@pytest.fixture
def redirects(transactional_db: Any, tmp_path: Path) -> Iterator[Processes]:
    """Not started yet; stopped at the end."""
    s = connection.settings_dict
    made = Processes(
        folder=tmp_path / "links",
        database={"PGHOST": s["HOST"], "PGPORT": str(s["PORT"]), "PGUSER": s["USER"], "PGPASSWORD": s["PASSWORD"],
                  "PGDATABASE": s["NAME"]},
    )  # fmt: skip
    try:
        yield made
    finally:
        made.stop()
