"""Promise: what made the difference adds up to the difference, and says of rates what the method says.

Held against the admissions of six departments of Berkeley in 1973 (P. J. Bickel, E. A. Hammel and
J. W. O'Connell 1975, "Sex bias in graduate admissions", Science 187, 398-404; the counts are those of
the dataset that R ships, from memory, checked against its margins): men were admitted more often, by
where they applied; within departments it was women.
"""

import numpy as np
import pytest

from dakika_core.metrics.formula import COUNT, evaluate, read_formula
from dakika_core.results.decomposition import (
    Factor,
    Sums,
    as_geometric,
    contributions,
    headline,
    number_mix_size,
    terms_of,
    weight_and_rate,
)

NAMES = dict.fromkeys(("reach", "comments", "shares", "posts"), COUNT)
MEN = {"in": [512, 353, 120, 138, 53, 22], "out": [313, 207, 205, 279, 138, 351]}
WOMEN = {"in": [89, 17, 202, 131, 94, 24], "out": [19, 8, 391, 244, 299, 317]}


def admissions(told: dict[str, list[int]]) -> Sums:
    above = np.array(told["in"], dtype=float)
    return Sums(above=above, below=above + np.array(told["out"]))


def test_admissions_of_six_departments() -> None:
    men, women = admissions(MEN), admissions(WOMEN)
    assert [men.above.sum(), women.above.sum()] == [1198, 557]
    split = weight_and_rate(men, women, [np.arange(6) == i for i in range(6)])
    # The same by direct standardisation on the mean of both compositions, reckoned apart.
    weights = (men.below / men.below.sum() + women.below / women.below.sum()) / 2  # type: ignore[operator,union-attr]
    rates = [np.array(told["in"]) / (np.array(told["in"]) + np.array(told["out"])) for told in (MEN, WOMEN)]
    assert split.by_rate == pytest.approx(float((weights * (rates[0] - rates[1])).sum()))
    assert split.by_rate < 0 < split.by_weight
    difference = 1198 / 2691 - 557 / 1835
    assert split.by_rate + split.by_weight == pytest.approx(difference)
    assert contributions(men, women).sum() == pytest.approx(difference)


@pytest.mark.parametrize("seed", range(20))
def test_parts_of_any_sum_and_rate_add_up(seed: int) -> None:
    draw = np.random.default_rng(seed)
    n = int(draw.integers(1, 60))
    now, before = (Sums(above=draw.poisson(5, n) * 1.0, below=draw.poisson(9, n) + 0.5) for _ in range(2))
    change = now.value - before.value  # type: ignore[operator]
    groups = [np.arange(n) % 4 == i for i in range(4)]
    assert contributions(now, before).sum() == pytest.approx(change)
    split = weight_and_rate(now, before, groups)
    assert split.by_weight + split.by_rate == pytest.approx(change)
    ours, theirs = (draw.random(n) < p for p in (0.6, 0.4))
    sums = Sums(above=now.above * ours), Sums(above=before.above * theirs)
    counted = number_mix_size(*sums, ours * 1.0, theirs * 1.0, groups)
    whole = float(sums[0].above.sum() - sums[1].above.sum())
    assert counted.by_number + counted.by_mix + counted.by_size == pytest.approx(whole)


def test_twice_as_much_of_the_same_changes_no_rate_of_any_part() -> None:
    before = Sums(above=np.array([4.0, 1.0, 7.0]), below=np.array([100.0, 90.0, 30.0]))
    now = Sums(above=before.above * 2, below=before.below * 2)  # type: ignore[operator]
    assert contributions(now, before) == pytest.approx(np.zeros(3))


def test_twice_as_many_posts_that_bring_the_same_are_number_alone() -> None:
    before, now = Sums(above=np.array([10.0, 10.0, 0, 0, 0, 0])), Sums(above=np.array([0, 0, 10.0, 10.0, 10.0, 10.0]))
    counted = number_mix_size(
        now, before, np.array([0, 0, 1.0, 1, 1, 1]), np.array([1.0, 1, 0, 0, 0, 0]), [np.ones(6, dtype=bool)]
    )
    assert (counted.by_number, counted.by_mix, counted.by_size) == pytest.approx((20, 0, 0))


def test_a_geometric_mean_is_taken_apart_on_its_own_scale() -> None:
    now = Sums(above=np.log([2.0, 1.0]), below=np.ones(2))
    before = Sums(above=np.log([1.0, 0.5]), below=np.ones(2))
    parts = contributions(now, before) * as_geometric(now, before)
    assert parts.sum() == pytest.approx(np.sqrt(2) - np.sqrt(0.5))
    assert as_geometric(now, now) == pytest.approx(np.sqrt(2))


@pytest.mark.parametrize(
    ("formula", "is_told"),
    [("comments + 2 * shares", True), ("(comments + 2 * shares) / reach", True), ("1000 * comments / reach", True),
     ("comments / reach + shares / posts", True), ("-(comments - shares) / 4", True), ("2 * 3 * comments", True),
     ("comments / reach * (shares / posts)", False), ("max(comments, shares)", False), ("comments / (1 + reach)", False)],
)  # fmt: skip
def test_a_teams_formula_is_taken_apart_where_its_parts_add_up(formula: str, *, is_told: bool) -> None:
    tree = read_formula(formula, NAMES).tree
    terms = terms_of(tree)
    assert (terms is not None) == is_told
    if terms is None:
        return
    draw = np.random.default_rng(1)
    sides = [{name: draw.poisson(20, 12) + 1.0 for name in NAMES} for _ in range(2)]
    total = np.zeros(12)
    for term in terms:
        now, before = (
            Sums(above=np.asarray(evaluate(term.above, side)), below=term.below and np.asarray(evaluate(term.below, side)))
            for side in sides
        )  # fmt: skip
        total += term.factor * contributions(now, before)
    whole = [float(evaluate(tree, {n: np.asarray(v.sum()) for n, v in side.items()})) for side in sides]
    assert total.sum() == pytest.approx(whole[0] - whole[1])


def test_the_headline_tells_what_holds_the_change_and_what_works_against_it() -> None:
    factors = [
        Factor(key="number", contribution=30), Factor(key="size", contribution=-90), Factor(key="mix", contribution=1)
    ]  # fmt: skip
    assert headline("Interactions", -59, factors, lambda v: f"{v:.0f}") == (
        "Interactions fell by 59: a post brought less (−90), there were more posts (+30)"
    )
    assert headline("Reach", 0, [], str) == "Reach did not change"


def test_a_rate_of_nothing_does_not_change() -> None:
    nothing = Sums(above=np.zeros(2), below=np.zeros(2))
    with pytest.raises(ValueError, match="nothing"):
        contributions(nothing, Sums(above=np.ones(2), below=np.ones(2)))
