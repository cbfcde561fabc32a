"""Promise: money is spent once and never beyond what was said, whatever is lost; what it brought is told apart."""

import os
import random
import signal
import threading
import time
import uuid
from datetime import timedelta
from typing import Any

import pytest
from django.db import connections
from django.test import Client
from django.utils import timezone
from rest_framework.exceptions import ValidationError

from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.links.models import Click, TrackedLink
from dakika_server.measures.testing import make_profile
from dakika_server.notices.models import Notification
from dakika_server.plan.boosts import following
from dakika_server.plan.boosts.asking import BoostInput, ask_boost
from dakika_server.plan.boosts.following import EVERY, claim_due, look_after
from dakika_server.plan.boosts.listing import of_campaign
from dakika_server.plan.models import Boost, BoostLimit, BoostReading
from dakika_server.shared import clock
from dakika_server.shared.errors import Conflict
from dakika_server.site.models import Conversion, Goal, Visit
from dakika_server.sources.actions import disconnect_profile
from dakika_server.sources.erase import erase
from dakika_server.sources.forget import forget_posts
from dakika_server.sources.models import Post, PostReading, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/plan/boosts"
NETWORKS = ("commons", "pictor")


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def limit(brand: Brand) -> BoostLimit:
    return BoostLimit.objects.create(brand=brand, cents=100_000, currency="EUR")


def post_of(world: Any, profile: Profile, number: int = 0) -> Post:
    """A post that stands in the world, and here."""
    found = [one for one in world.state.posts(f"{profile.network}-orreryhouse") if not one.is_boosted][number]
    return Post.objects.create(
        brand=profile.brand, profile=profile, external_id=found.id, published_at=found.published_at, text=found.text,
        format=found.format, url="https://a.example/p", has_time=True,
    )  # fmt: skip


def body(post: Post, **more: Any) -> dict[str, Any]:
    now = clock.now()
    told = {
        "post": post.pk,
        "cents": 2000,
        "starts_at": now.isoformat(),
        "ends_at": (now + timedelta(days=2)).isoformat(),
    }
    return told | more


def send(client: Client, method: str, path: str, told: Any = None) -> Any:
    return getattr(client, method)(path, told, content_type="application/json")


def asked(client: Client, post: Post, **more: Any) -> Boost:
    answer = send(client, "post", HOME, body(post, **more))
    assert answer.status_code == 201, answer.json()
    return Boost.objects.get(pk=answer.json()["id"])


def there(world: Any) -> list[dict[str, Any]]:
    """The boosts that the world knows."""
    return list(world.state.data["boosts"].values())


def begun_earlier(world: Any, hours: float) -> None:
    """As if the only boost there had begun so many hours before."""
    (one,) = there(world)
    one["starts"] = (clock.now() - timedelta(hours=hours)).isoformat()


@pytest.mark.parametrize("network", NETWORKS)
def test_it_is_told_once_followed_and_over(
    network: str, client: Client, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    post = post_of(world, own_profile(network))
    boost = asked(client, post, countries=["PT"], ages=["25-34"], page="https://orrery.example/tickets")
    look_after(boost.pk)
    look_after(boost.pk)
    (one,) = there(world)
    link = TrackedLink.objects.get()
    assert (one["cents"], one["countries"], one["ages"]) == (2000, ["PT"], ["25-34"])
    assert one["link"].endswith(link.code)
    assert (link.is_paid, link.utm["utm_medium"]) == (True, "paid-social")
    boost.refresh_from_db()
    assert (boost.state, boost.external_id) == ("running", one["id"])
    begun_earlier(world, 47)
    one["ends"] = (clock.now() + timedelta(hours=1)).isoformat()
    assert boost.next_at is not None
    assert claim_due(boost.next_at + timedelta(seconds=1)) == [boost.pk]
    look_after(boost.pk)
    boost.refresh_from_db()
    assert 1800 < boost.spent < 2000
    assert boost.impressions > boost.reach > boost.link_clicks > 0
    one["ends"] = (clock.now() - timedelta(minutes=1)).isoformat()
    look_after(boost.pk)
    boost.refresh_from_db()
    assert (boost.state, boost.spent) == ("ended", 2000)
    # What is corrected in the days after is still read, then no more.
    Boost.objects.update(ended_at=clock.now() - timedelta(days=4))
    look_after(boost.pk)
    boost.refresh_from_db()
    assert boost.next_at is None
    readings = list(BoostReading.objects.order_by("at").values_list("spent", flat=True))
    assert readings == sorted(readings)
    told = client.get(HOME).json()["boosts"][0]
    assert told["per_thousand"] == pytest.approx(1000 * 2000 / boost.impressions)


@pytest.mark.parametrize("network", NETWORKS)
@pytest.mark.parametrize("fault", ["lost", "error500", "cut"])
def test_an_answer_that_is_lost_costs_nothing_twice(
    network: str, fault: str, client: Client, limit: BoostLimit, own_profile: Any, world: Any,
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    monkeypatch.setattr("time.sleep", lambda _: None)
    boost = asked(client, post_of(world, own_profile(network)))
    world.faults(**{f"{network}__{fault}": 1})
    look_after(boost.pk)
    boost.refresh_from_db()
    assert boost.state == "asked"
    assert boost.error
    # As long as nobody knows, it counts as given.
    assert client.get(f"{HOME}/limit").json()["left"] == 98_000
    world.faults(**{f"{network}__{fault}": 0})
    look_after(boost.pk)
    boost.refresh_from_db()
    assert boost.state == "running"
    assert len(there(world)) == 1


def test_killed_between_telling_and_writing_it_down(
    client: Client, limit: BoostLimit, own_profile: Any, world: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    boost = asked(client, post_of(world, own_profile()))

    def killed(*_: Any) -> None:
        raise SystemExit

    with monkeypatch.context() as patched:
        patched.setattr(following, "_known", killed)
        with pytest.raises(SystemExit):
            look_after(boost.pk)
    assert len(there(world)) == 1
    # Nobody has to ask for it: its time comes by itself.
    assert claim_due(clock.now() + EVERY) == [boost.pk]
    look_after(boost.pk)
    boost.refresh_from_db()
    assert (boost.state, len(there(world))) == ("running", 1)


@pytest.mark.django_db(transaction=True)
def test_forty_kills_of_two_workers_spend_nothing_twice(
    client: Client, brand: Brand, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    chance = random.Random(18)
    boosts = []
    for network in NETWORKS:
        world.faults(**{f"{network}__no_limit": 1, f"{network}__lost": 0.5})
        profile = own_profile(network)
        boosts += [asked(client, post_of(world, profile, number)).pk for number in range(3)]
    for _ in range(20):
        wanted = chance.choice(boosts)
        connections.close_all()
        children = [_child(wanted) for _ in range(2)]
        time.sleep(chance.uniform(0.0, 0.1))
        for child in children:
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
    for network in NETWORKS:
        world.faults(**{f"{network}__lost": 0})
    for pk in boosts:
        look_after(pk)
    assert set(Boost.objects.values_list("state", flat=True)) == {"running"}
    assert len(there(world)) == len(boosts)
    assert sum(one["cents"] for one in there(world)) == sum(Boost.objects.values_list("cents", flat=True))


def _child(boost: int) -> int:
    child = os.fork()
    if child == 0:
        try:
            look_after(boost)
        finally:
            os._exit(0)
    return child


def test_a_months_limit_holds(client: Client, brand: Brand, own_profile: Any, world: Any) -> None:
    profile = own_profile()
    posts = [post_of(world, profile, number) for number in range(4)]
    assert "limit" in send(client, "post", HOME, body(posts[0])).json()["errors"]["cents"][0]
    put = send(client, "put", f"{HOME}/limit", {"cents": 5000, "currency": "EUR", "edition": 0})
    assert put.json()["left"] == 5000
    assert send(client, "put", f"{HOME}/limit", {"cents": 9, "currency": "EUR", "edition": 0}).status_code == 409
    assert send(client, "put", f"{HOME}/limit", {"cents": 9, "currency": "XXX", "edition": 1}).status_code == 400
    first = asked(client, posts[0], cents=3000)
    refused = send(client, "post", HOME, body(posts[1], cents=2001))
    assert "20.00 EUR left" in refused.json()["errors"]["cents"][0]
    asked(client, posts[1], cents=2000)
    assert send(client, "post", HOME, body(posts[2], cents=500)).status_code == 400
    # What is over has cost what it cost; the rest is there again.
    Boost.objects.filter(pk=first.pk).update(state="ended", spent=1000)
    assert client.get(f"{HOME}/limit").json()["left"] == 2000
    asked(client, posts[2], cents=2000)
    # What a network refused costs nothing.
    Boost.objects.filter(pk=first.pk).update(state="refused")
    assert client.get(f"{HOME}/limit").json()["left"] == 1000


@pytest.mark.django_db(transaction=True)
def test_of_two_who_ask_at_once_one_finds_nothing_left(editor: Any, brand: Brand, own_profile: Any, world: Any) -> None:
    BoostLimit.objects.create(brand=brand, cents=2500, currency="EUR")
    profile = own_profile()
    posts = [post_of(world, profile, number) for number in range(4)]
    now = clock.now()
    barrier = threading.Barrier(4)
    found: list[str] = []

    def ask(post: Post) -> None:
        barrier.wait()
        try:
            ask_boost(
                editor, brand, BoostInput(post=post.pk, cents=1000, starts_at=now, ends_at=now + timedelta(days=1))
            )
            found.append("given")
        except ValidationError:
            found.append("nothing left")
        finally:
            connections.close_all()

    threads = [threading.Thread(target=ask, args=(post,)) for post in posts]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(found) == ["given", "given", "nothing left", "nothing left"]


def test_one_post_is_not_paid_for_twice_at_once(
    client: Client, editor: Any, brand: Brand, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    post = post_of(world, own_profile())
    boost = asked(client, post)
    assert send(client, "post", HOME, body(post)).status_code == 409
    assert client.get(f"{HOME}/terms/{post.pk}").json()["reason"] == "It is being boosted."
    Boost.objects.filter(pk=boost.pk).update(state="ended")
    asked(client, post)


def test_a_network_that_takes_more_is_stopped_and_told_of(
    client: Client, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    boost = asked(client, post_of(world, own_profile()))
    look_after(boost.pk)
    begun_earlier(world, 40)
    there(world)[0]["ends"] = (clock.now() + timedelta(hours=1)).isoformat()
    world.faults(commons__overspends=1)
    look_after(boost.pk)
    boost.refresh_from_db()
    assert there(world)[0]["stopped"]
    assert boost.state == "ended"
    assert boost.spent > boost.cents
    assert Notification.objects.filter(key=f"boost-{boost.pk}-overspent").exists()
    assert client.get(f"{HOME}/limit").json()["left"] == 100_000 - boost.spent


def test_stopping(client: Client, limit: BoostLimit, own_profile: Any, world: Any, monkeypatch: Any) -> None:
    monkeypatch.setattr("time.sleep", lambda _: None)
    profile = own_profile()
    untold = asked(client, post_of(world, profile, 0))
    assert send(client, "post", f"{HOME}/{untold.pk}/stop").json()["state"] == "ended"
    look_after(untold.pk)
    assert there(world) == []
    boost = asked(client, post_of(world, profile, 1))
    look_after(boost.pk)
    begun_earlier(world, 10)
    world.faults(commons__error500=1)
    assert send(client, "post", f"{HOME}/{boost.pk}/stop").json()["state"] == "stopping"
    look_after(boost.pk)
    boost.refresh_from_db()
    # Nobody waits long where money is to be stopped.
    assert boost.next_at is not None
    assert boost.next_at - clock.now() <= timedelta(minutes=1)
    world.faults(commons__error500=0)
    look_after(boost.pk)
    boost.refresh_from_db()
    assert boost.state == "ended"
    assert 0 < boost.spent < 500
    assert send(client, "post", f"{HOME}/{boost.pk}/stop").status_code == 409


def test_one_whose_answer_was_lost_is_found_and_stopped(
    client: Client, limit: BoostLimit, own_profile: Any, world: Any, monkeypatch: Any
) -> None:
    monkeypatch.setattr("time.sleep", lambda _: None)
    boost = asked(client, post_of(world, own_profile()))
    world.faults(commons__lost=1)
    look_after(boost.pk)
    send(client, "post", f"{HOME}/{boost.pk}/stop")
    world.faults(commons__lost=0)
    look_after(boost.pk)
    boost.refresh_from_db()
    assert (boost.state, len(there(world))) == ("ended", 1)
    assert there(world)[0]["stopped"]


def test_what_a_network_refuses_costs_nothing_and_is_told(
    client: Client, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    boost = asked(client, post_of(world, own_profile()))
    world.faults(commons__no_promotions=1)
    look_after(boost.pk)
    boost.refresh_from_db()
    assert boost.state == "refused"
    assert "pays in EUR" in boost.error
    assert Notification.objects.filter(key=f"boost-{boost.pk}-refused").exists()
    assert client.get(f"{HOME}/limit").json()["left"] == 100_000


def test_one_that_its_network_denies_later_still_counts_as_given(
    client: Client, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    boost = asked(client, post_of(world, own_profile()))
    look_after(boost.pk)
    world.state.data["boosts"].clear()
    look_after(boost.pk)
    boost.refresh_from_db()
    assert boost.state == "running"
    assert client.get(f"{HOME}/limit").json()["left"] == 98_000


def test_who_may_spend_and_on_what(
    client: Client, brand: Brand, limit: BoostLimit, own_profile: Any, world: Any, viewer: Any, stranger: Any,
    client_of: Any,
) -> None:  # fmt: skip
    post = post_of(world, own_profile())
    for role in ("viewer", "author", "analyst"):
        Membership.objects.filter(user=viewer).update(role=role)
        other = client_of(viewer)
        assert send(other, "post", HOME, body(post)).status_code == 403
        assert send(other, "put", f"{HOME}/limit", {"cents": 1, "currency": "EUR", "edition": 1}).status_code == 403
    assert send(client_of(stranger), "post", HOME, body(post)).status_code == 404
    theirs = make_profile(Brand.objects.get(slug="lantern-line"))
    their_post = Post.objects.create(
        brand=theirs.brand, profile=theirs, external_id="x", published_at=clock.now(), text="", format="text"
    )
    assert send(client, "post", HOME, body(their_post)).status_code == 404
    assert client.get(f"{HOME}/terms/{their_post.pk}").status_code == 404
    for more, field in [
        ({"cents": 10}, "cents"), ({"cents": "many"}, "cents"), ({"countries": ["XX"]}, "countries"),
        ({"ends_at": clock.now().isoformat()}, "ends_at"), ({"page": "javascript:alert(1)"}, "page"),
        ({"ages": ["0-5"]}, "ages"),
    ]:  # fmt: skip
        answer = send(client, "post", HOME, body(post, **more))
        assert answer.status_code == 400, more
        assert field in answer.json()["errors"], more
    assert Boost.objects.count() + TrackedLink.objects.count() == 0
    brevi = own_profile("brevi")
    unpaid = post_of(world, brevi)
    assert send(client, "post", HOME, body(unpaid)).status_code == 409
    assert "takes no money" in client.get(f"{HOME}/terms/{unpaid.pk}").json()["reason"]


def test_what_was_paid_for_is_not_among_what_came_by_itself(
    client: Client, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    """Commons counts it among the post's figures, Pictor apart: what is collected is the same either way."""
    from dakika_server.networks.connectors.base import Target
    from dakika_server.networks.connectors.registry import connected
    from dakika_server.sources.collect import token_of

    for network in NETWORKS:
        world.state.data["boosts"].clear()
        profile = own_profile(network)
        post = post_of(world, profile)
        target = Target(handle=profile.handle, external_id=profile.external_id, is_own=True)
        boost = asked(client, post, page="https://orrery.example/tickets")
        with connected(network, token_of(profile)) as at:
            before = at.counters_of(target, [post.external_id]).by_post[post.external_id][0]
            look_after(boost.pk)
            begun_earlier(world, 30)
            after, raw = at.counters_of(target, [post.external_id]).by_post[post.external_id]
            look_after(boost.pk)
        boost.refresh_from_db()
        assert boost.impressions > 1000
        # Some seconds lie between the two; the paid ones are thousands.
        assert after["impressions"] == pytest.approx(before["impressions"], abs=20)
        assert after["reactions"] == pytest.approx(before["reactions"], abs=5)
        if network == "commons":
            assert raw["views"] >= before["impressions"] + boost.impressions - 200


def test_costs_are_those_of_a_second_reckoning(
    client: Client, brand: Brand, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    campaign = Campaign.objects.create(
        brand=brand, name="Night", colour=1, first_day="2026-01-01", last_day="2027-12-31"
    )
    profile = own_profile()
    post = post_of(world, profile)
    Post.objects.filter(pk=post.pk).update(campaign=campaign)
    boost = asked(client, post, cents=4000, page="https://orrery.example/tickets")
    link = TrackedLink.objects.get()
    assert link.campaign == campaign
    now = timezone.now() - timedelta(days=1)
    Boost.objects.filter(pk=boost.pk).update(
        state="ended",
        spent=4000,
        impressions=8000,
        reach=6000,
        interactions=110,
        link_clicks=90,
        seen_at=now,
        starts_at=now - timedelta(days=1),
    )
    BoostReading.objects.create(boost=boost, at=now - timedelta(hours=2), spent=1500, impressions=3000, interactions=40,
                                link_clicks=30)  # fmt: skip
    BoostReading.objects.create(boost=boost, at=now, spent=4000, impressions=8000, interactions=110, link_clicks=90)
    unpaid = TrackedLink.objects.create(
        brand=brand, code="unpaid", name="U", destination="https://orrery.example/", target="https://orrery.example/",
        network="commons", campaign=campaign, created_at=now - timedelta(days=2),
    )  # fmt: skip
    for to, count in ((link, 40), (unpaid, 7)):
        Click.objects.bulk_create(
            Click(brand=brand, link=to, key=uuid.uuid4(), at=now - timedelta(minutes=5), visitor=uuid.uuid4().bytes,
                  device="phone", bot_reason="", referrer="", country="PT")
            for _ in range(count)
        )  # fmt: skip
    goal = Goal.objects.create(brand=brand, name="Ticket", cents=900, currency="EUR")
    for to, visits, reached in ((link, 30, 8), (unpaid, 5, 2)):
        for number in range(visits):
            visit = Visit.objects.create(
                brand=brand, visitor=uuid.uuid4().bytes, started_at=now - timedelta(minutes=4, seconds=number),
                ended_at=now, pages=2, channel="commons", link=to, campaign=campaign,
            )  # fmt: skip
            if number < reached:
                Conversion.objects.create(brand=brand, goal=goal, visit=visit, key=f"{to.pk}-{number}", at=now,
                                          cents=900, currency="EUR")  # fmt: skip
    told = client.get(HOME).json()["boosts"][0]
    assert (told["clicks"], told["visits"], told["conversions"], told["value"]) == (40, 30, 8, 7200)
    assert told["per_click"] == 100
    assert told["per_conversion"] == 500
    # Garwood's limits of 8 are 3.454 and 15.763 (from memory).
    interval = told["per_conversion_interval"]
    assert interval["low"] == pytest.approx(4000 / 15.763, rel=1e-3)
    assert interval["high"] == pytest.approx(4000 / 3.454, rel=1e-3)
    of_it = of_campaign(brand, campaign)
    assert of_it is not None
    assert (of_it["spent"], of_it["per_click"], of_it["per_conversion"]) == (4000, 100, 500)
    keys = ("spend,paid_impressions,paid_interactions,paid_link_clicks,paid_clicks,paid_visits,paid_conversions,"
            "paid_value,cost_per_click,cost_per_conversion,cost_per_thousand,paid_return")  # fmt: skip
    days = f"first={(now - timedelta(days=1)).astimezone(brand.zone).date()}&last={(now + timedelta(days=1)).astimezone(brand.zone).date()}"
    for chosen in ("", "&network=commons", f"&campaign={campaign.pk}", f"&profile={profile.pk}"):
        assert _summary(client, f"{days}&metrics={keys}{chosen}") == {
            "spend": 40, "paid_impressions": 8000, "paid_interactions": 110, "paid_link_clicks": 90, "paid_clicks": 40,
            "paid_visits": 30, "paid_conversions": 8, "paid_value": 72, "cost_per_click": 1, "cost_per_conversion": 5,
            "cost_per_thousand": 5, "paid_return": pytest.approx(1.8),
        }, chosen  # fmt: skip
        if "profile" not in chosen:
            # The unpaid link alone.
            organic = _summary(client, f"{days}&metrics=tracked_clicks,visits,conversions{chosen}")
            assert organic == {"tracked_clicks": 7, "visits": 5, "conversions": 2}, chosen
    # What is behind a day is of the same clicks as its figure.
    behind = client.get(f"/api/brands/orrery-house/links/behind?{days}&day={now.astimezone(brand.zone).date()}").json()
    assert behind["value"] == 7
    assert [(one["name"], one["count"]) for one in behind["links"]] == [("U", 7)]
    assert sum(one["count"] for one in behind["referrers"]) <= 7
    nothing = client.get(f"/api/brands/orrery-house/results/summary?{days}&metrics=spend&network=pictor").json()
    assert nothing["metrics"][0]["now"]["value"] in (0, None)


def _summary(client: Client, asked: str) -> dict[str, Any]:
    found = client.get(f"/api/brands/orrery-house/results/summary?{asked}").json()
    return {one["key"]: one["now"]["value"] for one in found["metrics"]}


def test_a_post_that_is_taken_out_leaves_what_it_cost(
    client: Client, brand: Brand, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    post = post_of(world, own_profile())
    PostReading.objects.create(brand_id=brand.pk, post=post, taken_at=clock.now(), impressions=1)
    boost = asked(client, post)
    look_after(boost.pk)
    forget_posts([post.pk])
    boost.refresh_from_db()
    assert boost.post is None
    look_after(boost.pk)
    assert client.get(HOME).json()["boosts"][0]["state"] == "running"


def test_no_profile_goes_while_money_runs_on_it_and_what_was_spent_stays(
    client: Client, editor: Any, limit: BoostLimit, own_profile: Any, world: Any
) -> None:
    profile = own_profile()
    boost = asked(client, post_of(world, profile))
    with pytest.raises(Conflict, match="Stop it first"):
        disconnect_profile(editor, profile, has_history_erased=True)
    Boost.objects.filter(pk=boost.pk).update(state="ended", spent=1300, seen_at=clock.now(), next_at=None)
    disconnect_profile(editor, profile, has_history_erased=True)
    erase(profile.pk)
    told = client.get(HOME).json()
    assert (told["boosts"][0]["spent"], told["boosts"][0]["network"], told["limit"]["left"]) == (
        1300,
        "commons",
        98_700,
    )
    look_after(boost.pk)
