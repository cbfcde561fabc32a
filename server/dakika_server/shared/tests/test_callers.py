"""Promise: how often somebody comes is counted once, however many processes they come to, and forgotten with the minute."""

from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection, connections

from dakika_server.shared import clock
from dakika_server.shared.callers import MINUTES_KEPT, calls_in_minute, forget_minutes, slow_down
from dakika_server.shared.errors import TooOften
from dakika_server.shared.models import CallCount

pytestmark = pytest.mark.django_db


@pytest.mark.django_db(transaction=True)
def test_every_call_counts_whichever_connection_it_comes_over(within_a_minute: None) -> None:
    def call(_: int) -> int:
        try:
            return calls_in_minute("open", "192.0.2.7")
        finally:
            connections.close_all()

    with ThreadPoolExecutor(4) as pool:
        counts = sorted(pool.map(call, range(40)))
    assert counts == [*range(1, 41)]


def test_who_and_what_are_told_apart_and_a_limit_is_everybodys_own(within_a_minute: None) -> None:
    for _ in range(3):
        slow_down("open", "192.0.2.7", 3)
    with pytest.raises(TooOften):
        slow_down("open", "192.0.2.7", 3)
    slow_down("open", "192.0.2.8", 3)
    slow_down("join", "192.0.2.7", 3)


def test_nobody_can_be_read_off_it_and_a_minute_later_nothing_is_left(
    settings: Any, within_a_minute: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    calls_in_minute("open", "192.0.2.7")
    (first,) = CallCount.objects.values_list("mark", flat=True)
    # Without the key of the installation an address cannot be tried out.
    settings.SECRET_KEY = "another, as long as one has to be"
    calls_in_minute("open", "192.0.2.7")
    assert CallCount.objects.exclude(mark=first).count() == 1
    assert forget_minutes() == 0
    later = clock.now() + timedelta(minutes=MINUTES_KEPT + 1)
    monkeypatch.setattr(clock, "now", lambda: later)
    assert calls_in_minute("open", "192.0.2.7") == 1
    assert forget_minutes() == 2
    assert CallCount.objects.count() == 1


def test_it_costs_the_log_of_the_database_nothing() -> None:
    with connection.cursor() as cursor:
        cursor.execute("SELECT relpersistence FROM pg_class WHERE relname = 'shared_callcount'")
        assert cursor.fetchone() == ("u",)
