"""Promise: a post comes again at its times with its texts in turn, never too soon, all at once or not at all."""

from datetime import UTC, date, datetime, time, timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand, Membership
from dakika_server.links.actions import Draft, make_link
from dakika_server.measures.testing import fill, make_profile
from dakika_server.plan.actions import save_planned_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import PlannedPost, Repetition, Version
from dakika_server.plan.repeating import RepetitionInput, repeat_post
from dakika_server.shared import clock
from dakika_server.sources.models import Post, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/plan"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def commons(brand: Brand) -> Profile:
    return make_profile(brand, "commons")


def send(client: Client, path: str, body: Any) -> Any:
    return client.post(path, body, content_type="application/json")


def next_monday() -> date:
    today = clock.now().date()
    return today + timedelta(days=7 - today.weekday())


def asked(**more: Any) -> dict[str, Any]:
    first = next_monday()
    told = {"rule": "FREQ=WEEKLY;BYDAY=MO", "first": first.isoformat(), "last": (first + timedelta(days=28)).isoformat(),
            "at": "09:30", "texts": ["The bells again."]}  # fmt: skip
    return told | more


@pytest.fixture
def planned(editor: Any, brand: Brand, commons: Profile) -> PlannedPost:
    return save_planned_post(
        editor, brand, title="Bells", common=Common(text="The bells ring at nine."),
        versions=[VersionInput(profile_id=commons.pk)],
    )  # fmt: skip


def test_a_preview_tells_all_times_by_the_brands_clock(client: Client, planned: PlannedPost) -> None:
    answer = send(client, f"{HOME}/{planned.pk}/repetition/preview", asked())
    assert answer.status_code == 200, answer.json()
    told = answer.json()
    assert [one["text"] for one in told["times"]] == ["The bells ring at nine.", "The bells again."] * 2 + [
        "The bells ring at nine."
    ]
    local = [datetime.fromisoformat(one["at"]).astimezone(planned.brand.zone) for one in told["times"]]
    assert {f"{at:%a %H:%M}" for at in local} == {"Mon 09:30"}
    assert (told["conflicts"], told["said_before"]) == (0, 0)
    assert PlannedPost.objects.count() == 1


def test_its_posts_are_drafts_like_any_other(client: Client, planned: PlannedPost) -> None:
    made = send(client, f"{HOME}/{planned.pk}/repetition", asked())
    assert made.status_code == 201, made.json()
    assert (made.json()["posts"], made.json()["left_out"]) == (5, 0)
    told = client.get(f"{HOME}/repetitions/{made.json()['id']}").json()
    assert [one["state"] for one in told["posts"]] == ["draft"] * 5
    assert told["texts"] == ["The bells ring at nine.", "The bells again."]
    post = client.get(f"{HOME}/{told['posts'][0]['id']}").json()
    assert (post["title"], post["repetition"]) == ("Bells", made.json()["id"])


def test_what_is_a_versions_own_stays_but_where_another_text_takes_its_turn(
    client: Client, editor: Any, brand: Brand, commons: Profile
) -> None:
    link = make_link(editor, brand, Draft(destination="https://orrery.example/bells"))
    brevi = make_profile(brand, "brevi")
    at = clock.now() + timedelta(hours=3)
    planned = save_planned_post(
        editor, brand, scheduled_at=at, common=Common(text="Bells https://orrery.example/bells", first_comment="Come!"),
        versions=[VersionInput(profile_id=commons.pk, link_id=link.pk, first_comment="Do come!"),
                  VersionInput(profile_id=brevi.pk, text="Short bells", scheduled_at=at + timedelta(hours=1))],
    )  # fmt: skip
    send(client, f"{HOME}/{planned.pk}/repetition", asked(texts=["Others https://orrery.example/bells"]))
    posts = list(PlannedPost.objects.filter(repetition__isnull=False).order_by("scheduled_at"))
    first, second = ({v.profile_id: v for v in post.versions.all()} for post in posts[:2])
    assert first[brevi.pk].text == "Short bells"
    assert second[brevi.pk].text.startswith("Others")
    assert first[commons.pk].link_id == second[commons.pk].link_id == link.pk
    assert "https://orrery.example/bells" not in second[commons.pk].text
    assert second[commons.pk].first_comment == "Do come!"
    assert first[brevi.pk].due_at - first[commons.pk].due_at == timedelta(hours=1)


def test_the_same_words_too_soon_are_left_out(client: Client, editor: Any, brand: Brand) -> None:
    """Brevi takes the same words again after seven days at the earliest."""
    brevi = make_profile(brand, "brevi")
    planned = save_planned_post(
        editor, brand, common=Common(text="The bells ring."), versions=[VersionInput(profile_id=brevi.pk)]
    )
    first = next_monday()
    Post.objects.create(
        brand=brand, profile=brevi, external_id="1", format="text", text="THE BELLS RING https://a.example/1",
        published_at=datetime.combine(first - timedelta(days=3), time(9, 30), UTC),
    )  # fmt: skip
    body = asked(rule="FREQ=DAILY;INTERVAL=3", last=(first + timedelta(days=12)).isoformat(), texts=[])
    told = send(client, f"{HOME}/{planned.pk}/repetition/preview", body).json()
    # Day 0 is three days after what is out, day 6 is free, day 9 and 12 are near it.
    assert [bool(one["problems"]) for one in told["times"]] == [True, True, False, True, True]
    assert "Brevi takes the same words again after 7 days" in told["times"][0]["problems"][0]
    made = send(client, f"{HOME}/{planned.pk}/repetition", body).json()
    assert (made["posts"], made["left_out"]) == (1, 4)


def test_scheduled_ones_go_out_or_wait_for_their_yes(
    client: Client, client_of: Any, planned: PlannedPost, brand: Brand, editor: Any
) -> None:
    send(client, f"{HOME}/{planned.pk}/repetition", asked(becomes_scheduled=True))
    assert set(PlannedPost.objects.exclude(pk=planned.pk).values_list("state", flat=True)) == {"scheduled"}
    client.put("/api/brands/orrery-house/plan/review-rules",
               {"steps": ["approver"], "may_approve_own": False, "remind_hours": 24}, content_type="application/json")  # fmt: skip
    later = next_monday() + timedelta(days=60)
    send(client, f"{HOME}/{planned.pk}/repetition",
         asked(becomes_scheduled=True, first=later.isoformat(), last=(later + timedelta(days=20)).isoformat()))  # fmt: skip
    newest = Repetition.objects.order_by("-pk")[0]
    assert set(newest.posts.values_list("state", flat=True)) == {"in_review"}
    author = type(editor).objects.create(email="author@ninthbell.example", name="Au")
    Membership.objects.create(user=author, brand=brand, role="author")
    assert send(client_of(author), f"{HOME}/{planned.pk}/repetition", asked(rule="FREQ=DAILY", becomes_scheduled=True,
                last=next_monday().isoformat())).status_code in (201, 409)  # fmt: skip


def test_all_are_made_or_none(editor: Any, planned: PlannedPost, brand: Brand, monkeypatch: pytest.MonkeyPatch) -> None:
    from dakika_server.plan import repeating

    made = 0
    save = repeating.save_planned_post

    def breaks(*told: Any, **more: Any) -> Any:
        nonlocal made
        made += 1
        if made == 3:
            raise RuntimeError("killed")
        return save(*told, **more)

    monkeypatch.setattr(repeating, "save_planned_post", breaks)
    first = next_monday()
    with pytest.raises(RuntimeError):
        repeat_post(
            editor, planned, becomes_scheduled=False,
            asked=RepetitionInput(rule="FREQ=DAILY", first=first, last=first + timedelta(days=5), at=time(9),
                                  texts=[f"Text {n}" for n in range(5)]),
        )  # fmt: skip
    assert (PlannedPost.objects.count(), Repetition.objects.count()) == (1, 0)


def test_what_is_out_stays_when_it_is_ended(client: Client, planned: PlannedPost) -> None:
    made = send(client, f"{HOME}/{planned.pk}/repetition", asked(becomes_scheduled=True)).json()
    out = PlannedPost.objects.filter(repetition=made["id"]).order_by("scheduled_at")[0]
    Version.objects.filter(planned_post=out).update(state="published")
    PlannedPost.objects.filter(pk=out.pk).update(state="published")
    answer = client.delete(f"{HOME}/repetitions/{made['id']}")
    assert answer.json() == {"posts": 4}
    assert PlannedPost.objects.filter(repetition=made["id"]).count() == 1
    assert client.delete(f"{HOME}/repetitions/{made['id']}").json() == {"posts": 0}


def test_how_posts_did_that_came_again_is_told_with_its_interval(
    client: Client, editor: Any, brand: Brand, commons: Profile
) -> None:
    """Ten texts, three times each; the third time gets half."""
    fill(commons, 40, lambda i: {
        "text": f"The tale of {'abcdefghij'[i % 10]}{' once more' if i >= 30 else ''}",
        "counts": {"reactions": (12 if 20 <= i < 30 else 40) + i % 7},
    }, days=40, start=clock.now() - timedelta(days=50))  # fmt: skip
    planned = save_planned_post(
        editor, brand, common=Common(text="The tale of a"), versions=[VersionInput(profile_id=commons.pk)]
    )
    told = send(client, f"{HOME}/{planned.pk}/repetition/preview", asked()).json()
    assert told["said_before"] == 3
    assert [one["posts"] for one in told["nth"]] == [10, 10, 10, 0]
    third = told["nth"][2]
    assert third["is_worn"]
    assert third["low"] < third["index"] < third["high"] < 1
    assert not told["nth"][1]["is_worn"]


@pytest.mark.parametrize(("more", "field"), [
    ({"rule": "FREQ=HOURLY"}, "rule"), ({"rule": "x" * 200}, "rule"), ({"first": "2020-01-01"}, "rule"),
    ({"first": "2020-01-06", "last": "2020-02-06"}, "first"), ({"last": "2020-01-01"}, "rule"),
    ({"rule": "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31"}, "rule"), ({"texts": ["x"] * 30}, "texts"), ({"at": "25:00"}, "at"),
])  # fmt: skip
def test_what_cannot_be_is_refused_beside_its_field(
    client: Client, planned: PlannedPost, more: Any, field: str
) -> None:
    answer = send(client, f"{HOME}/{planned.pk}/repetition", asked(**more))
    assert (answer.status_code, list(answer.json()["errors"])) == (400, [field])
    assert not Repetition.objects.exists()


def test_nobody_else_repeats_or_sees_it(
    client: Client, client_of: Any, stranger: Any, viewer: Any, planned: PlannedPost
) -> None:
    made = send(client, f"{HOME}/{planned.pk}/repetition", asked()).json()
    theirs = client_of(stranger)
    assert theirs.get(f"{HOME}/repetitions/{made['id']}").status_code == 404
    elsewhere = "/api/brands/lantern-line/plan"
    assert theirs.get(f"{elsewhere}/repetitions/{made['id']}").status_code == 404
    assert theirs.delete(f"{elsewhere}/repetitions/{made['id']}").status_code == 404
    assert send(theirs, f"{elsewhere}/{planned.pk}/repetition", asked()).status_code == 404
    eyes = client_of(viewer)
    assert send(eyes, f"{HOME}/{planned.pk}/repetition", asked()).status_code == 403
    assert eyes.delete(f"{HOME}/repetitions/{made['id']}").status_code == 403
