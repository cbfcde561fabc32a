"""Promise: typical is what is usual around a post, never the post itself; 1.00 is typical."""

import statistics

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.metrics.growth import Growth
from dakika_core.metrics.typical import index_of, running_typical, typical_at_present, typical_by_format

COUNTS = st.one_of(st.just(float("nan")), st.integers(0, 5000).map(float))


def test_a_post_does_not_judge_itself() -> None:
    values = np.full(40, 100.0)
    values[20] = 100_000.0
    typical = running_typical(values)
    assert np.allclose(typical, 100)
    assert np.isclose(index_of(values, typical)[20], 1000)


def test_too_few_others_say_nothing() -> None:
    assert np.isnan(running_typical(np.full(8, 5.0))).all()
    assert not np.isnan(running_typical(np.full(9, 5.0))).any()


def test_it_follows_a_slow_trend() -> None:
    values = np.exp(np.linspace(3, 6, 300))
    typical = running_typical(values)
    assert np.all(np.abs(np.log(values[60:240] / typical[60:240])) < 0.05)


def test_missing_values_neither_count_nor_get_an_index() -> None:
    values = np.full(30, 10.0)
    values[3] = np.nan
    typical = running_typical(values)
    assert np.isclose(typical[3], 10)
    assert np.isnan(index_of(values, typical)[3])


def test_a_format_with_enough_posts_is_held_against_its_own() -> None:
    values = np.where(np.arange(80) % 2 == 0, 10.0, 1000.0)
    formats = ["text" if i % 2 == 0 else "short_video" for i in range(80)]
    assert np.allclose(index_of(values, typical_by_format(values, formats)), 1, rtol=0.01)


def test_no_post_of_a_format_makes_its_typical_jump() -> None:
    """Videos do twice as well as texts: from the first to the sixtieth their typical goes there step by step."""
    draw = np.random.default_rng(5)
    texts, videos = 100 * draw.lognormal(0, 0.6, 80), 200 * draw.lognormal(0, 0.6, 60)
    typical = []
    for count in range(1, 61):
        values = np.concatenate([texts, videos[:count]])
        found = typical_by_format(values, ["text"] * 80 + ["short_video"] * count)
        typical.append(float(np.log(found[80])))
    steps = np.abs(np.diff(typical))
    assert steps[28:31].max() < 0.08  # where the thirtieth comes it jumped by .5
    assert steps.max() < 0.25
    assert typical[0] < np.log(125)
    assert abs(typical[-1] - np.log(200)) < 0.2


def test_a_format_of_few_posts_is_told_better_than_by_its_own_few_or_by_the_profile() -> None:
    errors = {"drawn": [], "own": [], "profile": []}
    for seed in range(60):
        draw = np.random.default_rng(seed)
        effect = draw.normal(0, 0.3, 4)
        kinds = np.concatenate([np.zeros(60, int), np.repeat([1, 2, 3], 6)])
        draw.shuffle(kinds)
        values = 300 * np.exp(effect[kinds] + draw.normal(0, 0.7, len(kinds)))
        truth = np.log(300) + effect[kinds]
        few = kinds > 0
        found = {
            "drawn": typical_by_format(values, [str(k) for k in kinds]), "profile": running_typical(values),
            "own": np.array([np.median(values[(kinds == k) & (np.arange(len(kinds)) != i)])
                             for i, k in enumerate(kinds)]),
        }  # fmt: skip
        for name, typical in found.items():
            errors[name].append(float(np.mean((np.log(typical) - truth)[few] ** 2)))
    drawn, own, profile = (float(np.mean(errors[name])) for name in ("drawn", "own", "profile"))
    assert drawn < own
    assert drawn < profile


def test_a_typical_of_nothing_gives_no_index() -> None:
    values = np.zeros(20)
    assert np.isnan(index_of(values, running_typical(values))).all()


@given(st.lists(COUNTS, max_size=60), st.integers(1, 9), st.integers(1, 5))
def test_it_is_the_median_of_the_nearest_others_as_one_would_pick_them_by_hand(
    counts: list[float], window: int, fewest: int
) -> None:
    values = np.array(counts, dtype=float)
    typical = running_typical(values, window=window, fewest=fewest)
    known = [i for i, value in enumerate(counts) if value == value]
    for i in range(len(counts)):
        # Distance is counted in posts that are known; of two as near the earlier one is taken.
        place = sum(1 for other in known if other < i)
        others = sorted((abs(k - place), k) for k, other in enumerate(known) if other != i)[:window]
        if len(others) < fewest:
            assert np.isnan(typical[i])
            continue
        logs = [np.log1p(counts[known[k]]) for _, k in others]
        assert np.isclose(typical[i], np.expm1(statistics.median(logs)))


def young_world(rng: np.random.Generator, true_half_life: float, count: int = 120) -> tuple[np.ndarray, np.ndarray]:
    """Counts as last seen of ordinary posts, one every two hours: many grown, some hours old, none better than others."""
    ages = np.arange(count, 0, -1) * 2.0
    finals = 400 * np.exp(rng.normal(0, 0.5, count))
    return finals * Growth(half_life_hours=true_half_life).share(ages), ages


@pytest.mark.parametrize(("assumed", "low", "high"), [(20.0, 0.9, 1.1), (10.0, 0.7, 0.95), (40.0, 1.1, 1.4)])
def test_an_ordinary_young_post_is_about_typical_for_its_age(assumed: float, low: float, high: float) -> None:
    """Worlds of half-life 20 h; where half or twice of that is assumed, the youngest come out too bad or too good by so much."""
    growth, young, grown = Growth(half_life_hours=assumed), [], []
    for seed in range(40):
        values, ages = young_world(np.random.default_rng(seed), 20.0)
        logs = np.log(index_of(values, typical_at_present(values, ages, ["text"] * len(values), growth)))
        young.append(np.nanmean(logs[ages <= 20]))
        grown.append(np.nanmean(logs[ages > 100]))
    assert low < np.exp(np.mean(young)) < high
    assert np.exp(np.mean(grown)) == pytest.approx(1, abs=0.1)


def test_as_last_seen_old_posts_stand_as_at_their_final_count() -> None:
    values = 50 * np.exp(np.random.default_rng(1).normal(0, 0.4, 90))
    ages = np.full(90, 5000.0)
    found = typical_at_present(values, ages, ["text"] * 90, Growth(half_life_hours=None))
    assert np.allclose(found, typical_by_format(values, ["text"] * 90))
