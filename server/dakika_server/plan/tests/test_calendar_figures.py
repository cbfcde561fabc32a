"""Promise: a report's calendar tells what was decided and no draft, at the brand's own hour, over a change of clocks."""

from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import make_profile
from dakika_server.plan.kinds.calendar import days_of
from dakika_server.plan.models import Version
from dakika_server.plan.tests.test_calendar import plan
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/figures/plan.calendar"
# The Friday before the last Sunday of October, when Lisbon goes back an hour.
FRIDAY = datetime(2026, 10, 23, 12, tzinfo=UTC)


@pytest.fixture
def client(editor: Any, client_of: Any, monkeypatch: pytest.MonkeyPatch) -> Client:
    monkeypatch.setattr(clock, "now", lambda: FRIDAY)
    found: Client = client_of(editor)
    return found


def test_days_are_whole_weeks_from_monday() -> None:
    for day in (date(2026, 10, 19), date(2026, 10, 23), date(2026, 10, 25)):
        assert days_of(day, "this_week")[0] == date(2026, 10, 19)
        assert days_of(day, "next_week")[0] == date(2026, 10, 26)
        assert len(days_of(day, "four_weeks")) == 28


def test_what_was_decided_stands_at_its_hour(client: Client, brand: Brand) -> None:
    commons, brevi = make_profile(brand, "commons"), make_profile(brand, "brevi")
    before = plan(brand, commons, datetime(2026, 10, 24, 8, tzinfo=UTC), text="Before the change", state="scheduled")
    Version.objects.create(planned_post=before, profile=brevi, due_at=before.scheduled_at, state="scheduled")
    plan(brand, commons, datetime(2026, 10, 26, 9, tzinfo=UTC), text="After it", state="scheduled")
    plan(brand, commons, datetime(2026, 10, 25, 23, 30, tzinfo=UTC), text="Late", state="published")
    plan(brand, commons, datetime(2026, 10, 26, 9, tzinfo=UTC), text="Not decided", state="in_review")
    plan(brand, commons, None, text="Some day")
    plan(brand, commons, datetime(2026, 11, 2, 0, tzinfo=UTC), text="Beyond", state="scheduled")
    told = client.get(BASE).json()
    assert [(row["at"], row["text"]) for row in told["rows"]] == [
        ("2026-10-24T09:00", "Before the change"), ("2026-10-25T23:30", "Late"), ("2026-10-26T09:00", "After it"),
    ]  # fmt: skip
    assert told["rows"][0]["detail"].count(",") == 1
    by_key = {cell["key"]: cell["now"]["value"] for cell in told["cells"]}
    assert by_key["posts"] == sum(told["series"][0]["values"]) == 3
    assert (by_key["2026-10-25"], by_key["2026-10-27"]) == (1, 0)
    assert client.get(f"{BASE}/basis", {"cell": "2026-11-02"}).status_code == 400
    assert client.get(f"{BASE}?ahead=ever").status_code == 400


def test_another_brands_plan_is_not_in_it(client: Client, brand: Brand) -> None:
    other = Brand.objects.create(name="Half Moon", slug="half-moon", time_zone="UTC")
    plan(other, make_profile(other, "brevi"), FRIDAY + timedelta(hours=3), text="Theirs", state="scheduled")
    told = client.get(BASE).json()
    assert told["rows"] == []
    assert told["note"] == "Nothing is set to go out in these weeks."
