"""Promise: posts are compared at equal age; what the readings do not reach is missing, never zero."""

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from dakika_core.metrics.at_age import final_values, gains_by_day, interactions_of, monotone_curve, values_at_ages
from dakika_core.metrics.growth import Growth
from dakika_core.metrics.observed import OBSERVED
from dakika_core.values.period import start_of_day

START = datetime(2026, 3, 1, 10, tzinfo=UTC)


def column(*values: float) -> np.ndarray:
    return np.array(values, dtype=float)[:, None]


def test_between_readings_the_value_lies_between_theirs() -> None:
    found = values_at_ages(np.array([12.0, 48.0]), column(100, 180), [24])
    assert 100 < found[0, 0] < 180


def test_a_reading_at_the_age_is_taken_as_it_is() -> None:
    assert values_at_ages(np.array([24.0, 72.0]), column(7, 9), [24, 72])[:, 0].tolist() == [7, 9]


def test_beyond_the_last_reading_it_is_missing() -> None:
    assert np.isnan(values_at_ages(np.array([1.0, 20.0]), column(5, 50), [24])[0, 0])


def test_a_first_reading_long_past_the_age_does_not_invent_a_curve() -> None:
    assert np.isnan(values_at_ages(np.array([900.0]), column(50), [24])[0, 0])
    assert not np.isnan(values_at_ages(np.array([30.0]), column(50), [24])[0, 0])


def test_a_missing_metric_stays_missing_beside_a_known_one() -> None:
    values = np.array([[1.0, np.nan], [2.0, np.nan]])
    found = values_at_ages(np.array([10.0, 30.0]), values, [24])
    assert not np.isnan(found[0, 0])
    assert np.isnan(found[0, 1])


@given(
    st.lists(st.floats(0.5, 400), min_size=1, max_size=9, unique_by=lambda age: round(age, 2)),
    st.lists(st.integers(0, 5000), min_size=9, max_size=9),
)
def test_the_monotone_curve_is_scipys(ages: list[float], counts: list[int]) -> None:
    """Held against scipy's PchipInterpolator (Fritsch and Butland 1984) on log(1 + age), corrections downwards too."""
    x = np.log1p(np.append(0.0, np.sort(ages)))
    y = np.append(0.0, np.array(counts[: len(ages)], dtype=float))[:, None]
    at = np.linspace(0, x[-1], 25)
    assert np.allclose(monotone_curve(x, y, at)[:, 0], PchipInterpolator(x, y[:, 0])(at), atol=1e-6)


def test_a_post_at_24_hours_is_told_closer_than_by_straight_lines() -> None:
    """Growth of the usual form, read five times in three days, never at 24 hours itself."""
    draw = np.random.default_rng(1)
    straight, curved = [], []
    for _ in range(300):
        ages = np.sort([draw.uniform(*span) for span in ((0.5, 3), (3, 10), (10, 23), (25, 48), (60, 90))])
        grown = 1000 * (1 - 2.0 ** -((ages / 5) ** 0.8))
        truth = 1000 * (1 - 2.0 ** -((24 / 5) ** 0.8))
        curved.append(values_at_ages(ages, grown[:, None], [24])[0, 0] / truth - 1)
        straight.append(np.interp(np.log1p(24), np.log1p(ages), grown) / truth - 1)
    assert abs(np.mean(curved)) < 0.005 < 0.01 < abs(np.mean(straight))


def test_columns_known_at_other_readings_and_two_readings_at_once_do_not_disturb_each_other() -> None:
    ages = np.array([5.0, 20.0, 20.0, 60.0])
    values = np.array([[10, 1.0], [20, np.nan], [24, 3.0], [40, np.nan]])
    found = values_at_ages(ages, values, [20, 30])
    assert found[0].tolist() == [24, 3]
    assert 24 < found[1, 0] < 40
    assert np.isnan(found[1, 1])


@given(st.lists(st.integers(0, 1000), min_size=2, max_size=12), st.floats(0.5, 500))
def test_monotone_counters_give_monotone_values(gains: list[int], age: float) -> None:
    ages = np.arange(1, len(gains) + 1) * 40.0
    values = np.cumsum(gains).astype(float)[:, None]
    found = values_at_ages(ages, values, [age, age * 1.5])[:, 0]
    if not np.isnan(found).any():
        assert found[0] <= found[1] + 1e-9


def test_what_a_day_brought_is_told_closer_than_by_straight_lines() -> None:
    """Posts that grow as assumed (Growth), read once a day or so: the mean error of a day's gain, per thousand."""
    draw, growth, zone = np.random.default_rng(3), Growth(half_life_hours=12), ZoneInfo("Europe/Lisbon")
    curved, straight = [], []
    for _ in range(100):
        published = START + timedelta(hours=float(draw.uniform(0, 24)))
        ages = np.append(0.0, np.cumsum(draw.uniform(8, 30, 7)))
        seen = 1000 * growth.share(ages)
        made = gains_by_day(
            published, [published + timedelta(hours=float(age)) for age in ages[1:]], column(*seen[1:].tolist()), zone
        )
        marks = [(start_of_day(day, zone) - published).total_seconds() / 3600 for day in made.days[1:]]
        ends = np.append(marks, ages[-1])
        truth = np.diff(1000 * growth.share(ends), prepend=0.0)
        by_line = np.diff(np.interp(np.log1p(ends), np.log1p(ages), seen), prepend=0.0)
        curved.append(np.abs(made.values[:, 0] - truth).mean())
        straight.append(np.abs(by_line - truth).mean())
    assert np.mean(curved) < 0.75 * np.mean(straight)
    assert np.mean(curved) < 11


def test_daily_gains_add_up_to_the_last_reading() -> None:
    times = [START + timedelta(hours=h) for h in (1, 5, 30, 80)]
    found = gains_by_day(START, times, column(10, 30, 60, 90), ZoneInfo("Europe/Lisbon"))
    assert found.days[0] == date(2026, 3, 1)
    assert np.isclose(found.values.sum(), 90)
    assert not (found.is_placed)
    assert not (found.is_estimated)


def test_a_day_of_23_hours_is_one_day() -> None:
    start = datetime(2026, 3, 28, 12, tzinfo=UTC)
    times = [start + timedelta(hours=h) for h in (1, 60)]
    found = gains_by_day(start, times, column(1, 2), ZoneInfo("Europe/Lisbon"))
    assert found.days == [date(2026, 3, 28), date(2026, 3, 29), date(2026, 3, 30), date(2026, 3, 31)]


def test_a_corrected_counter_is_said_not_hidden() -> None:
    times = [START + timedelta(hours=h) for h in (10, 40)]
    gained = gains_by_day(START, times, column(100, 80), ZoneInfo("UTC")).values
    assert gained.min() < 0
    assert np.isclose(gained.sum(), 80)


def test_a_total_of_years_later_stands_on_the_day_of_publishing_and_makes_one_day() -> None:
    """Nothing tells on which of the days in between it was gained: it is not spread over ten years of them."""
    found = gains_by_day(START, [START + timedelta(days=3650)], column(500), ZoneInfo("Europe/Lisbon"))
    assert (found.days, found.values.tolist(), found.is_placed) == ([date(2026, 3, 1)], [[500.0]], True)


def test_a_late_reading_makes_no_more_days_than_such_posts_still_grow() -> None:
    times = [START + timedelta(hours=h) for h in (1, 24, 72, 24 * 400)]
    found = gains_by_day(START, times, column(10, 50, 80, 100), ZoneInfo("UTC"), grows_hours=100)
    assert found.is_estimated
    assert not found.is_placed
    assert len(found.days) <= 4 + 100 / 24 + 1
    assert np.isclose(found.values.sum(), 100)
    assert found.days[-1] == (START + timedelta(hours=172)).date()


@given(
    st.lists(st.floats(0.1, 9000), min_size=1, max_size=6, unique=True).map(sorted),
    st.lists(st.integers(0, 1000), min_size=6, max_size=6), st.floats(72, 700),
)  # fmt: skip
def test_whatever_the_readings_the_days_add_up_to_the_last_one(
    ages: list[float], counts: list[int], grows: float
) -> None:
    times = [START + timedelta(hours=age) for age in ages]
    totals = column(*np.cumsum(counts)[: len(ages)])
    found = gains_by_day(START, times, totals, ZoneInfo("Europe/Lisbon"), grows_hours=grows)
    assert np.isclose(found.values.sum(), totals[-1, 0])
    assert found.values.min() >= -1e-9
    assert found.days == sorted(set(found.days))


def test_final_is_the_count_beyond_the_final_age_and_missing_before() -> None:
    ages = np.array([24.0, 100.0, 800.0])
    values = np.array([[5.0, 1.0], [9.0, np.nan], [10.0, np.nan]])
    assert final_values(ages, values, 672.0)[0] == 10
    assert np.isnan(final_values(ages, values, 672.0)[1])
    assert np.isnan(final_values(ages, values, 900.0)).all()
    assert final_values(ages, values, 90.0)[0] == 10


def test_growth_is_half_at_the_half_life_and_whole_where_it_is_final() -> None:
    growth = Growth(half_life_hours=20.0)
    shares = growth.share(np.array([0.0, 20.0, 199.0, 200.0, 5000.0]))
    assert shares[[0, 1, 3, 4]].tolist() == [0.0, 0.5, 1.0, 1.0]
    assert 0.98 < shares[2] < 1
    assert Growth(half_life_hours=None).final_after_hours == 672
    assert Growth(half_life_hours=0.75).final_after_hours == 72


def test_interactions_are_missing_only_where_no_part_is_known() -> None:
    values = np.full((2, len(OBSERVED)), np.nan)
    values[0, OBSERVED.index("reactions")] = 3
    values[0, OBSERVED.index("shares")] = 2
    assert interactions_of(values)[0] == 5
    assert np.isnan(interactions_of(values)[1])


def test_a_reading_of_before_the_publishing_keeps_no_age_from_being_known() -> None:
    """A network's clock may be behind ours: a reading at minus two hours says nothing and breaks nothing."""
    ages, values = np.array([-2.0, 10.0, 80.0]), column(0, 60, 100)
    assert values_at_ages(ages, values, [72])[0, 0] == values_at_ages(ages[1:], values[1:], [72])[0, 0]
    assert np.isnan(values_at_ages(np.array([-2.0]), column(5), [24])).all()
    early = [START - timedelta(hours=2), START + timedelta(hours=10), START + timedelta(hours=80)]
    made = gains_by_day(START, early, np.repeat(values, len(OBSERVED), axis=1), ZoneInfo("UTC"))
    assert made.days[0] == START.date()
    assert np.nansum(made.values[:, 0]) == 100
