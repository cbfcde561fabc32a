"""Promise: the description of the API is committed as it is, by area, and the front end's types follow from it."""

import re
import shutil
import subprocess
from pathlib import Path

import pytest
import yaml
from django.conf import settings

from dakika_server.shared.describing import committed, parts_of, whole_of, written
from dakika_server.shared.management.commands.describe_api import described

WEB = settings.ROOT / "web"
TYPES = WEB / "src" / "api" / "types"


def test_every_areas_part_is_current() -> None:
    parts = parts_of(described())
    files = committed()
    assert set(files) == set(parts)
    for area, part in parts.items():
        assert files[area].read_text() == written(part), f"{area}: run manage.py describe_api"


def test_the_parts_are_the_whole() -> None:
    whole, put_together = described(), whole_of(committed())
    assert {path: set(methods) for path, methods in put_together["paths"].items()} == {
        path: set(methods) for path, methods in whole["paths"].items()
    }
    missing = set(whole["components"]["schemas"]) - set(put_together["components"]["schemas"])
    assert missing == set()


def test_the_types_follow_from_them(tmp_path: Path) -> None:
    if shutil.which("npx") is None:
        pytest.fail("npx is missing")
    apis = {
        area: {"root": str(path), "x-openapi-ts": {"output": str(tmp_path / f"{area}.gen.ts")}}
        for area, path in committed().items()
    }
    given = tmp_path / "redocly.yaml"
    given.write_text(yaml.safe_dump({"apis": apis}))
    subprocess.run(
        ["npx", "openapi-typescript", "--redocly", str(given)], cwd=WEB, check=True, capture_output=True
    )  # fmt: skip
    for area in apis:
        made, kept = tmp_path / f"{area}.gen.ts", TYPES / f"{area}.gen.ts"
        assert made.read_text() == kept.read_text(), f"{area}: run npm run types"
    index = (TYPES / "index.ts").read_text()
    assert sorted(re.findall(r'from "./(\w+).gen"', index)) == sorted(apis)


def test_every_operation_may_answer_with_a_problem() -> None:
    for path, operations in whole_of(committed())["paths"].items():
        for method, operation in operations.items():
            answer = operation["responses"]["default"]["content"]
            assert "application/problem+json" in answer, f"{method} {path}"
