"""Promise: other programs read the plan as it is, a subscription shows its owner's brand alone and ends with them."""

import io
from datetime import timedelta
from typing import Any

import pytest
from django.test import Client
from icalendar import Calendar
from openpyxl import load_workbook

from dakika_server.brands.models import Brand, Membership
from dakika_server.measures.testing import make_profile
from dakika_server.plan.actions import save_planned_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import CalendarKey, PlannedPost
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/plan"


@pytest.fixture
def planned(brand: Brand, editor: Any) -> PlannedPost:
    at = (clock.now() + timedelta(days=3)).replace(hour=19, minute=30, second=0, microsecond=0)
    return save_planned_post(
        editor, brand, title="=HYPERLINK(1)", scheduled_at=at, common=Common(text="Doors, at eight;\nbring a watch \x07"),
        versions=[VersionInput(profile_id=make_profile(brand, key).pk) for key in ("commons", "brevi")],
    )  # fmt: skip


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def days(form: str) -> str:
    now = clock.now()
    return f"{BASE}/export?form={form}&first={now:%Y-%m-%d}&last={now + timedelta(days=9):%Y-%m-%d}"


def test_as_a_table_without_formulas_and_as_a_workbook(client: Client, planned: PlannedPost) -> None:
    rows = client.get(days("csv")).content.decode()
    assert rows.count("'=HYPERLINK(1)") == 2
    sheet = load_workbook(io.BytesIO(client.get(days("xlsx")).content)).active
    assert [row[2].value for row in sheet.iter_rows(min_row=2)] == ["Commons", "Brevi"]


def test_as_a_calendar_that_the_reference_package_reads(client: Client, planned: PlannedPost) -> None:
    """Read back by the icalendar package."""
    (event,) = Calendar.from_ical(client.get(days("ics")).content).walk("VEVENT")
    assert event["DTSTART"].dt == planned.scheduled_at
    assert str(event["SUMMARY"]) == "=HYPERLINK(1) (Commons, Brevi)"
    assert "Doors, at eight;\nbring a watch" in str(event["DESCRIPTION"])
    assert (event["SEQUENCE"], str(event["STATUS"])) == (planned.edition, "TENTATIVE")


@pytest.mark.parametrize("query", ["form=pdf&first=2027-01-01&last=2027-01-02", "form=csv&first=2027-01-05&last=2027-01-02",
                                   "form=csv&first=2020-01-01&last=2027-01-02", "form=csv"])  # fmt: skip
def test_what_cannot_be_had_is_refused(query: str, client: Client) -> None:
    assert client.get(f"{BASE}/export?{query}").status_code == 400


def test_a_subscription_is_ones_own_ends_by_another_and_with_the_membership(
    client: Client, planned: PlannedPost, editor: Any, stranger: Any, client_of: Any, brand: Brand
) -> None:
    made = client.post(f"{BASE}/subscription").json()["address"]
    path = made.partition("/api/")[2]
    assert planned.title.encode()[:5] in Client().get(f"/api/{path}").content
    assert path.rpartition("/")[2][:-4] not in str(CalendarKey.objects.values().get())
    again = client.post(f"{BASE}/subscription").json()["address"].partition("/api/")[2]
    assert (Client().get(f"/api/{path}").status_code, Client().get(f"/api/{again}").status_code) == (404, 200)
    assert client_of(stranger).post(f"{BASE}/subscription").status_code == 404
    Membership.objects.filter(user=editor, brand=brand).delete()
    assert Client().get(f"/api/{again}").status_code == 404
    Membership.objects.create(user=editor, brand=brand, role="viewer")
    assert Client().get(f"/api/{again}").status_code == 200
    assert client.delete(f"{BASE}/subscription").status_code == 204
    assert Client().get(f"/api/{again}").status_code == 404
