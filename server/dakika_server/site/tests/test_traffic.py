"""Promise: traffic tells clicks and visits by day, marks the days that stand out, and says what made them."""

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.links.testing import START, a_link, click
from dakika_server.site.models import Visit

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house"
WEEK = "first=2026-10-05&last=2026-10-11&compare=previous"


def test_traffic_marks_days_that_stand_out_and_names_what_made_them(client: Client, brand: Brand) -> None:
    usual, loud = a_link(brand, "usual", network="brevi"), a_link(brand, "loud", network="commons")
    for day in range(-56, 7):
        click(usual, 24 * day, 10 + day % 3)
    click(loud, 24 * 2, 90, referrer="commons.example")
    Visit.objects.create(
        brand=brand,
        visitor=b"v",
        started_at=START,
        ended_at=START,
        pages=1,
        channel="brevi",
        origin="script",
        link=usual,
    )
    told = client.get(f"{BASE}/site/traffic?{WEEK}").json()
    assert told["clicks"][2] == 90 + 12
    assert (told["visits"], told["has_visits"]) == ([1, 0, 0, 0, 0, 0, 0], True)
    assert [s["day"] for s in told["spikes"]] == ["2026-10-07"]
    behind = client.get(f"{BASE}/links/behind?{WEEK}&day=2026-10-07").json()
    assert (behind["value"], behind["is_spike"]) == (102, True)
    assert behind["links"][0]["name"] == "loud"
    assert behind["links"][0]["share"] > 0.9
    assert behind["referrers"][0]["name"] == "commons.example"
    calm = client.get(f"{BASE}/links/behind?{WEEK}&day=2026-10-07&network=brevi").json()
    assert (calm["value"], calm["is_spike"]) == (12, False)
    empty = client.get(f"{BASE}/links/behind?{WEEK}&day=2020-01-01").json()
    assert (empty["value"], empty["links"], empty["is_spike"]) == (0, [], False)
