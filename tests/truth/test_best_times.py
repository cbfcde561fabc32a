"""Promise: the estimate finds a true effect of the hour, says how sure it is, and claims none where there is none.

Few seeds with wide gates; ./dakika bench statistics prints the same with two hundred beside its targets.
"""

from collections.abc import Callable
from functools import lru_cache

import numpy as np
import pytest
from dakika_core.timing.best_times import Certainty

from truth.worlds.timing import Held, World, held, mirrored_effect, true_effect

SEEDS = 10


def means(found: list[Held]) -> dict[str, float]:
    return {name: float(np.mean([getattr(one, name) for one in found])) for name in Held.__dataclass_fields__}


def run(make: Callable[[int], World], truth: np.ndarray, of: str | None = None, seeds: int = SEEDS) -> dict[str, float]:
    found = []
    for seed in range(seeds):
        world = make(seed)
        effects = world.estimate(of)
        assert effects is not None
        found.append(held(effects, truth, world.used()))
    return means(found)


@lru_cache(maxsize=1)
def plain() -> dict[str, float]:
    return run(lambda seed: World(seed=seed), true_effect())


def test_the_recommended_hours_are_good_ones_and_claim_no_more_than_they_keep() -> None:
    got = plain()
    assert got["regret"] < 0.42
    assert got["rank"] > 0.64
    assert got["claimed"] < 1.25 * got["real"]


def test_intervals_hold_the_truth_as_often_as_they_say() -> None:
    got = plain()
    assert 0.82 < got["covered90"] < 0.98
    assert 0.68 < got["covered80"] < 0.93


@pytest.mark.parametrize("hours", [(9, 18), (18, 23)], ids=["in office hours", "in the evening"])
def test_formats_that_go_with_hours_are_not_taken_for_them(hours: tuple[int, int]) -> None:
    got = run(lambda seed: World(seed=seed, videos_at=hours), true_effect())
    assert got["regret"] < 0.5
    assert 0.78 < got["covered90"] < 0.99


def test_without_an_effect_one_is_rarely_claimed() -> None:
    nothing = (np.zeros(168),)
    claims = [World(seed=500 + seed, effects=nothing).estimate() for seed in range(16)]
    assert sum(found is not None and found.has_effect for found in claims) <= 3
    # A year and a half of ups and downs is no effect of the hours either.
    wandering = [
        World(seed=700 + s, effects=nothing, profiles=1, weeks=74, a_week=5, wandering=0.25) for s in range(16)
    ]
    claimed = [world.estimate() for world in wandering]
    assert sum(found is not None and found.has_effect for found in claimed) <= 4


def test_with_few_posts_nothing_is_sure() -> None:
    few = [World(seed=seed, weeks=3).estimate() for seed in range(6)]
    sure = [any(c is Certainty.SURE for c in found.certainty) for found in few if found is not None]
    assert np.mean(sure) < 0.5


def test_where_posts_never_were_the_interval_widens() -> None:
    found = World(seed=0).estimate()
    assert found is not None
    width = np.log(found.high80) - np.log(found.low80)
    office, night = [2 * 24 + h for h in range(10, 17)], [2 * 24 + h for h in range(1, 5)]
    assert width[night].mean() > 1.3 * width[office].mean()


def test_presence_that_is_wrong_is_overruled_by_many_posts() -> None:
    against = np.exp(-4 * true_effect())
    got = run(
        lambda seed: World(seed=seed, profiles=1, weeks=100, a_week=50, presence=against), true_effect(), "0", seeds=3
    )
    assert got["regret"] < 0.1
    assert got["covered90"] > 0.75


def test_what_profiles_share_is_said_of_each() -> None:
    got = run(lambda seed: World(seed=seed, profiles=8), true_effect(), "3", seeds=5)
    assert got["has_effect"] >= 0.7
    assert got["regret"] < 0.4
    assert 0.8 < got["covered90"] < 0.99


def test_a_profile_whose_hours_differ_can_say_so() -> None:
    effects = (mirrored_effect(), *[true_effect()] * 7)
    differs = run(lambda seed: World(seed=seed, profiles=8, effects=effects), mirrored_effect(), "0", seeds=5)
    assert differs["regret"] < 0.4
    assert differs["covered90"] > 0.7
    alike = run(lambda seed: World(seed=seed, profiles=8, effects=effects), true_effect(), "3", seeds=5)
    assert alike["regret"] < 0.45
