"""Promise: a click is written down before the answer goes out, and only stored addresses are followed."""

from typing import Any
from urllib.parse import parse_qs, urlsplit

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from dakika_server.links.jobs import mark_bursts
from dakika_server.links.models import Click, TrackedLink

pytestmark = pytest.mark.django_db
PERSON = "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Mobile Safari/537.36"


@pytest.fixture
def made(editor: Any, brand: Any, client_of: Any) -> TrackedLink:
    brand.campaigns.create(name="The Repaired Hour", first_day="2026-01-01", last_day="2026-12-31")
    answer = client_of(editor).post(
        "/api/brands/orrery-house/links",
        {
            "destination": "https://orrery.example/tickets?a=1#top",
            "network": "brevi",
            "campaign_id": brand.campaigns.get().pk,
        },
        content_type="application/json",
    )
    assert answer.status_code == 201, answer.content
    return TrackedLink.objects.get(pk=answer.json()["id"])


def test_utm_is_filled_and_the_click_is_there_at_once(made: TrackedLink, client_of: Any, editor: Any) -> None:
    answer = Client().get(
        f"/l/{made.code}?b=2", headers={"user-agent": PERSON, "referer": "https://brevi.example/x?secret=1"}
    )
    assert answer.status_code == 302
    target = urlsplit(answer["Location"])
    asked = parse_qs(target.query)
    assert (asked["a"], asked["b"], target.fragment) == (["1"], ["2"], "top")
    assert asked["utm_source"] == ["brevi"]
    assert asked["utm_campaign"] == ["the-repaired-hour"]
    click = Click.objects.get()
    assert asked["dk"] == [click.key.hex]
    assert (click.referrer, click.device, click.bot_reason) == ("brevi.example", "phone", "")
    shown = client_of(editor).get(f"/api/brands/orrery-house/links/{made.pk}").json()
    assert shown["breakdown"]["people"][-1] == 1
    assert shown["breakdown"]["referrers"] == [{"name": "brevi.example", "count": 1}]


def test_bots_are_counted_apart_with_a_reason(made: TrackedLink) -> None:
    Client().head(f"/l/{made.code}", headers={"user-agent": PERSON})
    Client().get(f"/l/{made.code}", headers={"user-agent": "curl/8.5.0"})
    Client().get(f"/l/{made.code}", headers={"user-agent": PERSON, "sec-purpose": "prefetch"})
    assert sorted(Click.objects.values_list("bot_reason", flat=True)) == ["agent", "method", "prefetch"]


def test_a_burst_of_one_visitor_is_counted_apart(made: TrackedLink) -> None:
    for _ in range(12):
        Client().get(f"/l/{made.code}", headers={"user-agent": PERSON})
    Client().get(f"/l/{made.code}", headers={"user-agent": PERSON, "x-forwarded-for": "198.51.100.9"})
    assert mark_bursts() == 12
    assert Click.objects.filter(bot_reason="").count() == 1


def test_unknown_codes_lead_nowhere(db: Any) -> None:
    assert Client().get("/l/nothing").status_code == 404
    assert Client().get("/l/" + "x" * 500).status_code == 404
    assert Client().post("/l/nothing").status_code == 405


def test_one_statement_after_the_first_click(made: TrackedLink) -> None:
    Client().get(f"/l/{made.code}", headers={"user-agent": PERSON})
    with CaptureQueriesContext(
        connection,
    ) as queries:
        Client().get(f"/l/{made.code}", headers={"user-agent": PERSON})
    assert len([q for q in queries.captured_queries if "SAVEPOINT" not in q["sql"]]) == 1


@pytest.mark.parametrize(
    "destination", ["javascript:alert(1)", "ftp://x.example", "//evil.example", "http://127.0.0.1:8000/l/abc", ""]
)
def test_what_may_not_be_followed_is_never_stored(destination: str, editor: Any, client_of: Any) -> None:
    answer = client_of(editor).post(
        "/api/brands/orrery-house/links", {"destination": destination}, content_type="application/json"
    )
    assert answer.status_code == 400
    assert "destination" in answer.json()["errors"]


def test_a_campaign_of_another_brand_is_not_found(editor: Any, stranger: Any, client_of: Any) -> None:
    from dakika_server.brands.models import Brand

    other = Brand.objects.get(slug="lantern-line").campaigns.create(
        name="x", first_day="2026-01-01", last_day="2026-01-02"
    )
    body = {"destination": "https://a.example/", "campaign_id": other.pk}
    answer = client_of(editor).post("/api/brands/orrery-house/links", body, content_type="application/json")
    assert answer.status_code == 400
