"""Promise: a proposed rhythm is the best that its rules allow, for all profiles at once, and says what it gains."""

from dataclasses import replace
from itertools import combinations, product

import numpy as np
import pytest

from dakika_core.timing.best_times import Certainty, HourEffects
from dakika_core.timing.proposals import Rules, gain_of, propose_rhythm, worth_learning
from dakika_core.values.period import HOURS_PER_WEEK

OPEN = (Certainty.OPEN,) * HOURS_PER_WEEK


def effects(logs: np.ndarray, *, spread: float | np.ndarray = 0.1, reach: float = 1.5) -> HourEffects:
    """Effects whose errors of neighbouring hours go together."""
    apart = np.abs(np.subtract.outer(np.arange(HOURS_PER_WEEK), np.arange(HOURS_PER_WEEK)))
    apart = np.minimum(apart, HOURS_PER_WEEK - apart)
    sigma = np.broadcast_to(spread, HOURS_PER_WEEK)
    covariance = np.exp(-0.5 * (apart / reach) ** 2) * np.outer(sigma, sigma)
    return HourEffects(
        index=np.exp(logs), low80=np.exp(logs - 1.28 * sigma), high80=np.exp(logs + 1.28 * sigma),
        low95=np.exp(logs - 1.96 * sigma), high95=np.exp(logs + 1.96 * sigma), nearby=np.zeros(HOURS_PER_WEEK, int),
        from_posts=np.ones(HOURS_PER_WEEK), certainty=OPEN, posts=100, has_effect=True, odds=100.0,
        by_presence=np.ones(HOURS_PER_WEEK), covariance=covariance, noise=0.6,
    )  # fmt: skip


def _keeps(hours: tuple[int, ...], rules: Rules) -> bool:
    """By brute force, without the programme's own words."""
    for a, b in combinations(hours, 2):
        apart = abs(a - b) % HOURS_PER_WEEK
        if min(apart, HOURS_PER_WEEK - apart) < rules.min_distance_hours:
            return False
    return all(sum(hour // 24 == day for hour in hours) <= rules.most_per_day for day in range(7))


@pytest.mark.parametrize("seed", range(6))
def test_no_other_choice_of_hours_would_be_better(seed: int) -> None:
    rng = np.random.default_rng(seed)
    logs = {name: rng.normal(0, 0.3, HOURS_PER_WEEK) for name in ("a", "b")}
    # Four hours a day on four days: few enough to try everything.
    rules = Rules(min_distance_hours=3, most_per_day=1, quiet_from=14, quiet_to=10, days_off=frozenset({1, 3, 5}),
                  learning=0.0)  # fmt: skip
    found = propose_rhythm({name: effects(log) for name, log in logs.items()}, {"a": 2, "b": 3}, rules)
    hours = [hour for hour in range(HOURS_PER_WEEK) if rules.allows(hour)]
    assert len(hours) == 16
    best = sum(
        max(sum(logs[name][list(some)]) for some in combinations(hours, many) if _keeps(some, rules))
        for name, many in (("a", 2), ("b", 3))
    )
    assert sum(np.log(slot.index) for slot in found.slots) == pytest.approx(best)
    assert not found.short


def test_three_profiles_share_an_hour_by_quarters_and_a_fifth_finds_no_room() -> None:
    logs = np.where(np.arange(HOURS_PER_WEEK) == 20, 0.5, 0.0)
    names = "abcde"
    rules = Rules(quiet_from=21, quiet_to=20, days_off=frozenset(range(1, 7)), learning=0.0)
    found = propose_rhythm({name: effects(logs) for name in names}, dict.fromkeys(names, 1), rules)
    assert sorted(slot.minute for slot in found.slots) == [1200, 1215, 1230, 1245]
    assert sum(found.short.values()) == 1
    freely = propose_rhythm(
        {name: effects(logs) for name in names}, dict.fromkeys(names, 1),
        Rules(quiet_from=21, quiet_to=20, days_off=frozenset(range(1, 7)), learning=0.0, own_quarters=False),
    )  # fmt: skip
    assert [slot.minute for slot in freely.slots] == [1200] * 5


def test_the_distance_is_kept_round_the_end_of_the_week() -> None:
    logs = np.zeros(HOURS_PER_WEEK)
    logs[[0, 167]] = 1.0
    found = propose_rhythm({"a": effects(logs)}, {"a": 2}, Rules(quiet_from=0, quiet_to=0, learning=0.0))
    hours = sorted(slot.hour for slot in found.slots)
    assert len(hours) == 2
    assert len({0, 167} & set(hours)) == 1


def test_a_share_goes_to_hours_that_are_little_known_and_might_be_good() -> None:
    logs = np.full(HOURS_PER_WEEK, -0.2)
    logs[40:44] = 0.2
    spread = np.full(HOURS_PER_WEEK, 0.05)
    spread[90:94] = 0.4
    one = effects(logs, spread=spread)
    worth = worth_learning(one)
    assert 89 <= int(np.argmax(worth)) <= 94
    found = propose_rhythm({"a": one}, {"a": 10}, Rules(learning=0.1, most_per_day=3))
    learning = [slot for slot in found.slots if slot.is_learning]
    assert len(learning) == 1
    assert 89 <= learning[0].hour <= 94
    assert learning[0].narrows == pytest.approx(worth[learning[0].hour])
    assert not any(s.is_learning for s in propose_rhythm({"a": one}, {"a": 10}, Rules(learning=0.0)).slots)


def test_a_post_narrows_as_the_normal_law_says() -> None:
    """Conditioning a Gaussian (Gelman et al., Bayesian Data Analysis, 3rd ed., appendix A, from memory)."""
    one = effects(np.zeros(HOURS_PER_WEEK), spread=0.3)
    hour = 50
    row = np.zeros((1, HOURS_PER_WEEK))
    row[0, hour] = 1
    gained = one.covariance @ row.T @ np.linalg.inv(row @ one.covariance @ row.T + one.noise**2) @ row @ one.covariance
    weights = np.full(HOURS_PER_WEEK, 0.5)  # all hours alike: each as likely as not above the tenth best
    expected = np.sqrt((weights * np.diag(gained)).sum() / weights.sum())
    assert worth_learning(one)[hour] == pytest.approx(expected, rel=1e-6)


def test_rules_that_leave_no_room_are_said_and_nobody_is_given_quiet_hours() -> None:
    one = effects(np.zeros(HOURS_PER_WEEK))
    found = propose_rhythm({"a": one}, {"a": 20}, Rules(most_per_day=1))
    assert len(found.slots) == 7
    assert found.short == {"a": 13}
    assert all(7 <= slot.hour % 24 < 23 for slot in found.slots)
    assert propose_rhythm({"a": one}, {"a": 3}, Rules(days_off=frozenset(range(7)))).short == {"a": 3}
    assert propose_rhythm({}, {"a": 3}, Rules()).slots == ()


def test_the_gain_on_todays_rhythm_has_the_interval_of_the_difference() -> None:
    logs = np.zeros(HOURS_PER_WEEK)
    logs[[20, 44]] = 0.2
    one = effects(logs)
    gain = gain_of({"a": one}, {"a": [10, 34]}, {"a": [20, 44]})
    assert gain is not None
    assert gain.ratio == pytest.approx(np.exp(0.2))
    draws = np.random.default_rng(1).multivariate_normal(logs, one.covariance, 20_000)
    drawn = draws[:, [20, 44]].mean(axis=1) - draws[:, [10, 34]].mean(axis=1)
    assert np.log(gain.interval.low) == pytest.approx(np.quantile(drawn, 0.1), abs=0.006)
    assert np.log(gain.interval.high) == pytest.approx(np.quantile(drawn, 0.9), abs=0.006)
    assert gain.chance == pytest.approx((drawn > 0).mean(), abs=0.01)
    assert gain.is_worth_it
    same = gain_of({"a": one}, {"a": [20, 44]}, {"a": [20, 44]})
    assert same is not None
    assert not same.is_worth_it
    assert gain_of({"a": one}, {}, {"a": [20]}) is None
    assert gain_of({"a": one}, {"a": [1]}, {}) is None


def test_without_an_effect_that_may_be_claimed_no_gain_is() -> None:
    logs = np.zeros(HOURS_PER_WEEK)
    logs[[20, 44]] = 0.2
    for odds in (0.5, 2.0, 200.0):
        one = replace(effects(logs, spread=0.02), odds=odds, has_effect=False)
        gain = gain_of({"a": one}, {"a": [10, 34]}, {"a": [20, 44]})
        assert gain is not None
        assert gain.interval.low == 1.0
        assert gain.interval.high > np.exp(0.2)
        assert not gain.is_worth_it


def test_eight_profiles_are_solved_as_a_whole() -> None:
    rng = np.random.default_rng(5)
    many = {str(i): effects(rng.normal(0, 0.2, HOURS_PER_WEEK)) for i in range(8)}
    found = propose_rhythm(many, dict.fromkeys(many, 5), Rules())
    assert len(found.slots) == 40
    assert sum(slot.is_learning for slot in found.slots) == 4
    assert len({slot.minute for slot in found.slots}) == 40
    for name, (a, b) in product(many, combinations(range(5), 2)):
        minutes = sorted(slot.minute for slot in found.slots if slot.profile == name)
        apart = abs(minutes[a] // 60 - minutes[b] // 60)
        assert min(apart, HOURS_PER_WEEK - apart) >= 6
