"""Promise: a guest's link shows and allows what it says, nothing else of the brand or of others, and ends when it is over."""

from datetime import date, timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import get_resolver

from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.media.testing import brought, picture
from dakika_server.plan.actions import save_planned_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import Guest, PlannedPost
from dakika_server.plan.reviewing import set_review_rules
from dakika_server.plan.saying import submit
from dakika_server.shared import clock

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("media_folder")]
BASE = "/api/brands/orrery-house/plan"
JSON = "application/json"


@pytest.fixture
def campaign(brand: Brand) -> Campaign:
    day = clock.now().date()
    return Campaign.objects.create(brand=brand, name="Comets", first_day=day, last_day=day + timedelta(days=9))


def write(editor: Any, brand: Brand, profile: Any, *, campaign: Campaign | None, days: int = 2, text: str = "Doors at eight",
          media: tuple[int, ...] = ()) -> PlannedPost:  # fmt: skip
    made = save_planned_post(
        editor, brand, title="Doors", common=Common(text=text, media=media), versions=[VersionInput(profile_id=profile.pk)],
        campaign_id=campaign.pk if campaign else None, scheduled_at=clock.now() + timedelta(days=days),
    )  # fmt: skip
    return submit(editor, made)


@pytest.fixture
def asked(editor: Any, brand: Brand) -> None:
    set_review_rules(editor, brand, steps=["guest"], may_approve_own=False, remind_hours=24)


def link(client: Client, may: str = "approve", **more: Any) -> Any:
    until = (clock.now() + timedelta(days=20)).isoformat()
    return client.post(f"{BASE}/guests", {"name": "Cleo", "may": may, "until": until, **more}, JSON)


def opened(address: str) -> Client:
    guest = Client()
    key = address.partition("#")[2]
    assert len(key) >= 43
    assert guest.post("/api/guest", {"key": key}, JSON).status_code == 200
    return guest


def test_a_guest_sees_the_campaign_says_yes_and_it_is_scheduled(
    editor: Any, brand: Brand, own_profile: Any, campaign: Campaign, client_of: Any, asked: None
) -> None:
    profile = own_profile()
    shown = write(editor, brand, profile, campaign=campaign)
    hidden = write(editor, brand, profile, campaign=None)
    guest = opened(link(client_of(editor), campaigns=[campaign.pk]).json()["address"])
    told = guest.get("/api/guest/page").json()
    assert [(post["id"], post["waits"]) for post in told["posts"]] == [(shown.pk, True)]
    post = guest.get(f"/api/guest/posts/{shown.pk}").json()
    said = guest.post(f"/api/guest/posts/{shown.pk}", {"is_yes": True, "digest": post["digest"]}, JSON)
    assert (said.status_code, said.json()["state"]) == (200, "scheduled")
    assert said.json()["verdicts"][0]["name"] == "Cleo"
    assert guest.get(f"/api/guest/posts/{hidden.pk}").status_code == 404
    assert guest.post(f"/api/guest/posts/{hidden.pk}", {"is_yes": True, "digest": "x"}, JSON).status_code == 404


def test_days_show_their_posts_and_nothing_that_is_not_ready(
    editor: Any, brand: Brand, own_profile: Any, client_of: Any, asked: None
) -> None:
    profile = own_profile()
    within, after = write(editor, brand, profile, campaign=None), write(editor, brand, profile, campaign=None, days=12)
    save_planned_post(
        editor, brand, title="A draft", common=Common(text="x"), versions=[VersionInput(profile_id=profile.pk)],
        scheduled_at=clock.now() + timedelta(days=2),
    )  # fmt: skip
    day = clock.now().date()
    guest = opened(link(client_of(editor), first_day=str(day), last_day=str(day + timedelta(days=5))).json()["address"])
    assert [post["id"] for post in guest.get("/api/guest/page").json()["posts"]] == [within.pk]
    assert guest.get(f"/api/guest/posts/{after.pk}").status_code == 404


@pytest.mark.parametrize(("may", "codes"), [("look", (403, 403, 403)), ("comment", (201, 403, 403)),
                                            ("vote", (201, 200, 403)), ("approve", (201, 200, 200))])  # fmt: skip
def test_each_may_what_its_link_says(
    may: str, codes: tuple[int, ...], editor: Any, brand: Brand, own_profile: Any, campaign: Campaign, client_of: Any,
    asked: None,
) -> None:  # fmt: skip
    post = write(editor, brand, own_profile(), campaign=campaign)
    guest = opened(link(client_of(editor), may, campaigns=[campaign.pk]).json()["address"])
    told = guest.get(f"/api/guest/posts/{post.pk}").json()
    assert told["may_say"] is (may == "approve")
    at = f"/api/guest/posts/{post.pk}"
    assert (
        guest.post(f"{at}/remarks", {"text": "Nine?"}, JSON).status_code,
        guest.put(f"{at}/vote", {"value": 1}, JSON).status_code,
        guest.post(at, {"is_yes": True, "digest": told["digest"]}, JSON).status_code,
    ) == codes


def test_a_link_that_was_taken_back_ended_or_is_none_opens_nothing(
    editor: Any, campaign: Campaign, client_of: Any
) -> None:
    client: Client = client_of(editor)
    made = link(client, campaigns=[campaign.pk]).json()
    guest = opened(made["address"])
    assert client.delete(f"{BASE}/guests/{made['guest']['id']}").status_code == 204
    assert guest.get("/api/guest/page").status_code == 404
    Guest.objects.update(revoked_at=None, until=clock.now() - timedelta(seconds=1))
    assert guest.get("/api/guest/page").status_code == 404
    assert Client().get("/api/guest/page").status_code == 404
    assert Client().post("/api/guest", {"key": "guessed"}, JSON).status_code == 404
    assert Client().post("/api/guest", {"key": "\x00" * 5}, JSON).status_code in (400, 404)


def test_the_key_is_kept_by_nobody_and_told_once(editor: Any, campaign: Campaign, client_of: Any) -> None:
    client: Client = client_of(editor)
    key = link(client, campaigns=[campaign.pk]).json()["address"].partition("#")[2]
    assert key not in str(Guest.objects.values().get())
    assert key not in client.get(f"{BASE}/guests").content.decode()


def test_what_is_shared_has_bounds(editor: Any, viewer: Any, campaign: Campaign, client_of: Any, stranger: Any) -> None:
    client: Client = client_of(editor)
    theirs = Campaign.objects.create(
        brand=Brand.objects.get(slug="lantern-line"), name="x", first_day=date(2027, 1, 1), last_day=date(2027, 1, 2)
    )
    far = (clock.now() + timedelta(days=800)).isoformat()
    assert link(client).status_code == 400
    assert link(client, campaigns=[theirs.pk]).status_code == 400
    assert link(client, campaigns=[campaign.pk], until=far).status_code == 400
    assert link(client, campaigns=[campaign.pk], first_day="2027-01-05", last_day="2027-01-01").status_code == 400
    assert link(client_of(viewer), campaigns=[campaign.pk]).status_code == 403
    assert client_of(viewer).get(f"{BASE}/guests").status_code == 403


def test_pictures_of_a_shown_post_and_no_others(
    editor: Any, brand: Brand, own_profile: Any, campaign: Campaign, client_of: Any, asked: None
) -> None:
    ours, other = brought(editor, brand, picture(300, 200)), brought(editor, brand, picture(200, 300))
    post = write(editor, brand, own_profile(), campaign=campaign, media=(ours.pk,))
    guest = opened(link(client_of(editor), campaigns=[campaign.pk]).json()["address"])
    at = f"/api/guest/posts/{post.pk}/pictures"
    shown = guest.get(f"{at}/{ours.pk}")
    assert (shown.status_code, len(b"".join(shown.streaming_content)) > 100) == (200, True)  # type: ignore[arg-type]
    assert guest.get(f"{at}/{other.pk}").status_code == 404


def test_no_address_of_the_team_opens_to_a_guest(editor: Any, campaign: Campaign, client_of: Any) -> None:
    """All addresses of the API, walked with the guest's cookie alone: those for guests, and those open to everybody."""
    guest = opened(link(client_of(editor), campaigns=[campaign.pk]).json()["address"])
    tried = 0
    for pattern in get_resolver().url_patterns:
        for inner in getattr(pattern, "url_patterns", []):
            path = f"/{pattern.pattern}{inner.pattern}".replace("<slug:brand>", "orrery-house")
            if "orrery-house" not in path:
                continue
            while "<" in path:
                head, _, rest = path.partition("<")
                path = f"{head}1{rest.partition('>')[2]}"
            tried += 1
            assert guest.get(path).status_code in (401, 403, 405), path
    assert tried > 100


def test_whoever_plans_lets_nobody_in_who_may_say_yes(
    editor: Any, brand: Brand, campaign: Campaign, client_of: Any
) -> None:
    Membership.objects.filter(user=editor, brand=brand).update(role="analyst")
    client: Client = client_of(editor)
    assert link(client, "approve", campaigns=[campaign.pk]).status_code == 403
    assert link(client, "vote", campaigns=[campaign.pk]).status_code == 201


def test_more_posts_take_a_guest_no_more_queries(
    editor: Any, brand: Brand, own_profile: Any, campaign: Campaign, client_of: Any, asked: None,
    django_assert_max_num_queries: Any,
) -> None:  # fmt: skip
    profile = own_profile()
    for i in range(10):
        write(editor, brand, profile, campaign=campaign, text=f"Number {i}")
    guest = opened(link(client_of(editor), campaigns=[campaign.pk]).json()["address"])
    with django_assert_max_num_queries(10):
        assert len(guest.get("/api/guest/page").json()["posts"]) == 10
