"""Promise: the description of the API is committed as it is, and the front end's types follow from it."""

import shutil
import subprocess
from pathlib import Path

import pytest
import yaml
from django.conf import settings
from django.core.management import call_command

SNAPSHOT = settings.ROOT / "server" / "openapi.yaml"
TYPES = settings.ROOT / "web" / "src" / "api" / "schema.gen.ts"


def test_the_snapshot_is_current(tmp_path: Path) -> None:
    made = tmp_path / "openapi.yaml"
    call_command("spectacular", file=str(made), validate=True, fail_on_warn=True)
    assert made.read_text() == SNAPSHOT.read_text(), "run: manage.py spectacular --file server/openapi.yaml"


def test_the_types_follow_from_it(tmp_path: Path) -> None:
    if shutil.which("npx") is None:
        pytest.fail("npx is missing")
    made = tmp_path / "schema.gen.ts"
    subprocess.run(
        ["npx", "openapi-typescript", str(SNAPSHOT), "-o", str(made)], cwd=settings.ROOT / "web", check=True,
        capture_output=True,
    )  # fmt: skip
    assert made.read_text() == TYPES.read_text(), "run: npm run types"


def test_every_operation_may_answer_with_a_problem() -> None:
    paths = yaml.safe_load(SNAPSHOT.read_text())["paths"]
    for path, operations in paths.items():
        for method, operation in operations.items():
            answer = operation["responses"]["default"]["content"]
            assert "application/problem+json" in answer, f"{method} {path}"
