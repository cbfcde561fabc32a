"""Promise: an interval made of past errors holds the next as often as it says, whatever law they follow."""

import math

import numpy as np
import pytest

from dakika_core.foresight.conformal import bound, bounds


def test_the_bound_is_the_one_that_the_textbook_counts_out() -> None:
    """Nine scores at level .8: the ceil(10 x .8) = 8th smallest; at .9 the 9th; at .95 there is none (A. Angelopoulos and
    S. Bates, "A gentle introduction to conformal prediction", 2021, section 1, from memory; counted by hand)."""
    scores = np.array([0.9, 0.1, 0.5, 0.3, 0.7, 0.2, 0.8, 0.4, 0.6])
    assert bound(scores, 0.8) == 0.8
    assert bound(scores, 0.9) == 0.9
    assert math.isinf(bound(scores, 0.95))
    assert bound(np.append(scores, np.nan), 0.8) == 0.8


@pytest.mark.parametrize("law", ["normal", "skewed", "heavy"])
@pytest.mark.parametrize("n", [12, 40, 200])
def test_the_next_error_lies_within_four_times_in_five(law: str, n: int) -> None:
    rng = np.random.default_rng(n)
    draw = {"normal": rng.standard_normal, "skewed": rng.standard_exponential, "heavy": lambda s: rng.standard_t(2, s)}[
        law
    ]
    held = []
    for row in draw((3000, n + 1)):
        found = bounds(row[:-1])
        held.append(found.low <= row[-1] <= found.high)
    # At least what is said, and with n errors at most 2 / (n + 1) more.
    assert 0.78 <= np.mean(held) <= 0.82 + 2 / (n + 1)


def test_too_few_errors_fall_back_on_the_normal_law() -> None:
    found = bounds(np.array([0.1, -0.1]), otherwise=0.5)
    assert (found.low, found.high, found.count) == (
        pytest.approx(-0.6408, abs=1e-3),
        pytest.approx(0.6408, abs=1e-3),
        2,
    )


def test_only_the_newest_errors_count() -> None:
    assert bounds(np.concatenate([np.full(500, 9.0), np.zeros(200)])).high == 0.0
