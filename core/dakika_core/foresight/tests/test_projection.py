"""Promise: a young post is read at its age, and what it is heading for narrows as it grows."""

import numpy as np
import pytest

from dakika_core.foresight.conformal import Errors
from dakika_core.foresight.curves import AGES_HOURS, assumed_curve, learnt_curve
from dakika_core.foresight.projection import HORIZONS_HOURS, at_present, past_errors, project, usual_band
from dakika_core.metrics.growth import Growth

CURVE = assumed_curve(Growth(half_life_hours=5.0))
NORMAL = (Errors(low=-1.2816, high=1.2816, count=0),) * len(HORIZONS_HOURS)


def _one(age: float, count: float, *, prior: float = float("nan"), spread: float = 0.6) -> tuple[float, float, float]:
    ages = np.array([age])
    rise, of_growth = CURVE.at(ages)
    found = project(
        ages_hours=ages, counts=np.array([count]), rise=rise, spread=of_growth, prior_log=np.array([prior]),
        prior_spread=np.array([spread]), errors=NORMAL,
    )  # fmt: skip
    return float(found.value[0]), float(found.low[0]), float(found.high[0])


def test_what_was_expected_and_what_is_seen_are_weighed_by_their_precision() -> None:
    """The conjugate normal (Gelman et al., Bayesian Data Analysis, 3rd ed., 2.5, from memory), reckoned by hand."""
    ages, counts = np.array([6.0]), np.array([400.0])
    rise, spread = np.array([0.5]), np.array([0.3])
    variance = 0.3**2 + 400 / 401**2
    precise = 1 / variance + 1 / 0.6**2
    mean = ((np.log(401) + 0.5) / variance + 6.0 / 0.6**2) / precise
    found = project(
        ages_hours=ages, counts=counts, rise=rise, spread=spread, prior_log=np.array([6.0]),
        prior_spread=np.array([0.6]), errors=NORMAL,
    )  # fmt: skip
    assert found.log_mean[0] == pytest.approx(mean)
    assert found.unit[0] == pytest.approx(precise**-0.5)
    assert found.high[0] == np.round(np.expm1(mean + 1.2816 * precise**-0.5)), "counts are whole"
    assert found.low[0] == np.round(np.expm1(mean - 1.2816 * precise**-0.5))


def test_the_interval_narrows_with_age_and_at_seven_days_nothing_is_left_to_guess() -> None:
    growth = Growth(half_life_hours=5.0)
    widths = []
    for age in (1.0, 3.0, 6.0, 24.0, 72.0):
        value, low, high = _one(age, 1000 * float(growth.share(np.array([age]))[0]), prior=np.log1p(1000.0))
        assert value == pytest.approx(1000, rel=0.1)
        widths.append(np.log(high / low))
    assert (np.diff(widths) < 0).all()
    assert _one(168.0, 321.0) == pytest.approx((321.0, 321.0, 321.0))


def test_it_never_falls_below_what_is_counted_already() -> None:
    value, low, high = _one(24.0, 5000.0, prior=np.log1p(20.0), spread=0.1)
    assert low >= 5000 - 1e-6
    assert high >= value - 1e-6 >= 5000 - 2e-6


def test_a_post_of_minutes_is_what_was_expected_and_an_unknown_profile_goes_by_its_growth() -> None:
    value, _, _ = _one(0.1, 0.0, prior=np.log1p(300.0), spread=0.5)
    assert 30 < value < 300
    value, low, high = _one(1.0, 50.0)
    assert low < value < high
    assert value > 100


def test_errors_of_the_past_correct_the_interval() -> None:
    rng = np.random.default_rng(1)
    n = 150
    truth = np.exp(rng.normal(6, 0.5, n))
    share = Growth(half_life_hours=5.0).share(np.array(AGES_HOURS))
    # Posts differ more in their growth than the assumed curve says.
    values = truth[:, None] * share ** np.exp(rng.normal(0, 0.9, (n, 1)))
    values = values / values[:, [7]] * truth[:, None]
    curve = learnt_curve(values, CURVE)
    errors = past_errors(values, curve, np.full(n, 6.0), np.full(n, 0.5))
    assert len(errors) == len(HORIZONS_HOURS)
    a = AGES_HOURS.index(3.0)
    rise, spread = curve.at(np.full(n, 3.0))
    said = project(
        ages_hours=np.full(n, 3.0), counts=values[:, a], rise=rise, spread=spread, prior_log=np.full(n, 6.0),
        prior_spread=np.full(n, 0.5), errors=errors,
    )  # fmt: skip
    assert 0.75 <= np.mean((said.low <= truth) & (truth <= said.high)) <= 0.87


def test_the_index_at_an_age_is_the_count_over_what_is_typical_then() -> None:
    ages = np.array([5.0])
    rise, spread = CURVE.at(ages)
    typical = float(np.expm1(np.log1p(500.0) - rise[0]))
    found = at_present(counts=np.array([2 * typical]), rise=rise, spread=spread, typical_log=np.log1p([500.0]),
                       scatter=0.6, posts=60)  # fmt: skip
    assert found.index[0] == pytest.approx(2.0)
    assert found.low[0] < 2.0 < found.high[0]
    grown = at_present(counts=np.array([1000.0]), rise=np.zeros(1), spread=np.full(1, 0.03), typical_log=np.log1p([500.0]),
                       scatter=0.6, posts=60)  # fmt: skip
    assert grown.high[0] / grown.low[0] < found.high[0] / found.low[0], "wider than a grown one's"


def test_no_typical_means_no_index_and_a_zero_is_a_low_one_not_a_missing_one() -> None:
    rise, spread = CURVE.at(np.array([5.0, 5.0]))
    found = at_present(counts=np.array([10.0, 0.0]), rise=rise, spread=spread, typical_log=np.array([np.nan, np.log(400)]),
                       scatter=0.6, posts=40)  # fmt: skip
    assert np.isnan(found.index[0])
    assert found.index[1] == 0.0
    assert 0 < found.high[1] < 1


def test_one_post_in_twenty_lies_outside_the_band_of_its_profile() -> None:
    rng = np.random.default_rng(8)
    outside = []
    for _ in range(400):
        values = np.exp(rng.normal(5, 0.6, (61, 1))) * np.linspace(0.2, 1.1, len(AGES_HOURS))
        band = usual_band(values[:-1], 6.0)
        assert band is not None
        outside.append(not band.low <= values[-1, AGES_HOURS.index(6.0)] <= band.high)
    assert 0.02 <= np.mean(outside) <= 0.08
    assert usual_band(values[:20], 6.0) is None
    assert usual_band(values, 0.3) is None
    between = usual_band(values, 9.0)
    assert between is not None
    assert between.posts == 61
