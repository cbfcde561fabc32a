"""Promise: what is due is asked for once, in fair turns, and nothing that was forgotten stays so."""

from datetime import datetime, timedelta
from typing import Any

import pytest
from django.db import connection
from procrastinate.contrib.django.models import ProcrastinateJob

from dakika_server.brands.models import Brand
from dakika_server.jobs.forgotten import MOST_FAILED, take_up_forgotten
from dakika_server.shared import clock
from dakika_server.sources import jobs
from dakika_server.sources.collect import slots
from dakika_server.sources.models import CollectionRun, Competitor, Feed, Profile

pytestmark = pytest.mark.django_db
FORGOTTEN = jobs.FORGOTTEN_AFTER + timedelta(minutes=1)


@pytest.fixture(autouse=True)
def one_connection(monkeypatch: pytest.MonkeyPatch) -> None:
    """A test's transaction lives on its connection."""
    monkeypatch.setattr("dakika_server.jobs.tasks.close_old_connections", lambda: None)


def a_profile(brand: Brand, number: int, *, due: timedelta | None = None, **values: Any) -> Profile:
    """A competitor's profile that is due since a while, or was never looked at."""
    competitor, _ = Competitor.objects.get_or_create(brand=brand, name="Somebody else")
    made = {
        "competitor": competitor, "network": "commons", "external_id": f"c{number}", "handle": f"h{number}", "name": f"n{number}",
        "kind": "competitor", "added_at": clock.now(), "next_run_at": clock.now() - due if due is not None else None,
    }  # fmt: skip
    return Profile.objects.create(brand=brand, **(made | values))


def asked() -> list[int]:
    """Whose runs were asked for, in this order; each has its job."""
    runs = list(CollectionRun.objects.order_by("pk").values_list("pk", "profile_id"))
    jobs_of = [job.args["run_id"] for job in ProcrastinateJob.objects.filter(task_name="sources.collect_profile")]
    assert sorted(jobs_of) == sorted(run for run, _ in runs)
    return [profile for _, profile in runs]


def test_only_what_is_due_is_asked_for_and_only_once(brand: Brand) -> None:
    late, never = a_profile(brand, 1, due=timedelta(hours=2)), a_profile(brand, 2)
    a_profile(brand, 3, due=timedelta(hours=-1))
    a_profile(brand, 4, due=timedelta(hours=1), is_followed=False)
    a_profile(brand, 5, due=timedelta(hours=1), external_id="file:5")
    a_profile(brand, 6, due=timedelta(hours=1), network="nobodys")
    a_profile(brand, 7, kind="own", competitor=None)  # its connection lapsed: nobody may ask for it
    jobs.collect_due.func(0)
    assert set(asked()) == {late.pk, never.pk}
    jobs.collect_due.func(0)
    assert len(asked()) == 2


def test_no_brand_is_served_twice_before_another_was_served_once(brand: Brand, stranger: Any) -> None:
    other = Brand.objects.get(slug="lantern-line")
    many = [
        a_profile(brand, n, due=timedelta(hours=9, minutes=-n)).pk for n in range(jobs.MOST_STARTED_PER_NETWORK + 5)
    ]
    few = a_profile(other, 99, due=timedelta(minutes=1))
    jobs.collect_due.func(0)
    found = asked()
    assert len(found) == jobs.MOST_STARTED_PER_NETWORK
    assert few.pk in found
    assert set(found) - {few.pk} == set(many[: jobs.MOST_STARTED_PER_NETWORK - 1])


@pytest.mark.parametrize(
    ("state", "asked_ago", "resume_in", "is_taken_up"),
    [
        ("running", FORGOTTEN, None, True),
        ("waiting", FORGOTTEN, None, True),
        ("running", FORGOTTEN, -FORGOTTEN, True),
        ("running", FORGOTTEN, timedelta(hours=1), False),  # a network said: not before that
        ("running", timedelta(seconds=5), None, False),
        ("complete", FORGOTTEN, None, False),
        ("failed", FORGOTTEN, None, False),
    ],
)
def test_runs_that_nobody_carries_on_are_taken_up(
    state: str, asked_ago: timedelta, resume_in: timedelta | None, is_taken_up: bool, brand: Brand
) -> None:
    now = clock.now()
    CollectionRun.objects.create(
        brand=brand, profile=a_profile(brand, 1), state=state, asked_at=now - asked_ago,
        resume_at=now + resume_in if resume_in is not None else None,
        ended_at=now if state in ("complete", "failed") else None,
    )  # fmt: skip
    take_up_forgotten()
    assert ProcrastinateJob.objects.filter(task_name="sources.collect_profile").exists() == is_taken_up


def a_run(brand: Brand, ended_at: datetime | None = None) -> CollectionRun:
    return CollectionRun.objects.create(
        brand=brand, profile=a_profile(brand, 1), asked_at=clock.now(), ended_at=ended_at
    )


def test_a_run_that_is_over_or_gone_is_left_alone(brand: Brand, monkeypatch: pytest.MonkeyPatch) -> None:
    def never(run: CollectionRun) -> None:
        raise AssertionError("a run that is over was carried on")

    monkeypatch.setattr("dakika_server.sources.collect.collect", never)
    run = a_run(brand, ended_at=clock.now())
    jobs.collect_profile.func(run.pk)
    jobs.collect_profile.func(999_999)


def test_a_network_where_all_places_are_taken_is_asked_a_moment_later(
    brand: Brand, monkeypatch: pytest.MonkeyPatch
) -> None:
    run = a_run(brand)
    monkeypatch.setattr(slots, "place_at", _no_place)
    jobs.collect_profile.func(run.pk)
    job = ProcrastinateJob.objects.get(task_name="sources.collect_profile")
    assert job.args == {"run_id": run.pk}
    assert job.scheduled_at is not None
    waits = job.scheduled_at - clock.now()
    assert timedelta(0) < waits <= timedelta(seconds=jobs.AGAIN_WHEN_FULL_SECONDS)


class _no_place:  # noqa: N801 (it stands in for a function)
    def __init__(self, network: str) -> None:
        assert network == "commons"

    def __enter__(self) -> bool:
        return False

    def __exit__(self, *said: object) -> None:
        """Nothing was held."""


def test_feeds_are_fetched_when_they_are_due(brand: Brand) -> None:
    now = clock.now()

    def a_feed(name: str, **values: Any) -> Feed:
        return Feed.objects.create(brand=brand, address=f"https://{name}.example/feed", added_at=now, **values)

    due = a_feed("due", next_at=now - timedelta(minutes=1))
    a_feed("later", next_at=now + timedelta(minutes=1))
    a_feed("left", next_at=now - timedelta(minutes=1), is_followed=False)
    jobs.feeds_due.func(0)
    assert [j.args for j in ProcrastinateJob.objects.filter(task_name="sources.fetch_feed")] == [{"feed_id": due.pk}]


def test_what_has_a_job_is_not_asked_for_twice_and_what_fails_always_is_left(brand: Brand) -> None:
    long_ago = clock.now() - FORGOTTEN
    run = CollectionRun.objects.create(brand=brand, profile=a_profile(brand, 1), state="running", asked_at=long_ago)
    assert take_up_forgotten() == 1
    assert take_up_forgotten() == 0
    every = ProcrastinateJob.objects.filter(task_name="sources.collect_profile", args__run_id=run.pk)
    for _ in range(MOST_FAILED):
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_jobs SET status = 'failed' WHERE status = 'todo'")
        take_up_forgotten()
    assert every.filter(status="todo").count() == 0
    assert every.count() == MOST_FAILED


def test_a_job_far_in_the_future_is_none_to_count_on(brand: Brand) -> None:
    long_ago = clock.now() - FORGOTTEN
    run = CollectionRun.objects.create(brand=brand, profile=a_profile(brand, 1), state="running", asked_at=long_ago)
    jobs.collect_profile.configure(schedule_in={"hours": 5}).defer(run_id=run.pk)
    assert take_up_forgotten() == 1
