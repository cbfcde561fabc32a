"""Promise: proposed hours are the best in sum under the rules, solved exactly."""

from datetime import UTC, datetime, timedelta
from itertools import combinations
from zoneinfo import ZoneInfo

import numpy as np

from dakika_core.timing.proposals import free_hours, propose_slots

ZONE = ZoneInfo("Europe/Lisbon")
START = datetime(2026, 11, 23, 0, 30, tzinfo=UTC)


def test_greedy_choice_would_be_wrong() -> None:
    # Values 5,6,5,1,8,7,3, at most three, no neighbours: best in sum is 5 + 5 + 8 = 18.
    values = [5, 6, 5, 1, 8, 7, 3]
    index = np.full(168, np.exp(-5.0))
    for i, value in enumerate(values):
        index[10 + i] = np.exp(value)
    candidates = [datetime(2026, 11, 23, 10 + i, tzinfo=UTC) for i in range(7)]
    slots = propose_slots(
        index=index, candidates=candidates, zone=ZONE, taken=[], count=3, min_distance_hours=2, most_per_day=3
    )
    assert sum(np.log(slot.index) for slot in slots) == 18
    best = max(
        sum(values[i] for i in chosen)
        for chosen in combinations(range(7), 3)
        if all(b - a >= 2 for a, b in zip(chosen, chosen[1:], strict=False))
    )
    assert best == 18


def test_the_rules_are_kept() -> None:
    rng = np.random.default_rng(1)
    taken = [START + timedelta(hours=20), START + timedelta(hours=70)]
    slots = propose_slots(
        index=np.exp(rng.normal(0, 0.3, 168)), candidates=free_hours(START, ZONE), zone=ZONE, taken=taken, count=6
    )
    assert len(slots) == 6
    times = [slot.at for slot in slots]
    assert times == sorted(times)
    for a, b in combinations(times, 2):
        assert abs((a - b).total_seconds()) >= 6 * 3600
    for at in times:
        assert 7 <= at.astimezone(ZONE).hour < 23
        assert all(abs((at - other).total_seconds()) >= 6 * 3600 for other in taken)
    days = [at.astimezone(ZONE).date() for at in times]
    assert max(days.count(day) for day in days) <= 2


def test_no_room_gives_no_slots() -> None:
    taken = free_hours(START, ZONE)
    assert propose_slots(index=np.ones(168), candidates=taken, zone=ZONE, taken=taken, count=3) == []
