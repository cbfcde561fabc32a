"""Promise: rates are of one thing with an interval, missing stays missing, and only what is clear is named."""

import numpy as np
import pytest
from statsmodels.stats.proportion import proportion_confint

from dakika_core.site.funnel import Funnel, attention_apart, rate_of, summed


def row(
    key: str, impressions: int | None, clicks: int | None, visits: int, conversions: int = 0, cents: int = 0
) -> Funnel:
    return Funnel(key=key, impressions=impressions, clicks=clicks, visits=visits, conversions=conversions, cents=cents)


def test_rates_have_the_interval_of_the_reference() -> None:
    """Wilson's interval by statsmodels."""
    found = row("a", 1000, 40, 30, 3, 4500)
    low, high = proportion_confint(30, 40, method="wilson")
    assert found.visit_rate.interval is not None
    assert (found.visit_rate.interval.low, found.visit_rate.interval.high) == (pytest.approx(low), pytest.approx(high))
    assert found.click_rate.value == pytest.approx(0.04)
    assert found.conversion_rate.value == pytest.approx(0.1)
    assert found.cents_per_click == pytest.approx(112.5)


def test_missing_is_never_zero() -> None:
    found = row("a", None, None, 3)
    assert found.click_rate.value is None
    assert found.visit_rate.value is None
    assert found.cents_per_click is None
    assert rate_of(5, 4).interval is None  # more visits than clicks: a copy of the page's own address went round


def test_groups_are_added_over_what_has_both() -> None:
    all_ = summed("all", [row("a", 1000, 10, 8, 1, 100), row("b", None, 7, 5), row("c", 500, 5, 4, 1, 50)])
    assert (all_.impressions, all_.clicks, all_.visits, all_.cents) == (1500, 15, 12, 150)
    assert summed("none", [row("b", None, None, 5, 2)]).visits == 5


def test_only_what_is_clear_stands_apart() -> None:
    rows = [row(f"p{i}", 1000 + i, 30, 20) for i in range(20)]
    assert attention_apart(rows) == attention_apart([]) or not attention_apart(rows).quiet
    loud, small, few = row("loud", 20_000, 20, 12), row("small", 400, 60, 50), row("few", 50, 9, 9)
    found = attention_apart([*rows, loud, small, few])
    assert [r.key for r in found.quiet] == ["loud"]
    assert [r.key for r in found.busy] == ["small"]


def test_without_differences_hardly_anybody_is_named() -> None:
    chance, named = np.random.default_rng(8), 0
    for _ in range(60):
        seen = chance.integers(300, 9000, 40)
        rows = [row(str(i), int(n), int(n * 0.02), int(chance.binomial(n, 0.012))) for i, n in enumerate(seen)]
        found = attention_apart(rows)
        named += len(found.quiet) + len(found.busy)
    assert named / (60 * 40) < 0.01
