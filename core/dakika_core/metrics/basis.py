"""Of which parts is a figure made, and what is done with them? The parts give the value: it can be worked out again."""

import math
import statistics
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from dakika_core.metrics.formula import Node, evaluate


class Rule(StrEnum):
    """What is done with the parts.

    sum: they are added. ratio: the first is divided by the second. formula: they stand in a formula by their keys.
    mean: their mean, each by its weight. geometric_mean: the same of their logs. product: they are multiplied.
    median: they are the one or two in the middle of many. largest: they are the largest of many. change: the first is
    held against the second, how much more it is as a part of that.
    """

    SUM = "sum"
    RATIO = "ratio"
    FORMULA = "formula"
    MEAN = "mean"
    GEOMETRIC_MEAN = "geometric_mean"
    PRODUCT = "product"
    MEDIAN = "median"
    LARGEST = "largest"
    CHANGE = "change"


@dataclass(frozen=True, kw_only=True)
class Part:
    """One part. weight is how much it counts in a mean."""

    key: str
    name: str
    value: float
    weight: float = 1.0


_SIMPLE: Mapping[Rule, Callable[[Sequence[float]], float]] = {
    Rule.SUM: math.fsum, Rule.PRODUCT: math.prod, Rule.MEDIAN: statistics.median, Rule.LARGEST: max,
}  # fmt: skip


def total(parts: Sequence[Part]) -> float:
    """The parts added up."""
    return math.fsum(part.value for part in parts)


def value_of(rule: Rule, parts: Sequence[Part], formula: Node | None = None) -> float | None:
    """The value that the parts give; None where they give none: no parts, or a division by nothing.

    formula is the tree that a formula's parts stand in. Raises ValueError for a ratio or a change of other than two
    parts, and for a formula without its tree.
    """
    if not parts:
        return None
    if rule is Rule.FORMULA:
        if formula is None:
            raise ValueError("a formula's parts stand in a formula")
        return _known(float(evaluate(formula, _by_key(parts))))
    if rule in (Rule.RATIO, Rule.CHANGE):
        above, below = parts
        less = 1 if rule is Rule.CHANGE else 0
        return above.value / below.value - less if below.value else None
    values = [part.value for part in parts]
    if rule in _SIMPLE:
        return _SIMPLE[rule](values)
    weights = math.fsum(part.weight for part in parts)
    if not weights:
        return None
    if rule is Rule.MEAN:
        return math.fsum(part.weight * part.value for part in parts) / weights
    if any(part.value <= 0 for part in parts):
        return None
    return math.exp(math.fsum(part.weight * math.log(part.value) for part in parts) / weights)


def _by_key(parts: Sequence[Part]) -> Mapping[str, "np.ndarray[tuple[int, ...], np.dtype[np.float64]]"]:
    return {part.key: np.asarray(part.value) for part in parts}


def _known(value: float) -> float | None:
    return None if math.isnan(value) or math.isinf(value) else value
