"""Promise: a trial may be looked at after every pair of weeks and still errs no more often than it says."""

import numpy as np
import pytest

from dakika_core.timing.trials import ERROR, Verdict, _normal_bounds, draw_weeks, length_of, look_at, spending


def test_bounds_are_those_of_the_published_tables() -> None:
    """Lan and DeMets 1983, O'Brien and Fleming's type, two-sided 0.05, five looks; values from memory of the tables."""
    assert _normal_bounds(5, 0.05) == pytest.approx([4.877, 3.357, 2.680, 2.290, 2.031], abs=0.003)
    assert _normal_bounds(1, 0.05) == pytest.approx([1.960], abs=0.002)


def test_the_whole_error_is_spent_at_the_end_and_hardly_any_at_first() -> None:
    assert spending(0) == 0
    assert spending(0.2) < 1e-5
    assert spending(1.0) == pytest.approx(ERROR)
    assert spending(3.0) == pytest.approx(ERROR)


def _ends_with(rng: np.random.Generator, effect: float, profiles: int, planned: int) -> Verdict:
    pairs: list[list[float]] = []
    for _ in range(planned):
        pairs.append((effect + 0.3 * rng.standard_t(3, profiles)).tolist())
        verdict = look_at(pairs, planned).verdict
        if verdict is not Verdict.RUNNING:
            return verdict
    return Verdict.RUNNING


def test_without_a_difference_it_claims_one_as_often_as_it_may() -> None:
    """Heavy tails (Student, 3 degrees); with few pairs every way of drawing is gone through, so the error is exact."""
    rng = np.random.default_rng(11)
    claims = [_ends_with(rng, 0.0, 1, 6) in (Verdict.FIRST, Verdict.SECOND) for _ in range(150)]
    assert np.mean(claims) <= ERROR + 3 * (ERROR * (1 - ERROR) / 150) ** 0.5


def test_a_difference_is_found_and_its_side_is_the_right_one() -> None:
    rng = np.random.default_rng(12)
    found = [_ends_with(rng, -0.5, 2, 10) for _ in range(25)]
    assert found.count(Verdict.FIRST) >= 18
    assert Verdict.SECOND not in found


def test_the_interval_holds_the_difference_and_agrees_with_the_verdict() -> None:
    rng = np.random.default_rng(13)
    held = []
    for _ in range(25):
        look = look_at((0.2 + 0.3 * rng.normal(size=(8, 2))).tolist(), 8)
        assert look.interval is not None
        held.append(look.interval.low <= np.exp(0.2) <= look.interval.high)
        assert (look.verdict is Verdict.SECOND) == (look.interval.low > 1.0)
    assert np.mean(held) >= 0.85


def test_what_is_missing_or_comes_late_is_left_out() -> None:
    assert look_at([], 6).verdict is Verdict.RUNNING
    assert look_at([[float("nan")]] * 6, 6).verdict is Verdict.NO_DIFFERENCE
    look = look_at([[0.1]] * 9, 6)
    assert look.pairs == 6
    assert look.spent == pytest.approx(ERROR)


def test_few_pairs_can_say_nothing_however_clear_they_look() -> None:
    look = look_at([[1.0]] * 3, 6)
    assert look.verdict is Verdict.RUNNING
    assert look.interval is not None
    assert np.isinf(look.interval.high)


def test_every_pair_holds_one_week_of_each_and_the_drawing_can_be_done_again() -> None:
    weeks = draw_weeks(7, 40)
    assert weeks == draw_weeks(7, 40) != draw_weeks(8, 40)
    assert all(a != b for a, b in zip(weeks[::2], weeks[1::2], strict=True))
    assert 8 <= sum(weeks[::2]) <= 32


def test_more_posts_and_profiles_make_it_shorter_and_a_small_difference_is_refused() -> None:
    short = length_of(worth=1.5, noise=0.5, weekly=0.1, posts_a_week=4, profiles=3)
    longer = length_of(worth=1.25, noise=0.5, weekly=0.1, posts_a_week=4, profiles=3)
    assert short.pairs is not None
    assert longer.pairs is not None
    assert short.pairs < longer.pairs
    assert short.power >= 0.8
    assert length_of(worth=1.05, noise=0.6, weekly=0.2, posts_a_week=2, profiles=1).pairs is None
