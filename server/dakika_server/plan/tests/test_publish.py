"""Promise: a planned post goes out once, at its minute, whatever crashes; and a failure says what to do."""

from datetime import timedelta
from typing import Any

import pytest
from django.db import connection

from dakika_server.jobs.forgotten import take_up_forgotten
from dakika_server.networks.connectors.commons import CommonsConnector
from dakika_server.plan.actions import save_planned_post, schedule_post, take_back
from dakika_server.plan.content import VersionInput
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.plan.publish import MOST_ATTEMPTS, TryLater, publish_version
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
    assert "send the post again" in version.error


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
    Version.objects.update(due_at=clock.now() - timedelta(hours=9))
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
    from dakika_server.networks.connectors.base import PostOut, Target
    from dakika_server.networks.connectors.registry import connected
    from dakika_server.sources.collect import token_of

    profile = own_profile("commons")
    with connected("commons", token_of(profile)) as network:
        assert isinstance(network, CommonsConnector)
        target = Target(handle="orreryhouse", external_id="pg-orreryhouse", is_own=True)
        first = network.publish(target, PostOut(text="Once"), idempotency_key="k1")
        assert network.publish(target, PostOut(text="Once"), idempotency_key="k1") == first


def half_published(planned: PlannedPost, editor: Any, world: Any) -> tuple[Version, Version]:
    """Out on one network, failed on the other."""
    schedule_post(editor, planned)
    out, failed = (planned.versions.get(profile__network=n) for n in ("commons", "brevi"))
    publish_version(out.pk)
    world.faults(brevi__revoked=1)
    publish_version(failed.pk)
    for thing in (planned, out, failed):
        thing.refresh_from_db()
    assert (planned.state, out.state, failed.state) == ("failed", "published", "failed")
    return out, failed


def test_what_went_out_stands_whatever_is_written_of_the_rest(
    planned: PlannedPost, editor: Any, brand: Any, world: Any
) -> None:
    out, failed = half_published(planned, editor, world)
    key = failed.idempotency_key
    new = [
        VersionInput(profile_id=out.profile_id, text=out.text),
        VersionInput(profile_id=failed.profile_id, text="Anew"),
    ]
    save_planned_post(editor, brand, planned=planned, edition=planned.edition, versions=new)
    before = (out.state, out.text, out.post_id, out.idempotency_key, out.external_id)
    out.refresh_from_db()
    failed.refresh_from_db()
    assert (out.state, out.text, out.post_id, out.idempotency_key, out.external_id) == before
    assert (failed.state, failed.text) == ("draft", "Anew")
    assert failed.idempotency_key != key, "other words are another post"


@pytest.mark.parametrize("what", ["changed", "taken away"])
def test_what_went_out_is_neither_changed_nor_taken_away(
    what: str, planned: PlannedPost, editor: Any, brand: Any, world: Any
) -> None:
    out, failed = half_published(planned, editor, world)
    new = [VersionInput(profile_id=failed.profile_id, text=failed.text)]
    if what == "changed":
        new.append(VersionInput(profile_id=out.profile_id, text="Other words"))
    with pytest.raises(Conflict, match=f"was published and cannot be {what}"):
        save_planned_post(editor, brand, planned=planned, edition=planned.edition, versions=new)
    failed.refresh_from_db()
    assert failed.state == "failed"
    assert Post.objects.get(pk=out.post_id).text == "Words for commons"


def test_the_same_words_sent_again_keep_their_key(planned: PlannedPost, editor: Any, brand: Any, world: Any) -> None:
    out, failed = half_published(planned, editor, world)
    same = [VersionInput(profile_id=v.profile_id, text=v.text) for v in (out, failed)]
    save_planned_post(editor, brand, planned=planned, edition=planned.edition, versions=same)
    assert Version.objects.get(pk=failed.pk).idempotency_key == failed.idempotency_key


def test_a_change_without_an_edition_is_refused(planned: PlannedPost, editor: Any, brand: Any) -> None:
    with pytest.raises(Problem, match="which edition"):
        save_planned_post(editor, brand, planned=planned, title="Mine")
    with pytest.raises(Conflict, match="Somebody changed"):
        schedule_post(editor, planned, at=clock.now() + timedelta(hours=1), edition=planned.edition + 7)


def test_a_collected_post_is_changed_by_collection_alone(planned: PlannedPost, editor: Any, world: Any) -> None:
    """Killed after sending, collected meanwhile: what the network shows stands."""
    schedule_post(editor, planned)
    version = planned.versions.get(profile__network="commons")
    publish_version(version.pk)
    Post.objects.update(text="As the network shows it")
    Version.objects.filter(pk=version.pk).update(state="publishing", post=None)
    publish_version(version.pk)
    version.refresh_from_db()
    assert version.state == "published"
    assert version.post is not None
    assert version.post.text == "As the network shows it"


@pytest.mark.parametrize("where", ["publish", "_record"])
def test_whatever_a_network_answers_nothing_stays_publishing(
    where: str, planned: PlannedPost, editor: Any, world: Any, monkeypatch: Any
) -> None:
    schedule_post(editor, planned)
    version = planned.versions.get(profile__network="commons")

    def nonsense(*_: Any, **__: Any) -> None:
        raise KeyError("id")

    with monkeypatch.context() as patched:
        if where == "publish":
            patched.setattr(CommonsConnector, "publish", nonsense)
        else:
            patched.setattr("dakika_server.plan.publish._record", nonsense)
        for _ in range(MOST_ATTEMPTS - 1):
            with pytest.raises(TryLater):
                publish_version(version.pk)
        version.refresh_from_db()
        assert (version.state, "Trying again" in version.error) == ("publishing", True)
        publish_version(version.pk)
    version.refresh_from_db()
    assert version.state == "failed"
    assert "It was tried 8 times" in version.error


@pytest.mark.parametrize(("state", "is_asked"), [("scheduled", True), ("publishing", True), ("published", False)])
def test_what_is_publishing_without_a_job_is_taken_up(
    state: str, is_asked: bool, planned: PlannedPost, editor: Any
) -> None:
    from procrastinate.contrib.django.models import ProcrastinateJob

    schedule_post(editor, planned)
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM procrastinate_jobs")
    Version.objects.update(state=state, due_at=clock.now() - timedelta(minutes=1))
    take_up_forgotten()
    take_up_forgotten()
    assert ProcrastinateJob.objects.filter(task_name="plan.publish").count() == (2 if is_asked else 0)
