"""Promise: posts are read often while they are young and rarely when they are old, and no brand waits behind another twice."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.metrics.observed import DEFAULT_AGES_HOURS
from dakika_core.sources.schedule import Due, fair_order, next_reading_at, reading_ages

THEN = datetime(2026, 3, 1, 9, tzinfo=UTC)


@pytest.mark.parametrize("half_life", [0.75, 3, 5, 20, 24, 72, 96, 168, 720])
def test_the_ages_of_comparison_are_always_read_and_steps_grow(half_life: float) -> None:
    ages = reading_ages(half_life)
    assert set(DEFAULT_AGES_HOURS) <= set(ages)
    assert list(ages) == sorted(set(ages))
    assert 12 <= len(ages) <= 32
    gaps = [later - earlier for earlier, later in zip(ages, ages[1:], strict=False)]
    assert gaps[-1] >= 24 * 10
    assert gaps[0] <= max(1.0, half_life)


def test_a_short_lived_network_is_read_sooner() -> None:
    """By the half-life's own arithmetic: at a quarter of 45 minutes, half of what comes by 45 minutes is still to come."""
    assert reading_ages(0.75)[0] == pytest.approx(0.1875)
    assert reading_ages(720)[0] == 1.0


def test_a_post_that_was_never_read_is_due_at_once_and_an_old_one_never() -> None:
    assert next_reading_at(THEN, None, 5) == THEN
    assert next_reading_at(THEN, THEN + timedelta(days=400), 5) is None
    due = next_reading_at(THEN, THEN + timedelta(hours=25), 5)
    assert due is not None
    assert due > THEN + timedelta(hours=25)


@given(st.floats(0, 9000), st.sampled_from([0.75, 5.0, 24.0, 720.0]))
def test_the_next_reading_always_lies_ahead(age_hours: float, half_life: float) -> None:
    read_at = THEN + timedelta(hours=age_hours)
    due = next_reading_at(THEN, read_at, half_life)
    assert due is None or due > read_at


def test_a_half_life_is_positive() -> None:
    with pytest.raises(ValueError, match="positive"):
        reading_ages(0)


def due(profile: int, brand: int, network: str = "commons", minutes: int = 0) -> Due:
    return Due(profile=profile, brand=brand, network=network, due_at=THEN + timedelta(minutes=minutes))


def test_a_small_brand_is_not_kept_waiting_by_a_large_one() -> None:
    large = [due(n, brand=1, minutes=-60) for n in range(50)]
    chosen = fair_order([*large, due(99, brand=2)], most_per_network=4)
    assert 99 in {d.profile for d in chosen}
    assert len(chosen) == 4


@given(
    st.lists(
        st.builds(due, st.integers(0, 500), st.integers(1, 5), st.sampled_from(["commons", "brevi"])), max_size=60
    ),
    st.integers(1, 12),
)
def test_turns_are_shared_within_every_network(waiting: list[Due], most: int) -> None:
    chosen = fair_order(waiting, most_per_network=most)
    for network in {d.network for d in waiting}:
        here = [d for d in chosen if d.network == network]
        there = [d for d in waiting if d.network == network]
        assert len(here) == min(most, len(there))
        turns = {b: sum(d.brand == b for d in here) for b in {d.brand for d in there}}
        left = {b for b in turns if turns[b] < sum(d.brand == b for d in there)}
        # Who still waits has had no fewer turns, less one, than anybody.
        assert all(turns[b] >= max(turns.values()) - 1 for b in left)
