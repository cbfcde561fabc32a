"""Promise: shares and concentration are those of the textbooks, and their intervals hold."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.competitors.shares import concentration, share_of


def test_gini_of_one_to_ten_and_herfindahl_of_four_firms() -> None:
    """Gini of 1..10 = .3; Herfindahl of 30, 30, 20, 20 = 2600: by their definitions, worked by hand."""
    gini, herfindahl = concentration(range(1, 11)), concentration([30, 30, 20, 20])
    assert gini is not None
    assert herfindahl is not None
    assert gini.gini == pytest.approx(0.3)
    assert herfindahl.herfindahl * 10_000 == pytest.approx(2600)


@given(st.lists(st.floats(0.01, 1e6), min_size=1, max_size=40))
def test_bounds_of_concentration(amounts: list[float]) -> None:
    found = concentration(amounts)
    assert found is not None
    n = len(amounts)
    assert -1e-9 <= found.gini <= 1 - 1 / n + 1e-9
    assert 1 / n - 1e-9 <= found.herfindahl <= 1 + 1e-9
    # Against the definition by all pairs.
    x = np.array(amounts)
    assert found.gini == pytest.approx(np.abs(x[:, None] - x).sum() / (2 * n * n * x.mean()), abs=1e-9)


def test_nothing_has_no_concentration_and_negative_amounts_are_refused() -> None:
    assert concentration([0, 0]) is None
    with pytest.raises(ValueError, match="negative"):
        concentration([-1, 2])


def test_shares_of_all_add_up_to_one() -> None:
    totals = np.array([10.0, 30.0, 60.0])
    each = [share_of(totals, np.ones(3), np.arange(3) == i).value for i in range(3)]
    assert each == pytest.approx([0.1, 0.3, 0.6])


def test_a_member_without_a_total_is_left_out_and_said() -> None:
    found = share_of(np.array([10.0, np.nan, 30.0]), np.ones(3), np.array([True, False, False]))
    assert (found.value, found.missing) == (0.25, 1)
    assert share_of(np.array([np.nan, 5.0]), np.ones(2), np.array([True, False])).value is None


def test_the_interval_of_a_share_holds() -> None:
    rng = np.random.default_rng(3)
    truth, mean, held = np.array([4.0, 6.0, 10.0]), 25, 0
    for _ in range(400):
        posts = [rng.lognormal(np.log(m) - 0.32, 0.8, mean) for m in truth]
        totals = np.array([p.sum() for p in posts])
        found = share_of(totals, np.array([p.var(ddof=1) * mean for p in posts]), np.array([True, False, False]))
        assert found.interval is not None
        held += found.interval.low <= 0.2 <= found.interval.high
    assert 0.90 <= held / 400 <= 0.98
