"""Promise: the middle of some posts and a change of totals are told with intervals that hold, and claim nothing else."""

import numpy as np
import pytest
from scipy.stats import quantile_test

from dakika_core.metrics.median import median_ranks
from dakika_core.metrics.rates import ratio_of_sums
from dakika_core.metrics.totals import Total, change_interval, count_change_interval


@pytest.mark.parametrize("n", [6, 7, 10, 20, 25, 33, 150, 1001])
def test_ranks_are_those_of_a_general_library(n: int) -> None:
    """Against scipy.stats.quantile_test, a reference of its own (its docstring names Conover)."""
    values = np.arange(1, n + 1.0)
    found = quantile_test(values, q=float(np.median(values)), p=0.5).confidence_interval(confidence_level=0.95)
    assert median_ranks(n) == (found.low, found.high)


def test_ranks_of_a_handbook() -> None:
    """n = 10: the second and the ninth, which hold 97.9 % (Conover, Practical Nonparametric Statistics; from memory)."""
    assert median_ranks(10) == (2, 9)
    assert median_ranks(5) is None
    assert median_ranks(0) is None


def _total(values: np.ndarray) -> Total:
    return Total(n=len(values), total=float(values.sum()), squares=float(values @ values))


def test_a_change_is_claimed_in_a_world_without_one_as_seldom_as_it_says() -> None:
    """Posts at random times (Poisson) with heavy-tailed counts, twice alike: one in twenty intervals misses zero."""
    rng = np.random.default_rng(5)
    missed = told = 0
    for _ in range(1500):
        found = change_interval(*(_total(rng.lognormal(3, 1.0, rng.poisson(30))) for _ in range(2)))
        told += found is not None
        missed += found is not None and not found.low <= 0 <= found.high
    assert told == 1500
    assert 0.03 < missed / told < 0.08


def test_a_change_is_found_where_there_is_one() -> None:
    """Three times as much from as many posts: found nine times in ten, and the interval holds it."""
    rng = np.random.default_rng(6)
    found = [
        change_interval(
            _total(3 * rng.lognormal(3, 0.6, rng.poisson(40))), _total(rng.lognormal(3, 0.6, rng.poisson(40)))
        )
        for _ in range(400)
    ]
    assert np.mean([i.low > 0 for i in found if i]) > 0.9
    assert np.mean([i.low <= 2 <= i.high for i in found if i]) > 0.92


def test_one_post_that_carries_a_period_is_no_sample() -> None:
    rest = np.full(20, 1.0)
    assert change_interval(_total(np.append(rest, 100_000.0)), _total(rest)) is None
    assert change_interval(_total(rest[:2]), _total(rest)) is None
    assert change_interval(_total(rest), Total(n=0, total=0.0, squares=0.0)) is None


@pytest.mark.parametrize("burstiness", [0.0, 1.0, 4.0])
def test_a_change_of_bursty_counts_is_not_claimed_too_often(burstiness: float) -> None:
    """Days of 20 clicks that come in bursts (negative binomial), twice alike: Poisson's would claim up to six in ten."""
    rng = np.random.default_rng(7)
    missed = 0
    for _ in range(1500):
        now, before = (
            rng.poisson(20 * (rng.gamma(1 / burstiness, burstiness, 28) if burstiness else np.ones(28))).astype(float)
            for _ in range(2)
        )
        found = count_change_interval(now, before)
        assert found is not None
        missed += not found.low <= 0 <= found.high
    assert missed / 1500 < 0.08


def test_a_change_of_counts_is_found_and_nothing_is_told_of_nothing() -> None:
    rng = np.random.default_rng(8)
    found = [count_change_interval(rng.poisson(30, 28) * 1.0, rng.poisson(20, 28) * 1.0) for _ in range(300)]
    assert np.mean([i.low > 0 for i in found if i]) > 0.95
    assert np.mean([i.low <= 0.5 <= i.high for i in found if i]) > 0.92
    assert count_change_interval(np.zeros(28), np.ones(28)) is None
    assert count_change_interval(np.full(28, np.nan), np.ones(28)) is None


@pytest.mark.parametrize(("posts", "part", "lift"), [(30, 0.3, 1.0), (100, 0.1, 1.0), (200, 0.2, 2.0)])
def test_a_part_of_all_lies_in_its_interval(posts: int, part: float, lift: float) -> None:
    """Each post is studied by chance; heavy-tailed counts. The truth is held in at least nine of ten worlds."""
    rng = np.random.default_rng(9)
    truth = part * lift / (part * lift + 1 - part)
    held = []
    for _ in range(1000):
        is_studied = rng.random(posts) < part
        counts = rng.lognormal(0, 1.0, posts) * np.where(is_studied, lift, 1.0)
        found = ratio_of_sums(np.where(is_studied, counts, 0.0), counts).interval
        if found:
            held.append(found.low <= truth <= min(found.high, 1.0))
    assert np.mean(held) > 0.9
