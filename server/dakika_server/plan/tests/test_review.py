"""Promise: where a brand wants a yes, nothing goes out without it, in whatever order things happen."""

from datetime import timedelta
from typing import Any

import pytest
from dakika_core.plan.states import State
from django.core.exceptions import PermissionDenied
from django.test import Client
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from rest_framework.exceptions import APIException

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand, Membership
from dakika_server.notices.models import Notification
from dakika_server.plan.actions import move_post, save_planned_post, schedule_post, take_back
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import PlannedPost, ReviewRules, Version
from dakika_server.plan.publish import TryLater, publish_version
from dakika_server.plan.reviewing import digest_of_post, set_review_rules, teller_of
from dakika_server.plan.saying import look_after_reviews, say, submit
from dakika_server.plan.settling import settle_version
from dakika_server.shared import clock
from dakika_server.shared.errors import Conflict

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/plan"
JSON = "application/json"


@pytest.fixture
def approver(brand: Brand) -> User:
    person = User.objects.create(email="approver@ninthbell.example", name="Ap")
    Membership.objects.create(user=person, brand=brand, role="approver")
    return person


@pytest.fixture
def author(brand: Brand) -> User:
    person = User.objects.create(email="author@ninthbell.example", name="Au")
    Membership.objects.create(user=person, brand=brand, role="author")
    return person


def asks(editor: Any, brand: Brand, *steps: str, own: bool = False) -> ReviewRules:
    return set_review_rules(editor, brand, steps=steps or ("approver",), may_approve_own=own, remind_hours=24)


def write(actor: Any, brand: Brand, profile: Any, text: str = "Doors at eight", **more: Any) -> PlannedPost:
    more.setdefault("scheduled_at", clock.now() + timedelta(hours=30))
    return save_planned_post(
        actor, brand, title="Doors", common=Common(text=text), versions=[VersionInput(profile_id=profile.pk)], **more
    )  # fmt: skip


def yes(actor: Any, planned: PlannedPost) -> PlannedPost:
    return say(teller_of(actor, planned.brand), planned, is_yes=True, digest=digest_of_post(planned))


def test_it_waits_for_the_yes_and_then_goes_out_at_its_minute(
    editor: Any, author: Any, approver: Any, brand: Brand, own_profile: Any
) -> None:
    asks(editor, brand)
    planned = write(author, brand, own_profile())
    with pytest.raises(Conflict):
        schedule_post(editor, planned, at=planned.scheduled_at)
    planned = submit(author, planned)
    assert (planned.state, set(planned.versions.values_list("state", flat=True))) == ("in_review", {"in_review"})
    told = Notification.objects.filter(kind="review")
    assert set(told.values_list("person", flat=True)) == {approver.pk, editor.pk}
    planned = yes(approver, planned)
    version = planned.versions.get()
    assert (planned.state, version.state, version.due_at) == ("scheduled", "scheduled", planned.scheduled_at)
    assert Notification.objects.filter(person=author, kind="review").count() == 1


def test_a_wish_for_a_change_sends_it_back_and_what_was_said_before_counts_no_more(
    editor: Any, author: Any, approver: Any, brand: Brand, own_profile: Any
) -> None:
    asks(editor, brand, "analyst", "approver")
    planned = submit(author, write(author, brand, own_profile()))
    planned = yes(editor, planned)
    assert planned.state == "in_review"
    planned = say(
        teller_of(approver, brand), planned, is_yes=False, words="Nine, not eight", digest=digest_of_post(planned)
    )
    assert planned.state == "draft"
    planned = yes(editor, submit(author, planned))
    assert planned.state == "in_review"
    assert yes(approver, planned).state == "scheduled"


def test_nobody_says_yes_to_their_own_or_twice_but_where_the_brand_lets_them(
    editor: Any, approver: Any, author: Any, brand: Brand, own_profile: Any
) -> None:
    asks(editor, brand, "analyst", "approver")
    planned = submit(editor, write(editor, brand, own_profile()))
    with pytest.raises(Conflict, match="yourself"):
        yes(editor, planned)
    with pytest.raises(PermissionDenied):
        yes(author, planned)
    yes(approver, planned)
    with pytest.raises(Conflict, match="already"):
        yes(approver, planned)
    asks(editor, brand, "analyst", "approver", own=True)
    assert yes(approver, planned).state == "scheduled"


def test_a_yes_is_to_what_was_looked_at(editor: Any, approver: Any, brand: Brand, own_profile: Any) -> None:
    asks(editor, brand)
    profile = own_profile()
    planned = submit(editor, write(editor, brand, profile))
    seen = digest_of_post(planned)
    write(editor, brand, profile, "Doors at nine", planned=planned, edition=planned.edition)
    with pytest.raises(Conflict, match="changed since"):
        say(teller_of(approver, brand), planned, is_yes=True, digest=seen)


def test_changed_after_the_yes_it_waits_for_it_anew_and_moved_it_does_not(
    editor: Any, approver: Any, brand: Brand, own_profile: Any
) -> None:
    asks(editor, brand)
    profile = own_profile()
    planned = yes(approver, submit(editor, write(editor, brand, profile)))
    later = clock.now() + timedelta(hours=50)
    planned = move_post(editor, planned, at=later, edition=planned.edition)
    assert (planned.state, planned.scheduled_at) == ("scheduled", later)
    write(editor, brand, profile, "Doors at nine", planned=planned, edition=planned.edition, scheduled_at=later)
    planned.refresh_from_db()
    assert (planned.state, planned.versions.get().state) == ("in_review", "in_review")
    assert yes(approver, planned).state == "scheduled"


def test_what_all_said_yes_to_before_needs_no_other_yes_and_nothing_waits_for_nobody(
    editor: Any, approver: Any, brand: Brand, own_profile: Any
) -> None:
    asks(editor, brand)
    profile = own_profile()
    planned = take_back(editor, yes(approver, submit(editor, write(editor, brand, profile))))
    assert planned.state == "draft"
    planned = submit(editor, planned)
    assert planned.state == "scheduled"
    later = planned.scheduled_at
    for text, state in (("Doors at nine", "in_review"), ("Doors at eight", "approved")):
        write(editor, brand, profile, text, planned=planned, edition=planned.edition, scheduled_at=later)
        planned.refresh_from_db()
        assert planned.state == state
    assert schedule_post(editor, planned, at=later).state == "scheduled"


def test_what_nobody_said_yes_to_is_reminded_of_and_not_sent(
    editor: Any, approver: Any, brand: Brand, own_profile: Any, monkeypatch: Any
) -> None:
    asks(editor, brand)
    planned = submit(editor, write(editor, brand, own_profile()))
    assert look_after_reviews() == 0
    PlannedPost.objects.update(scheduled_at=clock.now() + timedelta(hours=3))
    assert (look_after_reviews(), look_after_reviews()) == (1, 0)
    assert set(Notification.objects.filter(key__startswith="review-soon").values_list("person", flat=True)) == {
        approver.pk, editor.pk,
    }  # fmt: skip
    PlannedPost.objects.update(scheduled_at=clock.now() - timedelta(minutes=1))
    assert look_after_reviews() == 1
    planned.refresh_from_db()
    version = planned.versions.get()
    assert (planned.state, version.state) == ("missed", "missed")
    assert "Nobody said yes" in version.error
    with pytest.raises(Conflict, match="say yes"):
        settle_version(editor, version, "send")


def test_what_was_scheduled_before_anybody_had_to_say_yes_stands(
    editor: Any, brand: Brand, own_profile: Any, world: Any
) -> None:
    planned = schedule_post(editor, write(editor, brand, own_profile(), "Scheduled before the rule"))
    asks(editor, brand)
    Version.objects.update(due_at=clock.now())
    publish_version(planned.versions.get().pk)
    assert planned.versions.get().state == "published"


def test_rules_are_roles_two_at_most_and_the_admins(editor: Any, viewer: Any, brand: Brand, client_of: Any) -> None:
    client: Client = client_of(editor)
    usual = {"may_approve_own": False, "remind_hours": 24}
    assert client.get(f"{BASE}/review-rules").json()["steps"] == []
    for steps in (["viewer"], ["analyst", "analyst"], ["analyst", "approver", "admin"]):
        assert client.put(f"{BASE}/review-rules", {"steps": steps, **usual}, JSON).status_code == 400
    assert client.put(f"{BASE}/review-rules", {"steps": ["guest"], **usual}, JSON).status_code == 200
    assert client_of(viewer).put(f"{BASE}/review-rules", {"steps": [], **usual}, JSON).status_code == 403


def test_what_changed_since_one_looked_is_told_and_remarks_are_settled(
    editor: Any, approver: Any, brand: Brand, own_profile: Any, client_of: Any
) -> None:
    asks(editor, brand)
    profile = own_profile()
    planned = submit(editor, write(editor, brand, profile))
    client: Client = client_of(approver)
    told = client.get(f"{BASE}/{planned.pk}/review").json()
    assert (told["may_say"], told["before"], told["step"]) == (True, None, 0)
    assert client.put(f"{BASE}/{planned.pk}/review").status_code == 204
    write(editor, brand, profile, "Doors at nine", planned=planned, edition=planned.edition)
    told = client.get(f"{BASE}/{planned.pk}/review").json()
    assert told["before"]["versions"][0]["text"] == "Doors at eight"
    said = client.post(f"{BASE}/{planned.pk}/remarks", {"text": "Why nine?", "quote": "nine"}, JSON)
    assert (said.status_code, said.json()["remarks"][0]["quote"]) == (201, "nine")
    number = said.json()["remarks"][0]["id"]
    assert client.put(f"{BASE}/{planned.pk}/remarks/{number}", {"is_settled": True}, JSON).json()["remarks"][0][
        "is_settled"
    ]
    assert client.put(f"{BASE}/{planned.pk}/remarks/999999", {"is_settled": True}, JSON).status_code == 404
    for wrong in ({"text": " "}, {"text": "x", "asset": 7}, {"text": "x", "profile_id": 9999}):
        assert client.post(f"{BASE}/{planned.pk}/remarks", wrong, JSON).status_code == 400
    assert client.put(f"{BASE}/{planned.pk}/vote", {"value": -1}, JSON).json()["votes"] == {
        "for_it": 0, "against": 1, "mine": -1,
    }  # fmt: skip
    assert [one["id"] for one in client.get(f"{BASE}/to-review").json()] == [planned.pk]
    assert client_of(editor).get(f"{BASE}/to-review").json() == []


def test_more_posts_that_wait_take_no_more_queries(
    editor: Any, approver: Any, brand: Brand, own_profile: Any, client_of: Any, django_assert_max_num_queries: Any
) -> None:
    asks(editor, brand)
    profile = own_profile()
    client: Client = client_of(approver)
    for i in range(12):
        submit(editor, write(editor, brand, profile, f"Number {i}"))
    with django_assert_max_num_queries(14):
        assert len(client.get(f"{BASE}/to-review").json()) == 12


def test_tasks_are_given_to_those_of_the_brand_and_done_by_whose_they_are(
    editor: Any, viewer: Any, stranger: Any, client_of: Any
) -> None:
    client: Client = client_of(editor)
    given = client.post(f"{BASE}/tasks", {"text": "Find a picture", "person": viewer.pk, "due_on": "2027-01-05"}, JSON)
    assert given.status_code == 201
    assert client.post(f"{BASE}/tasks", {"text": "x", "person": stranger.pk}, JSON).status_code == 400
    assert client.post(f"{BASE}/tasks", {"text": "x", "person": viewer.pk, "planned": 999999}, JSON).status_code == 400
    path = f"{BASE}/tasks/{given.json()['id']}"
    assert client_of(stranger).put(f"{path}/done", {"is_done": True}, JSON).status_code == 404
    looks: Client = client_of(viewer)
    assert [one["text"] for one in looks.get(f"{BASE}/tasks?mine=true").json()] == ["Find a picture"]
    assert looks.put(f"{path}/done", {"is_done": True}, JSON).json()["done_at"] is not None
    assert looks.delete(path).status_code == 403
    assert client.get(f"{BASE}/tasks").json() == []
    assert client.delete(path).status_code == 204


EVENTS = st.lists(
    st.sampled_from(["write", "submit", "yes", "no", "schedule", "move", "take back", "minute", "send", "own time"]),
    min_size=4, max_size=14,
)  # fmt: skip


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(events=EVENTS)
def test_in_no_order_of_events_does_anything_go_out_that_nobody_said_yes_to(
    events: list[str], editor: Any, approver: Any, brand: Brand, own_profile: Any, world: Any
) -> None:
    """A model beside it keeps what was said yes to, word for word; what the network got is held against that."""
    PlannedPost.objects.all().delete()
    asks(editor, brand)
    profile = getattr(brand, "_profile", None) or own_profile("guildhall")
    brand._profile = profile  # type: ignore[attr-defined]
    world.faults(guildhall__no_limit=1)
    said_yes: set[str] = set()
    sent_before = len(world.state.data["sent"])
    planned = write(editor, brand, profile, f"Text {events} 0")
    for number, event in enumerate(events, 1):
        planned.refresh_from_db()
        version = planned.versions.get()
        try:
            match event:
                case "write" | "own time":
                    own = {"scheduled_at": planned.scheduled_at} if event == "own time" else {}
                    write(
                        editor,
                        brand,
                        profile,
                        f"Text {events} {number}",
                        planned=planned,
                        edition=planned.edition,
                        **own,
                    )
                case "submit":
                    submit(editor, planned)
                case "yes":
                    yes(approver, planned)
                    said_yes.add(version.text)
                case "no":
                    say(teller_of(approver, brand), planned, is_yes=False, words="no", digest=digest_of_post(planned))
                case "schedule":
                    schedule_post(editor, planned)
                case "move":
                    move_post(editor, planned, at=clock.now() + timedelta(hours=3), edition=planned.edition)
                case "take back":
                    take_back(editor, planned)
                case "send":
                    settle_version(editor, version, "send")
                case _:
                    Version.objects.filter(pk=version.pk).update(due_at=clock.now())
                    publish_version(version.pk)
        except (APIException, PermissionDenied, TryLater):
            pass
    Version.objects.filter(planned_post=planned, state=State.SCHEDULED.value).update(due_at=clock.now())
    publish_version(planned.versions.get().pk)
    sent = {entry["text"] for entry in world.state.data["sent"][sent_before:]}
    assert sent <= said_yes


def test_the_log_tells_who_did_what_in_order(
    client_of: Any, editor: Any, viewer: Any, stranger: Any, brand: Brand
) -> None:
    theirs = client_of(editor)
    made = theirs.post(BASE, {"title": "Bells", "versions": []}, content_type="application/json").json()
    changed = {"title": "Bells, late", "edition": 1, "versions": []}
    theirs.put(f"{BASE}/{made['id']}", changed, content_type="application/json")
    client_of(viewer).post(f"{BASE}/{made['id']}/remarks", {"text": "At nine?"}, content_type="application/json")
    told = client_of(viewer).get(f"{BASE}/{made['id']}/log").json()
    assert [(one["who"], one["action"], one["is_guest"]) for one in told] == [
        ("Vi", "remark", False), ("Ed", "change_planned_post", False), ("Ed", "plan_post", False),
    ]  # fmt: skip
    assert "At nine?" not in str(told)
    assert client_of(stranger).get(f"{BASE}/{made['id']}/log").status_code == 404
