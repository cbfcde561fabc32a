"""Promise: the parts of a figure give its value, by rules that a reader can do by hand."""

import statistics

import pytest

from dakika_core.metrics.basis import Part, Rule, value_of
from dakika_core.metrics.catalogue import CATALOGUE


def parts(*values: float, weights: tuple[float, ...] = ()) -> list[Part]:
    given = weights or (1.0,) * len(values)
    return [
        Part(key=str(i), name=str(i), value=v, weight=w) for i, (v, w) in enumerate(zip(values, given, strict=True))
    ]


def test_rules_do_what_they_say() -> None:
    assert value_of(Rule.SUM, parts(1, 2, 3.5)) == 6.5
    assert value_of(Rule.RATIO, parts(3, 4)) == 0.75
    assert value_of(Rule.PRODUCT, parts(2, 3, 4)) == 24
    # The standard library's own means are the reference.
    assert value_of(Rule.MEAN, parts(1, 5, weights=(3, 1))) == statistics.fmean([1, 5], [3, 1])
    assert value_of(Rule.GEOMETRIC_MEAN, parts(2, 8, weights=(2, 1))) == pytest.approx(
        statistics.geometric_mean([2, 2, 8])
    )
    formula = CATALOGUE["interactions_per_1000"].read.tree
    named = [Part(key="interactions", name="", value=6), Part(key="followers", name="", value=4000)]
    assert value_of(Rule.FORMULA, named, formula) == 1.5


@pytest.mark.parametrize("rule", list(Rule))
def test_no_parts_give_no_value(rule: Rule) -> None:
    assert value_of(rule, [], CATALOGUE["ctr"].read.tree) is None


def test_what_cannot_be_divided_gives_none() -> None:
    assert value_of(Rule.RATIO, parts(1, 0)) is None
    assert value_of(Rule.MEAN, parts(1, weights=(0,))) is None
    assert value_of(Rule.GEOMETRIC_MEAN, parts(1, 0)) is None
    nothing = [Part(key="link_clicks", name="", value=1), Part(key="impressions", name="", value=0)]
    assert value_of(Rule.FORMULA, nothing, CATALOGUE["ctr"].read.tree) is None


def test_a_rule_wants_its_parts() -> None:
    with pytest.raises(ValueError, match="unpack"):
        value_of(Rule.RATIO, parts(1, 2, 3))
    with pytest.raises(ValueError, match="stand in a formula"):
        value_of(Rule.FORMULA, parts(1))


def test_the_middle_the_largest_and_a_change() -> None:
    assert value_of(Rule.MEDIAN, parts(4, 6)) == 5
    assert value_of(Rule.MEDIAN, parts(4)) == 4
    assert value_of(Rule.LARGEST, parts(9, 6, 2)) == 9
    assert value_of(Rule.CHANGE, parts(30, 20)) == 0.5
    assert value_of(Rule.CHANGE, parts(30, 0)) is None
