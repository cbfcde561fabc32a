"""Promise: typical is what is usual around a post, never the post itself; 1.00 is typical."""

import statistics

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.metrics.typical import index_of, running_typical, typical_by_format

COUNTS = st.one_of(st.just(float("nan")), st.integers(0, 5000).map(float))


def test_a_post_does_not_judge_itself() -> None:
    values = np.full(40, 100.0)
    values[20] = 100_000.0
    typical = running_typical(values)
    assert np.allclose(typical, 100)
    assert np.isclose(index_of(values, typical)[20], 1000)


def test_too_few_others_say_nothing() -> None:
    assert np.isnan(running_typical(np.full(8, 5.0))).all()
    assert not np.isnan(running_typical(np.full(9, 5.0))).any()


def test_it_follows_a_slow_trend() -> None:
    values = np.exp(np.linspace(3, 6, 300))
    typical = running_typical(values)
    assert np.all(np.abs(np.log(values[60:240] / typical[60:240])) < 0.05)


def test_missing_values_neither_count_nor_get_an_index() -> None:
    values = np.full(30, 10.0)
    values[3] = np.nan
    typical = running_typical(values)
    assert np.isclose(typical[3], 10)
    assert np.isnan(index_of(values, typical)[3])


def test_a_format_with_enough_posts_is_held_against_its_own() -> None:
    values = np.where(np.arange(80) % 2 == 0, 10.0, 1000.0)
    formats = ["text" if i % 2 == 0 else "short_video" for i in range(80)]
    assert np.allclose(index_of(values, typical_by_format(values, formats)), 1)


def test_a_typical_of_nothing_gives_no_index() -> None:
    values = np.zeros(20)
    assert np.isnan(index_of(values, running_typical(values))).all()


@given(st.lists(COUNTS, max_size=60), st.integers(1, 9), st.integers(1, 5))
def test_it_is_the_median_of_the_nearest_others_as_one_would_pick_them_by_hand(
    counts: list[float], window: int, fewest: int
) -> None:
    values = np.array(counts, dtype=float)
    typical = running_typical(values, window=window, fewest=fewest)
    known = [i for i, value in enumerate(counts) if value == value]
    for i in range(len(counts)):
        # Distance is counted in posts that are known; of two as near the earlier one is taken.
        place = sum(1 for other in known if other < i)
        others = sorted((abs(k - place), k) for k, other in enumerate(known) if other != i)[:window]
        if len(others) < fewest:
            assert np.isnan(typical[i])
            continue
        logs = [np.log1p(counts[known[k]]) for _, k in others]
        assert np.isclose(typical[i], np.expm1(statistics.median(logs)))
