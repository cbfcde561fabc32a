"""What made the difference between two periods: a figure's change as a sum over its parts, with nothing left over.

A sum changes by what its parts change. A rate changes by how far each part's own rate lies from the
usual and how much weight it has, both against before: the midpoint form of E. M. Kitagawa (1955),
"Components of a difference between two rates", Journal of the American Statistical Association 50,
1168-1194. A geometric mean is a rate of logs, carried back to its own scale by the logarithmic mean
(L. Törnqvist, P. Vartia and Y. O. Vartia 1985, "How should relative changes be measured?", The
American Statistician 39, 43-46). It is arithmetic: it tells where a change stands, not why it came.

In the trade's words: contribution analysis, mix effect, key drivers.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from dakika_core.metrics.formula import Apply, Name, Node, Number, evaluate

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Term:
    """factor x above / below, both sums of names; without `below` a plain sum."""

    factor: float
    above: Node
    below: Node | None = None


def terms_of(tree: Node) -> list[Term] | None:
    """A formula as a sum of terms whose parts add up; None where it is none (products of rates, largest, smallest)."""
    if _is_additive(tree):
        return [Term(1.0, tree)]
    if not isinstance(tree, Apply):
        return None
    left, *rest = tree.arguments
    match tree.operator:
        case "negate":
            return _scaled(terms_of(left), -1.0)
        case "multiply" if (factor := _constant(left)) is not None:
            return _scaled(terms_of(rest[0]), factor)
        case "multiply" if (factor := _constant(rest[0])) is not None:
            return _scaled(terms_of(left), factor)
        case "divide" if (divisor := _constant(rest[0])) is not None:
            return _scaled(terms_of(left), 1 / divisor) if divisor else None
        case "divide" if _is_additive(left) and _is_additive(rest[0]):
            return [Term(1.0, left, rest[0])]
        case "add" | "subtract":
            first, second = terms_of(left), terms_of(rest[0])
            if first is None or second is None:
                return None
            return first + (_scaled(second, -1.0 if tree.operator == "subtract" else 1.0) or [])
    return None


def _scaled(terms: list[Term] | None, factor: float) -> list[Term] | None:
    return terms and [Term(term.factor * factor, term.above, term.below) for term in terms]


def _constant(node: Node) -> float | None:
    """The value of a part of a formula that holds numbers alone."""
    if isinstance(node, Number):
        return node.value
    if isinstance(node, Name):
        return None
    return float(evaluate(node, {})) if all(_constant(part) is not None for part in node.arguments) else None


def _is_additive(node: Node) -> bool:
    """Whether its value over a set is the sum of its values over the set's parts."""
    if isinstance(node, Name | Number):
        return isinstance(node, Name)
    left, *rest = node.arguments
    match node.operator:
        case "add" | "subtract":
            return _is_additive(left) and _is_additive(rest[0])
        case "negate":
            return _is_additive(left)
        case "multiply":
            return any(_constant(a) is not None and _is_additive(b) for a, b in ((left, rest[0]), (rest[0], left)))
        case "divide":
            return _is_additive(left) and bool(_constant(rest[0]))
    return False


@dataclass(frozen=True, kw_only=True)
class Sums:
    """What each part holds in a period: shape (parts,), 0 where it holds nothing. `below` is None for a plain sum."""

    above: Array
    below: Array | None = None

    @property
    def value(self) -> float | None:
        """The figure over all parts; None for a rate of nothing."""
        if self.below is None:
            return float(self.above.sum())
        whole = float(self.below.sum())
        return float(self.above.sum()) / whole if whole else None

    def of(self, chosen: NDArray[np.bool_]) -> "Sums":
        """The same of some parts."""
        return Sums(above=self.above[chosen], below=None if self.below is None else self.below[chosen])


def contributions(now: Sums, before: Sums) -> Array:
    """What each part adds to the change of the figure: shape (parts,); they sum to it.

    Raises ValueError where one of the two is a rate of nothing, so that there is no change.
    """
    if now.below is None or before.below is None:
        return now.above - before.above
    middle = (_known(now) + _known(before)) / 2
    return np.asarray(
        (now.above - middle * now.below) / now.below.sum() - (before.above - middle * before.below) / before.below.sum()
    )


def _known(sums: Sums) -> float:
    value = sums.value
    if value is None:
        raise ValueError("a rate of nothing does not change")
    return value


def as_geometric(now: Sums, before: Sums) -> float:
    """By what a contribution to a change of mean logs is multiplied to be one to the change of the geometric mean."""
    a, b = _known(now), _known(before)
    return float(np.exp(a)) if a == b else float((np.exp(a) - np.exp(b)) / (a - b))


@dataclass(frozen=True, kw_only=True)
class Weighing:
    """A change of a rate in two: by how the weight of the groups moved, and by the groups' own rates."""

    by_weight: float
    by_rate: float


def weight_and_rate(now: Sums, before: Sums, groups: Sequence[NDArray[np.bool_]]) -> Weighing:
    """Kitagawa's two components over groups that hold each part once: composition, and rate within them.

    A group that has no weight on one side has no rate there either: it counts as composition alone.
    """
    if now.below is None or before.below is None:
        raise ValueError("a plain sum has no weights")
    middle = (_known(now) + _known(before)) / 2
    whole_now, whole_before = float(now.below.sum()), float(before.below.sum())
    by_weight = by_rate = 0.0
    for group in groups:
        w1, w0 = float(now.below[group].sum()) / whole_now, float(before.below[group].sum()) / whole_before
        r1, r0 = now.of(group).value, before.of(group).value
        if r1 is None and r0 is None:
            # Nothing below on either side: what stands above it belongs to no rate of its own.
            by_rate += float(now.above[group].sum()) / whole_now - float(before.above[group].sum()) / whole_before
            continue
        known = (r1 if r1 is not None else r0, r0 if r0 is not None else r1)
        first, last = (0.0 if value is None else value for value in known)
        # Above nothing there may still stand something; it goes with the weight.
        spare = (float(now.above[group].sum()) / whole_now if r1 is None else 0.0) - (
            float(before.above[group].sum()) / whole_before if r0 is None else 0.0
        )
        by_rate += (w1 + w0) / 2 * (first - last)
        by_weight += (w1 - w0) * ((first + last) / 2 - middle) + spare
    return Weighing(by_weight=by_weight, by_rate=by_rate)


@dataclass(frozen=True, kw_only=True)
class Counting:
    """A change of a sum over posts: by their number, by where they went, and by what one brought there."""

    by_number: float
    by_mix: float
    by_size: float


def number_mix_size(now: Sums, before: Sums, posts_now: Array, posts_before: Array,
                    groups: Sequence[NDArray[np.bool_]]) -> Counting:  # fmt: skip
    """How many posts, in which groups, and what a post of the same group brought: they sum to the sum's change.

    posts_now, posts_before: shape (parts,), how many posts a part is. With no posts on one side all
    of it is their number.
    """
    n1, n0 = float(posts_now.sum()), float(posts_before.sum())
    change = float(now.above.sum() - before.above.sum())
    if not n1 or not n0:
        return Counting(by_number=change, by_mix=0.0, by_size=0.0)
    per_now, per_before = Sums(above=now.above, below=posts_now), Sums(above=before.above, below=posts_before)
    split = weight_and_rate(per_now, per_before, groups)
    posts = (n1 + n0) / 2
    return Counting(
        by_number=(n1 - n0) * (_known(per_now) + _known(per_before)) / 2,
        by_mix=posts * split.by_weight, by_size=posts * split.by_rate,
    )  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Factor:
    """One way in which the figure changed, with what it counts now and before where that is a number of its own."""

    key: str
    contribution: float
    now: float | None = None
    before: float | None = None


# A factor that holds less of the change than this share of the largest one is not worth a word of the headline.
WORTH_A_WORD = 0.15
# Each factor by key: what is said where it adds, and where it takes.
WORDS = {
    "number": ("there were more posts", "there were fewer posts"),
    "mix": ("more of them went where posts bring more", "more of them went where posts bring less"),
    "size": ("a post brought more", "a post brought less"),
    "older": ("posts of earlier days brought more", "posts of earlier days brought less"),
    "weight": ("networks and formats of a high rate weigh more", "networks and formats of a low rate weigh more"),
    "rate": ("rates within networks and formats rose", "rates within networks and formats fell"),
}


def headline(name: str, change: float, factors: Sequence[Factor], write: Callable[[float], str]) -> str:
    """The change and the factors that hold it, the largest first: arithmetic in a sentence, no claim of a cause."""
    if not change:
        return f"{name} did not change"
    text = f"{name} {'rose' if change > 0 else 'fell'} by {write(abs(change))}"
    largest = max((abs(f.contribution) for f in factors), default=0.0)
    told = sorted(
        (f for f in factors if abs(f.contribution) >= WORTH_A_WORD * largest > 0), key=lambda f: -abs(f.contribution)
    )
    said = [
        f"{WORDS[f.key][f.contribution < 0]} ({'+' if f.contribution > 0 else '−'}{write(abs(f.contribution))})"
        for f in told[:3]
    ]
    return ": ".join([text, ", ".join(said)]) if said else text


@dataclass(frozen=True, kw_only=True)
class Group:
    """One network's or format's part in the change: its own figure on both sides and what it contributes.

    weight: posts of a sum, the share of what stands below of a rate.
    """

    key: str
    now: float | None
    before: float | None
    contribution: float
    weight_now: float
    weight_before: float
