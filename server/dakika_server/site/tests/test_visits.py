"""Promise: visits and conversions are counted once, from declared sites alone, without anything that tells who it was."""

import json
import re
from datetime import timedelta
from typing import Any
from uuid import uuid4

import pytest
from dakika_core.site.visits import Arrival
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.links.models import Click, LinkUse, TrackedLink
from dakika_server.networks.definitions import all_networks
from dakika_server.shared import clock
from dakika_server.site.collecting import SCRIPT
from dakika_server.site.models import Conversion, ConversionStage, Goal, Site, Visit
from dakika_server.site.visiting import Channels, forget_visitor
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Post, Profile

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/site"
JSON = "application/json"
PERSON = "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Mobile Safari/537.36"
HOST = "https://orrery.example"


@pytest.fixture
def site(brand: Brand) -> Site:
    Goal.objects.create(brand=brand, name="Ticket", kind="page", pattern="*/thanks", cents=1400)
    Goal.objects.create(brand=brand, name="Signup", kind="event", pattern="signup", cents=100)
    Goal.objects.create(brand=brand, name="Order", kind="import", cents=500)
    return Site.objects.create(
        brand=brand, name="House", hosts=["orrery.example"], key="k" * 20, created_at=clock.now()
    )


def tell(
    site: Site,
    page: str = "/",
    *,
    origin: str = HOST,
    address: str = "192.0.2.1",
    head: dict[str, str] | None = None,
    **body: Any,
) -> int:
    """What the script in a page would report."""
    return Client().post(
        f"/collect/{site.key}", json.dumps({"u": f"{HOST}{page}", **body}), content_type="text/plain",
        headers={"origin": origin, "user-agent": PERSON, "x-forwarded-for": address, **(head or {})},
    ).status_code  # fmt: skip


def test_pages_make_visits_and_page_goals_are_reached_once(site: Site) -> None:
    assert tell(site, "/tickets?utm_source=letter", r="https://search.example/x") == 204
    assert tell(site, "/thanks") == 204
    assert tell(site, "/thanks") == 204
    visit = Visit.objects.get()
    assert (visit.pages, visit.paths, visit.channel, visit.device) == (3, ["/tickets", "/thanks"], "letter", "phone")
    conversion = Conversion.objects.get()
    assert (conversion.goal.name, conversion.cents, conversion.visit_id) == ("Ticket", 1400, visit.pk)
    assert "192.0.2.1" not in str(Visit.objects.values().get())
    assert tell(site, "/", address="192.0.2.2") == 204
    assert Visit.objects.count() == 2


def test_a_click_brings_its_link_its_post_and_a_visit_of_its_own(site: Site, brand: Brand) -> None:
    link = TrackedLink.objects.create(
        brand=brand, code="abc", name="x", destination=HOST, target=HOST, network="brevi", created_at=clock.now()
    )
    own = Profile.objects.create(
        brand=brand, network="brevi", external_id="1", handle="o", name="O", kind="own", added_at=clock.now()
    )
    now = clock.now()
    take_posts(
        own,
        [
            PostIn(
                external_id=str(i),
                published_at=now - timedelta(days=9 - i),
                format="link",
                text="t",
                url="",
                readings=[],
            )
            for i in range(3)
        ],
    )
    posts = list(Post.objects.order_by("published_at"))
    for post in posts[:2]:
        LinkUse.objects.create(link=link, post=post)
    key = uuid4()
    Click.objects.create(brand=brand, link=link, key=key, at=now, device="phone", visitor=b"x", bot_reason="")
    tell(site, "/before")
    tell(site, f"/tickets?dk={key.hex}")
    tell(site, "/thanks")
    before, brought = Visit.objects.order_by("started_at")
    assert (before.channel, before.link) == ("direct", None)
    assert (brought.channel, brought.link, brought.post, brought.pages) == ("brevi", link, posts[1], 2)


@pytest.mark.parametrize(
    ("kind", "status"),
    [
        ({"origin": "https://evil.example"}, 403), ({"origin": ""}, 403), ({"head": {"DNT": "1"}}, 204),
        ({"head": {"Sec-GPC": "1"}}, 204), ({"head": {"user-agent": "curl/8.5"}}, 204), ({"e": "<script>"}, 400),
        ({"e": "signup", "v": "lots"}, 400), ({"e": "signup", "v": -3}, 400), ({"e": "signup", "v": 1e300}, 400),
        ({"u": "https://evil.example/"}, 403), ({"r": "x" * 5000}, 400), ({"u": "http://[::1"}, 403),
    ],
)  # fmt: skip
def test_what_is_not_wanted_is_not_counted(kind: dict[str, Any], status: int, site: Site) -> None:
    try:
        assert tell(site, **kind) == status
    except ValueError:
        pytest.fail("a malformed address brought it down")
    assert not Visit.objects.exists()
    assert not Conversion.objects.exists()


@pytest.mark.usefixtures("within_a_minute")
def test_unknown_keys_methods_and_floods(site: Site) -> None:
    assert Client().post("/collect/nonsense", "{}", content_type="text/plain").status_code == 404
    assert Client().get(f"/collect/{site.key}").status_code == 405
    allowed = Client().options(f"/collect/{site.key}", headers={"origin": HOST})
    assert allowed["Access-Control-Allow-Origin"] == HOST
    assert (
        Client()
        .post(
            f"/collect/{site.key}",
            "not json",
            content_type="text/plain",
            headers={"origin": HOST, "user-agent": PERSON},
        )
        .status_code
        == 400
    )
    told = [tell(site, f"/{i}", address="192.0.2.99") for i in range(125)]
    assert told.count(429) == 5


def test_events_are_told_once_by_their_order_and_carry_a_value(site: Site) -> None:
    tell(site, "/tickets")
    for _ in range(3):
        assert tell(site, e="signup", v=12.5, k="order 7") == 204
    tell(site, e="unknown")
    conversion = Conversion.objects.get()
    assert (conversion.goal.name, conversion.cents, conversion.visit) == ("Signup", 1250, Visit.objects.get())


def test_people_are_remembered_only_when_they_agreed_and_forgotten_when_they_ask(site: Site, brand: Brand) -> None:
    tell(site, "/tickets", i="a" * 32)
    Visit.objects.update(started_at=clock.now() - timedelta(days=3), ended_at=clock.now() - timedelta(days=3))
    tell(site, "/thanks", i="a" * 32, address="198.51.100.9")
    first, second = Visit.objects.order_by("started_at")
    assert bytes(first.visitor) == bytes(second.visitor)
    assert forget_visitor(brand.pk, bytes(first.visitor)) >= 2
    assert not Visit.objects.exists()
    assert Conversion.objects.get().visitor is None


def test_the_script_is_small_and_keeps_no_cookie(site: Site) -> None:
    answer = Client().get("/visit.js")
    assert answer["Content-Type"].startswith("text/javascript")
    text = answer.content.decode()
    assert len(answer.content) < 2048
    assert answer.content == SCRIPT.read_bytes()
    assert "cookie" not in re.sub(r"/\*.*?\*/", "", text, flags=re.DOTALL).lower()
    assert "globalPrivacyControl" in text
    assert "doNotTrack" in text


def test_conversions_from_programs_are_taken_once_and_stages_follow(
    site: Site, client: Client, client_of: Any, viewer: Any
) -> None:
    row = {"key": "crm-1", "goal": "order", "at": clock.now().isoformat(), "contact": "no. 17", "stage": "lead"}
    told = [client.post(f"{BASE}/conversions", {"rows": [row]}, content_type=JSON).json() for _ in range(2)]
    assert told == [{"added": 1, "stages": 1}, {"added": 0, "stages": 0}]
    later = client.post(f"{BASE}/conversions", {"rows": [{**row, "stage": "customer"}]}, content_type=JSON).json()
    assert later == {"added": 0, "stages": 1}
    assert list(ConversionStage.objects.values_list("stage", flat=True)) == ["lead", "customer"]
    refused = client.post(
        f"{BASE}/conversions", {"rows": [row, {**row, "key": "2", "goal": "none"}]}, content_type=JSON
    )
    assert list(refused.json()["errors"]) == ["row 2"]
    assert Conversion.objects.count() == 1
    assert client_of(viewer).post(f"{BASE}/conversions", {"rows": [row]}, content_type=JSON).status_code == 403
    pk = Conversion.objects.get().pk
    assert client.patch(f"{BASE}/conversions/{pk}", {"stage": "lost"}, content_type=JSON).json()["stage"] == "lost"


def test_credit_and_ways(site: Site, client: Client, brand: Brand) -> None:
    now = clock.now()
    for days, channel in ((5, "commons"), (2, "brevi"), (1, "direct"), (45, "guildhall")):
        at = now - timedelta(days=days)
        Visit.objects.create(
            brand=brand,
            site=site,
            visitor=b"one",
            started_at=at,
            ended_at=at,
            pages=1,
            paths=["/"],
            channel=channel,
            origin="script",
        )
    Visit.objects.create(
        brand=brand,
        site=site,
        visitor=b"two",
        started_at=now,
        ended_at=now,
        pages=1,
        paths=["/"],
        channel="brevi",
        origin="script",
    )
    goal = Goal.objects.get(name="Ticket")
    for key, visitor, cents in (("a", b"one", 1000), ("b", None, 333)):
        Conversion.objects.create(brand=brand, goal=goal, key=key, at=now, cents=cents, currency="EUR", visitor=visitor)
    told = client.get(f"{BASE}/attribution").json()
    assert (told["conversions"], told["cents"], told["direct_alone"]) == (2, 1333, 1)
    by_key = {row["key"]: row for row in told["rows"]}
    assert {key: row["counts"]["linear"] for key, row in by_key.items()} == {
        "commons": pytest.approx(1 / 3), "brevi": pytest.approx(1 / 3), "direct": pytest.approx(4 / 3),
    }  # fmt: skip
    assert by_key["brevi"]["counts"]["last_non_direct"] == 1
    for model in told["models"]:
        assert sum(row["counts"][model] for row in told["rows"]) == pytest.approx(2)
        assert sum(row["cents"][model] for row in told["rows"]) == 1333
    wide = client.get(f"{BASE}/attribution?window=60").json()
    assert {row["key"] for row in wide["rows"]} == {"commons", "brevi", "direct", "guildhall"}
    way = client.get(f"{BASE}/conversions/{Conversion.objects.get(key='a').pk}").json()
    assert [step["channel"] for step in way["steps"]] == ["commons", "brevi", "direct"]
    assert way["weights"]["linear"] == pytest.approx([1 / 3] * 3)
    assert client.get(f"{BASE}/attribution?by=campaign&goal={goal.pk}").json()["conversions"] == 2
    assert client.get(f"{BASE}/attribution?by=post&stage=lead").json()["conversions"] == 0


def test_funnels_follow_a_post_from_view_to_value(site: Site, client: Client, brand: Brand) -> None:
    from dakika_server.measures.measuring import measure_profile

    now = clock.now()
    own = Profile.objects.create(
        brand=brand, network="brevi", external_id="1", handle="o", name="O", kind="own", added_at=now
    )
    take_posts(own, [
        PostIn(external_id=str(i), published_at=now - timedelta(days=5 - i), format="link", text=f"Post {i}", url="",
               readings=[(now - timedelta(hours=1), {"impressions": 1000 * (i + 1)}, None)])
        for i in range(2)
    ])  # fmt: skip
    measure_profile(own)
    link = TrackedLink.objects.create(
        brand=brand, code="abc", name="x", destination=HOST, target=HOST, network="brevi", created_at=now
    )
    posts = list(Post.objects.order_by("published_at"))
    for post in posts:
        LinkUse.objects.create(link=link, post=post)
    for days, count in ((4.5, 30), (1, 20)):
        Click.objects.bulk_create(
            Click(
                brand=brand,
                link=link,
                key=uuid4(),
                at=now - timedelta(days=days),
                device="phone",
                visitor=uuid4().bytes,
                bot_reason="",
            )
            for _ in range(count)
        )
    at = now - timedelta(days=1)
    visit = Visit.objects.create(
        brand=brand,
        site=site,
        visitor=b"v",
        started_at=at,
        ended_at=at,
        pages=1,
        channel="brevi",
        origin="script",
        post=posts[1],
        link=link,
    )
    Conversion.objects.create(
        brand=brand, goal=Goal.objects.get(name="Ticket"), key="a", at=now, cents=1400, currency="EUR", visit=visit
    )
    told = client.get(f"{BASE}/funnel?by=post").json()
    rows = {row["name"]: row for row in told["rows"]}
    # One link in two posts: each has the clicks from its own publishing to the next one's.
    assert [(rows[f"Post {i}"]["impressions"], rows[f"Post {i}"]["clicks"]) for i in range(2)] == [
        (1000, 30),
        (2000, 20),
    ]
    assert (rows["Post 1"]["visits"], rows["Post 1"]["conversions"], rows["Post 1"]["cents"]) == (1, 1, 1400)
    assert rows["Post 1"]["visit_rate"]["value"] == pytest.approx(0.05)
    assert told["total"]["clicks"] == 50
    networks = client.get(f"{BASE}/funnel").json()
    assert [(row["key"], row["name"], row["visits"]) for row in networks["rows"]] == [("brevi", "Brevi", 1)]


def test_sites_and_goals_are_declared_with_care(client: Client, stranger: Any, client_of: Any, site: Site) -> None:
    for wrong in (
        {"name": "", "hosts": ["a.example"]},
        {"name": "x", "hosts": []},
        {"name": "x", "hosts": ["a b"]},
        {"name": "House", "hosts": ["b.example"]},
    ):
        assert client.post(f"{BASE}/sites", wrong, content_type=JSON).status_code == 400, wrong
    made = client.post(
        f"{BASE}/sites", {"name": "Shop", "hosts": ["SHOP.example", "shop.example"]}, content_type=JSON
    ).json()
    assert made["hosts"] == ["shop.example"]
    assert len(made["key"]) >= 20
    for wrong in ({"name": "", "kind": "page", "pattern": "/x"}, {"name": "x", "kind": "page", "pattern": "x"}, {"name": "x", "kind": "event"},
                  {"name": "x", "kind": "page", "pattern": "/x", "cents": -1}, {"name": "x", "kind": "import", "currency": "euro"},
                  {"name": "Ticket", "kind": "import"}):  # fmt: skip
        assert client.post(f"{BASE}/goals", wrong, content_type=JSON).status_code == 400, wrong
    tell(site, "/late/offer")
    goal = client.post(
        f"{BASE}/goals", {"name": "Offer", "kind": "page", "pattern": "/late/*"}, content_type=JSON
    ).json()
    assert Conversion.objects.filter(goal_id=goal["id"]).count() == 1  # it looks back
    archived = {"name": "Offer", "kind": "page", "pattern": "/late/*", "is_archived": True}
    assert client.put(f"{BASE}/goals/{goal['id']}", archived, content_type=JSON).json()["is_archived"] is True
    tell(site, "/late/other", address="192.0.2.50")
    assert Conversion.objects.filter(goal_id=goal["id"]).count() == 1
    theirs = client_of(stranger)
    for path in (f"sites/{site.pk}", f"goals/{goal['id']}"):
        body = {"name": "x", "hosts": ["a.example"], "kind": "import"}
        assert theirs.put(f"/api/brands/lantern-line/links/{path}", body, content_type=JSON).status_code == 404
    assert theirs.get(f"{BASE}/attribution").status_code == 404
    shown = client.get(f"{BASE}/sites").json()
    assert shown["script"].endswith("/visit.js")


@pytest.mark.parametrize("word", ["{pk}", "campaign {pk}", "²", "utm 12", "١٢"])
def test_a_strangers_word_never_counts_for_a_campaign_of_ours(
    site: Site, editor: Any, client_of: Any, brand: Brand, word: str
) -> None:
    from datetime import date

    own = brand.campaigns.create(name="Ours", first_day=date(2026, 1, 1), last_day=date(2026, 12, 31), colour=1)
    word = word.format(pk=own.pk)
    assert tell(site, f"/thanks?utm_source=letter&utm_campaign={word}") == 204
    answer = client_of(editor).get(f"{BASE}/attribution?by=campaign")
    assert answer.status_code == 200
    rows = answer.json()["rows"]
    assert [(row["key"], row["name"]) for row in rows] == [(f"utm {word}", word)]


@pytest.mark.parametrize(
    ("query", "referrer", "wanted"),
    [
        ("utm_source=direct", "", "word direct"),
        ("", "http://direct/", "word direct"),
        ("utm_source=word+direct", "", "word word direct"),
        ("utm_source=commons", "", "commons"),
        ("", "", "direct"),
        ("utm_source=letter", "", "letter"),
    ],
)
def test_a_strangers_word_is_no_channel_of_ours(site: Site, query: str, referrer: str, wanted: str) -> None:
    assert tell(site, f"/?{query}", r=referrer) == 204
    assert Visit.objects.get().channel == wanted


@pytest.mark.parametrize(
    "body", ['{"u": "\\ud800"}', '{"u": "https://orrery.example/\\u0000"}', '{"u": 5}', "[" * 3000]
)
def test_what_no_text_can_hold_is_refused_by_the_collecting(site: Site, body: str) -> None:
    client = Client(raise_request_exception=False)
    answer = client.post(
        f"/collect/{site.key}", body, content_type="text/plain", headers={"origin": HOST, "user-agent": PERSON}
    )
    assert answer.status_code in (400, 403)
    assert Visit.objects.count() == 0


def test_hosts_are_a_networks_where_its_definition_says_so() -> None:
    channels = Channels()
    told = {host: key for key, network in all_networks().items() for host in network.referrer_hosts}
    assert told["brevi.example"] == "brevi"
    for host, key in told.items():
        assert channels.of(Arrival(path="/", referrer=f"www.{host}"), "") == key
    assert channels.of(Arrival(path="/", referrer="brevi.elsewhere.example"), "") == "brevi.elsewhere.example"
