"""Promise: the set's spread and the line of sizes are those of the reference libraries, and the line's intervals hold."""

import numpy as np
import pytest
import statsmodels.api as sm
from scipy.stats.mstats import mquantiles

from dakika_core.competitors.band import SizeLine, size_line, spread_over


def test_quantiles_against_scipy() -> None:
    """scipy.stats.mstats.mquantiles with alphap = betap = 1/3 is Hyndman and Fan's eighth definition."""
    values = np.random.default_rng(2).lognormal(3, 1, (9, 1))
    expected = mquantiles(values[:, 0], [0.25, 0.5, 0.75], 1 / 3, 1 / 3)
    assert spread_over(values)[1:4, 0] == pytest.approx(expected)


def test_few_members_have_no_quartiles_and_nobody_has_nothing() -> None:
    found = spread_over(np.array([[1.0, np.nan], [3.0, np.nan], [2.0, np.nan]]))
    assert found[[0, 4], 0].tolist() == [1, 3]
    assert np.isnan(found[1:4, 0]).all()
    assert np.isnan(found[:, 1]).all()


def test_the_line_against_statsmodels() -> None:
    """statsmodels OLS: parameters, their intervals, and the prediction interval of a further observation."""
    rng = np.random.default_rng(5)
    followers = rng.lognormal(9, 1.2, 12)
    rates = np.exp(4 - 0.4 * np.log(followers) + rng.normal(0, 0.3, 12))
    found = size_line(followers, rates, our_followers=5000, our_rate=3.0)
    assert isinstance(found, SizeLine)
    fitted = sm.OLS(np.log(rates), sm.add_constant(np.log(followers))).fit()
    assert (found.level, found.slope) == pytest.approx(tuple(fitted.params))
    assert (found.slope_interval.low, found.slope_interval.high) == pytest.approx(tuple(fitted.conf_int()[1]))
    told = fitted.get_prediction([1, np.log(5000)]).summary_frame(alpha=0.05)
    assert found.expected == pytest.approx(np.exp(told["mean"][0]))
    assert found.usual.low == pytest.approx(np.exp(told["obs_ci_lower"][0]))
    assert found.usual.high == pytest.approx(np.exp(told["obs_ci_upper"][0]))
    low, middle, high = found.usual_at(np.array([5000.0, 40000.0]))
    assert (low[0], middle[0], high[0]) == pytest.approx((found.usual.low, found.expected, found.usual.high))
    further = fitted.get_prediction([1, np.log(40000)]).summary_frame(alpha=0.05)
    assert (low[1], high[1]) == pytest.approx((np.exp(further["obs_ci_lower"][0]), np.exp(further["obs_ci_upper"][0])))
    assert found.above == pytest.approx(3.0 / np.exp(told["mean"][0]))


def test_where_it_cannot_be_said_it_says_so() -> None:
    def said(followers: list[float], ours: float = 100.0) -> str:
        found = size_line(followers, [1.0] * len(followers), our_followers=ours, our_rate=1.0)
        assert isinstance(found, str)
        return found

    assert "takes 6 others" in said([10, 20, 30, 40, 50])
    assert "takes 6 others" in said([10, 20, 30, 40, 50, 0])
    assert "one size" in said([100, 101, 102, 103, 104, 105])
    assert "not known" in said([10, 20, 40, 80, 160, 320], ours=0)


def test_a_usual_member_is_called_unusual_as_rarely_as_the_level_says_and_an_unusual_one_is_found() -> None:
    rng, claimed, found_out = np.random.default_rng(8), 0, 0
    for _ in range(600):
        followers = rng.lognormal(9, 1.0, 9)
        rates = np.exp(3 - 0.35 * np.log(followers) + rng.normal(0, 0.35, 9))
        for factor in (1.0, 4.0):
            found = size_line(followers[1:], rates[1:], our_followers=followers[0], our_rate=factor * rates[0])
            if isinstance(found, SizeLine) and found.is_out_of_the_usual:
                claimed += factor == 1.0
                found_out += factor == 4.0
    assert claimed / 600 <= 0.07
    assert found_out / 600 >= 0.6
