"""Promise: a young post is read at its age everywhere, told of when it is unusual, once, and never summed up with others."""

from datetime import timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.foresight.findings import tell_of_unusual, young_posts_out
from dakika_server.foresight.looking import look_ahead
from dakika_server.foresight.models import Outlook, Projection
from dakika_server.foresight.testing import grow, half_a_year, share
from dakika_server.measures.testing import make_profile
from dakika_server.notices.models import Notification
from dakika_server.results.findings import find
from dakika_server.results.models import Finding
from dakika_server.shared import clock
from dakika_server.sources.models import Competitor, PeerSet, Post, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def with_young(brand: Brand, final: float, *, hours: float = 6.5, network: str = "commons") -> Profile:
    """A profile of half a year, and one post of some hours that will have `final` reactions."""
    profile = grow(make_profile(brand, network=network), half_a_year())
    grow(profile, [(clock.now() - timedelta(hours=hours), final)])
    look_ahead(profile)
    return profile


def test_it_is_read_against_what_is_typical_at_its_age_and_heads_for_what_it_will_have(
    client: Client, brand: Brand
) -> None:
    with_young(brand, 450.0)
    (post,) = client.get(f"{HOME}/foresight/under-way").json()
    assert post["count"] == round(450 * share(6.0))
    assert post["index"] == pytest.approx(1.5, rel=0.15)
    assert post["index_low"] < post["index"] < post["index_high"]
    assert post["heading_low"] <= 450 * share(168) <= post["heading_high"]
    assert post["heading"] == pytest.approx(450 * share(168), rel=0.15)
    assert post["state"] == "usual"


def test_lists_tell_it_at_its_age_after_the_others_or_among_them(client: Client, brand: Brand) -> None:
    with_young(brand, 900.0)
    asked = f"{HOME}/results/posts?sort=-interactions&columns=interactions&limit=500"
    first = (clock.now() - timedelta(days=60)).date().isoformat()
    rows = client.get(f"{asked}&first={first}&age=72").json()
    young = [row for row in rows["posts"] if row["young"]]
    assert [row["id"] for row in young] == [rows["posts"][-1]["id"]], "after the others"
    assert young[0]["young"]["heading"] > young[0]["interactions"] > 0
    assert rows["too_young"] == 1
    among = client.get(f"{asked}&first={first}&age=72&young=among").json()["posts"]
    assert among[0]["id"] == young[0]["id"], "it is heading for more than any other has"
    by_index = client.get(f"{HOME}/results/posts?sort=-index&young=among&first={first}&age=72").json()["posts"]
    assert by_index[0]["id"] == young[0]["id"]
    assert client.get(f"{asked}&young=first").status_code == 400


def test_a_sort_by_what_no_measure_holds_is_not_broken_by_young_posts(client: Client, brand: Brand) -> None:
    with_young(brand, 900.0)
    for sort in ("-er_impressions", "text", "-published_at"):
        assert client.get(f"{HOME}/results/posts?sort={sort}&young=among").status_code == 200


def test_taking_off_is_a_finding_within_one_collection_and_told_once(client: Client, brand: Brand) -> None:
    profile = with_young(brand, 9000.0)
    tell_of_unusual(profile)
    tell_of_unusual(profile)
    told = Notification.objects.filter(brand=brand, kind="young")
    assert told.count() == told.values("person").distinct().count() > 0
    assert "is taking off" in told.first().text  # type: ignore[union-attr]
    find(brand, clock.now())
    finding = Finding.objects.get(kind="young")
    assert "19 in 20 of its" in finding.detail
    assert "Heading for" in finding.detail
    post = Outlook.objects.get()
    assert post.band_high is not None
    assert post.count > post.band_high


def test_falling_flat_is_told_too_and_a_usual_post_is_not(brand: Brand) -> None:
    with_young(brand, 10.0)
    ((statement, step),) = young_posts_out(brand, clock.now())
    assert "falling flat" in statement.text
    assert step["path"].startswith("results/posts/")
    Outlook.objects.all().delete()
    assert young_posts_out(brand, clock.now()) == []


@pytest.mark.parametrize(("count", "is_told"), [(9000.0, True), (10.0, False)])
def test_of_a_competitors_posts_those_that_take_off_are_told_where_somebody_compares_it(
    brand: Brand, editor: Any, count: float, is_told: bool
) -> None:
    del editor
    profile = with_young(brand, count)
    competitor = Competitor.objects.create(brand=brand, name="Tide Hall")
    Profile.objects.filter(pk=profile.pk).update(kind="competitor", competitor=competitor)
    profile.refresh_from_db()
    tell_of_unusual(profile)
    assert not Notification.objects.filter(kind="young").exists(), "nobody compares it"
    PeerSet.objects.create(brand=brand, name="Museums", made_at=clock.now()).profiles.add(profile)
    for _ in range(2):
        tell_of_unusual(profile)
    told = Notification.objects.filter(kind="young")
    assert told.exists() == is_told
    assert told.count() == told.values("person").distinct().count(), "each once"
    assert all("by Tide Hall is taking off" in one.text for one in told)


def test_a_profile_without_a_past_claims_nothing_and_still_says_where_it_heads(client: Client, brand: Brand) -> None:
    profile = grow(make_profile(brand), [(clock.now() - timedelta(hours=5), 200.0)])
    look_ahead(profile)
    (post,) = client.get(f"{HOME}/foresight/under-way").json()
    assert (post["index"], post["state"]) == (None, "unknown")
    assert post["heading_low"] < post["heading_high"]
    page = client.get(f"{HOME}/foresight/posts/{post['id']}").json()
    assert page["course"] == []
    assert {m["index"] for m in page["metrics"]} == {None}


def test_its_page_holds_every_metric_against_its_age_and_what_was_said(client: Client, brand: Brand) -> None:
    with_young(brand, 450.0)
    pk = Outlook.objects.get().post_id
    page = client.get(f"{HOME}/foresight/posts/{pk}").json()
    by_key = {metric["key"]: metric for metric in page["metrics"]}
    assert set(by_key) == {"interactions", "reactions", "impressions"}
    assert by_key["impressions"]["index"] == pytest.approx(1.5, rel=0.15)
    assert [place["age_hours"] for place in page["course"]] == [1, 2, 3, 6, 12, 24, 72, 168]
    assert [said["horizon_hours"] for said in page["said"]] == [0, 6]
    assert page["outlook"]["heading"] > page["outlook"]["count"]


def test_what_was_said_stays_and_the_truth_is_added_when_it_is_there(brand: Brand) -> None:
    profile = with_young(brand, 450.0)
    said = Projection.objects.get(horizon_hours=6, is_tried=False)
    look_ahead(profile)
    again = Projection.objects.get(horizon_hours=6, is_tried=False)
    assert (again.pk, again.value) == (said.pk, said.value)
    assert said.truth is None
    Post.objects.filter(pk=said.post_id).update(published_at=clock.now() - timedelta(days=8))
    post = Post.objects.get(pk=said.post_id)
    grow(profile, [(post.published_at, 450.0)])
    Projection.objects.filter(pk=said.pk).update(
        post_id=Post.objects.get(external_id=f"{post.published_at:%Y%m%d%H%M}").pk
    )
    look_ahead(profile)
    assert Projection.objects.get(pk=said.pk).truth == pytest.approx(450 * share(168), abs=1)
    assert not Outlook.objects.filter(profile=profile, post=post).exists(), "it is young no more"


def test_others_posts_are_not_found(client: Client) -> None:
    theirs = with_young(Brand.objects.create(name="Other", slug="other", time_zone="UTC"), 450.0)
    pk = Outlook.objects.get(profile=theirs).post_id
    assert client.get(f"{HOME}/foresight/posts/{pk}").status_code == 404
    assert client.get(f"{HOME}/foresight/under-way").json() == []


def test_what_is_under_way_takes_one_query_however_many_posts_there_are(
    client: Client, brand: Brand, django_assert_max_num_queries: Any
) -> None:
    profile = grow(make_profile(brand), half_a_year())
    grow(profile, [(clock.now() - timedelta(hours=3 + n), 300.0 + n) for n in range(20)])
    look_ahead(profile)
    with django_assert_max_num_queries(8):
        assert len(client.get(f"{HOME}/foresight/under-way").json()) == 20
