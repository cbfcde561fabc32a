"""Promise: an hour that surely does better and is left empty becomes a finding with the next such hour as its step."""

from datetime import UTC, datetime, timedelta
from typing import Any
from urllib.parse import parse_qs, urlsplit

import numpy as np
import pytest

from dakika_server.measures.testing import make_profile
from dakika_server.results.findings import find
from dakika_server.results.models import Finding
from dakika_server.timing.findings import missed_hours, next_at
from dakika_server.timing.testing import give_posts

pytestmark = pytest.mark.django_db
NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)


def fill(brand: Any, *, evening: float, evenings_until_days_ago: int, network: str = "commons") -> Any:
    """Half a year of posts at noon, and in the evenings up to so many days ago, which do `evening` times as well."""
    rng = np.random.default_rng(4)
    counted = []
    for ago in range(175, 3, -1):
        for hour in (11, 14, 20):
            if hour == 20 and ago < evenings_until_days_ago:
                continue
            at = (NOW - timedelta(days=ago)).replace(hour=hour, minute=int(rng.integers(0, 50)))
            counted.append((at, int(80 * (evening if hour == 20 else 1.0) * rng.lognormal(0, 0.35)) + 1))
    return give_posts(make_profile(brand, network=network), counted)


def test_evenings_that_did_better_and_were_given_up(brand: Any) -> None:
    profile = fill(brand, evening=2.5, evenings_until_days_ago=35)
    ((statement, step),) = missed_hours(brand, NOW)
    assert "Nobody posts on X on Commons at" in statement.text
    assert 18 <= statement.evidence["hour"] % 24 <= 22
    assert statement.evidence["low"] > 1
    asked = parse_qs(urlsplit(step["path"]).query)
    at = datetime.fromisoformat(asked["at"][0])
    assert NOW < at <= NOW + timedelta(days=7)
    assert asked["profile"] == [str(profile.pk)]


def test_evenings_that_are_used_are_not_missed(brand: Any) -> None:
    fill(brand, evening=2.5, evenings_until_days_ago=0)
    assert not [s for s, _ in missed_hours(brand, NOW) if s.evidence["hour"] % 24 in (19, 20, 21)]


def test_the_same_hour_on_several_profiles_is_said_once(brand: Any) -> None:
    fill(brand, evening=2.5, evenings_until_days_ago=35)
    fill(brand, evening=2.5, evenings_until_days_ago=35, network="brevi")
    found = [statement for statement, _ in missed_hours(brand, NOW)]
    hours = [statement.evidence["hour"] for statement in found]
    assert len(hours) == len(set(hours))
    if len(found) == 1:
        assert "on 2 profiles" in found[0].text
        assert "X on Brevi" in found[0].detail


def test_without_an_effect_nothing_is_missed(brand: Any) -> None:
    fill(brand, evening=1.0, evenings_until_days_ago=35)
    assert missed_hours(brand, NOW) == []


def test_it_stands_among_the_findings(brand: Any) -> None:
    fill(brand, evening=2.5, evenings_until_days_ago=35)
    find(brand, NOW)
    found = Finding.objects.get(kind="hour")
    assert found.step["words"] == "Write a post for that hour"


@pytest.mark.parametrize(
    ("hour", "expected"),
    # In Lisbon NOW is Wednesday 12:00.
    [
        (2 * 24 + 20, "2026-11-25T20:00"),
        (2 * 24 + 9, "2026-12-02T09:00"),
        (0, "2026-11-30T00:00"),
        (60, "2026-12-02T12:00"),
    ],
)
def test_the_next_of_an_hour(brand: Any, hour: int, expected: str) -> None:
    assert next_at(hour, brand, NOW).isoformat().startswith(expected)
