"""Promise: a missed hour is one that would bring something, a crowded one costs; neither is said without evidence."""

import numpy as np

from dakika_core.timing.gaps import crowded, missed
from dakika_core.timing.tests.test_rhythm import effects
from dakika_core.values.period import HOURS_PER_WEEK

OFFICE = [day * 24 + hour + 0.5 for day in range(5) for hour in range(9, 17) for _ in range(4)]


def test_good_evening_hours_without_posts_are_missed_and_told_as_one_stretch() -> None:
    logs = np.full(HOURS_PER_WEEK, -0.02)
    logs[68:71] = 0.3
    found = missed(effects(logs), None, OFFICE)
    assert [(stretch.first, stretch.hours) for stretch in found] == [(68, 3)]
    assert found[0].among() == [68, 69, 70]
    assert found[0].posts == 0
    assert found[0].interval is not None
    assert found[0].interval.low > 1.0


def test_an_hour_whose_interval_holds_one_is_not_called_good() -> None:
    logs = np.full(HOURS_PER_WEEK, -0.02)
    logs[68] = 0.1
    assert missed(effects(logs, spread=0.3), None, OFFICE) == []


def test_presence_alone_is_enough_unless_posts_say_otherwise() -> None:
    presence = np.full(HOURS_PER_WEEK, 0.2)
    presence[[68, 92]] = 1.0
    logs = np.zeros(HOURS_PER_WEEK)
    logs[92] = -0.5
    assert [s.first for s in missed(None, presence, OFFICE)] == [68, 92]
    assert [s.first for s in missed(effects(logs), presence, OFFICE)] == [68]


def test_quiet_hours_and_used_ones_are_not_missed() -> None:
    logs = np.full(HOURS_PER_WEEK, -0.02)
    logs[[3, 34]] = 0.4
    assert missed(effects(logs), None, OFFICE) == []


def test_many_posts_at_poor_hours_are_crowded() -> None:
    logs = np.full(HOURS_PER_WEEK, 0.05)
    logs[9:12] = -0.3
    found = crowded(effects(logs), None, OFFICE)
    assert [(s.first, s.hours, s.posts) for s in found] == [(9, 3, 12)]
    assert crowded(effects(logs, spread=0.5), None, OFFICE) == []
    assert crowded(None, None, OFFICE) == []
