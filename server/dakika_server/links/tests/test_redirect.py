"""Promise: old short addresses still lead on, clicks that are no reader's are marked, and sums are always right."""

import uuid
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.links.bursts import mark_bursts
from dakika_server.links.jobs import count_people, sum_anew
from dakika_server.links.models import (
    Click,
    ClickDay,
    ClickHour,
    ClickPeople,
    ClickSpread,
    ClickTotal,
    LinkUse,
    TrackedLink,
    UnseenClicks,
)
from dakika_server.links.queries.figures import Scope, visitors_in
from dakika_server.links.uses import find_uses
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts

pytestmark = pytest.mark.django_db


def a_link(brand: Brand, code: str, **values: Any) -> TrackedLink:
    page = f"https://orrery.example/{code}"
    values = {"created_at": clock.now()} | values
    return TrackedLink.objects.create(brand=brand, code=code, name=code, destination=page, target=page, **values)


def clicks(
    link: TrackedLink, at: datetime, count: int, *, seconds: float = 3600, visitor: bytes | None = None, **values: Any
) -> None:
    values = {"device": "phone", "referrer": "", "bot_reason": ""} | values
    Click.objects.bulk_create(
        Click(brand_id=link.brand_id, link=link, key=uuid.uuid4(), at=at + timedelta(seconds=i * seconds),
              visitor=visitor or uuid.uuid4().bytes, **values)
        for i in range(count)
    )  # fmt: skip


def test_addresses_of_earlier_times_go_on_to_the_redirect(settings: Any) -> None:
    settings.LINKS_ADDRESS = "https://go.example"
    answer = Client().get("/l/abc?b=2")
    assert (answer.status_code, answer["Location"]) == (302, "https://go.example/abc?b=2")
    assert Client().head("/l/abc")["Location"] == "https://go.example/abc"
    assert Client().get("/l/" + "x" * 500).status_code == 404
    assert Client().get("/l/a.b").status_code == 404
    assert Client().post("/l/abc").status_code == 405


def test_bursts_and_rounds_are_counted_apart(brand: Brand) -> None:
    now = clock.now() - timedelta(minutes=30)
    links = [a_link(brand, f"l{i}") for i in range(6)]
    clicks(links[0], now, 12, seconds=1, visitor=b"burst" * 3)
    clicks(links[0], now, 9, seconds=1, visitor=b"eager" * 3)
    for i, link in enumerate(links):
        clicks(link, now + timedelta(seconds=i), 1, visitor=b"round" * 3)
        clicks(link, now + timedelta(seconds=40 * i), 1, visitor=b"reader" * 2)
    assert mark_bursts() == 12 + 6
    assert mark_bursts() == 0
    reasons = dict(Click.objects.values_list("visitor", "bot_reason").distinct())
    assert {bytes(visitor)[:5]: reason for visitor, reason in reasons.items()} == {
        b"burst": "burst", b"eager": "", b"round": "round", b"reade": "",
    }  # fmt: skip


def test_a_burst_that_goes_on_is_told_with_what_came_before_it(brand: Brand) -> None:
    """Nine clicks are no burst; the tenth, in the next batch, makes one of all; a day later nothing is asked again."""
    link, now = a_link(brand, "l"), clock.now() - timedelta(days=3)
    clicks(link, now, 9, seconds=3, visitor=b"v" * 16)
    assert mark_bursts() == 0
    clicks(link, now + timedelta(seconds=40), 1, visitor=b"v" * 16)
    clicks(link, now + timedelta(days=1), 9, seconds=3, visitor=b"v" * 16)
    assert mark_bursts() == 10
    assert Click.objects.filter(bot_reason="").count() == 9


def test_a_round_looks_at_what_came_since_alone(brand: Brand) -> None:
    link, now = a_link(brand, "l"), clock.now()
    clicks(link, now, 12, seconds=1, visitor=b"v" * 16)
    UnseenClicks.objects.all().delete()
    clicks(link, now + timedelta(hours=1), 12, seconds=1, visitor=b"w" * 16)
    assert mark_bursts() == 12
    assert set(Click.objects.filter(bot_reason="burst").values_list("visitor", flat=True).distinct()) == {b"w" * 16}
    # Of a file nobody knows who clicked.
    clicks(link, now + timedelta(hours=2), 12, seconds=1, visitor=b"x" * 16, import_id=1)
    assert mark_bursts() == 0
    assert not UnseenClicks.objects.exists()


def sums() -> dict[str, Any]:
    """Everything that is kept, without what has become nothing."""
    return {
        "hours": {r for r in ClickHour.objects.values_list("link_id", "hour", "people", "bots", "over") if any(r[2:])},
        "days": {r for r in ClickDay.objects.values_list("link_id", "day", "people", "bots", "over") if any(r[2:])},
        "total": {r for r in ClickTotal.objects.values_list("link_id", "people", "bots", "over") if any(r[1:])},
        "spread": {
            r for r in ClickSpread.objects.values_list("link_id", "day", "dimension", "value", "count") if r[-1]
        },
    }


def test_sums_are_what_one_would_count_whatever_happens_to_clicks(brand: Brand) -> None:
    link, other = a_link(brand, "a"), a_link(brand, "b")
    night = datetime(2026, 10, 25, 0, 30, tzinfo=UTC)  # the clocks go back: 01:30 in Lisbon comes twice
    clicks(link, night, 5, referrer="brevi.example", country="PT")
    clicks(link, night, 3, bot_reason="agent")
    clicks(other, night + timedelta(days=3), 4, is_over=True)
    clicks(other, night + timedelta(days=3), 2, device="computer", language="pt")
    Click.objects.filter(link=link).filter(bot_reason="").order_by("at").last().delete()  # type: ignore[union-attr]
    Click.objects.filter(link=other, is_over=False).update(bot_reason="burst")
    kept = sums()
    assert (link.pk, date(2026, 10, 25), 4, 3, 0) in kept["days"]
    assert (0, date(2026, 10, 25), "country", "PT", 4) in kept["spread"]
    assert kept["total"] == {(link.pk, 4, 3, 0), (other.pk, 0, 2, 4)}
    with connection.cursor() as cursor:
        cursor.execute("SELECT links_sum_anew(%s)", [brand.pk])
    assert sums() == kept
    assert ClickTotal.objects.get(link=link).last_at == night + timedelta(hours=3)


def test_another_time_zone_moves_the_days(brand: Brand) -> None:
    link = a_link(brand, "a")
    clicks(link, datetime(2026, 11, 1, 23, 30, tzinfo=UTC), 1)
    assert list(ClickDay.objects.values_list("day", flat=True)) == [date(2026, 11, 1)]
    Brand.objects.filter(pk=brand.pk).update(time_zone="Europe/Athens")
    sum_anew(brand.pk)
    assert list(ClickDay.objects.values_list("day", flat=True)) == [date(2026, 11, 2)]


def test_people_are_kept_by_day_and_counted_live_where_they_are_not(brand: Brand, client_of: Any, editor: Any) -> None:
    from dakika_core.values.period import Period

    link = a_link(brand, "a")
    today = clock.now().replace(hour=0, minute=10, second=0, microsecond=0)
    for ago in (3, 2, 0):
        clicks(link, today - timedelta(days=ago), 4, seconds=60, visitor=b"one")
        clicks(link, today - timedelta(days=ago), 2, seconds=60)
    period = Period(first=(today - timedelta(days=10)).date(), last=today.date(), zone=brand.zone)
    every, one = Scope(brand=brand), Scope(brand=brand, links=(link.pk,))
    assert visitors_in(every, period) == visitors_in(one, period) == 9
    assert count_people(brand.pk) == 3
    assert ClickPeople.objects.filter(link_id=0, day=today.date() - timedelta(days=2)).get().people == 3
    assert visitors_in(every, period) == visitors_in(one, period) == 9
    assert count_people(brand.pk) == 0


def test_posts_that_carry_a_link_are_found_by_their_text(brand: Brand, settings: Any) -> None:
    from dakika_server.sources.models import Profile

    settings.LINKS_ADDRESS, settings.PUBLIC_ADDRESS = "https://go.example", "https://dakika.example"
    first, second = a_link(brand, "tickets"), a_link(brand, "abc2")
    own = Profile.objects.create(
        brand=brand, network="commons", external_id="1", handle="o", name="O", kind="own", added_at=clock.now()
    )
    texts = ["Come: https://go.example/Tickets.", "old https://dakika.example/l/abc2 and https://go.example/tickets",
             "https://go.example/unknown", "https://elsewhere.example/tickets", "no link"]  # fmt: skip
    take_posts(
        own,
        [
            PostIn(external_id=str(i), published_at=clock.now(), format="link", text=t, url="", readings=[])
            for i, t in enumerate(texts)
        ],
    )
    assert find_uses(brand.pk, own) == 3
    assert find_uses(brand.pk) == 0
    assert sorted(LinkUse.objects.values_list("link_id", "post__external_id")) == sorted(
        [(first.pk, "0"), (first.pk, "1"), (second.pk, "1")]
    )
