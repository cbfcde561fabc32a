"""Promise: a brand keeps its address whatever it is called, its days are those of its own zone, and choices are one's own."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from procrastinate.contrib.django.models import ProcrastinateJob

from dakika_server.brands.actions import MOST_PREFERENCES
from dakika_server.brands.models import Brand, Campaign, Membership, Preference
from dakika_server.shared.models import AuditEntry

pytestmark = pytest.mark.django_db
JSON = "application/json"
HERE = "/api/brands/orrery-house"
NEW = {"name": "Half Moon", "time_zone": "Atlantic/Azores", "first_weekday": 6}


@pytest.fixture
def client(editor: Any, client_of: Any) -> Any:
    return client_of(editor)


def test_who_makes_a_brand_may_change_it_and_nobody_else_sees_it(client: Any, viewer: Any, client_of: Any) -> None:
    made = client.post("/api/brands", NEW, content_type=JSON)
    assert made.status_code == 201
    assert {k: made.json()[k] for k in (*NEW, "slug", "role")} == {**NEW, "slug": "half-moon", "role": "admin"}
    assert client.get("/api/brands/half-moon").json()["name"] == "Half Moon"
    assert client_of(viewer).get("/api/brands/half-moon").status_code == 404
    assert AuditEntry.objects.filter(action="add_brand").count() == 1


def test_an_address_that_is_something_elses_is_no_brands(client: Any) -> None:
    for name, slug in (("Guest", "guest-2"), ("API", "api-2"), ("Guests", "guests")):
        assert client.post("/api/brands", {**NEW, "name": name}, content_type=JSON).json()["slug"] == slug


def test_who_may_only_look_makes_none(viewer: Any, client_of: Any) -> None:
    answer = client_of(viewer).post("/api/brands", NEW, content_type=JSON)
    assert answer.status_code == 400
    assert "Ask an admin" in answer.json()["errors"]["name"][0]
    assert Brand.objects.count() == 1


def test_brands_of_one_name_get_addresses_of_their_own(client: Any) -> None:
    slugs = [client.post("/api/brands", NEW, content_type=JSON).json()["slug"] for _ in range(3)]
    assert slugs == ["half-moon", "half-moon-2", "half-moon-3"]
    beyond = client.post("/api/brands", {**NEW, "name": "天文台"}, content_type=JSON).json()
    assert (beyond["name"], beyond["slug"]) == ("天文台", "brand")


@pytest.mark.parametrize(
    ("changes", "field"),
    [({"name": "   "}, "name"), ({"name": "x" * 121}, "name"), ({"time_zone": "Europe/Lisboa"}, "time_zone"),
     ({"time_zone": "../../etc/passwd"}, "time_zone"), ({"first_weekday": 7}, "first_weekday"), ({"name": None}, "name")],
)  # fmt: skip
def test_what_cannot_be_is_said_beside_its_field(changes: dict[str, Any], field: str, client: Any) -> None:
    for send, path in ((client.post, "/api/brands"), (client.put, HERE)):
        answer = send(path, {**NEW, **changes}, content_type=JSON)
        assert answer.status_code == 400
        assert answer["Content-Type"] == "application/problem+json"
        assert list(answer.json()["errors"]) == [field]
    assert list(Brand.objects.values_list("name", "time_zone")) == [("Orrery House", "Europe/Lisbon")]


def test_a_changed_name_leaves_the_address(client: Any) -> None:
    told = client.put(HERE, {**NEW, "name": "  The   Orrery "}, content_type=JSON).json()
    assert (told["name"], told["slug"], told["first_weekday"]) == ("The Orrery", "orrery-house", 6)
    assert client.get(HERE).json()["time_zone"] == "Atlantic/Azores"


def test_another_zone_has_the_days_worked_out_anew_and_the_same_zone_does_not(client: Any, brand: Brand) -> None:
    def asked() -> set[str]:
        found = set(ProcrastinateJob.objects.values_list("task_name", flat=True))
        ProcrastinateJob.objects.all()._raw_delete("default")
        return found

    asked()
    client.put(HERE, {"name": "Other name", "time_zone": "Europe/Lisbon"}, content_type=JSON)
    assert asked() == set()
    client.put(HERE, {"name": "Other name", "time_zone": "Asia/Kathmandu"}, content_type=JSON)
    assert "links.sum_clicks_anew" in asked()


def test_a_campaign_has_a_name_of_its_own_and_ends_after_it_began(client: Any, brand: Brand, stranger: Any) -> None:
    opening = {"name": "Night Openings", "first_day": "2026-11-01", "last_day": "2026-11-30", "colour": 3}
    assert client.post(f"{HERE}/campaigns", opening, content_type=JSON).status_code == 201
    again = client.post(f"{HERE}/campaigns", opening, content_type=JSON)
    assert again.json()["errors"]["name"] == ["There is a campaign of this name already."]
    one_day = {**opening, "name": "One day", "last_day": "2026-11-01"}
    assert client.post(f"{HERE}/campaigns", one_day, content_type=JSON).status_code == 201
    before = client.post(f"{HERE}/campaigns", {**one_day, "last_day": "2026-10-31"}, content_type=JSON)
    assert "before the first" in before.json()["errors"]["last_day"][0]
    for wrong in ({"colour": 9}, {"first_day": "30.11.2026"}, {"name": ""}):
        answer = client.post(f"{HERE}/campaigns", {**opening, **wrong}, content_type=JSON)
        assert list(answer.json()["errors"]) == list(wrong)
    # Another brand's campaign may be called the same, and is not in this list.
    other = Membership.objects.get(user=stranger).brand
    Campaign.objects.create(brand=other, name="Night Openings", first_day="2026-11-01", last_day="2026-11-02")
    told = client.get(f"{HERE}/campaigns").json()
    assert {row["name"] for row in told} == {"Night Openings", "One day"}
    assert len(told) == 2


def test_choices_are_kept_for_oneself_alone(client: Any, viewer: Any, client_of: Any) -> None:
    shown = {"metrics": ["reach", "er_reach"], "bars": {"reach": True}}
    assert client.put(f"{HERE}/preferences/summary", {"value": shown}, content_type=JSON).status_code == 204
    assert client.get(f"{HERE}/preferences").json() == {"values": {"summary": shown}}
    other = client_of(viewer)
    assert other.get(f"{HERE}/preferences").json() == {"values": {}}
    assert other.put(f"{HERE}/preferences/summary", {"value": []}, content_type=JSON).status_code == 204
    assert client.get(f"{HERE}/preferences").json() == {"values": {"summary": shown}}
    client.put(f"{HERE}/preferences/summary", {"value": None}, content_type=JSON)
    assert Preference.objects.count() == 2


@pytest.mark.parametrize(
    "body",
    [b'{"value": "' + b"x" * 5000 + b'"}', b'{"value": "\\u0000"}', b"{}", b"not json", b'{"value": 1e999}', b"[]"],
)
def test_a_choice_that_cannot_be_kept_is_refused_in_words(body: bytes, client: Any) -> None:
    answer = client.put(f"{HERE}/preferences/summary", body, content_type=JSON)
    assert answer.status_code == 400
    assert answer["Content-Type"] == "application/problem+json"
    assert not Preference.objects.exists()


def test_choices_have_an_end(client: Any) -> None:
    codes = [
        client.put(f"{HERE}/preferences/n{n}", {"value": n}, content_type=JSON).status_code
        for n in range(MOST_PREFERENCES + 1)
    ]
    assert codes == [204] * MOST_PREFERENCES + [400]
    assert client.put(f"{HERE}/preferences/n0", {"value": "changed"}, content_type=JSON).status_code == 204
    assert client.put(f"{HERE}/preferences/{'x' * 41}", {"value": 1}, content_type=JSON).status_code in (400, 404)


def test_the_line_tells_the_days_of_the_brands_own_zone(client: Any, brand: Brand) -> None:
    Brand.objects.filter(pk=brand.pk).update(time_zone="Pacific/Kiritimati")
    told = client.get(HERE).json()
    now = datetime.fromisoformat(told["now"])
    assert abs(now - datetime.now(tz=UTC)) < timedelta(minutes=1)
    assert told["time_zone"] == "Pacific/Kiritimati"
