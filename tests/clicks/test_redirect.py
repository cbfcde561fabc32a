"""Promise: the redirect knows of a change at once, and every click is in the figures once, a second or two later."""

import signal
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

import pytest
from dakika_server.brands.models import Brand
from dakika_server.links.models import Click, ClickHour, ClickSpread, LinkDomain, LinkPage, LinkPageEntry, TrackedLink
from django.db.models import Sum
from waiting import until

from clicks.processes import Processes

NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)


def a_link(brand: Brand, code: str, **values: Any) -> TrackedLink:
    page = f"https://orrery.example/{code}"
    return TrackedLink.objects.create(
        brand=brand, code=code, name=code, destination=page, target=page, created_at=NOW, **values
    )


@pytest.fixture
def brand(transactional_db: Any) -> Brand:
    return Brand.objects.create(name="Orrery House", slug="orrery-house", time_zone="Asia/Kathmandu")


def test_changes_are_followed_at_once(redirects: Processes, brand: Brand) -> None:
    before = a_link(brand, "before")
    redirects.start()
    until(lambda: redirects.ask("/before")[0] == 302)
    made = a_link(brand, "fresh")
    assert redirects.ask("/fresh")[0] == 302  # even before it is told: what is not known yet is asked for
    TrackedLink.objects.filter(pk=made.pk).update(target="https://orrery.example/elsewhere")
    until(lambda: "/elsewhere?dk=" in redirects.ask("/fresh")[1]["location"])
    TrackedLink.objects.filter(pk=made.pk).update(is_paused=True)
    until(lambda: redirects.ask("/fresh")[0] == 410)
    TrackedLink.objects.filter(pk=before.pk).update(ends_at=NOW - timedelta(days=1))
    until(lambda: redirects.ask("/before")[0] == 410)
    Brand.objects.filter(pk=brand.pk).update(name="Orrery & Co")
    until(lambda: b"Orrery &amp; Co" in redirects.ask("/before")[2])
    LinkDomain.objects.create(brand=brand, host="clock.example", created_at=NOW)
    other = a_link(Brand.objects.create(name="Lantern Line", slug="lantern-line", time_zone="UTC"), "other")
    until(lambda: redirects.ask("/other")[0] == 302)
    until(lambda: redirects.ask("/other", host="clock.example")[0] == 404)
    page = LinkPage.objects.create(brand=brand, slug="orrery", title="Now", created_at=NOW)
    LinkPageEntry.objects.create(page=page, link=made, title="Tickets")
    until(lambda: b"Tickets" in redirects.ask("/p/orrery/")[2])
    LinkPage.objects.filter(pk=page.pk).update(is_shown=False)
    until(lambda: redirects.ask("/p/orrery/")[0] == 404)
    other.delete()
    until(lambda: redirects.ask("/other")[0] == 404)


def test_a_click_arrives_with_all_that_is_known_and_in_the_sums(redirects: Processes, brand: Brand) -> None:
    link = a_link(brand, "open")
    redirects.start()
    until(lambda: (told := redirects.health()) and told["follows"])
    key = redirects.ask("/open", referer="https://brevi.example/x", accept_language="pt-BR",
                        x_forwarded_for="8.8.8.8")[1]["location"].rpartition("dk=")[2]  # fmt: skip
    redirects.ask("/open", user_agent="curl/8.5.0")
    redirects.ask("/open", "HEAD")
    until(lambda: Click.objects.count() == 3)
    click = Click.objects.get(key=UUID(key))
    assert (click.link, click.referrer, click.device, click.language, click.country, click.bot_reason) == (
        link, "brevi.example", "phone", "pt", "US", "",
    )  # fmt: skip
    assert abs(click.at - datetime.now(tz=UTC)) < timedelta(minutes=1)
    assert sorted(Click.objects.exclude(pk=click.pk).values_list("bot_reason", flat=True)) == ["agent", "method"]
    hour = ClickHour.objects.get(link_id=link.pk)
    assert (hour.people, hour.bots, hour.over) == (1, 2, 0)
    assert hour.hour.astimezone(brand.zone).minute == 0  # an hour of the brand's clocks, where UTC has a quarter to
    spread = set(ClickSpread.objects.filter(link_id=0).values_list("dimension", "value", "count"))
    assert {("referrer", "brevi.example", 1), ("country", "US", 1), ("reason", "agent", 1)} <= spread
    # Taking a click back takes it out of the sums.
    Click.objects.filter(pk=click.pk).update(bot_reason="burst")
    hour.refresh_from_db()
    assert (hour.people, hour.bots) == (0, 3)
    Click.objects.all()._raw_delete("default")
    hour.refresh_from_db()
    assert (hour.people, hour.bots) == (0, 0)
    assert ClickSpread.objects.aggregate(n=Sum("count"))["n"] == 0


def test_behind_two_proxies_the_visitor_is_whom_the_outermost_heard(redirects: Processes, brand: Brand) -> None:
    a_link(brand, "open")
    redirects.start(DAKIKA_TRUSTED_HOPS="2")
    until(lambda: (told := redirects.health()) and told["follows"])
    # What stands left of that was written by whoever came.
    redirects.ask("/open", x_forwarded_for="8.8.8.8, 200.147.3.157, 10.0.0.2")
    until(lambda: Click.objects.count() == 1)
    assert Click.objects.get().country == "BR"


def test_several_side_by_side_and_what_one_left_is_taken_in_by_another(redirects: Processes, brand: Brand) -> None:
    a_link(brand, "open")
    first, second = redirects.start(), redirects.start(wait=False)
    seen = set()
    until(lambda: seen.add(redirects.health()["process"]) or seen == {first.pid, second.pid})
    answered = [redirects.ask("/open")[0] for _ in range(40)]
    redirects.kill(first)
    answered += [redirects.ask("/open")[0] for _ in range(10)]
    assert set(answered) == {302}
    until(lambda: Click.objects.count() == 50)
    until(lambda: len(list(redirects.folder.glob("*.clicks"))) == 1)
    redirects.kill(second, signal.SIGTERM)
    assert Click.objects.count() == 50
