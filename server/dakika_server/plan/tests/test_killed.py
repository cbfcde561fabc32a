"""Promise: whatever is killed while publishing, on whichever network: nothing is doubled, nothing lost, nothing stuck."""

import os
import random
import signal
import time
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from dakika_core.plan.states import State, overall
from django.db import connections
from django.utils import timezone
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from dakika_server.brands.models import Brand
from dakika_server.jobs.forgotten import take_up_forgotten
from dakika_server.media.testing import brought, picture, video
from dakika_server.networks.connectors.client import ClientConnector
from dakika_server.plan.actions import delete_planned_post, move_post, save_planned_post, schedule_post, take_back
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.plan.pauses import begin_pause, end_pause
from dakika_server.plan.publish import TryLater, publish_version, say_first
from dakika_server.plan.settling import settle_version
from dakika_server.shared import clock
from dakika_server.shared.errors import Conflict, Problem
from dakika_server.sources.models import Post

NETWORKS = ("brevi", "commons", "corkboard", "doorstep", "guildhall", "longplay", "pictor", "vignette")
FILMED = ("longplay", "vignette")


class Killed(BaseException):
    """As a kill: nothing catches it."""


def written(editor: Any, brand: Brand, profile: Any, text: str, assets: dict[str, int]) -> PlannedPost:
    """A post with a file, a title, a board and a first comment, as far as the network takes them."""
    media = (assets["film" if profile.network in FILMED else "still"],)
    return save_planned_post(
        editor, brand, title=text,
        common=Common(text=text, headline="A clock", media=media, first_comment="Doors at eight"),
        versions=[VersionInput(profile_id=profile.pk, options={"board": "Night sky"} if profile.network == "corkboard" else {})],
    )  # fmt: skip


@pytest.fixture
def assets(editor: Any, brand: Brand, media_folder: Any) -> dict[str, int]:
    return {
        "still": brought(editor, brand, picture(800, 1200)).pk,
        "film": brought(editor, brand, video(frames=100, width=90)).pk,
    }


def sent_with(world: Any, text: str) -> int:
    return sum(text in entry["text"] for entry in world.state.data["sent"])


def dies_in(function: Callable[..., Any], *, after: bool) -> Callable[..., Any]:
    """The same, which dies before it does anything, or when it has done everything."""

    def dying(*args: Any, **kwargs: Any) -> Any:
        if after:
            function(*args, **kwargs)
        raise Killed

    return dying


STEPS: dict[str, tuple[Any, str, bool]] = {
    "before anything is made": ("dakika_server.plan.publish.post_out", "", False),
    "before a file is brought": (ClientConnector, "_bring", False),
    "after a file was brought": (ClientConnector, "_bring", True),
    "before it is written down": ("dakika_server.plan.publish._record", "", False),
    "while it is written down": ("dakika_server.plan.publish.take_published", "", True),
    "before its first comment is asked for": ("dakika_server.plan.publish.ask", "", False),
}


@pytest.mark.django_db
@pytest.mark.parametrize("step", STEPS)
@pytest.mark.parametrize("network", NETWORKS)
def test_killed_at_any_step_it_goes_out_once(
    network: str, step: str, editor: Any, brand: Brand, own_profile: Any, world: Any, assets: Any, monkeypatch: Any
) -> None:
    text = f"Killed {network} {step}"
    planned = written(editor, brand, own_profile(network), text, assets)
    schedule_post(editor, planned)
    version = planned.versions.get()
    where, name, after = STEPS[step]
    with monkeypatch.context() as patched:
        if isinstance(where, str):
            module, _, name = where.rpartition(".")
            import importlib

            found = importlib.import_module(module)
            patched.setattr(where, dies_in(getattr(found, name), after=after))
        else:
            patched.setattr(where, name, dies_in(getattr(where, name), after=after))
        try:
            publish_version(version.pk)
        except Killed:
            pass
        else:
            # Doorstep takes files within the post, and not everybody takes first comments: there is no such step.
            assert network == "doorstep" or step == "before its first comment is asked for"
    for _ in range(2):
        publish_version(version.pk)
        say_first(version.pk)
    version.refresh_from_db()
    assert (version.state, sent_with(world, text)) == ("published", 1)
    assert Post.objects.filter(version=version).count() == 1
    if version.first_comment_state:
        assert version.first_comment_state == "done"
        assert len(world.state.data["remarks"][_number(version)]) == 1


def _number(version: Version) -> str:
    return version.external_id.rpartition("/")[2]


KILLS = 200


@pytest.mark.django_db(transaction=True)
def test_two_hundred_kills_of_two_workers_double_and_lose_nothing(
    editor: Any, brand: Brand, own_profile: Any, world: Any, assets: Any
) -> None:
    chance = random.Random(17)
    for network in NETWORKS:
        world.faults(**{f"{network}__no_limit": 1})
    profiles = {network: own_profile(network) for network in NETWORKS}
    texts = [f"Kill {i} at {network}" for network in NETWORKS for i in range(4)]
    for text in texts:
        schedule_post(editor, written(editor, brand, profiles[text.rpartition(" ")[2]], text, assets))
    versions = list(Version.objects.filter(planned_post__title__in=texts).values_list("pk", flat=True))
    killed = 0
    while killed < KILLS:
        left = list(Version.objects.filter(pk__in=versions).exclude(state=State.PUBLISHED).values_list("pk", flat=True))
        if not left:
            # All are out: the same once more, as if none of it had been written down.
            Version.objects.filter(pk__in=versions).update(state=State.PUBLISHING.value, post=None)
            continue
        wanted = chance.choice(left)
        connections.close_all()
        children = [_child(wanted) for _ in range(2)]
        time.sleep(chance.uniform(0.0, 0.12))
        for child in children:
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
        killed += 2
    take_up_forgotten()
    for pk in versions:
        publish_version(pk)
    found = Version.objects.filter(pk__in=versions)
    assert set(found.values_list("state", flat=True)) == {"published"}
    assert {text: sent_with(world, text) for text in texts} == dict.fromkeys(texts, 1)
    assert found.filter(post=None).count() == 0
    assert set(PlannedPost.objects.filter(title__in=texts).values_list("state", flat=True)) == {"published"}


def _child(version: int) -> int:
    """A worker of its own that publishes, until somebody kills it."""
    child = os.fork()
    if child == 0:
        try:
            publish_version(version)
        finally:
            os._exit(0)
    return child


@pytest.fixture
def profiles(own_profile: Any) -> list[Any]:
    return [own_profile(network) for network in ("commons", "brevi")]


EVENTS = ("save", "schedule", "later", "take back", "publish", "fail", "pause", "end", "send", "leave", "time passes", "delete")  # fmt: skip


@pytest.mark.django_db
@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(events=st.lists(st.sampled_from(EVENTS), min_size=1, max_size=14))
def test_in_any_order_of_events_the_whole_follows_its_versions_and_nothing_goes_out_twice(
    events: list[str], editor: Any, brand: Brand, profiles: list[Any], world: Any, monkeypatch: Any
) -> None:
    monkeypatch.setattr("time.sleep", lambda _: None)
    mark = f"In any order {timezone.now().timestamp()}"

    def versions() -> list[VersionInput]:
        return [VersionInput(profile_id=profile.pk, text=mark) for profile in profiles]

    planned = save_planned_post(editor, brand, title="T", versions=versions())
    for event in events:
        planned = PlannedPost.objects.get(pk=planned.pk)
        try:
            _happens(event, editor, planned, versions, world)
        except (Conflict, Problem, TryLater):
            pass  # refused in words, or to be tried again
        except Exception as error:
            if type(error).__name__ != "ValidationError":
                raise
        if not PlannedPost.objects.filter(pk=planned.pk).exists():
            break
        planned.refresh_from_db()
        states = [State(state) for state in planned.versions.values_list("state", flat=True)]
        if any(state not in (State.DRAFT, State.SCHEDULED) for state in states):
            assert planned.state == overall(states)
        for version in planned.versions.all():
            assert version.state not in ("scheduled", "publishing") or version.due_at is not None
            assert version.state != "published" or version.post_id is not None
        assert sent_with(world, mark) <= len(profiles), "each network has it once at most"
    end_pause(editor, brand, profile_id=None, send_overdue=False)
    world.faults(commons__revoked=0, brevi__revoked=0)


def _happens(event: str, editor: Any, planned: PlannedPost, versions: Any, world: Any) -> None:
    brand, now = planned.brand, clock.now()
    if event == "save":
        save_planned_post(
            editor, brand, planned=planned, edition=planned.edition, title="T", scheduled_at=planned.scheduled_at,
            versions=versions(),
        )  # fmt: skip
    elif event == "schedule":
        schedule_post(editor, planned)
    elif event == "later":
        move_post(editor, planned, at=now + timedelta(hours=1), edition=planned.edition)
    elif event == "take back":
        take_back(editor, planned)
    elif event in ("publish", "fail"):
        world.faults(commons__revoked=float(event == "fail"), brevi__revoked=0)
        for version in planned.versions.all():
            publish_version(version.pk)
    elif event == "pause":
        begin_pause(editor, brand, profile_id=None, why="")
    elif event == "end":
        end_pause(editor, brand, profile_id=None, send_overdue=True)
    elif event in ("send", "leave"):
        for version in planned.versions.filter(state__in=["failed", "missed"]):
            settle_version(editor, version, event)
    elif event == "time passes":
        planned.versions.filter(state="scheduled").update(due_at=now - timedelta(hours=2))
    elif event == "delete":
        delete_planned_post(editor, planned)
