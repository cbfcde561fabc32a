"""Promise: a planned post goes out once, at its minute, whatever crashes; and a failure says what to do."""

from datetime import timedelta
from typing import Any

import pytest

from dakika_server.networks.connectors.commons import CommonsConnector
from dakika_server.plan.actions import VersionInput, save_planned_post, schedule_post, take_back
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.plan.publish import TryLater, publish_version
from dakika_server.shared import clock
from dakika_server.shared.errors import Conflict, Problem
from dakika_server.sources.models import Post

pytestmark = pytest.mark.django_db


@pytest.fixture
def planned(editor: Any, brand: Any, own_profile: Any) -> PlannedPost:
    versions = [VersionInput(profile_id=own_profile(n).pk, text=f"Words for {n}") for n in ("commons", "brevi")]
    return save_planned_post(editor, brand, title="T", versions=versions)


def sent(world: Any) -> list[str]:
    return [entry["text"] for entry in world.state.data["sent"]]


def test_it_goes_out_with_one_version_each(planned: PlannedPost, editor: Any, world: Any) -> None:
    before = len(sent(world))
    schedule_post(editor, planned)
    for version in planned.versions.all():
        publish_version(version.pk)
        publish_version(version.pk)
    planned.refresh_from_db()
    assert planned.state == "published"
    assert sent(world)[before:] == ["Words for commons", "Words for brevi"]
    assert Post.objects.filter(version__planned_post=planned).count() == 2


def test_killed_between_sending_and_recording_it_is_neither_doubled_nor_lost(
    planned: PlannedPost, editor: Any, world: Any, monkeypatch: Any
) -> None:
    before = len(sent(world))
    schedule_post(editor, planned)
    version = planned.versions.get(profile__network="commons")

    class Killed(BaseException):
        pass

    def die(*_: Any) -> None:
        raise Killed

    with monkeypatch.context() as patched:
        patched.setattr("dakika_server.plan.publish._record", die)
        with pytest.raises(Killed):
            publish_version(version.pk)
    version.refresh_from_db()
    assert version.state == "publishing"
    publish_version(version.pk)
    version.refresh_from_db()
    assert version.state == "published"
    assert sent(world)[before:] == ["Words for commons"]


def test_a_network_that_is_away_is_asked_again(planned: PlannedPost, editor: Any, world: Any, monkeypatch: Any) -> None:
    monkeypatch.setattr("time.sleep", lambda _: None)
    schedule_post(editor, planned)
    version = planned.versions.get(profile__network="commons")
    world.faults(commons__error500=1)
    with pytest.raises(TryLater):
        publish_version(version.pk)
    world.faults(commons__error500=0)
    publish_version(version.pk)
    version.refresh_from_db()
    assert version.state == "published"


def test_a_lapsed_authorisation_fails_with_what_to_do(planned: PlannedPost, editor: Any, world: Any) -> None:
    schedule_post(editor, planned)
    world.faults(commons__revoked=1)
    version = planned.versions.get(profile__network="commons")
    publish_version(version.pk)
    planned.refresh_from_db()
    version.refresh_from_db()
    assert planned.state == "failed"
    assert "schedule the post again" in version.error


def test_what_is_taken_back_or_not_due_is_not_sent(planned: PlannedPost, editor: Any, world: Any) -> None:
    before = len(sent(world))
    schedule_post(editor, planned, at=clock.now() + timedelta(hours=1))
    for version in planned.versions.all():
        publish_version(version.pk)
    take_back(editor, planned)
    PlannedPost.objects.update(scheduled_at=clock.now() - timedelta(minutes=1))
    for version in planned.versions.all():
        publish_version(version.pk)
    assert len(sent(world)) == before


def test_a_minute_long_gone_is_missed_not_sent_late(planned: PlannedPost, editor: Any, world: Any) -> None:
    schedule_post(editor, planned)
    PlannedPost.objects.update(scheduled_at=clock.now() - timedelta(hours=9))
    publish_version(planned.versions.first().pk)
    assert Version.objects.filter(state="missed").count() == 1


def test_what_a_network_would_refuse_cannot_be_scheduled(editor: Any, brand: Any, own_profile: Any) -> None:
    long = save_planned_post(editor, brand, versions=[VersionInput(profile_id=own_profile("brevi").pk, text="x" * 301)])
    with pytest.raises(Problem, match="too long for Brevi"):
        schedule_post(editor, long)


def test_two_people_at_once_do_not_write_over_each_other(planned: PlannedPost, editor: Any, brand: Any) -> None:
    versions = [VersionInput(profile_id=v.profile_id, text="mine") for v in planned.versions.all()]
    save_planned_post(editor, brand, planned=planned, edition=1, versions=versions)
    with pytest.raises(Conflict, match="Somebody changed"):
        save_planned_post(editor, brand, planned=planned, edition=1, versions=versions)


def test_the_job_is_enqueued_with_the_data_or_not_at_all(planned: PlannedPost, editor: Any) -> None:
    from django.db import transaction
    from procrastinate.contrib.django.models import ProcrastinateJob

    before = ProcrastinateJob.objects.filter(task_name="plan.publish").count()
    with pytest.raises(ZeroDivisionError), transaction.atomic():
        schedule_post(editor, planned, at=clock.now() + timedelta(hours=1))
        raise ZeroDivisionError
    assert ProcrastinateJob.objects.filter(task_name="plan.publish").count() == before
    schedule_post(editor, planned, at=clock.now() + timedelta(hours=1))
    assert ProcrastinateJob.objects.filter(task_name="plan.publish").count() == before + 2


def test_the_connector_says_the_same_post_twice_for_one_key(own_profile: Any, world: Any) -> None:
    from dakika_server.networks.connectors.base import Target
    from dakika_server.networks.connectors.registry import connected
    from dakika_server.sources.collect import token_of

    profile = own_profile("commons")
    with connected("commons", token_of(profile)) as network:
        assert isinstance(network, CommonsConnector)
        target = Target(handle="orreryhouse", external_id="pg-orreryhouse", is_own=True)
        first = network.publish(target, text="Once", idempotency_key="k1")
        assert network.publish(target, text="Once", idempotency_key="k1") == first
