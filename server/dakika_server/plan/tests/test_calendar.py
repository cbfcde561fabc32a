"""Promise: the calendar shows what is asked for in a fixed number of queries, with days of the year and what clashes."""

from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand, Campaign
from dakika_server.measures.testing import fill, make_profile
from dakika_server.plan.models import Note, PlannedPost, Version

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/plan"
JSON = "application/json"
NOON = datetime(2027, 3, 3, 12, tzinfo=UTC)
MONTH = "first=2027-03-01&last=2027-03-31"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def plan(brand: Brand, profile: Any, at: datetime | None, *, text: str = "", state: str = "draft", **more: Any) -> PlannedPost:  # fmt: skip
    made = PlannedPost.objects.create(
        brand=brand, scheduled_at=at, created_at=NOON, text=text, state=state, **more
    )  # fmt: skip
    Version.objects.create(planned_post=made, profile=profile, text=text, due_at=at, state=state)
    return made


def test_posts_are_chosen_by_whatever_is_asked(client: Client, brand: Brand, editor: Any) -> None:
    commons, brevi = make_profile(brand, "commons"), make_profile(brand, "brevi")
    campaign = Campaign.objects.create(
        brand=brand, name="Comets", first_day=date(2027, 3, 1), last_day=date(2027, 3, 9)
    )
    one = plan(brand, commons, NOON, text="A comet", campaign=campaign)
    two = plan(brand, brevi, NOON + timedelta(days=1), text="A clock", state="scheduled", created_by=editor)
    plan(brand, brevi, NOON + timedelta(days=60), text="Far away")
    draft = plan(brand, brevi, None, text="Some day")

    def ids(query: str = "") -> list[int]:
        return [row["id"] for row in client.get(f"{BASE}?{MONTH}{query}").json()["planned"]]

    assert ids() == [one.pk, two.pk]
    assert ids(f"&profiles={commons.pk}") == [one.pk]
    assert ids("&networks=brevi") == [two.pk]
    assert ids(f"&campaigns={campaign.pk}") == [one.pk]
    assert ids("&states=scheduled&states=failed") == [two.pk]
    assert ids(f"&authors={editor.pk}") == [two.pk]
    assert ids("&text=clock") == [two.pk]
    told = client.get(f"{BASE}?{MONTH}").json()
    assert [row["id"] for row in told["drafts"]] == [draft.pk]
    assert told["campaigns"][0]["name"] == "Comets"


@pytest.mark.parametrize("query", ["&states=nonsense", "&profiles=x", "&profiles=0", "&first=2027-04-09"])
def test_what_cannot_be_asked_is_refused(query: str, client: Client) -> None:
    assert client.get(f"{BASE}?{MONTH}{query}").status_code == 400


def test_a_version_with_a_minute_of_its_own_is_shown_in_its_days(client: Client, brand: Brand) -> None:
    made = plan(brand, make_profile(brand), NOON - timedelta(days=30))
    Version.objects.create(planned_post=made, profile=make_profile(brand, "brevi"), due_at=NOON, own=["time"])
    assert [row["id"] for row in client.get(f"{BASE}?{MONTH}").json()["planned"]] == [made.pk]


def test_a_month_takes_the_same_queries_however_full(
    client: Client, brand: Brand, django_assert_max_num_queries: Any
) -> None:
    profile = make_profile(brand)
    fill(profile, 20)
    for i in range(40):
        plan(brand, profile, NOON + timedelta(hours=i), text=f"Number {i}")
    with django_assert_max_num_queries(12):
        assert len(client.get(f"{BASE}?{MONTH}").json()["planned"]) == 40


def test_holidays_are_those_of_the_brands_country(client: Client) -> None:
    """25 April is a holiday in Portugal by law (Decreto-Lei 171/74; value from memory)."""
    days = client.get(f"{BASE}?first=2027-04-20&last=2027-04-30").json()["days"]
    assert [(day["day"], day["country"]) for day in days] == [("2027-04-25", "PT")]


def test_notes_are_kept_changed_and_taken_away(client: Client, brand: Brand) -> None:
    note = {"first": "2027-03-05", "last": "2027-03-06", "text": "Closed for the inventory"}
    made = client.post(f"{BASE}/notes", note, content_type=JSON).json()
    assert client.get(f"{BASE}?{MONTH}").json()["notes"] == [made]
    wrong = client.post(f"{BASE}/notes", {**note, "last": "2027-03-01"}, content_type=JSON)
    assert wrong.status_code == 400
    changed = client.put(f"{BASE}/notes/{made['id']}", {**note, "text": "Closed"}, content_type=JSON).json()
    assert changed["text"] == "Closed"
    other = Note.objects.create(
        brand=Brand.objects.create(name="O", slug="o", time_zone="UTC"), first=date(2027, 3, 1), last=date(2027, 3, 1), text="x"
    )  # fmt: skip
    assert client.delete(f"{BASE}/notes/{other.pk}").status_code == 404
    assert client.delete(f"{BASE}/notes/{made['id']}").status_code == 204


def test_clashes_are_named(client: Client, brand: Brand) -> None:
    profile = make_profile(brand)
    one, two = plan(brand, profile, NOON), plan(brand, profile, NOON + timedelta(minutes=5))
    (clash,) = client.get(f"{BASE}?{MONTH}").json()["clashes"]
    assert (clash["kind"], clash["first"], clash["second"]) == ("at_once", one.pk, two.pk)
