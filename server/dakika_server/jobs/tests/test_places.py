"""Promise: places are as the settings ask, every queue has some, and a slip of the pen stops the worker with words."""

import pytest
from procrastinate.contrib.django import app

from dakika_server.jobs.places import PLACES, places


def test_what_is_not_asked_for_stays_usual() -> None:
    usual, asked = places(""), places("collect=12, render=4")
    assert usual[("publish", "upkeep", "mail")] == 3
    assert asked[("collect", "feeds")] == 12
    assert {**asked, **{queues: usual[queues] for queues in asked}} == usual


def test_no_queue_is_left_behind_where_workers_are_parted_as_before() -> None:
    """As docs/operations.md tells of two workers, and as it told before findings had a place of their own."""
    parted = [["render"], ["now", "collect", "files", "measure", "bulk", "webhooks"]]
    taken = {queues for only in parted for queues in places("", only=only)}
    assert taken == {queues for queues, _ in PLACES.values()}
    assert set(places("", only=["findings"])) == {("findings",)}


@pytest.mark.parametrize("asked", ["collekt=1", "collect=0", "collect=many", "collect", "collect=65", "collect=²"])
def test_a_slip_of_the_pen_is_told(asked: str) -> None:
    with pytest.raises(ValueError, match="places"):
        places(asked)


def test_every_queue_of_a_task_has_places() -> None:
    known = {queue for queues, _ in PLACES.values() for queue in queues}
    ours = [t for t in app.tasks.values() if t.queue.partition(".")[0] not in ("builtin", "default", "tests")]
    assert len(ours) > 20
    assert {task.queue for task in ours} <= known
