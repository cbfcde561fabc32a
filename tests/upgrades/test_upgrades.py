"""Promise: whoever brings an older installation up to date keeps every row and reads every figure as before, also where
the upgrade was killed on the way, again and again.

What is kept beside this test was written by the version of its name (upgrades/make.py): rows and answers.
"""

import json
import math
import os
import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from scripts import postgres
from upgrades.bringing_up import kept_of
from upgrades.killing import killed_upgrades

NAME = "dakika_upgrade"
# Where screens of before are now.
SCREENS = {"links/sites": "site/sites", "links/funnel": "site"}
# What an answer no longer says since it is told otherwise: a basis says whether something is counted here, a metric who
# tells it by the networks' names.
UNSAID = {
    # The week of hours is asked and told otherwise since, of 26 weeks instead of 190 days.
    "/timing": {"profile", "zones", "proposals", "hours", "odds", "planned", "pooled", "ticks", "alone", "posts_used",
                "pooled_posts"},
    # The calendar tells of posts what it shows; each is told whole at its own address.
    "/plan?": {"planned", "drafts"},
    "/results/basis": {"over"}, "/results/metrics": {"metrics", "names"},
    # Lists go on by cursor since, not by how many rows came before.
    "/results/posts?": {"offset"},
}  # fmt: skip
FOLDER = Path(__file__).parent


@pytest.fixture
def database() -> Iterator[str]:
    name = f"{NAME}_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"
    postgres.ensure_database(name, copied_from="template0")
    yield name
    postgres.sql(f"DROP DATABASE {name} WITH (FORCE)")


def brought_up(name: str, database: str, log: Path) -> dict[str, Any]:
    """What the API answers once a version is brought up, which was killed on the way."""
    paths = os.pathsep.join([*sys.path, str(FOLDER.parent)])
    environment = {**os.environ, "PGDATABASE": database, "PYTHONPATH": paths}

    def part(what: str) -> str:
        done = subprocess.run(
            [sys.executable, "-m", "upgrades.bringing_up", name, what], capture_output=True, text=True, check=False,
            env=environment,
        )  # fmt: skip
        assert done.returncode == 0, done.stderr[-2000:]
        return done.stdout

    part("begin")
    assert killed_upgrades(environment, log) > 0
    found: dict[str, Any] = json.loads(part("answers"))
    return found


def in_todays_words(told: Any) -> Any:
    """An answer of before with the screens that it names as they are now."""
    if isinstance(told, dict):
        return {key: in_todays_words(value) for key, value in told.items()}
    if isinstance(told, list):
        return [in_todays_words(value) for value in told]
    if isinstance(told, str):
        # Files name tags and campaigns since by their names.
        return re.sub(r"^Only,.*$", "Only", SCREENS.get(told, told), flags=re.MULTILINE)
    return told


def still_said(path: str, answer: Any) -> Any:
    """An answer of before without what is no longer said."""
    gone = next((names for begins, names in UNSAID.items() if path.startswith(begins)), set())
    return {key: value for key, value in answer.items() if key not in gone} if gone else answer


def is_same(now: Any, before: Any) -> bool:
    """Whether an answer says all that it said; sums of fractions depend on their order in the last place.

    What was asked for and did not exist then, a metric say, may be told now.
    """
    if isinstance(before, dict):
        return isinstance(now, dict) and now.keys() >= before.keys() and all(is_same(now[k], before[k]) for k in before)
    if (
        isinstance(before, list)
        and isinstance(now, list)
        and before
        and all(isinstance(v, dict) and "key" in v for v in before)
    ):
        by_key = {one.get("key"): one for one in now}
        return all(is_same(by_key.get(one["key"]), one) for one in before)
    if isinstance(before, list):
        return isinstance(now, list) and len(now) == len(before) and all(map(is_same, now, before))
    if isinstance(before, float) and isinstance(now, float):
        return math.isclose(now, before, rel_tol=1e-9, abs_tol=1e-12)
    return bool(now == before)


def by_profile(answer: dict[str, Any]) -> dict[str, Any]:
    """The table of profiles, which had a row for each: value and what is missing of every figure that it had then."""
    if "profiles" in answer:
        columns = ("followers", "growth", "posts_per_week", "interactions_per_post", "interactions_per_1000")
        rows = {f"p{row['profile_id']}": {column: row[column] for column in columns} for row in answer["profiles"]}
    else:
        inner = [line for row in answer["rows"] for line in (row["profiles"] or [row])]
        rows = {
            f"p{line['profile_ids'][0]}": {key: told["now"] for key, told in line["figures"].items()} for line in inner
        }
    return {
        row: {column: {"value": f["value"], "missing": f["missing"]} for column, f in figures.items()}
        for row, figures in rows.items()
    }


@pytest.mark.parametrize("version", [path.name.split(".")[0] for path in sorted(FOLDER.glob("*.json.gz"))])
def test_every_figure_is_what_it_was(version: str, database: str, tmp_path: Path) -> None:
    kept = kept_of(version)["answers"]
    before = {path: still_said(path, answer) for path, answer in in_todays_words(kept).items()}
    now = in_todays_words(brought_up(version, database, tmp_path / "log"))
    assert len(before) > 200
    for path in before:
        if path.startswith("/competitors"):
            before[path], now[path] = by_profile(before[path]), by_profile(now[path])
    differ = [path for path in before if not is_same(now[path], before[path])]
    assert not differ, f"{len(differ)} of {len(before)}, such as {differ[0]}: {before[differ[0]]} is {now[differ[0]]}"
