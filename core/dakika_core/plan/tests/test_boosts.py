"""Promise: money that may not be given is never given, and what one cost is told with what chance does to it."""

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.networks.definition import BoostRule
from dakika_core.plan.boosts import Given, cost_each, cost_interval, count_interval, left_in, months_of, problems_of

LISBON = ZoneInfo("Europe/Lisbon")
NOW = datetime(2026, 11, 29, 12, tzinfo=UTC)
RULE = BoostRule(currency="EUR", least_cents=500, most_cents=100_000, most_days=30, countries=("PT",), ages=("25-34",))


def boost(cents: int = 2000, days: float = 3, starts: datetime = NOW, **more: object) -> Given:
    return Given(starts_at=starts, ends_at=starts + timedelta(days=days), cents=cents, **more)  # type: ignore[arg-type]


def test_what_a_network_does_not_take_is_said_before() -> None:
    assert problems_of(RULE, boost(), ["PT"], ["25-34"], NOW) == {}
    for asked, field in [
        (boost(499), "cents"), (boost(100_001), "cents"), (boost(days=0.01), "ends_at"), (boost(days=31), "ends_at"),
        (boost(starts=NOW - timedelta(days=9)), "ends_at"),
        # It has begun long ago, and is over in half an hour.
        (boost(days=1, starts=NOW - timedelta(hours=23.5)), "ends_at"),
    ]:  # fmt: skip
        assert list(problems_of(RULE, asked, [], [], NOW)) == [field]
    assert list(problems_of(RULE, boost(), ["XX"], ["0-99"], NOW)) == ["countries", "ages"]


def test_months_are_those_of_the_brands_clock() -> None:
    # Midnight UTC is still midnight in Lisbon's winter, and another month in Brazil.
    late = boost(days=1, starts=datetime(2026, 12, 1, 1, tzinfo=UTC))
    assert months_of(late, LISBON) == {date(2026, 12, 1)}
    assert months_of(late, ZoneInfo("America/Sao_Paulo")) == {date(2026, 11, 1), date(2026, 12, 1)}
    assert months_of(boost(days=70), LISBON) == {date(2026, 11, 1), date(2026, 12, 1), date(2027, 1, 1),
                                                date(2027, 2, 1)}  # fmt: skip


def test_what_is_left_counts_what_may_still_be_spent() -> None:
    november = date(2026, 11, 1)
    running, ended, passed = boost(2000), boost(3000, spent=1200, is_over=True), boost(1000, spent=1300)
    assert left_in(10_000, [running, ended, passed], november, LISBON) == 10_000 - 2000 - 1200 - 1300
    assert left_in(10_000, [running], date(2027, 3, 1), LISBON) == 10_000


@given(st.lists(st.tuples(st.integers(500, 5000), st.floats(0, 60), st.floats(0.1, 30), st.floats(0, 1)), max_size=20))
def test_a_months_limit_is_passed_by_no_spread_of_the_money(asked: list[tuple[int, float, float, float]]) -> None:
    """Boosts that are let in only while each of their months has room: whatever share of each is spent in which of its
    months, no month comes to more than the limit."""
    limit, let_in = 10_000, []
    for cents, start, days, _ in asked:
        one = boost(cents, days, NOW + timedelta(days=start))
        if all(left_in(limit, let_in, month, LISBON) >= cents for month in months_of(one, LISBON)):
            let_in.append(one)
    months = {month for one in let_in for month in months_of(one, LISBON)}
    # The worst there is: every network spends all of it in the same month.
    assert all(sum(one.cents for one in let_in if month in months_of(one, LISBON)) <= limit for month in months)


def test_intervals_of_counts_are_the_published_ones() -> None:
    # Garwood's 95 % limits as tables of medical statistics print them (from memory): 0, 1, 10 and 100 events.
    for count, low, high in [(0, 0.0, 3.689), (1, 0.0253, 5.572), (10, 4.795, 18.39), (100, 81.36, 121.6)]:
        found = count_interval(count)
        assert found[0] == pytest.approx(low, abs=0.005)
        assert found[1] == pytest.approx(high, abs=0.05)


def test_what_one_cost() -> None:
    assert cost_each(2000, 40) == 50
    assert cost_each(2000, 0) is None
    assert cost_interval(2000, 0) is None
    found = cost_interval(2000, 10)
    assert found is not None
    assert (found.low, found.high) == (pytest.approx(2000 / 18.39, rel=1e-3), pytest.approx(2000 / 4.795, rel=1e-3))


@pytest.mark.parametrize("mean", [2.0, 8.0, 60.0])
def test_the_interval_of_a_cost_holds_as_often_as_it_says(mean: float) -> None:
    """In 4,000 worlds with a known cost; those in which nothing came have no interval and claim nothing."""
    counts = np.random.default_rng(7).poisson(mean, 4000)
    true = 2000 / mean
    found = [cost_interval(2000, int(count)) for count in counts if count]
    held = np.mean([one is not None and one.low <= true <= one.high for one in found])
    assert held >= 0.94
