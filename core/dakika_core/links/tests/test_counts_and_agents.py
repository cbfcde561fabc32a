"""Promise: two counts are told apart no more surely than they are, and agents are read as published lists have them."""

import math
import random

import numpy as np
import pytest
from scipy.stats import binomtest

from dakika_core.links.agents import browser_of, language_of
from dakika_core.links.counts import dispersion_of, ratio_of_counts


def test_the_interval_is_that_of_a_published_example() -> None:
    """R's documentation of poisson.test: 11 events in 800 against 6 + 8 + 7 in 3011 (figures from memory): 0.8584 to 4.2773."""
    found = ratio_of_counts(11, 6 + 8 + 7, days_now=800, days_before=1083 + 1050 + 878)
    assert found.interval is not None
    assert found.value == pytest.approx(11 / 800 / (21 / 3011))
    assert (found.interval.low, found.interval.high) == (
        pytest.approx(0.8584264, abs=1e-6),
        pytest.approx(4.2772659, abs=1e-6),
    )
    assert not found.is_sure


@pytest.mark.parametrize(("now", "before"), [(0, 5), (1, 1), (40, 20), (300, 500)])
def test_the_interval_is_the_exact_binomial_one_of_scipy(now: int, before: int) -> None:
    found = ratio_of_counts(now, before)
    told = binomtest(now, now + before).proportion_ci(method="exact")
    assert found.interval is not None
    assert found.interval.low == pytest.approx(told.low / (1 - told.low))
    assert found.interval.high == pytest.approx(told.high / (1 - told.high))


def test_nothing_before_says_nothing_and_bursts_widen() -> None:
    assert ratio_of_counts(10, 0).value is None
    assert ratio_of_counts(0, 0).interval is None
    calm, wild = ratio_of_counts(120, 80), ratio_of_counts(120, 80, dispersion=6)
    assert calm.is_sure
    assert not wild.is_sure
    with pytest.raises(ValueError, match="negative"):
        ratio_of_counts(-1, 2)


def test_dispersion_is_one_for_chance_alone_and_grows_with_bursts() -> None:
    chance = np.random.default_rng(3)
    weekdays = [i % 7 for i in range(280)]
    calm = chance.poisson([20 + 10 * (w > 4) for w in weekdays]).astype(float)
    assert dispersion_of(list(calm), weekdays) < 1.3
    wild = chance.negative_binomial(5, 0.2, 280).astype(float)  # variance over mean is 1 / 0.2
    assert dispersion_of(list(wild), weekdays) == pytest.approx(5, rel=0.35)
    assert dispersion_of([1.0, 90.0], [0, 1]) == 1.0
    assert dispersion_of([0.0] * 30, weekdays[:30]) == 1.0


def test_the_interval_holds_as_often_as_it_says() -> None:
    chance, held = random.Random(5), 0
    draws = np.random.default_rng(6)
    for _ in range(400):
        true = math.exp(chance.uniform(-0.5, 0.5))
        found = ratio_of_counts(int(draws.poisson(60 * true)), max(1, int(draws.poisson(60))))
        assert found.interval is not None
        held += found.interval.low <= true <= found.interval.high
    assert held / 400 >= 0.94


@pytest.mark.parametrize(
    ("accepted", "language"),
    [
        # RFC 9110, 12.5.4: Danish before British English before other English.
        ("da, en-gb;q=0.8, en;q=0.7", "da"), ("en;q=0.2, pt-BR;q=0.9, pt;q=0.8", "pt"), ("*", ""), ("", ""),
        ("en;q=0", ""), ("fr;q=x, es;q=0.5", "es"), ("zh-Hant-TW", "zh"), ("<script>", ""), ("e", ""),
    ],
)  # fmt: skip
def test_the_language_liked_best(accepted: str, language: str) -> None:
    assert language_of(accepted) == language


def test_browsers_are_families_without_versions() -> None:
    mobile = (
        "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0.0.0 Mobile Safari/537.36"
    )
    assert browser_of(mobile) == browser_of(mobile.replace("120", "119"))
    assert not any(sign.isdigit() for sign in browser_of(mobile))
    assert browser_of("") == "other"
    assert len(browser_of("x" * 5000)) <= 40
