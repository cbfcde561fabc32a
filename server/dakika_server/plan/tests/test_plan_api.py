"""Promise: what is written is kept whoever writes at once, and a post that its network would refuse is never scheduled."""

from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from django.test import Client
from procrastinate.contrib.django.models import ProcrastinateJob

from dakika_server.brands.models import Brand, Campaign
from dakika_server.links.models import TrackedLink
from dakika_server.measures.testing import fill, make_profile
from dakika_server.plan.models import PlannedPost
from dakika_server.shared import clock
from dakika_server.shared.models import AuditEntry
from dakika_server.sources.models import Profile

pytestmark = pytest.mark.django_db(transaction=False)
BASE = "/api/brands/orrery-house/plan"
JSON = "application/json"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def profiles(brand: Brand) -> tuple[Profile, Profile]:
    return make_profile(brand, "commons"), make_profile(brand, "brevi")


def soon(hours: float = 24) -> datetime:
    return clock.now().replace(microsecond=0) + timedelta(hours=hours)


def write(client: Client, *profiles: Profile, text: str = "Tonight we open late", **values: Any) -> Any:
    body = {"title": "Night", "versions": [{"profile_id": p.pk, "text": text} for p in profiles], **values}
    return client.post(BASE, body, content_type=JSON)


def schedule(client: Client, pk: int, at: datetime | None) -> Any:
    body = {
        "scheduled_at": at.isoformat() if at else None,
        "edition": client.get(f"{BASE}/{pk}").json().get("edition", 1),
    }
    return client.post(f"{BASE}/{pk}/schedule", body, content_type=JSON)


def test_a_draft_comes_back_as_it_was_written(client: Client, profiles: tuple[Profile, Profile]) -> None:
    made = write(client, *profiles, text="  Two spaces, kept\n").json()
    told = client.get(f"{BASE}/{made['id']}").json()
    assert [v["text"] for v in told["versions"]] == ["  Two spaces, kept\n"] * 2
    assert (told["state"], told["scheduled_at"], told["edition"]) == ("draft", None, made["edition"])


def test_the_calendar_holds_planned_posts_beside_published_ones(
    client: Client, profiles: tuple[Profile, Profile], brand: Brand
) -> None:
    """Days are the brand's: in Lisbon's summer 23:30 UTC is the next day."""
    fill(profiles[0], 3, start=datetime(2026, 10, 1, 23, 30, tzinfo=ZoneInfo("UTC")))
    write(client, profiles[0], scheduled_at="2026-10-02T09:00:00Z")
    write(client, profiles[0])
    told = client.get(f"{BASE}?first=2026-10-02&last=2026-10-02").json()
    assert [p["text"] for p in told["published"]] == ["Post 0"]
    assert len(told["planned"]) == 1
    assert len(told["drafts"]) == 1
    assert client.get(f"{BASE}?first=2026-10-01&last=2026-10-01").json()["published"] == []


@pytest.mark.parametrize("days", ["first=2026-10-02&last=2026-10-01", "first=2026-01-01&last=2026-12-31", "first=soon"])
def test_days_that_make_no_sense_are_refused(client: Client, days: str) -> None:
    assert client.get(f"{BASE}?{days}").status_code == 400


def test_two_who_write_at_once_do_not_write_over_each_other(client: Client, profiles: tuple[Profile, Profile]) -> None:
    made = write(client, profiles[0]).json()
    body = {"edition": made["edition"], "versions": [{"profile_id": profiles[0].pk, "text": "Mine"}]}
    assert client.put(f"{BASE}/{made['id']}", body, content_type=JSON).status_code == 200
    late = client.put(f"{BASE}/{made['id']}", body | {"title": "Theirs"}, content_type=JSON)
    assert late.status_code == 409
    assert late.json()["type"].endswith("changed_meanwhile")
    assert client.get(f"{BASE}/{made['id']}").json()["title"] == ""


def test_a_change_that_does_not_say_of_which_edition_is_refused(
    client: Client, profiles: tuple[Profile, Profile]
) -> None:
    made = write(client, profiles[0]).json()
    versions = [{"profile_id": profiles[0].pk, "text": "Mine"}]
    told = client.put(f"{BASE}/{made['id']}", {"versions": versions}, content_type=JSON)
    assert (told.status_code, told.json()["type"].endswith("edition_missing")) == (400, True)
    when = {"scheduled_at": soon().isoformat()}
    assert client.post(f"{BASE}/{made['id']}/schedule", when, content_type=JSON).status_code == 400
    late = client.post(f"{BASE}/{made['id']}/schedule", when | {"edition": made["edition"] + 1}, content_type=JSON)
    assert late.status_code == 409
    assert PlannedPost.objects.get().state == "draft"


def test_scheduling_enqueues_with_the_post_and_taking_back_makes_it_a_draft(
    client: Client, profiles: tuple[Profile, Profile]
) -> None:
    made = write(client, *profiles).json()
    at = soon()
    told = schedule(client, made["id"], at).json()
    assert told["state"] == "scheduled"
    assert {v["state"] for v in told["versions"]} == {"scheduled"}
    jobs = ProcrastinateJob.objects.filter(task_name="plan.publish")
    assert {job.scheduled_at for job in jobs} == {at}
    assert jobs.count() == 2
    assert client.delete(f"{BASE}/{made['id']}/schedule").json()["state"] == "draft"
    said = list(AuditEntry.objects.values_list("action", flat=True).order_by("pk"))
    assert said == ["plan_post", "schedule_post", "take_back"]


def test_a_new_time_moves_a_scheduled_post_and_no_time_makes_it_a_draft(
    client: Client, profiles: tuple[Profile, Profile]
) -> None:
    made = write(client, profiles[0]).json()
    told = schedule(client, made["id"], soon()).json()
    versions = [{"profile_id": profiles[0].pk, "text": "Later"}]
    later = soon(48).isoformat()
    moved = client.put(
        f"{BASE}/{made['id']}", {"edition": told["edition"], "scheduled_at": later, "versions": versions},
        content_type=JSON,
    ).json()  # fmt: skip
    assert (moved["state"], moved["scheduled_at"]) == ("scheduled", later.replace("+00:00", "Z"))
    back = client.put(
        f"{BASE}/{made['id']}", {"edition": moved["edition"], "scheduled_at": None, "versions": versions},
        content_type=JSON,
    ).json()  # fmt: skip
    assert back["state"] == "draft"


@pytest.mark.parametrize(("hours", "words"), [(-2, "has passed"), (24 * 400, "more than a year ahead")])
def test_a_time_that_cannot_be_is_refused(
    client: Client, profiles: tuple[Profile, Profile], hours: float, words: str
) -> None:
    made = write(client, profiles[0]).json()
    answer = schedule(client, made["id"], soon(hours))
    assert answer.status_code == 400
    assert words in answer.json()["detail"]
    assert PlannedPost.objects.get().state == "draft"


def test_what_its_network_would_refuse_is_not_scheduled(client: Client, profiles: tuple[Profile, Profile]) -> None:
    made = write(client, profiles[1], text="x" * 20_000).json()
    answer = schedule(client, made["id"], soon())
    assert answer.status_code == 400
    assert answer.json()["detail"].startswith("Brevi:")
    assert answer.json()["profile_id"] == profiles[1].pk
    assert not ProcrastinateJob.objects.filter(task_name="plan.publish").exists()
    nothing = write(client).json()
    assert "at least one profile" in schedule(client, nothing["id"], soon()).json()["detail"]


def test_nothing_of_another_brand_gets_in(client: Client, profiles: tuple[Profile, Profile], brand: Brand) -> None:
    other = Brand.objects.create(name="Other", slug="other", time_zone="UTC")
    theirs = make_profile(other)
    link = TrackedLink.objects.create(
        brand=other, code="x", name="x", destination="https://x.example/", target="https://x.example/",
        created_at=clock.now(),
    )  # fmt: skip
    campaign = Campaign.objects.create(brand=other, name="C", first_day="2026-01-01", last_day="2026-12-31")
    assert write(client, theirs).status_code == 400
    assert write(client, profiles[0], campaign_id=campaign.pk).status_code == 400
    versions = [{"profile_id": profiles[0].pk, "text": "x", "link_id": link.pk}]
    assert client.post(BASE, {"versions": versions}, content_type=JSON).status_code == 400
    planned = PlannedPost.objects.create(brand=other, created_at=clock.now())
    for answer in (client.get(f"{BASE}/{planned.pk}"), client.delete(f"{BASE}/{planned.pk}"),
                   schedule(client, planned.pk, soon())):  # fmt: skip
        assert answer.status_code == 404


def test_the_same_profile_twice_is_refused_and_one_from_a_file_is_published_by_hand(
    client: Client, profiles: tuple[Profile, Profile], brand: Brand
) -> None:
    assert "at most once" in write(client, profiles[0], profiles[0]).json()["detail"]
    filed = Profile.objects.create(
        brand=brand, network="commons", kind="own", external_id="file:1", handle="f", name="F", added_at=clock.now()
    )
    made = write(client, filed)
    assert made.status_code == 201
    assert made.json()["versions"][0]["profile_id"] == filed.pk


def test_texts_are_checked_as_they_are_typed(client: Client, profiles: tuple[Profile, Profile]) -> None:
    """Brevi counts what a reader sees, Commons what is stored; another brand's profile is told nothing."""
    other = make_profile(Brand.objects.create(name="Other", slug="other", time_zone="UTC"))
    family = "\N{MAN}\u200d\N{WOMAN}\u200d\N{GIRL}\u200d\N{BOY}"
    asked = [
        {"profile_id": p.pk, "text": text} for p, text in ((profiles[0], family), (profiles[1], family), (other, "x"))
    ]
    told = client.post(f"{BASE}/check", {"versions": asked}, content_type=JSON).json()
    assert [check["profile_id"] for check in told] == [profiles[0].pk, profiles[1].pk]
    assert [check["count"] for check in told] == [7, 1]
    empty = client.post(f"{BASE}/check", {"versions": [asked[0] | {"text": ""}]}, content_type=JSON).json()
    assert [problem["code"] for problem in empty[0]["problems"]] == ["empty"]


def test_thrown_away_is_gone_and_what_was_published_stays(client: Client, profiles: tuple[Profile, Profile]) -> None:
    made = write(client, profiles[0]).json()
    assert client.delete(f"{BASE}/{made['id']}").status_code == 204
    assert client.get(f"{BASE}/{made['id']}").status_code == 404
    kept = write(client, profiles[0]).json()
    PlannedPost.objects.filter(pk=kept["id"]).update(state="published", scheduled_at=soon())
    assert client.delete(f"{BASE}/{kept['id']}").status_code == 409
    changed = client.put(f"{BASE}/{kept['id']}", {"versions": []}, content_type=JSON)
    assert changed.status_code == 409


def test_a_number_of_queries_that_does_not_grow(
    client: Client, profiles: tuple[Profile, Profile], django_assert_max_num_queries: Any
) -> None:
    for i in range(12):
        write(client, *profiles, scheduled_at=f"2026-10-02T09:{i:02}:00Z")
    with django_assert_max_num_queries(12):
        assert len(client.get(f"{BASE}?first=2026-10-01&last=2026-10-31").json()["planned"]) == 12
