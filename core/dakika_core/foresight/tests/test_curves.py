"""Promise: growth is learnt as far as readings tell it, and taken for granted, widely, where they do not."""

import numpy as np
import pytest

from dakika_core.foresight.curves import (
    AGES_HOURS,
    assumed_curve,
    at_wanted_ages,
    counting_variance,
    learnt_curve,
)
from dakika_core.metrics.growth import Growth

AGES = np.array(AGES_HOURS)
FAST, SLOW = Growth(half_life_hours=5.0), Growth(half_life_hours=40.0)


def _posts(growth: Growth, n: int, final: float = 5000.0) -> np.ndarray:
    return np.tile(final * growth.share(AGES), (n, 1))


def test_many_posts_overrule_what_was_assumed_of_their_network() -> None:
    curve = learnt_curve(_posts(FAST, 200), assumed_curve(SLOW))
    truth = np.log(FAST.share(np.array([168.0]))[0] / FAST.share(AGES))
    assert curve.rise == pytest.approx(truth, abs=0.05)
    assert (curve.posts == 200).all()


def test_no_posts_leave_the_assumption_and_few_move_it_a_little() -> None:
    assumed = assumed_curve(SLOW)
    none = learnt_curve(np.empty((0, len(AGES))), assumed)
    assert none.rise == pytest.approx(assumed.rise)
    few = learnt_curve(_posts(FAST, 3), assumed)
    many = learnt_curve(_posts(FAST, 100), assumed)
    assert many.rise[0] < few.rise[0] < assumed.rise[0]
    assert few.spread[0] > many.spread[0]


def test_the_assumed_spread_shrinks_with_age_and_is_nothing_to_speak_of_at_seven_days() -> None:
    curve = assumed_curve(FAST)
    assert (np.diff(curve.spread[:8]) <= 1e-9).all()
    assert curve.rise[AGES_HOURS.index(168.0)] == pytest.approx(0)


def test_between_two_ages_the_curve_lies_between_theirs_and_before_the_first_it_goes_on() -> None:
    curve = assumed_curve(FAST)
    rise, spread = curve.at(np.array([0.5, 1.0, 4.0, 6.0, 168.0]))
    assert (np.diff(rise) < 0).all()
    assert curve.rise[3] < rise[2] < curve.rise[2]
    assert spread[0] > spread[1]
    assert curve.share(np.array([168.0]))[0] == pytest.approx(1)


def test_chance_in_counting_is_not_taken_for_a_difference_between_posts() -> None:
    rng = np.random.default_rng(2)
    share = FAST.share(AGES)
    steps = np.diff(np.append(0, share))
    values = np.cumsum(rng.poisson(12 * steps, (400, len(AGES))), axis=1).astype(float)
    curve = learnt_curve(values, assumed_curve(FAST))
    assert curve.spread[AGES_HOURS.index(6.0)] < 0.2
    counts = rng.poisson(40.0, 200_000).astype(float)
    assert np.var(np.log1p(counts)) == pytest.approx(counting_variance(np.array([40.0]))[0], rel=0.05)


def test_ages_that_are_not_kept_are_read_between_those_that_are() -> None:
    kept = np.array([1.0, 3.0, 6.0, 12.0, 24.0, 72.0, 168.0, 672.0])
    values = np.expm1(np.log(kept) + 1.0)[None, :]
    found = at_wanted_ages(kept, values)
    assert found[0, 1] == pytest.approx(np.expm1(np.log(2.0) + 1.0))
    assert found[0, [0, 2, 8]] == pytest.approx(values[0, [0, 1, 7]])
    values[0, 1] = np.nan
    assert np.isnan(at_wanted_ages(kept, values)[0, 1])
