"""Promise: a rhythm is proposed for several profiles at once, kept when somebody says so, and nobody's is overwritten unseen."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import make_profile
from dakika_server.shared import clock
from dakika_server.sources.models import Competitor, Profile
from dakika_server.timing.findings import moved_rhythms
from dakika_server.timing.models import Rhythm, StandingSlot
from dakika_server.timing.rhythms import slots_between
from dakika_server.timing.testing import post_daily

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/timing"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def propose(client: Client, wishes: dict[int, int], **rules: Any) -> Any:
    body = {"wishes": [{"profile": pk, "times": times} for pk, times in wishes.items()], "rules": rules}
    return client.post(f"{BASE}/rhythms/propose", body, content_type="application/json")


def keep(client: Client, pk: int, minutes: list[int], edition: int | None = None) -> Any:
    body = {"slots": [{"minute": minute} for minute in minutes], "edition": edition}
    return client.put(f"{BASE}/rhythms/{pk}", body, content_type="application/json")


def test_two_profiles_are_given_times_under_the_rules_with_what_they_gain(client: Client, brand: Brand) -> None:
    one = post_daily(make_profile(brand), evening=2.5, days=70)
    two = post_daily(make_profile(brand, network="brevi"), evening=2.5, days=70)
    told = propose(client, {one.pk: 3, two.pk: 4}, most_per_day=1, days_off=[6], learning=0.0).json()
    assert [len(profile["slots"]) for profile in told["profiles"]] == [3, 4]
    minutes = [slot["minute"] for profile in told["profiles"] for slot in profile["slots"]]
    assert len(set(minutes)) == 7, "no two in one quarter of an hour"
    assert all(minute // 1440 != 6 and 7 <= minute // 60 % 24 < 23 for minute in minutes)
    assert told["gain"]["low"] < told["gain"]["ratio"] < told["gain"]["high"]
    assert told["gain"]["ratio"] > 1.1
    assert not Rhythm.objects.exists(), "a proposal keeps nothing"


def test_a_new_profile_is_proposed_something_too_and_what_has_no_room_is_said(client: Client, brand: Brand) -> None:
    new = make_profile(brand)
    told = propose(client, {new.pk: 9}, most_per_day=1).json()
    (profile,) = told["profiles"]
    assert (len(profile["slots"]), profile["short"], profile["stands_by"]) == (7, 2, "network")
    assert profile["gain"] is None, "there is no rhythm of today to hold it against"


def test_a_new_profile_does_not_hide_what_the_others_gain(client: Client, brand: Brand) -> None:
    old, new = post_daily(make_profile(brand), evening=2.5, days=70), make_profile(brand, network="brevi")
    told = propose(client, {old.pk: 3, new.pk: 2}, learning=0.0).json()
    assert told["gain"]["ratio"] == pytest.approx(told["profiles"][0]["gain"]["ratio"])
    assert told["profiles"][1]["gain"] is None


def test_a_rhythm_is_kept_changed_and_emptied(client: Client, brand: Brand) -> None:
    profile = make_profile(brand)
    kept = keep(client, profile.pk, [1200, 4080, 4080]).json()
    assert ([slot["minute"] for slot in kept["slots"]], kept["edition"]) == ([1200, 4080], 1)
    assert keep(client, profile.pk, [600], edition=1).json()["edition"] == 2
    (listed,) = client.get(f"{BASE}/rhythms").json()
    assert [slot["minute"] for slot in listed["slots"]] == [600]
    assert keep(client, profile.pk, [], edition=2).json()["slots"] == []


def test_what_a_colleague_kept_in_between_is_not_overwritten(client: Client, brand: Brand) -> None:
    profile = make_profile(brand)
    keep(client, profile.pk, [1200])
    refused = keep(client, profile.pk, [600])
    assert refused.status_code == 409
    assert "colleague" in refused.json()["detail"]
    assert StandingSlot.objects.get().minute == 1200


@pytest.mark.parametrize("minutes", [[-1], [10080], list(range(51)), ["x"]])
def test_times_that_are_none_are_refused(client: Client, brand: Brand, minutes: Any) -> None:
    assert keep(client, make_profile(brand).pk, minutes).status_code == 400


def test_anothers_profiles_and_competitors_get_no_rhythm(client: Client, brand: Brand) -> None:
    theirs = make_profile(Brand.objects.create(name="Other", slug="other", time_zone="UTC"))
    rival = make_profile(brand, network="brevi")
    gallery = Competitor.objects.create(brand=brand, name="Gnomon Gallery")
    Profile.objects.filter(pk=rival.pk).update(kind="competitor", competitor=gallery)
    for profile in (theirs, rival):
        assert keep(client, profile.pk, [600]).status_code == 400
        assert propose(client, {profile.pk: 3}).status_code == 400
    assert not Rhythm.objects.exists()


def test_whoever_may_only_look_keeps_nothing(viewer: Any, client_of: Any, brand: Brand) -> None:
    profile = make_profile(brand)
    assert keep(client_of(viewer), profile.pk, [600]).status_code == 403
    assert propose(client_of(viewer), {profile.pk: 2}).status_code == 200


def test_slots_keep_the_local_clock_through_a_change_of_clocks(brand: Brand, editor: Any, client: Client) -> None:
    """Lisbon goes back an hour on 2026-10-25 and forward on 2026-03-29, when 01:30 does not exist."""
    profile = make_profile(brand)
    keep(client, profile.pk, [6 * 1440 + 90, 1 * 1440 + 20 * 60])
    autumn = slots_between(brand, [profile.pk], datetime(2026, 10, 19, tzinfo=UTC), datetime(2026, 11, 2, tzinfo=UTC))
    assert [slot.at.isoformat() for slot in autumn] == [
        "2026-10-20T19:00:00+00:00", "2026-10-25T00:30:00+00:00", "2026-10-27T20:00:00+00:00",
        "2026-11-01T01:30:00+00:00"]  # fmt: skip
    spring = slots_between(brand, [profile.pk], datetime(2026, 3, 29, tzinfo=UTC), datetime(2026, 3, 30, tzinfo=UTC))
    assert [slot.at.isoformat() for slot in spring] == ["2026-03-29T01:30:00+00:00"]


def test_free_and_taken_slots_of_the_days_ahead_are_told(client: Client, brand: Brand) -> None:
    profile = make_profile(brand)
    keep(client, profile.pk, [600, 4000])
    told = client.get(f"{BASE}/slots?profile={profile.pk}&days=14").json()
    assert len(told) == 4
    assert not any(slot["is_taken"] for slot in told)
    made = client.post("/api/brands/orrery-house/plan/fill", {"profiles": [profile.pk], "days": 14},
                       content_type="application/json")  # fmt: skip
    assert made.json() == {"drafts": 4}
    again = client.post("/api/brands/orrery-house/plan/fill", {"profiles": [profile.pk], "days": 14},
                        content_type="application/json")  # fmt: skip
    assert again.json() == {"drafts": 0}
    assert all(slot["is_taken"] for slot in client.get(f"{BASE}/slots?profile={profile.pk}").json())


def test_a_rhythm_that_the_data_moved_away_from_is_a_finding_and_a_good_one_is_not(
    client: Client, brand: Brand
) -> None:
    profile = post_daily(make_profile(brand), evening=3.0)
    keep(client, profile.pk, [day * 1440 + 12 * 60 for day in range(4)])
    ((statement, step),) = moved_rhythms(brand, clock.now())
    assert statement.evidence["low"] > 1
    assert step["path"].startswith("timing/rhythm")
    assert [slot.minute for slot in StandingSlot.objects.all()] == [day * 1440 + 720 for day in range(4)]
    best = [slot["minute"] for slot in propose(client, {profile.pk: 4}, learning=0.0).json()["profiles"][0]["slots"]]
    keep(client, profile.pk, best, edition=1)
    assert moved_rhythms(brand, clock.now() + timedelta(minutes=1)) == []
