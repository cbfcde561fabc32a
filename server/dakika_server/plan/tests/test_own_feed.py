"""Promise: what is meant for the brand's own feed stands there once it is out, each once; who saw it is counted."""

from datetime import timedelta
from typing import Any

import feedparser
import pytest
from django.conf import settings
from django.core.cache import cache
from django.test import Client

from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.links.models import TrackedLink
from dakika_server.media.testing import brought, picture
from dakika_server.plan.actions import save_planned_post, schedule_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import OwnFeed, OwnFeedItem, OwnFeedSeen, PlannedPost
from dakika_server.plan.own_feed import putting_up
from dakika_server.plan.own_feed.putting_up import put_up_due
from dakika_server.plan.publish import publish_version
from dakika_server.plan.reviewing import digest_of_post
from dakika_server.shared import clock

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("media_folder")]
HOME = "/api/brands/orrery-house/plan/own-feed"
JSON = "application/json"
AGENT = {"HTTP_USER_AGENT": "Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101"}


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def feed(client: Client, brand: Brand) -> OwnFeed:
    body = {"is_on": True, "title": "Orrery House: news", "site": "https://orrery.example", "edition": 0}
    assert client.put(HOME, body, JSON).status_code == 200
    return OwnFeed.objects.get(brand=brand)


def planned(editor: Any, brand: Brand, profile: Any, text: str, **more: Any) -> PlannedPost:
    common = Common(text=text, media=tuple(more.pop("media", ())))
    made = save_planned_post(
        editor,
        brand,
        title="T",
        common=common,
        versions=[VersionInput(profile_id=profile.pk)],
        in_own_feed=True,
        **more,
    )
    schedule_post(editor, made)
    return made


def out(made: PlannedPost) -> None:
    for version in made.versions.all():
        publish_version(version.pk)


def read(feed: OwnFeed, **headers: Any) -> Any:
    return Client().get(f"/feeds/{feed.key}.atom", **headers)


def items(feed: OwnFeed) -> list[Any]:
    found: list[Any] = feedparser.parse(read(feed).content).entries
    return found


def test_it_stands_there_once_it_is_out(
    client: Client, editor: Any, brand: Brand, feed: OwnFeed, own_profile: Any
) -> None:
    campaign = Campaign.objects.create(
        brand=brand, name="Night", colour=1, first_day="2026-11-01", last_day="2027-11-30"
    )
    image = brought(editor, brand, picture())
    made = planned(
        editor, brand, own_profile(), "It strikes again.\n\nCome: https://orrery.example/tickets", media=[image.pk],
        campaign_id=campaign.pk,
    )  # fmt: skip
    assert put_up_due(clock.now()) == 0
    out(made)
    assert put_up_due(clock.now()) == 1
    assert put_up_due(clock.now()) == 0
    (one,) = items(feed)
    link = TrackedLink.objects.get(utm__utm_medium="feed")
    assert (link.destination, link.campaign) == ("https://orrery.example/tickets", campaign)
    assert one.title == "It strikes again."
    assert one.link.endswith(link.code)
    content = one.content[0].value
    assert link.code in content
    assert "tickets" not in content
    shown = [part.split('"')[0] for part in content.split('src="')[1:]]
    assert len(shown) == 2
    for address in shown:
        answer = Client().get(address.removeprefix(settings.PUBLIC_ADDRESS), **AGENT)
        assert (answer.status_code, answer["Content-Type"][:6]) == (200, "image/")
        assert b"".join(answer.streaming_content) if answer.streaming else answer.content
    listed = client.get(HOME).json()
    assert [(row["title"], row["views"], row["post"]) for row in listed["items"]] == [("It strikes again.", 1, made.pk)]


def test_an_address_that_begins_with_the_page_stays_itself(
    editor: Any, brand: Brand, feed: OwnFeed, own_profile: Any
) -> None:
    out(planned(editor, brand, own_profile(), "https://orrery.example/a and https://orrery.example/a/b"))
    put_up_due(clock.now())
    code = TrackedLink.objects.get(utm__utm_medium="feed").code
    first, second = OwnFeedItem.objects.get().text.split(" and ")
    assert first.endswith(code)
    assert second == "https://orrery.example/a/b"


def test_what_is_not_meant_for_it_or_not_out_stays_away(
    editor: Any, brand: Brand, feed: OwnFeed, own_profile: Any
) -> None:
    profile = own_profile()
    plain = planned(editor, brand, profile, "Elsewhere only")
    PlannedPost.objects.filter(pk=plain.pk).update(in_own_feed=False)
    out(plain)
    later = planned(editor, brand, profile, "Later")
    assert put_up_due(clock.now()) == 0
    OwnFeed.objects.update(is_on=False)
    out(later)
    assert put_up_due(clock.now()) == 0
    assert read(feed).status_code == 404
    # Switched on again, what came out meanwhile is put up.
    OwnFeed.objects.update(is_on=True)
    assert put_up_due(clock.now()) == 1


def test_a_kill_between_two_items_loses_none_and_makes_none_twice(
    editor: Any, brand: Brand, feed: OwnFeed, own_profile: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    profile = own_profile()
    for text in ("One https://orrery.example/1", "Two https://orrery.example/2"):
        out(planned(editor, brand, profile, text))
    put_up = putting_up._put_up
    calls = []

    def killed(pk: int, now: Any) -> bool:
        calls.append(pk)
        done = put_up(pk, now)
        if len(calls) == 2:
            raise SystemExit
        return done

    with monkeypatch.context() as patched:
        patched.setattr(putting_up, "_put_up", killed)
        with pytest.raises(SystemExit):
            put_up_due(clock.now())
    put_up_due(clock.now())
    assert sorted(one.title for one in items(feed)) == ["One", "Two"]
    assert TrackedLink.objects.filter(utm__utm_medium="feed").count() == 2


def test_readers_are_told_that_nothing_changed(editor: Any, brand: Brand, feed: OwnFeed, own_profile: Any) -> None:
    first = read(feed)
    assert first["Content-Type"].startswith("application/atom+xml")
    for headers in (
        {"HTTP_IF_NONE_MATCH": first["ETag"]}, {"HTTP_IF_NONE_MATCH": f'"x", W/{first["ETag"]}'},
        {"HTTP_IF_MODIFIED_SINCE": first["Last-Modified"]},
    ):  # fmt: skip
        again = read(feed, **headers)
        assert (again.status_code, again.content) == (304, b"")
    out(planned(editor, brand, own_profile(), "Something new"))
    put_up_due(clock.now() + timedelta(seconds=2))
    assert read(feed, HTTP_IF_NONE_MATCH=first["ETag"]).status_code == 200
    assert read(feed, HTTP_IF_MODIFIED_SINCE=first["Last-Modified"]).status_code == 200
    assert read(feed, HTTP_IF_MODIFIED_SINCE="no date").status_code == 200
    assert Client().post(f"/feeds/{feed.key}.atom").status_code == 405


def test_people_are_counted_and_programs_are_not(
    client: Client, editor: Any, brand: Brand, feed: OwnFeed, own_profile: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    out(planned(editor, brand, own_profile(), "Seen"))
    put_up_due(clock.now())
    item = OwnFeedItem.objects.get()
    pixel = f"/feeds/seen/{item.guid}.gif"
    cache.clear()
    now = clock.now()
    monkeypatch.setattr(clock, "now", lambda: now)
    for address in ("198.51.100.1", "198.51.100.2", "198.51.100.3"):
        for _ in range(5):
            # Whoever loads it again and again is one.
            assert Client().get(pixel, REMOTE_ADDR=address, **AGENT)["Cache-Control"] == "no-store, private"
    Client().get(pixel, HTTP_USER_AGENT="ExampleBot/1.0 (+https://example.org/bot)")
    Client().get(pixel, HTTP_USER_AGENT="")
    Client().head(pixel, **AGENT)
    Client().get("/feeds/seen/00000000-0000-0000-0000-000000000000.gif", **AGENT)
    assert OwnFeedSeen.objects.get().views == 3
    OwnFeedSeen.objects.update(hour=now - timedelta(days=1))
    OwnFeedItem.objects.update(published_at=now - timedelta(days=2))
    today = now.astimezone(brand.zone).date()
    asked = f"first={today - timedelta(days=2)}&last={today}&metrics=feed_views"
    told = client.get(f"/api/brands/orrery-house/results/summary?{asked}").json()["metrics"][0]
    assert told["now"]["value"] == 3
    # A feed belongs to no network: of one nothing is known.
    told = client.get(f"/api/brands/orrery-house/results/summary?{asked}&network=commons").json()["metrics"][0]
    assert told["now"]["value"] is None


def test_it_is_taken_out_and_put_back(
    client: Client, editor: Any, brand: Brand, feed: OwnFeed, own_profile: Any
) -> None:
    out(planned(editor, brand, own_profile(), "For a while"))
    put_up_due(clock.now())
    item = OwnFeedItem.objects.get()
    assert client.put(f"{HOME}/items/{item.pk}", {"is_away": True}, JSON).json()["is_away"]
    assert items(feed) == []
    assert put_up_due(clock.now()) == 0
    client.put(f"{HOME}/items/{item.pk}", {"is_away": False}, JSON)
    assert len(items(feed)) == 1
    # The post goes, its item stays.
    item.planned_post.delete()  # type: ignore[union-attr]
    assert len(items(feed)) == 1


def test_who_may_set_it_up(
    client: Client, brand: Brand, feed: OwnFeed, viewer: Any, stranger: Any, client_of: Any, editor: Any,
    own_profile: Any,
) -> None:  # fmt: skip
    body = {"is_on": False, "title": "Mine", "site": "", "edition": 1}
    for role in ("viewer", "author"):
        Membership.objects.filter(user=viewer).update(role=role)
        assert client_of(viewer).put(HOME, body, JSON).status_code == 403
    assert client_of(stranger).get(HOME).status_code == 404
    out(planned(editor, brand, own_profile(), "Ours"))
    put_up_due(clock.now())
    theirs = f"/api/brands/lantern-line/plan/own-feed/items/{OwnFeedItem.objects.get().pk}"
    assert client_of(stranger).put(theirs, {"is_away": True}, JSON).status_code == 404
    assert client.put(HOME, {**body, "edition": 0}, JSON).status_code == 409
    for more, field in [
        ({"title": " "}, "title"),
        ({"site": "javascript:alert(1)"}, "site"),
        ({"edition": "x"}, "edition"),
    ]:
        answer = client.put(HOME, body | more, JSON)
        assert answer.status_code == 400
        assert field in answer.json()["errors"]
    assert client.put(HOME, body, JSON).json()["is_on"] is False


def test_a_yes_is_for_the_feed_too(editor: Any, brand: Brand, own_profile: Any) -> None:
    made = planned(editor, brand, own_profile(), "Words")
    before = digest_of_post(made)
    made.in_own_feed = False
    assert digest_of_post(made) != before
