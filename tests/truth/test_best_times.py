"""Promise: the estimate finds a true effect of the hour, says how sure it is, and claims none where there is none.

Few seeds with wide gates; ./dakika bench statistics prints the same with two hundred beside its targets.
"""

from collections.abc import Callable
from functools import lru_cache

import numpy as np
import pytest
from dakika_core.timing.best_times import Certainty
from dakika_core.timing.held_out import HeldOut, held_out
from dakika_core.timing.proposals import Gain, Rules, gain_of, propose_rhythm
from dakika_core.values.period import hour_of_week
from sklearn.gaussian_process import GaussianProcessRegressor
from sklearn.gaussian_process.kernels import ExpSineSquared, WhiteKernel

from truth.worlds.timing import UTC_ZONE, WAKING, Held, World, held, mirrored_effect, true_effect

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


@lru_cache
def tried(seed: int, *, is_flat: bool) -> HeldOut:
    world = World(seed=seed, a_week=12, effects=(np.zeros(168) if is_flat else true_effect(),))
    at, values, formats, profiles = world.posts()
    found = held_out(published_at=at, values=values, formats=formats, profiles=profiles, zone=UTC_ZONE)
    assert found is not None
    return found


def test_newer_weeks_show_a_gain_where_there_is_one_and_hardly_ever_where_there_is_none() -> None:
    """With 200 seeds of 36 posts a week the gain is shown .5 of the time, without an effect .01 of it."""
    flat = [tried(seed, is_flat=True).is_shown for seed in range(12)]
    true = [tried(seed, is_flat=False).is_shown for seed in range(12)]
    assert sum(flat) <= 1
    assert sum(true) >= 3


def test_the_gain_that_newer_weeks_show_holds_the_true_one() -> None:
    effect, inside = true_effect(), []
    for seed in range(12):
        found, world = tried(seed, is_flat=False), World(seed=seed, a_week=12)
        hours = [int(hour_of_week(at, UTC_ZONE)) for at in world.posts()[0] if at >= found.since]
        best = [hour for hour in hours if hour in found.hours]
        gain = float(np.exp(effect[best].mean() - effect[hours].mean()))
        assert found.interval is not None
        inside.append(found.interval.low <= gain <= found.interval.high)
    assert np.mean(inside) >= 0.75


def test_the_smooth_part_is_the_kernel_that_a_reference_library_has() -> None:
    """scikit-learn's ExpSineSquared, exp(-2 sin^2(pi d / p) / l^2), and its Gaussian process on the same posts."""
    hours = np.arange(168.0)[:, None]
    for reach in (0.35, 0.55, 0.85):
        apart = np.subtract.outer(np.arange(168), np.arange(168))
        ours = np.exp(-2 * np.sin(np.pi * apart / 24) ** 2 / reach**2)
        assert np.allclose(ours, ExpSineSquared(length_scale=reach, periodicity=24.0)(hours))
    world = World(seed=3, profiles=1, a_week=40, noise=0.4, office=0.3)
    at, values, formats, _ = world.posts()
    effects = world.estimate("0")
    assert effects is not None
    place = np.array([hour_of_week(one, UTC_ZONE) for one in at])[:, None]
    y = np.log(values) - np.array([{"text": 0.0, "image": 0.3, "video": 0.7}[kind] for kind in formats])
    kernel = 0.1 * ExpSineSquared(0.55, 24.0, length_scale_bounds="fixed", periodicity_bounds="fixed") + WhiteKernel(
        0.2
    )
    process = GaussianProcessRegressor(kernel, normalize_y=True).fit(place, y)
    theirs = process.predict(hours + 0.5)
    assert np.corrcoef(theirs[WAKING], np.log(effects.index)[WAKING])[0, 1] > 0.8


@lru_cache
def proposed(seed: int, *, is_flat: bool, profiles: int) -> tuple[Gain, float]:
    """What a proposed rhythm is said to gain on the hours of the last posts, and what it truly does (log)."""
    effect = np.zeros(168) if is_flat else true_effect()
    world = World(seed=50_000 + seed, effects=(effect,), profiles=profiles)
    at, _, _, of = world.posts()
    model = world.model()
    effects = {str(p): model.of(str(p)) for p in range(profiles)}
    used = {
        p: [int(hour_of_week(one, UTC_ZONE)) for one, whose in zip(at, of, strict=True) if whose == p][-48:]
        for p in effects
    }
    found = propose_rhythm(effects, dict.fromkeys(effects, 5), Rules(learning=0.0))
    hours = {p: [slot.hour for slot in found.slots if slot.profile == p] for p in effects}
    gain = gain_of(effects, used, hours)
    assert gain is not None
    return gain, float(np.mean([effect[hours[p]].mean() - effect[used[p]].mean() for p in effects]))


@pytest.mark.parametrize("profiles", [1, 3])
def test_the_best_of_many_hours_is_no_gain_by_being_chosen(profiles: int) -> None:
    gains = [proposed(seed, is_flat=True, profiles=profiles)[0] for seed in range(14)]
    assert sum(gain.is_worth_it or gain.interval.low > 1 for gain in gains) <= 2


@pytest.mark.parametrize("profiles", [1, 3])
def test_a_proposed_rhythm_gains_what_its_interval_says(profiles: int) -> None:
    """Of 40 worlds the 80 % interval holds .80 with one profile, .88 of 24 with three."""
    found = [proposed(seed, is_flat=False, profiles=profiles) for seed in range(24)]
    inside = [np.log(gain.interval.low) <= true <= np.log(gain.interval.high) for gain, true in found]
    assert np.mean(inside) >= 0.65
    assert any(gain.is_worth_it for gain, _ in found)
