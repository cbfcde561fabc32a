"""Promise: single clicks go by their age and no figure that is told of them changes; nothing goes unless it is asked for."""

import random
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

import pytest
from django.core.management import call_command
from django.db import connection

from dakika_server.brands.models import Brand
from dakika_server.links.jobs import count_people, sum_anew
from dakika_server.links.models import (
    Click,
    ClickDay,
    ClickHorizon,
    ClickHour,
    ClickPeople,
    ClickSpread,
    ClickTotal,
    TrackedLink,
)
from dakika_server.links.retention import forget_clicks, horizon_of, old_clicks
from dakika_server.links.testing import a_link
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
SUMS: tuple[Any, ...] = (ClickHour, ClickDay, ClickTotal, ClickSpread, ClickPeople)
NOW = datetime(2026, 11, 9, 8, tzinfo=UTC)


@pytest.fixture(autouse=True)
def _now(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "now", lambda: NOW)


@pytest.fixture
def clicked(brand: Brand) -> Brand:
    """A year of clicks, some of them robots', some after a link's end."""
    rng = random.Random(3)
    links = [a_link(brand, code) for code in ("one", "two", "three")]
    Click.objects.bulk_create(
        Click(
            brand=brand, link=rng.choice(links), key=uuid4(), at=NOW - timedelta(minutes=rng.randrange(365 * 24 * 60)),
            referrer=rng.choice(["", "commons.example"]), device=rng.choice(["phone", "desktop"]),
            country=rng.choice(["PT", "BR"]), visitor=rng.randbytes(1) * 16, bot_reason=rng.choice(["", "", "", "agent"]),
            is_over=rng.random() < 0.05,
        )
        for _ in range(600)
    )  # fmt: skip
    count_people(brand.pk)
    return brand


def sums() -> list[list[dict[str, Any]]]:
    """Every sum there is; what stands at nought is as good as none."""
    found = []
    for model in SUMS:
        rows = [{k: v for k, v in row.items() if k != "id"} for row in model.objects.values()]
        counted = ("people", "bots", "over", "count")
        found.append(sorted((r for r in rows if any(r.get(name) for name in counted)), key=str))
    return found


def test_sums_stay_when_clicks_go(clicked: Brand) -> None:
    before, limit = sums(), NOW - timedelta(days=100)
    should = Click.objects.filter(at__lt=horizon_of(clicked, limit)[0]).count()
    assert should > 300
    assert old_clicks(limit) == should
    assert Click.objects.count() == 600, "who asks what would go changes nothing"
    assert forget_clicks(limit) == should
    assert Click.objects.count() == 600 - should
    assert sums() == before
    assert forget_clicks(limit) == 0


def test_summed_anew_what_is_gone_still_counts(clicked: Brand) -> None:
    before = sums()
    forget_clicks(NOW - timedelta(days=100))
    sum_anew(clicked.pk)
    assert sums() == before


def test_another_zone_loses_no_click(clicked: Brand) -> None:
    totals = {row["link_id"]: row["people"] for row in ClickTotal.objects.values()}
    forget_clicks(NOW - timedelta(days=100))
    Brand.objects.update(time_zone="Pacific/Auckland")
    sum_anew(clicked.pk)
    assert {row["link_id"]: row["people"] for row in ClickTotal.objects.values()} == totals
    by_day: dict[int, int] = {}
    for row in ClickDay.objects.values():
        by_day[row["link_id"]] = by_day.get(row["link_id"], 0) + row["people"]
    assert by_day == totals


def test_clicks_that_go_for_another_reason_leave_the_sums_as_before(clicked: Brand) -> None:
    forget_clicks(NOW - timedelta(days=100))
    link = TrackedLink.objects.first()
    assert link is not None
    there = Click.objects.filter(link=link, bot_reason="", is_over=False)
    total, count = ClickTotal.objects.get(link=link).people, there.count()
    there.delete()
    assert ClickTotal.objects.get(link=link).people == total - count


def test_killed_in_between_it_goes_on(clicked: Brand, monkeypatch: pytest.MonkeyPatch) -> None:
    from dakika_server.links import retention

    before, limit = sums(), NOW - timedelta(days=100)
    monkeypatch.setattr(retention, "AT_ONCE", 50)
    ran = 0

    def dies(execute: Any, sql: str, params: Any, many: bool, context: Any) -> Any:
        nonlocal ran
        ran += "DELETE FROM links_click " in sql
        if ran == 3:
            raise SystemExit
        return execute(sql, params, many, context)

    with connection.execute_wrapper(dies), pytest.raises(SystemExit):
        forget_clicks(limit)
    assert ClickHorizon.objects.get().since == horizon_of(clicked, limit)[0]
    sum_anew(clicked.pk)
    assert sums() == before
    forget_clicks(limit)
    assert old_clicks(limit) == 0
    assert sums() == before


def test_an_earlier_horizon_brings_nothing_back(clicked: Brand) -> None:
    forget_clicks(NOW - timedelta(days=50))
    before = sums()
    assert forget_clicks(NOW - timedelta(days=200)) == 0
    sum_anew(clicked.pk)
    assert sums() == before


def test_the_command_says_and_does_nothing_unless_asked(
    clicked: Brand, settings: Any, capsys: pytest.CaptureFixture[str]
) -> None:
    settings.CLICKS_KEPT_DAYS = 100
    call_command("retention")
    told = capsys.readouterr().out
    assert "Single clicks of before 1 August 2026 (DAKIKA_CLICKS_KEPT_DAYS=100): " in told
    assert "would go" in told
    assert "Readings of posts that nothing follows from: kept for ever (DAKIKA_READINGS_THINNED_DAYS)" in told
    assert Click.objects.count() == 600
    call_command("retention", "--apply")
    assert Click.objects.count() < 300
    settings.CLICKS_KEPT_DAYS = None
    call_command("retention")
    assert "Single clicks: kept for ever (DAKIKA_CLICKS_KEPT_DAYS)" in capsys.readouterr().out
