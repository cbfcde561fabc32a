"""Promise: a place claims no more than the data, also among near equals."""

import numpy as np
import pytest
from scipy.stats import percentileofscore

from dakika_core.competitors.ranks import places
from dakika_core.metrics.rates import ratio_of_sums
from dakika_core.values.figure import Figure


def test_ranks_of_what_is_counted_with_equals() -> None:
    """Equals share the better rank; percentiles against scipy's percentileofscore(kind="mean") over the others."""
    values = [50.0, 40.0, 40.0, 10.0]
    found = places([Figure(value=v) for v in values], list("abcd"), is_sampled=False)
    assert [p and p.rank for p in found] == [1, 2, 2, 4]
    for i, place in enumerate(found):
        others = values[:i] + values[i + 1 :]
        assert place is not None
        assert place.percentile == pytest.approx(percentileofscore(others, values[i], kind="mean"))
    assert found[3] is not None
    assert (found[3].to_next, found[3].next_name) == (30.0, "b")
    assert found[0] is not None
    assert found[0].to_next is None


def test_who_has_no_value_has_no_place_and_counts_for_nobody() -> None:
    found = places([Figure(value=None), Figure(value=2.0), Figure(value=1.0)], list("abc"), is_sampled=False)
    assert found[0] is None
    assert found[1] is not None
    assert (found[1].rank, found[1].of) == (1, 2)


def test_who_has_too_few_posts_is_told_apart_from_nobody() -> None:
    figures = [ratio_of_sums(np.full(30, 100.0) + np.arange(30), np.ones(30)), Figure(value=1.0, n=1)]
    found = places(figures, ["a", "b"], is_sampled=True)
    assert found[0] is not None
    assert (found[0].best, found[0].worst) == (1, 2)


def _drawn(rng: np.random.Generator, means: np.ndarray, posts: int) -> list[Figure]:  # type: ignore[type-arg]
    return [ratio_of_sums(rng.lognormal(np.log(m) - 0.18, 0.6, posts), np.ones(posts)) for m in means]


def test_ranks_hold_the_true_one_among_equals_and_among_the_unequal() -> None:
    rng, held = np.random.default_rng(11), 0
    for _ in range(200):
        place = places(_drawn(rng, np.full(8, 50.0), 20), [""] * 8, is_sampled=True)[0]
        assert place is not None
        # All are the same: whoever is told apart from anybody is told so wrongly.
        held += (place.best, place.worst) == (1, 8)
    assert held / 200 >= 0.92
    held, sure = 0, 0
    means = 20 * 1.6 ** np.arange(8)
    for _ in range(200):
        place = places(_drawn(rng, means, 40), [""] * 8, is_sampled=True)[3]
        assert place is not None
        held += place.best <= 5 <= place.worst
        sure += place.worst - place.best <= 2
    assert held / 200 >= 0.95
    assert sure / 200 >= 0.6
