"""Promise: findings come in the brand's own morning, told once, by mail to those alone who asked for it."""

from datetime import UTC, datetime
from typing import Any

import pytest

from dakika_server.brands.models import Brand
from dakika_server.notices.models import Mail, NoticeChoice, Notification
from dakika_server.notices.telling import write_due
from dakika_server.results.models import Finding
from dakika_server.results.morning import tell_of_findings

pytestmark = pytest.mark.django_db


def finding(brand: Brand, key: str, found: datetime, weight: float = 1.0, **more: Any) -> None:
    Finding.objects.create(
        brand=brand, key=key, kind="group", text=f"{key} do 1.4 times as well", weight=weight, first_found_at=found,
        found_at=found, **more,
    )  # fmt: skip


def test_a_morning_tells_of_what_is_new_once_and_by_mail_to_those_who_want_it(
    brand: Brand, editor: Any, viewer: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    now = datetime(2026, 11, 9, 6, 5, tzinfo=UTC)
    monkeypatch.setenv("DAKIKA_FIXED_NOW", now.isoformat())
    finding(brand, "Albums", now, 2.0)
    finding(brand, "Links", now)
    finding(brand, "Old ones", datetime(2026, 11, 7, 6, tzinfo=UTC), 9.0)
    finding(brand, "Put away", now, 9.0, state="dismissed")
    NoticeChoice.objects.create(person=editor, brand=brand, kind="findings", by_mail="soon")
    assert [tell_of_findings(brand) for _ in range(2)] == [2, 0]
    assert [write_due() for _ in range(2)] == [1, 0]
    told = Notification.objects.get(person=viewer)
    assert told.text == "New this morning: Albums do 1.4 times as well and 1 more"
    (letter,) = Mail.objects.all()
    assert letter.to == editor.email
    assert "- Links do 1.4 times as well" in letter.text
    assert "Old ones" not in letter.text
    assert "/orrery-house/results/findings" in letter.text


def test_what_was_found_in_the_afternoon_comes_the_next_morning_and_all_are_counted(
    brand: Brand, viewer: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("DAKIKA_FIXED_NOW", "2026-11-09T06:05:00+00:00")
    finding(brand, "First", datetime(2026, 11, 9, 6, tzinfo=UTC))
    assert tell_of_findings(brand) == 1
    monkeypatch.setenv("DAKIKA_FIXED_NOW", "2026-11-10T06:05:00+00:00")
    for number in range(12):
        finding(brand, f"Later {number}", datetime(2026, 11, 9, 15, tzinfo=UTC))
    assert tell_of_findings(brand) == 12
    assert Notification.objects.latest("pk").text.endswith("and 11 more")


def test_a_morning_without_anything_new_is_quiet(brand: Brand, viewer: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("DAKIKA_FIXED_NOW", "2026-11-09T06:05:00+00:00")
    assert tell_of_findings(brand) == 0
    assert not Notification.objects.exists()
