"""Promise: a rate from twelve impressions never tops a ranking, and shrinking brings one nearer to the truth."""

import numpy as np
import pytest
from scipy.stats import beta, betabinom

from dakika_core.metrics.shrinkage import shrunk_rates

# Efron and Morris 1975: hits of 18 players in their first 45 at-bats, and their average over the rest of the season.
HITS = np.array([18, 17, 16, 15, 14, 14, 13, 12, 11, 11, 10, 10, 10, 10, 10, 9, 8, 7], dtype=float)
SEASON = np.array([
    .346, .298, .276, .222, .273, .270, .263, .210, .269, .230, .264, .256, .303, .264, .226, .286, .316, .200,
])  # fmt: skip


def test_the_baseball_example_comes_closer_to_the_season() -> None:
    found = shrunk_rates(HITS, np.full(18, 45.0))
    assert found is not None
    assert found.value[0] == pytest.approx(0.2727, abs=0.002)  # Clemente, by the reference values of the rates' tests
    assert ((found.value - SEASON) ** 2).sum() < 0.4 * ((HITS / 45 - SEASON) ** 2).sum()


def test_a_perfect_rate_of_few_does_not_top() -> None:
    above = np.array([12.0, 900.0, 400.0, 410.0, 380.0, 395.0])
    below = np.array([12.0, 10_000.0, 10_000.0, 10_000.0, 10_000.0, 10_000.0])
    found = shrunk_rates(above, below)
    assert found is not None
    assert found.high[0] - found.low[0] > 5 * (found.high[1] - found.low[1])
    assert int(np.argmax(found.low)) == 1


def test_the_order_of_many_posts_follows_evidence() -> None:
    rng = np.random.default_rng(6)
    true = rng.beta(40, 960, 400)
    below = rng.choice([12.0, 80.0, 5_000.0], 400)
    above = rng.binomial(below.astype(int), true).astype(float)
    found = shrunk_rates(above, below)
    assert found is not None
    best_raw, best = np.argsort(-(above / below))[:20], np.argsort(-found.value)[:20]
    assert (below[best_raw] == 12).mean() > 0.7
    assert (below[best] == 12).mean() < 0.2
    assert true[best].mean() > true[best_raw].mean()
    held = (found.low <= true) & (true <= found.high)
    assert 0.9 < held.mean() <= 1


def test_posterior_is_the_reference_beta() -> None:
    """Held against scipy.stats.beta."""
    rng = np.random.default_rng(2)
    below = rng.integers(50, 3_000, 60).astype(float)
    above = betabinom.rvs(below.astype(int), 8, 150, random_state=3).astype(float)
    found = shrunk_rates(above, below)
    assert found is not None
    a = found.prior_mean * found.prior_weight
    b = found.prior_weight - a
    reference = beta(above + a, below - above + b)
    assert found.value == pytest.approx(reference.mean())
    assert found.low == pytest.approx(reference.ppf(0.025))
    assert found.high == pytest.approx(reference.ppf(0.975))
    assert found.prior_mean == pytest.approx(8 / 158, rel=0.25)


def test_missing_stays_missing_and_too_few_say_nothing() -> None:
    found = shrunk_rates(np.array([1.0, np.nan, 3.0, 4.0, 5.0]), np.array([10.0, 10.0, 0.0, 40.0, 50.0]))
    assert found is not None
    assert np.isnan(found.value).tolist() == [False, True, True, False, False]
    assert shrunk_rates(np.array([1.0, 2.0]), np.array([10.0, 10.0])) is None


def test_more_interactions_than_impressions_do_not_break_it() -> None:
    found = shrunk_rates(np.array([50.0, 2.0, 3.0]), np.array([10.0, 10.0, 10.0]))
    assert found is not None
    assert found.high[0] <= 1
