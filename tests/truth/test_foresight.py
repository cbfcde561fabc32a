"""Promise: projections hold the truth as often as they say, at every age and in another world than the one assumed.

Few seeds with wide gates; ./dakika bench statistics prints the same with many beside its targets.
"""

from functools import lru_cache

import pytest
from dakika_core.foresight.projection import HORIZONS_HOURS

from truth.worlds.growth import Coverage, GrowingWorld, Law, coverage

SEEDS = 8


@lru_cache
def held(law: Law, posts: int = 200) -> Coverage:
    return coverage([GrowingWorld(seed=seed, law=law, posts=posts) for seed in range(SEEDS)])


@pytest.mark.parametrize("law", list(Law))
@pytest.mark.parametrize("horizon", HORIZONS_HOURS)
def test_the_truth_lies_in_the_interval_four_times_in_five(law: Law, horizon: float) -> None:
    assert 0.74 <= held(law).by_horizon[horizon] <= 0.9


@pytest.mark.parametrize("law", list(Law))
def test_planned_posts_and_weeks_hold_too(law: Law) -> None:
    assert 0.74 <= held(law).before <= 0.88
    assert 0.7 <= held(law).weeks <= 0.92


def test_a_profile_of_few_posts_is_no_surer_than_it_may_be() -> None:
    found = held(Law.WAKING, 80)
    assert 0.7 <= found.by_horizon[1.0] <= 0.92
    assert 0.72 <= found.before <= 0.92


@pytest.mark.parametrize("law", list(Law))
def test_an_older_post_is_known_better(law: Law) -> None:
    errors = held(law).errors
    assert errors[1.0] > errors[6.0] > errors[72.0]
    assert errors[1.0] < errors[0.0]


def test_expectations_of_weeks_lean_to_neither_side() -> None:
    assert abs(held(Law.STRETCHED).bias) < 0.1
