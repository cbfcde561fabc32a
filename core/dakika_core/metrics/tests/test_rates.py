"""Promise: rates are ratios of sums with their uncertainty, as published examples have it."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import bootstrap

from dakika_core.metrics.rates import beta_binomial_fit, rate_ratio_interval, ratio_of_sums, wilson_interval


@pytest.mark.parametrize(
    ("successes", "trials", "low", "high"),
    # Newcombe 1998, Statistics in Medicine 17, table I, method 3.
    [(81, 263, 0.2553, 0.3662), (15, 148, 0.0624, 0.1605), (0, 20, 0.0, 0.1611), (1, 29, 0.0061, 0.1718)],
)
def test_wilson_interval_as_published(successes: int, trials: int, low: float, high: float) -> None:
    found = wilson_interval(successes, trials)
    assert found is not None
    assert found.low == pytest.approx(low, abs=5e-5)
    assert found.high == pytest.approx(high, abs=5e-5)


def test_no_trials_have_no_interval() -> None:
    assert wilson_interval(0, 0) is None
    with pytest.raises(ValueError, match="between 0"):
        wilson_interval(5, 3)


@given(st.integers(0, 500), st.integers(1, 500))
def test_wilson_holds_the_share_and_stays_within_bounds(successes: int, trials: int) -> None:
    successes = min(successes, trials)
    found = wilson_interval(successes, trials)
    assert found is not None
    assert 0 <= found.low <= successes / trials + 1e-12
    assert successes / trials - 1e-12 <= found.high <= 1


def test_ratio_of_sums_is_not_the_mean_of_rates() -> None:
    # By hand: (10 + 1) / (100 + 1000) = 1 %, while the mean of the rates is 5.05 %.
    found = ratio_of_sums(np.array([10.0, 1.0, np.nan]), np.array([100.0, 1000.0, 50.0]))
    assert found.value == pytest.approx(0.01)
    assert (found.n, found.missing, found.numerator, found.denominator) == (2, 1, 11.0, 1100.0)


def test_nothing_below_gives_missing_not_zero() -> None:
    assert ratio_of_sums(np.array([1.0]), np.array([0.0])).value is None
    assert ratio_of_sums(np.array([]), np.array([])).value is None


def test_its_interval_is_close_to_the_bootstraps() -> None:
    """Held against scipy.stats.bootstrap on simulated posts."""
    rng = np.random.default_rng(3)
    below = rng.lognormal(6, 0.6, 60)
    above = below * rng.lognormal(-3, 0.3, 60)
    found = ratio_of_sums(above, below).interval
    assert found is not None
    reference = bootstrap(
        (above, below), lambda a, b: a.sum() / b.sum(), paired=True, vectorized=False, n_resamples=3000, rng=rng
    ).confidence_interval
    width = reference.high - reference.low
    assert abs(found.low - reference.low) < 0.2 * width
    assert abs(found.high - reference.high) < 0.2 * width


def test_rate_ratio_brackets_the_reference_packages_interval() -> None:
    """60/51477.5 against 30/54308.7: statsmodels' score interval is 1.366 to 3.259; the exact one is a little wider."""
    found = rate_ratio_interval(60, 51477.5, 30, 54308.7)
    assert found is not None
    assert found.low == pytest.approx(1.366, abs=0.05)
    assert found.high == pytest.approx(3.259, abs=0.2)
    assert rate_ratio_interval(0, 1, 0, 1) is None


def test_beta_binomial_fit_as_computed_on_the_baseball_data() -> None:
    """Efron and Morris 1975, hits in the first 45 at-bats of 18 players; values computed independently."""
    hits = np.array([18, 17, 16, 15, 14, 14, 13, 12, 11, 11, 10, 10, 10, 10, 10, 9, 8, 7], dtype=float)
    a, b = beta_binomial_fit(hits, np.full(18, 45.0))
    assert (18 + a) / (45 + a + b) == pytest.approx(0.2727, abs=0.002)
    with pytest.raises(ValueError, match="too few"):
        beta_binomial_fit(hits[:2], np.full(2, 45.0))
