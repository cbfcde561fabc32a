"""Promise: a link's busiest weeks are found where they are, and a link that is merely new or even has none."""

from datetime import date, timedelta

import numpy as np
import pytest

from dakika_core.plan.season import busiest_weeks, next_time

TODAY = date(2026, 11, 29)
MADE = date(2025, 6, 1)


def clicked(of: dict[date, int]) -> tuple[list[date], list[int]]:
    return list(of), list(of.values())


def every_day(number: int, first: date = date(2025, 6, 1)) -> dict[date, int]:
    return {first + timedelta(days=i): number for i in range((TODAY - first).days)}


def test_the_weeks_that_stand_out_are_found() -> None:
    of = every_day(2)
    for i in range(42):
        of[date(2026, 3, 10) + timedelta(days=i)] = 20
    found = busiest_weeks(MADE, TODAY, *clicked(of))
    assert found is not None
    assert (found.first, found.last, found.clicks) == (date(2026, 3, 10), date(2026, 4, 20), 840)
    assert found.times == pytest.approx(10)


def test_a_link_that_is_clicked_evenly_has_no_season() -> None:
    assert busiest_weeks(MADE, TODAY, *clicked(every_day(5))) is None
    rng = np.random.default_rng(1)
    claims = 0
    for _ in range(200):
        counts = rng.poisson(5, 365)
        days = [TODAY - timedelta(days=365 - i) for i in range(365)]
        claims += busiest_weeks(MADE, TODAY, days, counts.tolist()) is not None
    assert claims == 0


def test_being_new_is_no_season_and_a_young_link_says_nothing() -> None:
    made = TODAY - timedelta(days=340)
    of = every_day(2, made) | {made + timedelta(days=i): 500 for i in range(28)}
    assert busiest_weeks(made, TODAY, *clicked(of)) is None
    assert busiest_weeks(TODAY - timedelta(days=200), TODAY, *clicked(every_day(50))) is None
    assert busiest_weeks(MADE, TODAY, [], []) is None


def test_the_next_time_is_within_a_year_and_leap_days_come_every_year() -> None:
    assert next_time(11, 29, TODAY) == TODAY
    assert next_time(11, 28, TODAY) == date(2027, 11, 28)
    assert next_time(2, 29, TODAY) == date(2027, 2, 28)
    assert next_time(2, 29, date(2028, 1, 1)) == date(2028, 2, 29)
