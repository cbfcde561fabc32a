"""Promise: a formula means what arithmetic means, its errors point at the place, and nothing typed can do harm."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dakika_core.metrics.formula import (
    COUNT,
    LONGEST,
    SECONDS,
    Apply,
    Dimension,
    FormulaError,
    Name,
    Number,
    evaluate,
    evaluate_over_sums,
    read_formula,
    write_tree,
)

UNITS = {"interactions": COUNT, "reach": COUNT, "comments": COUNT, "shares": COUNT, "video_seconds": SECONDS,
         "video_views": COUNT}  # fmt: skip
VALUES = {
    "interactions": 120.0,
    "reach": 4000.0,
    "comments": 7.0,
    "shares": 3.0,
    "video_seconds": 900.0,
    "video_views": 60.0,
}


def value_of(text: str, values: dict[str, float] = VALUES) -> float:
    return float(evaluate(read_formula(text, UNITS).tree, {k: np.asarray(v) for k, v in values.items()}))


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("interactions / reach", 0.03),
        ("comments + 2 * shares", 13.0),
        ("(comments + 2*shares) / max(reach, 1)", 0.00325),
        ("comments - shares - shares", 1.0),
        ("interactions / shares / 2", 20.0),
        ("comments + shares * 2", 13.0),
        ("-comments + shares", -4.0),
        ("comments - -shares", 10.0),
        ("abs(shares - comments)", 4.0),
        ("min(comments, shares, 5)", 3.0),
        ("1000 * interactions / reach", 30.0),
        ("video_seconds / video_views", 15.0),
        (".5*shares", 1.5),
        ("interactions\n/ reach", 0.03),
    ],
)
def test_arithmetic(text: str, value: float) -> None:
    assert value_of(text) == pytest.approx(value)


@pytest.mark.parametrize(
    ("text", "start", "end", "words"),
    [
        ("", 0, 1, "Write a formula"),
        ("interactions / reech", 15, 20, "Did you mean reach"),
        ("interactions / wholly_unknown", 15, 29, "no metric wholly_unknown"),
        ("interactions /", 13, 14, "missing here at the end"),
        ("interactions reach", 13, 18, "operator is missing"),
        ("interactions 5", 13, 14, "operator is missing"),
        ("interactions $ reach", 13, 14, "no meaning"),
        ("interactions / ) reach", 15, 16, "cannot stand here"),
        ("reach + video_seconds", 0, 21, "cannot be added"),
        ("interactions + comments / reach", 0, 31, "A count and a ratio cannot be added"),
        ("max(reach, comments / reach)", 0, 28, "cannot be compared"),
        ("sum(reach, comments)", 0, 3, "no function sum"),
        ("abs(reach, comments)", 0, 3, "takes one value"),
        ("min(reach)", 0, 3, "takes 2 to 6"),
        ("1 + 2", 0, 5, "at least one name"),
        ("reach * reach", 0, 13, "no figure"),
        ("reach * 9999999999999", 8, 21, "too large"),
        ("reach ** 2", 7, 8, "cannot stand here"),
        ("reach" + " * 1000000000000" * 20, 0, 325, "beyond any figure"),
        ("reach" + " / 1000000000000" * 20, 0, 325, "beyond any figure"),
        ("__import__('os')", 11, 12, "no meaning"),
        ("reach.__class__", 5, 6, "no meaning"),
    ],
)
def test_errors_point_at_the_place(text: str, start: int, end: int, words: str) -> None:
    with pytest.raises(FormulaError) as caught:
        read_formula(text, UNITS)
    assert (caught.value.start, caught.value.end) == (start, end)
    assert words in caught.value.message


@pytest.mark.parametrize(
    ("text", "unit"),
    [("interactions / reach", "rate"), ("comments + shares", "count"), ("video_seconds / video_views", "seconds"),
     ("video_seconds", "seconds"), ("1 / reach", "number"), ("1000 * comments / reach", "number"), ("2 * comments / reach", "rate"),
     ("100 * (comments / reach)", "number"), ("comments / reach * interactions", "count")],
)  # fmt: skip
def test_the_unit_follows_from_the_parts(text: str, unit: str) -> None:
    assert read_formula(text, UNITS).unit == unit


def test_division_by_zero_and_what_is_missing_are_missing() -> None:
    zero = VALUES | {"reach": 0.0}
    assert math.isnan(value_of("interactions / reach", zero))
    assert math.isnan(value_of("comments + interactions / reach * shares", zero))
    assert math.isnan(value_of("max(comments, shares)", VALUES | {"shares": math.nan}))


def test_over_sums_is_a_ratio_of_sums_over_the_posts_that_have_both() -> None:
    # By hand: (10 + 1) / (100 + 1000), the third post has no reach.
    formula = read_formula("interactions / reach", UNITS)
    values = {"interactions": np.array([10.0, 1.0, 5.0]), "reach": np.array([100.0, 1000.0, np.nan])}
    assert evaluate_over_sums(formula, values) == (
        pytest.approx(0.01), 2, 1, {"interactions": 11.0, "reach": 1100.0}
    )  # fmt: skip
    assert evaluate(formula.tree, values)[:2] == pytest.approx([0.1, 0.001])
    nothing = {"interactions": np.array([np.nan]), "reach": np.array([4.0])}
    assert evaluate_over_sums(formula, nothing) == (None, 0, 1, {})


def test_a_formula_is_written_with_its_numbers() -> None:
    tree = read_formula("(comments + 2 * shares) / max(reach, 1)", UNITS).tree
    assert write_tree(tree, str.upper) == "(COMMENTS + (2 × SHARES)) ÷ max(REACH, 1)"
    assert write_tree(tree, lambda key: f"{VALUES[key]:g}") == "(7 + (2 × 3)) ÷ max(4000, 1)"


_NODES = st.recursive(
    st.one_of(
        st.floats(0, 1e6).map(lambda v: f"{v:.4f}"), st.sampled_from(["interactions", "reach", "comments", "shares"])
    ),
    lambda inner: st.one_of(
        st.tuples(st.sampled_from("+-*/"), inner, inner).map(lambda t: f"({t[1]} {t[0]} {t[2]})"),
        st.tuples(st.sampled_from(["min", "max"]), inner, inner).map(lambda t: f"{t[0]}({t[1]}, {t[2]})"),
        inner.map(lambda t: f"abs({t})"),
        inner.map(lambda t: f"(-{t})"),
    ),
    max_leaves=12,
)


@given(_NODES)
@settings(max_examples=300)
def test_it_reckons_as_pythons_own_arithmetic(text: str) -> None:
    """Held against Python's own evaluation of the same text (the test's, of texts it made itself)."""
    try:
        formula = read_formula(text, UNITS)
    except FormulaError as error:
        assert 0 <= error.start < error.end
        return
    found = float(evaluate(formula.tree, {k: np.asarray(v) for k, v in VALUES.items()}))
    try:
        wanted = float(eval(text, {"__builtins__": {"min": min, "max": max, "abs": abs}}, dict(VALUES)))
    except ZeroDivisionError:
        assert math.isnan(found)
        return
    assert found == pytest.approx(wanted, rel=1e-9) or not math.isfinite(wanted)


@given(st.text(max_size=LONGEST + 20))
@settings(max_examples=400)
def test_anything_typed_is_a_formula_or_a_clear_error(text: str) -> None:
    try:
        read_formula(text, UNITS)
    except FormulaError as error:
        assert error.message
        assert 0 <= error.start < error.end <= max(len(text), 1) + 1


@given(st.text(alphabet="()+-*/, interactions1max.", max_size=LONGEST))
@settings(max_examples=400)
def test_fuzzing_with_its_own_signs(text: str) -> None:
    try:
        tree = read_formula(text, UNITS).tree
    except FormulaError:
        return
    evaluate(tree, {k: np.asarray(v) for k, v in VALUES.items()})


@pytest.mark.parametrize(
    "text", ["(" * 199 + "reach" + ")" * 190, "-" * 390 + "reach", "abs(" * 80 + "reach" + ")" * 75]
)
def test_depth_is_bounded(text: str) -> None:
    with pytest.raises(FormulaError):
        read_formula(text, UNITS)


def test_the_tree_is_plain_data() -> None:
    formula = read_formula("reach + 1", UNITS)
    assert formula.tree == Apply("add", (Name("reach"), Number(1.0)))
    assert formula.names == ("reach",)
    unknown: Any = Dimension(counts=-1)
    assert str(unknown) == "a number per count"
