"""Promise: who begins with nothing gets the very tables that the whole history of migrations would have made."""

import os
import subprocess
import sys
from pathlib import Path

from scripts.paths import ROOT

KEPT = ROOT / "server" / "dakika_server" / "config" / "tables.sql"


def test_the_kept_tables_are_what_the_migrations_make(tmp_path: Path) -> None:
    made = tmp_path / "tables.sql"
    done = subprocess.run(
        [sys.executable, str(ROOT / "server" / "manage.py"), "describe_tables", "--to", str(made)],
        env={**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)}, capture_output=True, text=True,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-2000:]
    assert made.read_text() == KEPT.read_text(), "run `manage.py describe_tables`"
