"""Promise: what networks said in their own words goes in time; no count changes by it and nothing is worked out anew."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from dakika_server.measures.models import MeasureChange
from dakika_server.measures.testing import make_profile
from dakika_server.sources import forget
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import PostReading

pytestmark = pytest.mark.django_db
NOW = datetime(2026, 11, 9, 8, tzinfo=UTC)


@pytest.fixture
def readings(brand: Any) -> Any:
    profile = make_profile(brand)
    ages = (200, 61, 59, 1)
    rows = [
        PostIn(
            external_id=str(days), published_at=NOW - timedelta(days=days), format="text", text="", url="",
            readings=[(NOW - timedelta(days=days), {"reactions": days}, {"likes": days})],
        )
        for days in ages
    ]  # fmt: skip
    take_posts(profile, rows)
    MeasureChange.objects.all().delete()
    return PostReading.objects.order_by("-taken_at")


def test_old_answers_go_and_young_ones_stay_with_every_count(readings: Any) -> None:
    while forget.forget_old_answers(NOW):
        pass
    assert [r.raw for r in readings.all()] == [{"likes": 1}, {"likes": 59}, None, None]
    assert [r.reactions for r in readings.all()] == [1, 59, 61, 200]
    assert not MeasureChange.objects.exists()


def test_it_goes_on_until_all_is_forgotten(readings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(forget, "ANSWERS_AT_ONCE", 1)
    assert [forget.forget_old_answers(NOW) for _ in range(3)] == [True, True, False]


def test_a_count_that_is_corrected_is_still_noted(readings: Any) -> None:
    first = readings.first()
    PostReading.objects.filter(pk=first.pk).update(reactions=7)
    assert [*MeasureChange.objects.values_list("post_id", flat=True)] == [first.post_id]
