"""Promise: a trial says beforehand how long it takes, draws its weeks once, and ends with what its weeks showed."""

from datetime import date, timedelta
from typing import Any

import numpy as np
import pytest
from dakika_core.timing.trials import draw_weeks
from dakika_core.values.period import start_of_day
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import make_profile
from dakika_server.shared import clock
from dakika_server.sources.models import Profile
from dakika_server.timing.models import Rhythm, Trial, TrialProfile
from dakika_server.timing.rhythms import slots_between
from dakika_server.timing.testing import give_posts, post_daily
from dakika_server.timing.trials import differences_of, evaluate

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/timing/trials"
NOON, EVENING = 2 * 1440 + 720, 2 * 1440 + 1200


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def next_monday() -> date:
    today = clock.now().date()
    return today + timedelta(days=7 - today.weekday())


def start(client: Client, profiles: list[int], **more: Any) -> Any:
    body = {"name": "Noon or evening", "profiles": profiles, "first": [NOON], "second": [EVENING], "pairs": 4,
            "starts": next_monday().isoformat(), "worth": 1.2, "error": 0.05, **more}  # fmt: skip
    return client.post(BASE, body, content_type="application/json")


def past_trial(brand: Brand, profile: Profile, pairs: int) -> Trial:
    begins = next_monday() - timedelta(weeks=2 * pairs + 2)
    trial = Trial.objects.create(
        brand=brand, name="past", first=[NOON], second=[EVENING], zone=brand.time_zone, starts=begins, pairs=pairs,
        worth=1.2, error=0.05, made_at=clock.now(),
    )  # fmt: skip
    TrialProfile.objects.create(trial=trial, profile=profile, seed=11)
    return trial


def publish(brand: Brand, trial: Trial, profile: Profile, better: float) -> None:
    """Posts as the trial drew them, the second time `better` times as good, after two months of plain ones."""
    rng = np.random.default_rng(3)
    posts = []
    for day in range(60):
        at = start_of_day(trial.starts - timedelta(days=60 - day), brand.zone) + timedelta(hours=15)
        posts.append((at, int(400 * rng.lognormal(0, 0.1))))
    for number, is_second in enumerate(draw_weeks(11, trial.pairs)):
        week = start_of_day(trial.starts + timedelta(weeks=number), brand.zone)
        at = week + timedelta(minutes=EVENING if is_second else NOON)
        posts.append((at, int(400 * (better if is_second else 1.0) * rng.lognormal(0, 0.1))))
    give_posts(profile, posts)


def test_it_is_started_with_its_weeks_drawn_and_the_plan_knows_them(client: Client, brand: Brand) -> None:
    profile = make_profile(brand)
    told = start(client, [profile.pk]).json()
    weeks = told["profiles"][0]["weeks"]
    assert len(weeks) == 8
    assert all(a["is_second"] != b["is_second"] for a, b in zip(weeks[::2], weeks[1::2], strict=True))
    assert client.get(BASE).json()["trials"][0]["profiles"][0]["weeks"] == weeks, "drawn once"
    begins = start_of_day(next_monday(), brand.zone)
    due = slots_between(brand, [profile.pk], begins, begins + timedelta(weeks=9))
    assert len(due) == 8
    hours = [slot.at.astimezone(brand.zone).hour == 20 for slot in due]
    assert hours == [week["is_second"] for week in weeks]
    assert {slot.trial for slot in due} == {"Noon or evening"}


def test_two_rhythms_of_each_profile_are_tried_week_by_week(client: Client, brand: Brand) -> None:
    one, other = make_profile(brand), make_profile(brand, name="Other")
    kept, proposed = [NOON, 4 * 1440 + 600], [NOON, 5 * 1440 + 1140]
    rhythms = [
        {"profile": one.pk, "first": kept, "second": proposed},
        {"profile": other.pk, "first": [EVENING], "second": [60]},
    ]
    body = {"name": "As kept or as proposed", "profiles": [one.pk, other.pk], "rhythms": rhythms, "pairs": 3,
            "starts": next_monday().isoformat(), "worth": 1.2, "error": 0.05}  # fmt: skip
    answer = client.post(BASE, body, content_type="application/json")
    assert answer.status_code == 201, answer.json()
    told = client.get(BASE).json()["trials"][0]
    assert told["of_rhythms"]
    by_profile = {member["profile"]: member for member in told["profiles"]}
    assert (by_profile[one.pk]["first"], by_profile[one.pk]["second"]) == (kept, proposed)
    begins = start_of_day(next_monday(), brand.zone)
    due = slots_between(brand, [one.pk, other.pk], begins, begins + timedelta(weeks=7))
    assert len(due) == 6 * 3
    for number, week in enumerate(by_profile[other.pk]["weeks"]):
        starts = start_of_day(next_monday() + timedelta(weeks=number), brand.zone)
        (slot,) = [s for s in due if s.profile_id == other.pk and starts <= s.at < starts + timedelta(weeks=1)]
        assert slot.at - starts == timedelta(minutes=60 if week["is_second"] else EVENING)
    stopped = client.post(f"{BASE}/{told['id']}/stop", {"keep": "second"}, content_type="application/json")
    assert stopped.json()["was_kept"]
    assert [slot.minute for slot in Rhythm.objects.get(profile=one).slots.order_by("minute")] == proposed
    assert [slot.minute for slot in Rhythm.objects.get(profile=other).slots.all()] == [60]


def test_a_time_that_both_rhythms_have_counts_for_the_week_it_was_in(brand: Brand) -> None:
    """A week is one rhythm's alone, so that a shared time spoils nothing and what differs shows."""
    profile = make_profile(brand)
    trial = past_trial(brand, profile, 8)
    Trial.objects.filter(pk=trial.pk).update(first=[], second=[])
    TrialProfile.objects.filter(trial=trial).update(first=[600, NOON], second=[600, EVENING])
    trial.refresh_from_db()
    publish(brand, trial, profile, better=2.0)
    assert np.mean(differences_of(trial, clock.now())) == pytest.approx(np.log(2), abs=0.15)


@pytest.mark.parametrize(
    ("first", "second"),
    [([NOON], [NOON + 30]), ([NOON, EVENING], [60]), ([NOON], [])],
    ids=["the same", "more times", "none"],
)
def test_what_makes_no_two_rhythms_is_refused(
    client: Client, brand: Brand, first: list[int], second: list[int]
) -> None:
    profile = make_profile(brand).pk
    rhythms = [{"profile": profile, "first": first, "second": second}]
    refused = start(client, [profile], rhythms=rhythms)
    assert refused.status_code == 400
    assert "rhythms" in str(refused.json()["errors"])
    other = make_profile(brand, name="Other").pk
    missing = start(client, [profile, other], rhythms=[{"profile": profile, "first": [NOON], "second": [60]}])
    assert missing.status_code == 400, "one of the two has no rhythms"


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"second": [NOON + 30]}, "second"), ({"second": [EVENING, 60]}, "second"), ({"first": []}, "first"),
        ({"starts": "2026-11-25"}, "starts"), ({"pairs": 1}, "pairs"), ({"pairs": 99}, "pairs"),
        ({"error": 0.5}, "error"), ({"name": ""}, "name"),
    ],
)  # fmt: skip
def test_what_makes_no_trial_is_refused_beside_its_field(
    client: Client, brand: Brand, more: dict[str, Any], field: str
) -> None:
    refused = start(client, [make_profile(brand).pk], **more)
    assert refused.status_code == 400
    assert field in refused.json()["errors"]


def test_a_week_that_has_begun_is_not_drawn_and_a_profile_is_in_one_trial(client: Client, brand: Brand) -> None:
    profile = make_profile(brand)
    past = next_monday() - timedelta(days=7)
    assert start(client, [profile.pk], starts=past.isoformat()).status_code == 400
    assert start(client, [profile.pk]).status_code == 201
    assert start(client, [profile.pk]).status_code == 409


def test_others_profiles_are_not_found_and_viewers_start_nothing(
    client: Client, viewer: Any, client_of: Any, brand: Brand
) -> None:
    theirs = make_profile(Brand.objects.create(name="Other", slug="other", time_zone="UTC"))
    assert start(client, [theirs.pk]).status_code == 400
    assert start(client_of(viewer), [make_profile(brand).pk]).status_code == 403
    mine = Trial.objects.create(
        brand=theirs.brand, name="theirs", first=[1], second=[999], zone="UTC", starts=next_monday(), pairs=2,
        worth=1.2, error=0.05, made_at=clock.now(),
    )  # fmt: skip
    assert client.post(f"{BASE}/{mine.pk}/stop", {}, content_type="application/json").status_code == 404


def test_it_says_beforehand_how_long_it_takes(client: Client, brand: Brand) -> None:
    profile = post_daily(make_profile(brand), evening=1.0, days=60)

    def length(worth: float) -> Any:
        body = {"profiles": [profile.pk], "slots": 3, "worth": worth, "error": 0.05}
        return client.post(f"{BASE}/length", body, content_type="application/json").json()

    large, small = length(1.6), length(1.06)
    assert large["pairs"] is not None
    assert large["power"] >= 0.8
    assert small["pairs"] is None


def test_a_difference_that_is_there_ends_the_trial(client: Client, brand: Brand) -> None:
    profile = make_profile(brand)
    trial = past_trial(brand, profile, 8)
    publish(brand, trial, profile, better=2.0)
    differences = differences_of(trial, clock.now())
    assert len(differences) == 8
    assert np.mean(differences) == pytest.approx(np.log(2), abs=0.15)
    ended = evaluate(trial, clock.now())
    assert (ended.state, ended.outcome["verdict"]) == ("over", "second")
    assert ended.outcome["low"] > 1
    kept = client.post(f"{BASE}/{trial.pk}/stop", {"keep": "second"}, content_type="application/json")
    assert kept.json()["was_kept"]
    assert [slot.minute for slot in Rhythm.objects.get(profile=profile).slots.all()] == [EVENING]
    assert client.post(f"{BASE}/{trial.pk}/stop", {"keep": "first"}, content_type="application/json").status_code == 409


def test_weeks_that_are_not_read_yet_are_not_counted(brand: Brand) -> None:
    profile = make_profile(brand)
    trial = past_trial(brand, profile, 8)
    publish(brand, trial, profile, better=1.0)
    half = start_of_day(trial.starts + timedelta(weeks=8), brand.zone)
    assert len(differences_of(trial, half)) == 3, "a pair counts once its last post is 72 hours old"
    assert evaluate(trial, half).state == "running"


def test_it_can_be_stopped_at_any_time_and_keeps_what_it_said(client: Client, brand: Brand) -> None:
    pk = start(client, [make_profile(brand).pk]).json()["id"]
    told = client.post(f"{BASE}/{pk}/stop", {}, content_type="application/json").json()
    assert (told["state"], told["outcome"]["pairs"], told["outcome"]["verdict"]) == ("stopped", 0, "running")
    assert told["ended_at"]
