"""Promise: a campaign counts what is planned and out as a second reckoning does, and removing it keeps its posts."""

from collections import Counter
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand, Campaign
from dakika_server.links.actions import Draft, make_link
from dakika_server.measures.testing import fill, make_profile
from dakika_server.plan.actions import save_planned_post, schedule_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import PlannedPost
from dakika_server.shared import clock
from dakika_server.sources.models import Post

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house"
JSON = "application/json"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def campaign(brand: Brand) -> Campaign:
    today = clock.now().date()
    return Campaign.objects.create(brand=brand, name="Comets", first_day=today, last_day=today + timedelta(days=30))


def write(editor: Any, brand: Brand, campaign: Campaign | None, *profiles: Any, days: float = 2) -> PlannedPost:
    return save_planned_post(
        editor, brand, title="Doors", common=Common(text="Doors at eight"), campaign_id=campaign.pk if campaign else None,
        scheduled_at=clock.now() + timedelta(days=days), versions=[VersionInput(profile_id=p.pk) for p in profiles],
    )  # fmt: skip


def test_its_counts_are_those_of_a_second_reckoning(
    client: Client, brand: Brand, editor: Any, campaign: Campaign
) -> None:
    commons, brevi = make_profile(brand, "commons"), make_profile(brand, "brevi")
    fill(commons, 30), fill(brevi, 11)
    chosen = list(Post.objects.filter(brand=brand).order_by("pk")[:17])
    for i, post in enumerate(chosen):
        Post.objects.filter(pk=post.pk).update(campaign=campaign, format=("image", "text")[i % 2])
    write(editor, brand, campaign, commons, brevi)
    write(editor, brand, campaign, commons, days=9)
    later = write(editor, brand, campaign, brevi, days=16)
    schedule_post(editor, later, at=later.scheduled_at)
    write(editor, brand, None, commons)
    told = client.get(f"{BASE}/plan/campaigns/{campaign.pk}").json()
    posts = list(Post.objects.filter(campaign=campaign).select_related("profile"))
    out = Counter((post.profile.network, post.format) for post in posts)
    assert {(k["network"], k["format"]): k["published"] for k in told["kinds"] if k["published"]} == dict(out)
    assert sum(kind["planned"] for kind in told["kinds"]) == 4
    assert told["states"]["published"] == 17
    weeks = Counter((p.published_at.astimezone(brand.zone).date()) for p in posts)
    mondays: Counter[str] = Counter()
    for day, n in weeks.items():
        mondays[str(day - timedelta(days=day.weekday()))] += n
    assert {w["monday"]: w["published"] for w in told["weeks"] if w["published"]} == dict(mondays)
    assert sum(week["planned"] for week in told["weeks"]) == 4
    assert [one["title"] for one in told["to_come"]] == ["Doors"] * 3


def test_more_posts_take_no_more_queries(
    client: Client, brand: Brand, editor: Any, campaign: Campaign, django_assert_max_num_queries: Any
) -> None:
    profile = make_profile(brand)
    for i in range(12):
        write(editor, brand, campaign, profile, days=1 + i)
    with django_assert_max_num_queries(14):
        assert len(client.get(f"{BASE}/plan/campaigns/{campaign.pk}").json()["to_come"]) == 12


def test_a_goal_an_owner_and_words_of_its_own_in_links(
    client: Client, brand: Brand, editor: Any, stranger: Any
) -> None:
    usual = {"name": "Comets", "first_day": "2027-01-01", "last_day": "2027-02-01"}
    path = f"{BASE}/campaigns"
    assert client.post(path, {**usual, "goal_metric": "interactions"}, JSON).status_code == 400
    assert client.post(path, {**usual, "owner": stranger.pk}, JSON).status_code == 400
    made = client.post(
        path,
        {**usual, "goal_metric": "clicks", "goal_amount": 300, "utm_campaign": "comet-27", "owner": editor.pk},
        JSON,
    ).json()
    assert (made["goal_metric"], made["goal_amount"], made["owner"]) == ("clicks", 300.0, editor.pk)
    link = make_link(editor, brand, Draft(destination="https://orrery.example/comets", campaign_id=made["id"]))
    assert "utm_campaign=comet-27" in link.target
    changed = client.put(f"{path}/{made['id']}", {**usual, "name": "Comets again"}, JSON)
    assert (changed.status_code, changed.json()["goal_metric"]) == (200, "")
    assert client.post(path, {**usual, "name": "Comets again"}, JSON).status_code == 400


def test_posts_are_put_in_and_taken_out_by_the_brand_alone(
    client: Client, brand: Brand, editor: Any, campaign: Campaign, stranger: Any, viewer: Any, client_of: Any
) -> None:
    profile = make_profile(brand)
    fill(profile, 3)
    posts = list(Post.objects.filter(brand=brand).values_list("pk", flat=True))
    planned = write(editor, brand, None, profile)
    path = f"{BASE}/plan/campaigns/{campaign.pk}"
    body = {"posts": [*posts, 999999], "planned": [planned.pk]}
    assert client.post(path, body, JSON).json() == {"posts": 4}
    assert client_of(viewer).post(path, body, JSON).status_code == 403
    theirs: Client = client_of(stranger)
    assert theirs.post("/api/brands/lantern-line/plan/campaigns/none", body, JSON).json() == {"posts": 0}
    assert theirs.get(f"/api/brands/lantern-line/plan/campaigns/{campaign.pk}").status_code == 404
    assert Post.objects.filter(campaign=campaign).count() == 3
    assert client.post(f"{BASE}/plan/campaigns/none", {"planned": [planned.pk]}, JSON).json() == {"posts": 1}
    planned.refresh_from_db()
    assert planned.campaign_id is None


@pytest.mark.parametrize("takes_back", [False, True])
def test_removed_its_posts_stay_and_what_is_set_goes_out_or_not(
    takes_back: bool, client: Client, brand: Brand, editor: Any, campaign: Campaign
) -> None:
    profile = make_profile(brand, "guildhall")
    fill(profile, 2)
    Post.objects.filter(brand=brand).update(campaign=campaign)
    planned = write(editor, brand, campaign, profile)
    planned = schedule_post(editor, planned, at=planned.scheduled_at)
    draft = write(editor, brand, campaign, profile)
    told = client.post(f"{BASE}/plan/campaigns/{campaign.pk}/removal", {"takes_back": takes_back}, JSON)
    assert told.json() == {"posts": int(takes_back)}
    planned.refresh_from_db(), draft.refresh_from_db()
    assert planned.state == planned.versions.get().state == ("draft" if takes_back else "scheduled")
    assert (draft.state, draft.campaign_id) == ("draft", None)
    assert (Post.objects.filter(brand=brand).count(), Campaign.objects.count()) == (2, 0)
    assert planned.scheduled_at is not None
    assert planned.scheduled_at > datetime.now(tz=UTC)
