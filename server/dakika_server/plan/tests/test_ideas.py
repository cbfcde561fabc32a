"""Promise: an idea is kept with what was known of it, talked about, and written out as often as one likes; it stays."""

from datetime import timedelta
from typing import Any

import pytest
from django.db import connection, transaction
from django.test import Client
from django.test.utils import CaptureQueriesContext

from dakika_server.brands.models import Brand, Campaign
from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.testing import fill, make_profile
from dakika_server.media.testing import brought, picture
from dakika_server.plan.ideas.keeping import IdeaContent, IdeaOrigin, keep_idea
from dakika_server.plan.models import Idea, IdeaGroup, PlannedPost, Version
from dakika_server.shared import clock
from dakika_server.sources.forget import forget_posts
from dakika_server.sources.models import Competitor, Feed, FeedItem, Post, PostReading, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/plan"
IDEAS = f"{HOME}/ideas"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def send(client: Client, method: str, path: str, body: Any = None) -> Any:
    return getattr(client, method)(path, body, content_type="application/json")


def kept(client: Client, content: dict[str, Any] | None = None, **origin: Any) -> Any:
    return send(client, "post", IDEAS, {"content": content or {}, "origin": origin})


def item(brand: Brand, **values: Any) -> FeedItem:
    feed, _ = Feed.objects.get_or_create(
        brand=brand, address="https://a.example/feed", defaults={"title": "Night sky", "site": "", "added_at": clock.now()}
    )  # fmt: skip
    told = {"guid": "1", "title": "A comet", "summary": "Seen at dawn.", "address": "https://a.example/comet"} | values
    return FeedItem.objects.create(brand=brand, feed=feed, seen_at=clock.now(), **told)


def test_from_nothing(client: Client, brand: Brand, editor: Any) -> None:
    group = IdeaGroup.objects.create(brand=brand, name="Winter")
    campaign = Campaign.objects.create(
        brand=brand, name="Night Openings", colour=1, first_day="2026-11-01", last_day="2026-11-30"
    )
    profile = make_profile(brand)
    asset = brought(editor, brand, picture())
    answer = kept(client, {
        "title": "  Snow on\nthe dome ", "note": "Ask the gardener", "page": "https://ORRERY.example/snow",
        "group": group.pk, "campaign": campaign.pk, "wishes": [profile.pk], "media": [asset.pk],
    })  # fmt: skip
    assert answer.status_code == 201, answer.json()
    told = answer.json()
    assert (told["title"], told["note"], told["page"]) == (
        "Snow on the dome",
        "Ask the gardener",
        "https://orrery.example/snow",
    )
    assert (told["group"], told["campaign"], told["wishes"], told["media"]) == (
        group.pk,
        campaign.pk,
        [profile.pk],
        [asset.pk],
    )
    assert (told["origin"], told["by"], told["written"], told["problem"]) == ("own", "Ed", [], "")


def test_figures_of_a_post_are_kept_as_they_were(client: Client, brand: Brand) -> None:
    profile = fill(make_profile(brand), 12)
    post = Post.objects.get(profile=profile, external_id__endswith="-3")
    told = kept(client, {"note": "the question"}, origin="post", post=post.pk).json()
    figures = {one["key"]: one["value"] for one in told["figures"]}
    assert figures["interactions"] == 24
    assert figures["index"] == pytest.approx(1.0)
    assert (told["title"], told["post"]) == ("Post 3, by Orrery House", post.pk)
    PostReading.objects.filter(post=post).update(reactions=9_000)
    measure_profile(profile)
    again = client.get(f"{IDEAS}/{told['id']}").json()
    assert {one["key"]: one["value"] for one in again["figures"]} == figures


def test_an_idea_outlives_the_post_that_gave_it(client: Client, brand: Brand) -> None:
    """Undoing a file takes its posts out for good; what was kept of them stays."""
    fill(make_profile(brand), 2)
    post = Post.objects.order_by("pk")[0]
    told = kept(client, origin="post", post=post.pk).json()
    with transaction.atomic():
        forget_posts([post.pk])
        connection.check_constraints()
    again = client.get(f"{IDEAS}/{told['id']}").json()
    assert (again["post"], again["figures"]) == (None, told["figures"])


def test_a_competitors_post_tells_whose_it_is(client: Client, brand: Brand) -> None:
    profile = make_profile(brand)
    profile.kind, profile.competitor = "competitor", Competitor.objects.create(brand=brand, name="Tide Museum")
    profile.save()
    fill(profile, 1)
    told = kept(client, origin="post", post=Post.objects.get().pk).json()
    assert told["title"] == "Post 0, by Tide Museum"


def test_an_item_of_a_feed_is_an_idea_once(client: Client, brand: Brand) -> None:
    found = item(brand)
    told = kept(client, origin="feed", item=found.pk).json()
    assert (told["title"], told["note"], told["page"], told["feed"]) == (
        "A comet", "Seen at dawn.", "https://a.example/comet", "Night sky",
    )  # fmt: skip
    second = kept(client, origin="feed", item=found.pk)
    assert (second.status_code, second.json()["type"]) == (409, "urn:dakika:problem:kept_already")
    assert Idea.objects.count() == 1
    assert PlannedPost.objects.count() == 1


@pytest.mark.parametrize("address", ["javascript:alert(1)", "//a.example/x", "not an address", "ftp://a.example/"])
def test_what_a_feed_gives_as_an_address_is_a_page_only_where_it_is_one(
    client: Client, brand: Brand, address: str
) -> None:
    assert kept(client, origin="feed", item=item(brand, address=address).pk).json()["page"] == ""


@pytest.mark.parametrize(("view", "wanted"), [
    ("timing?profile=3", "timing?profile=3"), ("results/findings?at=2026-10-01T10:00", "results/findings?at=2026-10-01T10:00"),
    ("https://elsewhere.example", ""), ("//elsewhere.example", ""), ("/absolute", ""), ("javascript:alert(1)", ""),
    ("a//b", ""), ("", ""),
])  # fmt: skip
def test_the_way_back_stays_within_the_application(client: Client, view: str, wanted: str) -> None:
    assert kept(client, {"title": "x"}, origin="hour", view=view).json()["view"] == wanted


def test_a_picture_that_cannot_be_had_loses_no_idea(client: Client) -> None:
    answer = kept(client, {"title": "A page"}, origin="page", picture="http://127.0.0.1:1/x.jpg")
    assert answer.status_code == 201
    assert answer.json()["problem"].startswith("Its picture could not be brought")
    assert answer.json()["media"] == []


def test_nothing_is_no_idea(client: Client) -> None:
    answer = kept(client, {"title": " ", "note": "\n"})
    assert (answer.status_code, list(answer.json()["errors"])) == (400, ["title"])
    assert not PlannedPost.objects.exists()


def test_nothing_of_another_brand_gets_in(client: Client, brand: Brand, stranger: Any) -> None:
    other = Brand.objects.get(slug="lantern-line")
    theirs = make_profile(other)
    fill(theirs, 1)
    foreign: list[tuple[dict[str, Any], dict[str, Any], int]] = [
        ({"title": "x", "group": IdeaGroup.objects.create(brand=other, name="g").pk}, {}, 400),
        ({"title": "x", "wishes": [theirs.pk]}, {}, 400),
        (
            {
                "title": "x",
                "campaign": Campaign.objects.create(
                    brand=other, name="c", colour=1, first_day="2026-11-01", last_day="2026-11-30"
                ).pk,
            },
            {},
            400,
        ),
        ({"title": "x", "media": [brought(stranger, other, picture()).pk]}, {}, 400),
        ({}, {"origin": "post", "post": Post.objects.get().pk}, 404),
        ({}, {"origin": "feed", "item": item(other).pk}, 404),
    ]
    for content, origin, status in foreign:
        assert kept(client, content, **origin).status_code == status, content
    idea, _ = keep_idea(stranger, other, IdeaContent(title="theirs"), IdeaOrigin())
    for method, path, body in [
        ("get", f"{IDEAS}/{idea.pk}", None), ("delete", f"{IDEAS}/{idea.pk}", None),
        ("put", f"{IDEAS}/{idea.pk}", {"title": "mine", "edition": 1}), ("post", f"{IDEAS}/{idea.pk}/write", {}),
        ("put", f"{IDEAS}/{idea.pk}/shut", {"is_shut": True}),
    ]:  # fmt: skip
        assert send(client, method, path, body).status_code == 404, path
    assert send(client, "post", f"{IDEAS}/put", {"ideas": [idea.pk], "group": None}).json() == {"ideas": 0}
    assert client.get(IDEAS).json()["ideas"] == []


def test_a_draft_is_written_and_the_idea_stays(client: Client, brand: Brand, editor: Any) -> None:
    profile, gone = make_profile(brand), make_profile(brand, "brevi")
    asset = brought(editor, brand, picture())
    told = kept(client, {"title": "Snow", "page": "https://orrery.example/snow", "note": "ask",
                         "wishes": [profile.pk, gone.pk], "media": [asset.pk]}).json()  # fmt: skip
    Profile.objects.filter(pk=gone.pk).update(is_followed=False)
    first = send(client, "post", f"{IDEAS}/{told['id']}/write", {"text": "Snow on the dome \u2026"})
    assert first.status_code == 201, first.json()
    draft = first.json()
    assert (draft["state"], draft["from_idea"], draft["text"]) == ("draft", told["id"], "Snow on the dome \u2026")
    assert [(one["profile_id"], one["media"]) for one in draft["versions"]] == [(profile.pk, [asset.pk])]
    assert "ask" not in str([draft["text"], draft["versions"]])
    assert send(client, "post", f"{IDEAS}/{told['id']}/write", {}).json()["text"] == "https://orrery.example/snow"
    now = client.get(f"{IDEAS}/{told['id']}").json()
    assert [one["state"] for one in now["written"]] == ["draft", "draft"]
    assert PlannedPost.objects.get(pk=told["id"]).state == "idea"
    assert [one["id"] for one in client.get(f"{IDEAS}?standing=written").json()["ideas"]] == [told["id"]]
    assert client.get(IDEAS).json()["ideas"] == []
    client.delete(f"{IDEAS}/{told['id']}")
    assert Version.objects.count() == 2
    assert PlannedPost.objects.filter(state="draft", from_idea=None).count() == 2


def test_an_idea_is_neither_written_over_nor_sent(client: Client) -> None:
    told = kept(client, {"title": "Snow"}).json()
    body = {"title": "x", "edition": 1, "versions": []}
    answer = send(client, "put", f"{HOME}/{told['id']}", body)
    assert (answer.status_code, answer.json()["type"]) == (409, "urn:dakika:problem:is_idea")
    later = (clock.now() + timedelta(days=1)).isoformat()
    for path, given in (("schedule", {"edition": 1, "scheduled_at": later}), ("move", {"edition": 1, "scheduled_at": later}),
                        ("submit", {"edition": 1})):  # fmt: skip
        assert send(client, "post", f"{HOME}/{told['id']}/{path}", given).status_code == 409, path


def test_a_colleagues_change_is_not_written_over(client: Client) -> None:
    told = kept(client, {"title": "Snow"}).json()
    assert send(client, "put", f"{IDEAS}/{told['id']}", {"title": "Snow, deep", "edition": 1}).json()["edition"] == 2
    assert send(client, "put", f"{IDEAS}/{told['id']}", {"title": "Rain", "edition": 1}).status_code == 409
    assert PlannedPost.objects.get().title == "Snow, deep"


def test_votes_and_remarks_are_told_and_the_most_wanted_come_first(client: Client, client_of: Any, viewer: Any) -> None:
    for name in ("one", "two", "three"):
        kept(client, {"title": name})
    ids = dict(PlannedPost.objects.values_list("title", "pk"))
    send(client, "put", f"{HOME}/{ids['two']}/vote", {"value": 1})
    send(client_of(viewer), "put", f"{HOME}/{ids['two']}/vote", {"value": 1})
    send(client, "put", f"{HOME}/{ids['three']}/vote", {"value": -1})
    assert send(client, "post", f"{HOME}/{ids['one']}/remarks", {"text": "In spring?"}).status_code == 201
    rows = client.get(f"{IDEAS}?sort=votes").json()["ideas"]
    assert [(one["title"], one["for_it"], one["against"], one["mine"], one["remarks"]) for one in rows] == [
        ("two", 2, 0, 1, 0), ("one", 0, 0, 0, 1), ("three", 0, 1, -1, 0),
    ]  # fmt: skip


@pytest.mark.parametrize("sort", ["new", "votes"])
def test_pages_tell_each_idea_once(client: Client, sort: str) -> None:
    for number in range(7):
        told = kept(client, {"title": f"{number}"}).json()
        if number % 2:
            send(client, "put", f"{HOME}/{told['id']}/vote", {"value": 1})
    seen, cursor = [], ""
    for _ in range(10):
        page = client.get(f"{IDEAS}?limit=2&sort={sort}{cursor}").json()
        seen += [one["title"] for one in page["ideas"]]
        if page["next"] is None:
            break
        cursor = f"&cursor={page['next']}"
    assert sorted(seen) == [str(n) for n in range(7)]


def test_groups_count_and_leave_their_ideas(client: Client, brand: Brand) -> None:
    send(client, "post", f"{IDEAS}/groups", {"name": "Winter"})
    told = send(client, "post", f"{IDEAS}/groups", {"name": "Summer"}).json()
    winter, summer = (one["id"] for one in told["groups"])
    assert send(client, "post", f"{IDEAS}/groups", {"name": "Winter"}).status_code == 400
    made = [kept(client, {"title": str(n)}).json()["id"] for n in range(3)]
    assert send(client, "post", f"{IDEAS}/put", {"ideas": made[:2], "group": winter}).json() == {"ideas": 2}
    send(client, "put", f"{IDEAS}/{made[0]}/shut", {"is_shut": True})
    send(client, "put", f"{IDEAS}/groups/{summer}", {"name": "High summer", "place": 0})
    told = client.get(f"{IDEAS}/groups").json()
    assert {one["name"]: one["ideas"] for one in told["groups"]} == {"High summer": 0, "Winter": 1}
    assert (told["in_none"], told["open"], told["written"], told["shut"]) == (1, 2, 0, 1)
    assert [one["id"] for one in client.get(f"{IDEAS}?group=0").json()["ideas"]] == [made[2]]
    assert client.delete(f"{IDEAS}/groups/{winter}").status_code == 204
    assert Idea.objects.get(pk=made[1]).group is None


def test_ideas_are_no_drafts_beside_the_calendar(client: Client) -> None:
    kept(client, {"title": "Snow"})
    plan = client.get(f"{HOME}?first=2026-11-01&last=2026-11-30").json()
    assert plan["drafts"] == []


def test_many_ideas_take_no_more_queries(client: Client, brand: Brand, editor: Any) -> None:
    def count() -> int:
        with CaptureQueriesContext(
            connection,
        ) as seen:
            assert client.get(IDEAS).status_code == 200
        return len(seen)

    keep_idea(editor, brand, IdeaContent(title="one"), IdeaOrigin())
    few = count()
    for number in range(20):
        keep_idea(editor, brand, IdeaContent(title=str(number)), IdeaOrigin())
    assert count() == few


def test_a_first_wording_rests_on_the_brands_posts(client: Client, brand: Brand) -> None:
    def made(i: int) -> dict[str, Any]:
        does_well = i % 3 == 0
        return {
            "text": f"Did you know it is {i}? Words between. Book your place #clocks" if does_well
                    else f"Number {i} today. Words. See you #bells",
            "counts": {"reactions": (60 if does_well else 10) + i % 5},
        }  # fmt: skip

    profile = fill(make_profile(brand), 60, made, days=28, start=clock.now() - timedelta(days=60))
    answer = send(
        client,
        "post",
        f"{IDEAS}/wordings",
        {"subject": "the comet", "page": "https://a.example/x", "profiles": [profile.pk]},
    )
    assert answer.status_code == 200, answer.json()
    told = answer.json()
    best = told["wordings"][0]
    assert best["text"].startswith("Did you know it is the comet \u2026?")
    opening = best["patterns"][0]
    assert (opening["kind"], opening["verdict"], opening["posts"]) == ("opening", "better", 20)
    assert 1 < opening["low"] < opening["times"] < opening["high"]
    assert told["posts"] == 60
    assert send(client, "post", f"{IDEAS}/wordings", {"subject": " "}).status_code == 400


def test_templates_are_kept_with_their_places(client: Client) -> None:
    body = {"name": "Late opening", "text": "{What} is open until {hour}.", "first_comment": "{what}: {page}"}
    made = send(client, "post", f"{HOME}/templates", body)
    assert (made.status_code, made.json()["places"]) == (201, ["What", "hour", "page"])
    assert send(client, "post", f"{HOME}/templates", body).status_code == 400
    changed = send(client, "put", f"{HOME}/templates/{made.json()['id']}", {**body, "text": "No place"})
    assert changed.json()["places"] == ["what", "page"]
    assert [one["name"] for one in client.get(f"{HOME}/templates").json()] == ["Late opening"]
    assert client.delete(f"{HOME}/templates/{made.json()['id']}").status_code == 204
    assert client.delete(f"{HOME}/templates/{made.json()['id']}").status_code == 404


def test_who_may_only_look_changes_nothing(client: Client, client_of: Any, viewer: Any) -> None:
    told = kept(client, {"title": "Snow"}).json()
    eyes = client_of(viewer)
    assert eyes.get(f"{IDEAS}/{told['id']}").status_code == 200
    assert kept(eyes, {"title": "mine"}).status_code == 403
    assert send(eyes, "put", f"{IDEAS}/{told['id']}", {"title": "x", "edition": 1}).status_code == 403
    assert send(eyes, "post", f"{IDEAS}/{told['id']}/write", {}).status_code == 403
    assert eyes.delete(f"{IDEAS}/{told['id']}").status_code == 403
