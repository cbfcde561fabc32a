"""Promise: a feed's new items become what a rule says, each once, within its limits, and as somebody who may."""

from datetime import datetime, timedelta
from typing import Any

import pytest
from dakika_core.plan.states import State
from django.test import Client

from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.links.models import TrackedLink
from dakika_server.measures.testing import make_profile
from dakika_server.notices.models import Notification
from dakika_server.plan.feed_rules import running
from dakika_server.plan.feed_rules.running import run_feed_rules
from dakika_server.plan.ideas.keeping import IdeaContent, IdeaOrigin, keep_idea
from dakika_server.plan.models import FeedRule, FeedRuleItem, Idea, IdeaGroup, PlannedPost, ReviewRules, Template
from dakika_server.shared import clock
from dakika_server.sources.models import Feed, FeedItem, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/plan/feed-rules"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def profile(brand: Brand) -> Profile:
    return make_profile(brand)


@pytest.fixture
def feed(brand: Brand) -> Feed:
    return Feed.objects.create(
        brand=brand, address="https://a.example/feed", title="Night sky", added_at=clock.now() - timedelta(days=9)
    )


def item(feed: Feed, number: int = 1, **values: Any) -> FeedItem:
    told = {
        "guid": f"item-{number}", "title": f"Comet {number}", "summary": "Seen at dawn.", "seen_at": clock.now(),
        "address": f"https://a.example/comet-{number}", "published_at": clock.now(),
    }  # fmt: skip
    return FeedItem.objects.create(brand=feed.brand, feed=feed, **told | values)


def send(client: Client, method: str, path: str, body: Any = None) -> Any:
    return getattr(client, method)(path, body, content_type="application/json")


def rule(client: Client, feed: Feed, **values: Any) -> Any:
    told = {"name": "Night sky", "feed": feed.pk, "becomes": "scheduled", "minutes_apart": 0} | values
    return send(client, "post", HOME, told)


def outcomes(client: Client, pk: int) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = client.get(f"{HOME}/{pk}/items").json()["items"]
    return found


def test_items_go_out_in_their_own_words_each_once(client: Client, brand: Brand, feed: Feed, profile: Profile) -> None:
    template = Template.objects.create(
        brand=brand, name="News", text="{title} ({feed})\n\n{summary}\n\n{address}", made_at=clock.now()
    )
    campaign = Campaign.objects.create(
        brand=brand, name="Night", colour=1, first_day="2026-11-01", last_day="2027-11-30"
    )
    before = item(feed, 9)
    FeedItem.objects.filter(pk=before.pk).update(seen_at=clock.now() - timedelta(hours=1))
    answer = rule(client, feed, template=template.pk, profiles=[profile.pk], campaign=campaign.pk, minutes_after=10)
    assert answer.status_code == 201, answer.json()
    item(feed, 1)
    now = clock.now()
    assert run_feed_rules(now) == 1
    assert run_feed_rules(now + timedelta(minutes=5)) == 0
    planned = PlannedPost.objects.get()
    link = TrackedLink.objects.get()
    assert planned.text == "Comet 1 (Night sky)\n\nSeen at dawn.\n\nhttps://a.example/comet-1"
    assert (planned.state, planned.campaign, planned.title) == ("scheduled", campaign, "Comet 1")
    assert (link.destination, link.campaign) == ("https://a.example/comet-1", campaign)
    version = planned.versions.get()
    assert version.link == link
    assert "https://a.example/comet-1" not in version.text
    assert link.code in version.text
    assert planned.scheduled_at is not None
    assert timedelta(minutes=10) <= planned.scheduled_at - now < timedelta(minutes=12)
    told = outcomes(client, answer.json()["id"])
    assert [(one["title"], one["outcome"], one["post"], one["state"]) for one in told] == [
        ("Comet 1", "made", planned.pk, "scheduled")
    ]
    listed = client.get(HOME).json()
    assert [(one["made"], one["waiting"], one["acts_as"]) for one in listed] == [(1, 1, "Ed")]


def test_limits_and_quiet_hours(client: Client, feed: Feed, profile: Profile) -> None:
    zone = feed.brand.zone
    pk = rule(client, feed, profiles=[profile.pk], most_a_day=2, minutes_apart=90, quiet_from="21:00",
              quiet_to="08:00").json()["id"]  # fmt: skip
    for number in range(9):
        item(feed, number)
    assert run_feed_rules(clock.now()) == 9
    times = sorted(PlannedPost.objects.values_list("scheduled_at", flat=True))
    local = [at.astimezone(zone) for at in times if at]
    assert all(8 <= at.hour < 21 for at in local)
    assert all(later - sooner >= timedelta(minutes=90) for sooner, later in zip(local, local[1:], strict=False))
    days = [at.date() for at in local]
    assert all(days.count(day) <= 2 for day in days)
    told = outcomes(client, pk)
    assert {one["outcome"] for one in told} == {"made", "left_out"}
    assert 4 <= len(local) <= 6
    assert all("news" in one["reason"] for one in told if one["outcome"] == "left_out")


def test_ideas_wait_for_the_next_day_and_what_is_kept_already_is_left(
    client: Client, brand: Brand, editor: Any, feed: Feed, profile: Profile
) -> None:
    group = IdeaGroup.objects.create(brand=brand, name="From outside")
    pk = rule(client, feed, becomes="idea", group=group.pk, profiles=[profile.pk], most_a_day=1).json()["id"]
    known = item(feed, 0)
    keep_idea(editor, brand, IdeaContent(), IdeaOrigin(origin="feed", item=known.pk))
    item(feed, 1)
    item(feed, 2)
    now = clock.now()
    assert run_feed_rules(now) == 2
    assert run_feed_rules(now + timedelta(minutes=1)) == 0
    assert run_feed_rules(now + timedelta(days=1)) == 1
    kept = Idea.objects.filter(group=group)
    assert [(idea.page, idea.wishes) for idea in kept.order_by("planned_post")] == [
        ("https://a.example/comet-1", [profile.pk]), ("https://a.example/comet-2", [profile.pk])
    ]  # fmt: skip
    assert outcomes(client, pk)[-1]["reason"] == "Somebody has kept it as an idea already."


def test_words_choose_and_old_items_are_no_news(client: Client, feed: Feed, profile: Profile) -> None:
    pk = rule(client, feed, becomes="draft", profiles=[profile.pk], any_of=["comet"], none_of=[" ADVERT "]).json()["id"]
    now = clock.now()
    item(feed, 1)
    item(feed, 2, title="Rain")
    item(feed, 3, title="A comet, an ad for glasses")
    item(feed, 4, published_at=now - timedelta(days=3))
    # The same page under another number, as some feeds give it.
    item(feed, 5, address="https://a.example/comet-1")
    run_feed_rules(now)
    told = {one["title"]: one["outcome"] for one in outcomes(client, pk)}
    assert told == {
        "Comet 1": "made", "Rain": "left_out", "A comet, an ad for glasses": "made", "Comet 4": "left_out",
        "Comet 5": "left_out",
    }  # fmt: skip
    assert set(PlannedPost.objects.values_list("state", flat=True)) == {"draft"}


def test_a_feed_without_dates_does_not_send_its_past(client: Client, feed: Feed, profile: Profile) -> None:
    pk = rule(client, feed, profiles=[profile.pk]).json()["id"]
    first = clock.now() + timedelta(seconds=30)
    Feed.objects.filter(pk=feed.pk).update(added_at=first)
    item(feed, 1, published_at=None, seen_at=first)
    item(feed, 2, published_at=None, seen_at=clock.now() + timedelta(hours=1))
    run_feed_rules(clock.now() + timedelta(hours=1))
    assert {one["title"]: one["outcome"] for one in outcomes(client, pk)} == {"Comet 1": "left_out", "Comet 2": "made"}


def test_what_a_network_refuses_waits_as_a_draft_and_is_told(client: Client, brand: Brand, feed: Feed) -> None:
    profile = make_profile(brand, network="pictor")
    pk = rule(client, feed, profiles=[profile.pk]).json()["id"]
    made = item(feed, 1)
    run_feed_rules(clock.now())
    planned = PlannedPost.objects.get()
    assert planned.state == "draft"
    assert "picture" in outcomes(client, pk)[0]["reason"]
    assert Notification.objects.filter(path=f"plan/{planned.pk}", key__contains=f"item-{made.pk}").exists()


def test_what_a_brand_wants_a_yes_for_is_asked_for(client: Client, brand: Brand, feed: Feed, profile: Profile) -> None:
    ReviewRules.objects.create(brand=brand, steps=["approver"])
    rule(client, feed, profiles=[profile.pk], minutes_after=60)
    item(feed, 1)
    run_feed_rules(clock.now())
    assert PlannedPost.objects.get().state == State.IN_REVIEW


def test_a_rule_acts_as_its_writer_and_stops_when_they_may_no_longer(
    client: Client, brand: Brand, feed: Feed, profile: Profile, editor: Any, viewer: Any, client_of: Any
) -> None:
    Membership.objects.filter(user=viewer).update(role="author")
    author = client_of(viewer)
    body = {"name": "Mine", "feed": feed.pk, "becomes": "scheduled", "profiles": [profile.pk]}
    assert send(author, "post", HOME, body).status_code == 403
    assert send(author, "post", HOME, body | {"becomes": "draft"}).status_code == 201
    pk = rule(client, feed, profiles=[profile.pk]).json()["id"]
    # An author may not take over a rule that publishes, nor write it anew as one.
    assert send(author, "put", f"{HOME}/{pk}", body | {"edition": 1, "name": "Night sky"}).status_code == 403
    Membership.objects.filter(user=editor).update(role="author")
    item(feed, 1)
    assert run_feed_rules(clock.now()) == 1
    stopped = FeedRule.objects.get(pk=pk)
    assert not stopped.is_on
    assert "may not publish" in stopped.problem
    assert PlannedPost.objects.get().state == "draft"
    assert Notification.objects.filter(path=f"plan/rules?rule={pk}").exists()
    Membership.objects.filter(user=viewer).delete()
    item(feed, 2)
    run_feed_rules(clock.now())
    assert not FeedRule.objects.filter(is_on=True).exists()
    assert PlannedPost.objects.count() == 1


def test_a_kill_between_two_items_loses_none_and_makes_none_twice(
    client: Client, feed: Feed, profile: Profile, monkeypatch: pytest.MonkeyPatch
) -> None:
    rule(client, feed, profiles=[profile.pk], becomes="draft", most_a_day=9)
    for number in range(3):
        item(feed, number)
    write = running.save_planned_post
    calls = []

    def killed(*args: Any, **values: Any) -> Any:
        calls.append(1)
        made = write(*args, **values)
        if len(calls) == 2:
            raise SystemExit
        return made

    monkeypatch.setattr(running, "save_planned_post", killed)
    with pytest.raises(SystemExit):
        run_feed_rules(clock.now())
    assert PlannedPost.objects.count() == 1
    run_feed_rules(clock.now())
    assert sorted(PlannedPost.objects.values_list("title", flat=True)) == ["Comet 0", "Comet 1", "Comet 2"]


def test_an_item_of_which_nothing_can_be_made_stops_none_after_it(
    client: Client, feed: Feed, profile: Profile, monkeypatch: pytest.MonkeyPatch
) -> None:
    pk = rule(client, feed, profiles=[profile.pk], becomes="draft").json()["id"]
    broken = item(feed, 1)
    item(feed, 2)
    words = running.words_for

    def breaks(rule: Any, found: FeedItem, profiles: Any) -> Any:
        if found.pk == broken.pk:
            raise ZeroDivisionError
        return words(rule, found, profiles)

    monkeypatch.setattr(running, "words_for", breaks)
    assert run_feed_rules(clock.now()) == 2
    assert {one["title"]: one["outcome"] for one in outcomes(client, pk)} == {"Comet 1": "failed", "Comet 2": "made"}


def test_what_cannot_be_is_said_before_it_acts(
    client: Client, brand: Brand, feed: Feed, profile: Profile, stranger: Any
) -> None:
    other = Brand.objects.get(slug="lantern-line")
    theirs = make_profile(other)
    their_feed = Feed.objects.create(brand=other, address="https://b.example", title="B", added_at=clock.now())
    template = Template.objects.create(brand=brand, name="Doors", text="{title} {day of opening}", made_at=clock.now())
    for values, field in [
        ({"profiles": [theirs.pk]}, "profiles"), ({"feed": their_feed.pk}, "feed"), ({"profiles": []}, "profiles"),
        ({"template": template.pk}, "template"), ({"quiet_from": "21:00"}, "quiet_to"), ({"campaign": 99}, "campaign"),
        ({"group": 99}, "group"), ({"most_a_day": 0}, "most_a_day"), ({"name": "  "}, "name"),
        ({"becomes": "advert"}, "becomes"), ({"most_a_day": "many"}, "most_a_day"),
    ]:  # fmt: skip
        told = {"name": "A", "feed": feed.pk, "becomes": "draft", "profiles": [profile.pk]} | values
        answer = send(client, "post", HOME, told)
        assert answer.status_code == 400, values
        assert field in answer.json()["errors"], values
    assert FeedRule.objects.count() == 0
    assert rule(client, feed, profiles=[profile.pk]).status_code == 201
    assert "name" in rule(client, feed, profiles=[profile.pk]).json()["errors"]


def test_two_who_write_it_at_once(client: Client, feed: Feed, profile: Profile) -> None:
    made = rule(client, feed, profiles=[profile.pk]).json()
    body = {"name": "A", "feed": feed.pk, "becomes": "draft", "profiles": [profile.pk], "edition": made["edition"]}
    assert send(client, "put", f"{HOME}/{made['id']}", body).json()["name"] == "A"
    assert send(client, "put", f"{HOME}/{made['id']}", body | {"name": "B"}).status_code == 409


def test_switched_on_again_it_begins_with_what_comes_then(client: Client, feed: Feed, profile: Profile) -> None:
    made = rule(client, feed, profiles=[profile.pk], is_on=False).json()
    item(feed, 1)
    assert run_feed_rules(clock.now()) == 0
    body = {"name": "A", "feed": feed.pk, "becomes": "draft", "profiles": [profile.pk], "edition": 1}
    send(client, "put", f"{HOME}/{made['id']}", body)
    item(feed, 2)
    run_feed_rules(clock.now())
    assert list(PlannedPost.objects.values_list("title", flat=True)) == ["Comet 2"]


def test_a_rule_goes_with_or_without_what_it_made(client: Client, feed: Feed, profile: Profile) -> None:
    first = rule(client, feed, profiles=[profile.pk], minutes_after=60).json()["id"]
    item(feed, 1)
    run_feed_rules(clock.now())
    assert client.delete(f"{HOME}/{first}").json() == {"posts": 0}
    assert PlannedPost.objects.count() == 1
    second = rule(client, feed, profiles=[profile.pk], minutes_after=60).json()["id"]
    item(feed, 2)
    run_feed_rules(clock.now())
    assert client.delete(f"{HOME}/{second}?takes_back=true").json() == {"posts": 1}
    assert list(PlannedPost.objects.values_list("title", flat=True)) == ["Comet 1"]
    assert FeedRuleItem.objects.count() == 0


def test_a_template_in_use_stays(client: Client, brand: Brand, feed: Feed, profile: Profile) -> None:
    template = Template.objects.create(brand=brand, name="News", text="{title}", made_at=clock.now())
    rule(client, feed, profiles=[profile.pk], template=template.pk)
    answer = client.delete(f"/api/brands/orrery-house/plan/templates/{template.pk}")
    assert answer.status_code == 409
    # A place that no item fills, written into it later, stops the rule instead of going out in braces.
    Template.objects.filter(pk=template.pk).update(text="{title} {day of opening}")
    item(feed, 1)
    run_feed_rules(clock.now())
    assert not FeedRule.objects.get().is_on
    assert PlannedPost.objects.count() == 0


def test_tried_before_it_acts(client: Client, brand: Brand, feed: Feed, profile: Profile) -> None:
    pictor = make_profile(brand, network="pictor")
    for number in range(6):
        item(feed, number, published_at=clock.now() - timedelta(days=number))
    body = {"name": "A", "feed": feed.pk, "becomes": "scheduled", "profiles": [profile.pk, pictor.pk],
            "any_of": ["comet 1", "comet 2"], "most_a_day": 1, "minutes_apart": 60}  # fmt: skip
    told = send(client, "post", f"{HOME}/preview", body).json()
    assert [one["title"] for one in told["items"]] == [f"Comet {number}" for number in range(5)]
    assert [bool(one["reason"]) for one in told["items"]] == [True, False, False, True, True]
    times = [datetime.fromisoformat(one["at"]) for one in told["items"] if one["at"]]
    assert times[1].astimezone(brand.zone).date() > times[0].astimezone(brand.zone).date()
    words = told["items"][1]["words"]
    assert words[0]["text"] == "Comet 1\n\nhttps://a.example/comet-1"
    assert "picture" in words[1]["problems"][0]
    assert told["items_a_day"] == pytest.approx(6 / 30)
    assert PlannedPost.objects.count() + FeedRule.objects.count() + TrackedLink.objects.count() == 0
