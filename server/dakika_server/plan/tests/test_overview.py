"""Promise: a brand in overview tells its figures of whole days, what stands out, what is planned and what needs a hand."""

from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from dakika_server.brands.models import Brand, Membership
from dakika_server.measures.testing import fill, make_profile
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.results.models import Finding
from dakika_server.shared import clock
from dakika_server.sources.models import CollectionRun, Competitor, Credential, Feed, Profile

pytestmark = pytest.mark.django_db
OVERVIEW = "/api/brands/orrery-house/overview"


def planned(brand: Brand, profile: Profile, hours: float, state: str, title: str = "") -> PlannedPost:
    """A post of the plan, so many hours from now."""
    made = PlannedPost.objects.create(
        brand=brand, title=title, state=state, scheduled_at=clock.now() + timedelta(hours=hours), created_at=clock.now()
    )
    Version.objects.create(
        planned_post=made, profile=profile, text="Tonight we open late", state=state, due_at=made.scheduled_at
    )
    return made


def finding(brand: Brand, text: str, weight: float, **more: Any) -> None:
    now = clock.now()
    Finding.objects.create(
        brand=brand, key=text, kind="spike", text=text, weight=weight, found_at=now, first_found_at=now, **more
    )


@pytest.fixture
def profile(brand: Brand) -> Profile:
    made = make_profile(brand)
    made.credential = Credential.objects.create(
        brand=brand, network=made.network, access=b"", refresh=b"", expires_at=clock.now(), scopes=["read", "publish"]
    )
    made.save()
    start = clock.now().replace(hour=10, minute=0) - timedelta(days=40)
    return fill(made, 38, days=38, start=start)


def test_figures_are_those_of_the_summary_over_whole_days(profile: Profile, viewer: Any, client_of: Any) -> None:
    client = client_of(viewer)
    told = {one["key"]: one for one in client.get(OVERVIEW).json()["figures"]}
    today = clock.now().astimezone(profile.brand.zone).date()
    days = f"first={today - timedelta(days=28)}&last={today - timedelta(days=1)}"
    keys = ",".join(told)
    summary = client.get(f"/api/brands/orrery-house/results/summary?{days}&compare=previous&metrics={keys}").json()
    for one in summary["metrics"]:
        found = told[one["key"]]
        assert (found["value"], found["before"]) == (one["now"]["value"], one["before"]["value"])
        assert found["relative"] == one["change"]["relative"]
    assert told["interactions"]["value"] > 0


def test_the_strongest_new_finding_stands_out(brand: Brand, viewer: Any, client_of: Any) -> None:
    assert client_of(viewer).get(OVERVIEW).json()["stands_out"] is None
    finding(brand, "weak", 1.0)
    finding(brand, "strong", 5.0)
    finding(brand, "dismissed", 9.0, state="dismissed")
    finding(brand, "of long ago", 9.0, is_current=False)
    told = client_of(viewer).get(OVERVIEW).json()
    assert (told["stands_out"]["text"], told["stands_out"]["path"], told["findings"]) == (
        "strong",
        "results/findings",
        2,
    )


def test_what_goes_out_and_what_did_not(brand: Brand, profile: Profile, viewer: Any, client_of: Any) -> None:
    planned(brand, profile, 48, "scheduled", "Later")
    planned(brand, profile, 20, "scheduled")
    planned(brand, profile, 24 * 9, "scheduled", "Beyond")
    planned(brand, profile, 10, "draft", "Draft")
    gone = planned(brand, profile, -3, "failed", "Failed")
    other = make_profile(brand, "brevi")
    Profile.objects.filter(pk=other.pk).update(credential=profile.credential)
    Version.objects.create(planned_post=gone, profile=other, text="x", state="missed", due_at=gone.scheduled_at)
    planned(brand, profile, -24 * 30, "missed", "Of long ago")
    told = client_of(viewer).get(OVERVIEW).json()
    assert (told["planned"]["count"], told["planned"]["next_title"]) == (2, "Tonight we open late")
    assert told["hands"] == [{"text": "1 post was not published", "path": f"plan/{gone.pk}"}]


def test_sources_that_need_a_hand_are_told(brand: Brand, profile: Profile, viewer: Any, client_of: Any) -> None:
    assert client_of(viewer).get(OVERVIEW).json()["hands"] == []
    Credential.objects.update(is_lapsed=True)
    theirs = make_profile(brand, "brevi", name="theirs")
    follow = Competitor.objects.create(brand=brand, name="Theirs")
    Profile.objects.filter(pk=theirs.pk).update(kind="competitor", competitor=follow)
    for failing in (profile, theirs):  # the first by its lapsed authorisation, which is told already
        CollectionRun.objects.create(
            brand=brand, profile=failing, state="failed", asked_at=clock.now(), ended_at=clock.now(), message="x"
        )
    for number in range(2):
        Feed.objects.create(
            brand=brand, address=f"https://x.example/{number}", title="x", failures=3, added_at=clock.now()
        )
    texts = [one["text"] for one in client_of(viewer).get(OVERVIEW).json()["hands"]]
    assert texts == ["1 authorisation has lapsed", "1 profile cannot be collected", "2 feeds cannot be read"]


def test_it_costs_the_same_whatever_there_is(brand: Brand, profile: Profile, viewer: Any, client_of: Any) -> None:
    client = client_of(viewer)
    client.get(OVERVIEW)

    def queries() -> int:
        with CaptureQueriesContext(
            connection,
        ) as found:
            assert client.get(OVERVIEW).status_code == 200
        return len(found)

    few = queries()
    for number in range(4):
        fill(make_profile(brand, "brevi", name=str(number)), 12)
        planned(brand, profile, 20 + number, "scheduled")
        finding(brand, f"finding {number}", 1.0)
    assert queries() <= few + 1


def test_each_sees_their_own_brands_alone(
    brand: Brand, stranger: Any, viewer: Any, client_of: Any, client: Any
) -> None:
    assert client_of(stranger).get(OVERVIEW).status_code == 404
    assert client.get(OVERVIEW).status_code == 401
    Membership.objects.filter(user=viewer).delete()
    assert client_of(viewer).get(OVERVIEW).status_code == 404
