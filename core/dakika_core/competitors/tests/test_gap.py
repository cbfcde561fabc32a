"""Promise: the gap is split with nothing left over, as the method's author splits it, and closing it takes what is said."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.competitors.gap import Product, divided, gap_between, logarithmic_mean, middle_of

positive = st.floats(1e-3, 1e6)
products = st.builds(Product, audience=positive, posts=positive, reaction=positive)


def test_the_worked_example_of_the_method() -> None:
    """B. W. Ang 2005, Energy Policy 33, 867-871: two sectors of an industry, additive form. Data from memory.

    Activity, structure and intensity of sectors with energy 30 to 80 and 20 to 16: their parts sum to the 46 by which
    energy rose.
    """
    before, after = [(50, 0.2, 3.0), (50, 0.8, 0.5)], [(80, 0.5, 2.0), (80, 0.5, 0.4)]
    parts = np.array([divided(a, b) for a, b in zip(before, after, strict=True)]).sum(axis=0)
    assert parts == pytest.approx([32.385, 38.284, -24.669], abs=0.01)
    assert parts.sum() == pytest.approx(46)


def test_the_logarithmic_mean_by_definition_and_beside_equality() -> None:
    assert logarithmic_mean(80, 30) == pytest.approx(50 / np.log(80 / 30))
    assert logarithmic_mean(7, 7) == pytest.approx(7)
    assert logarithmic_mean(7, 7 * (1 + 1e-9)) == pytest.approx(7)
    with pytest.raises(ValueError, match="above zero"):
        logarithmic_mean(0, 1)


@given(products, products)
def test_parts_add_up_and_swapping_sides_turns_the_signs(ours: Product, theirs: Product) -> None:
    gap, back = gap_between(ours, theirs), gap_between(theirs, ours)
    whole = max(ours.interactions, theirs.interactions)
    assert sum(lever.part for lever in gap.levers) == pytest.approx(gap.difference, abs=1e-6 * whole)
    for one, other in zip(gap.levers, back.levers, strict=True):
        assert one.part == pytest.approx(-other.part, abs=1e-9 * whole)


@given(products, products)
def test_each_lever_alone_closes_the_gap(ours: Product, theirs: Product) -> None:
    for i, lever in enumerate(gap_between(ours, theirs).levers):
        factors = list(ours.factors())
        factors[i] = lever.needed
        assert np.prod(factors) == pytest.approx(theirs.interactions, rel=1e-9)


def test_what_is_plausible_is_what_the_field_or_our_best_quarter_has_done() -> None:
    ours, theirs = Product(audience=1000, posts=2, reaction=0.01), Product(audience=1000, posts=5, reaction=0.01)
    gap = gap_between(ours, theirs, field=[theirs], best_quarter={"posts": 3.0, "reaction": 0.03})
    assert [lever.is_plausible for lever in gap.levers] == [False, True, True]
    assert [lever.is_plausible for lever in gap_between(ours, theirs).levers] == [None, None, None]


def test_the_interval_of_the_reactions_part_holds() -> None:
    rng, held = np.random.default_rng(4), 0
    for _ in range(1000):
        a = Product(audience=100, posts=3, reaction=0.02 * np.exp(rng.normal(0, 0.1)), error=0.1)
        b = Product(audience=200, posts=4, reaction=0.03 * np.exp(rng.normal(0, 0.15)), error=0.15)
        interval = gap_between(a, b).levers[2].interval
        assert interval is not None
        truth = divided((100, 3, 0.02), (200, 4, 0.03))[2]
        held += interval.low <= truth <= interval.high
    assert 0.93 <= held / 1000 <= 0.97


def test_the_middle_of_a_set() -> None:
    field = [Product(audience=a, posts=p, reaction=r) for a, p, r in ((1, 9, 5), (2, 8, 6), (3, 1, 7))]
    middle = middle_of(field)
    assert middle is not None
    assert middle.factors() == (2, 8, 6)
    assert middle_of([]) is None
