"""A team's own metric: a formula over counted metrics, read by a grammar into a tree.

    interactions / reach
    (comments + 2 * shares) / max(impressions, 1)

The tree is checked for unknown names and for units that do not go together, each error with its
place in the text. It is evaluated over sums (a set of posts) and over single posts alike; a
division by zero is missing. Nothing of the text is ever run as a program.

In the trade's words: custom metric, calculated field, expression parser.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

LONGEST = 400
DEEPEST = 40
LARGEST_NUMBER = 1e12
LEAST_SCALE = 10.0
# Powers of ten; double precision ends at 308.
FURTHEST = 200.0
_GRAMMAR = r"""
?start: sum
?sum: product | sum "+" product -> add | sum "-" product -> subtract
?product: signed | product "*" signed -> multiply | product "/" signed -> divide
?signed: atom | "-" signed -> negate
?atom: NUMBER -> number | NAME "(" sum ("," sum)* ")" -> call | NAME -> name | "(" sum ")"
NAME: /[A-Za-z_][A-Za-z_0-9]*/
NUMBER: /\d+(\.\d+)?|\.\d+/
%ignore /[ \t\r\n]+/
"""
Operator = Literal["add", "subtract", "multiply", "divide", "negate", "min", "max", "abs"]
_FUNCTIONS: dict[str, tuple[int, int]] = {"min": (2, 6), "max": (2, 6), "abs": (1, 1)}
_SIGNS = {"add": "+", "subtract": "−", "multiply": "×", "divide": "÷"}


class FormulaError(ValueError):
    """What is wrong with a formula, and where: characters [start, end) of the text."""

    def __init__(self, message: str, start: int, end: int) -> None:
        super().__init__(message)
        self.message, self.start, self.end = message, start, max(end, start + 1)


@dataclass(frozen=True)
class Number:
    """A number as written."""

    value: float


@dataclass(frozen=True)
class Name:
    """A metric by its key."""

    key: str


@dataclass(frozen=True)
class Apply:
    """An operator or function on its arguments."""

    operator: Operator
    arguments: tuple["Node", ...]


Node = Number | Name | Apply


@dataclass(frozen=True)
class Dimension:
    """Powers of what is counted and of seconds; a plain number goes with anything."""

    counts: int = 0
    seconds: int = 0
    is_plain: bool = False

    def __str__(self) -> str:
        if (self.counts, self.seconds) == (0, 0):
            return "a ratio"
        parts = [f"{name}{'' if abs(power) == 1 else f' to the power {abs(power)}'}"
                 for name, power in (("count", self.counts), ("seconds", self.seconds)) if power > 0]  # fmt: skip
        below = [name for name, power in (("count", self.counts), ("seconds", self.seconds)) if power < 0]
        return f"a {' times '.join(parts) or 'number'}" + (f" per {' and '.join(below)}" if below else "")


COUNT, SECONDS = Dimension(counts=1), Dimension(seconds=1)


@dataclass(frozen=True, kw_only=True)
class Formula:
    """A checked formula: its tree, the metrics it needs in order of appearance, and its dimension."""

    text: str
    tree: Node
    names: tuple[str, ...]
    dimension: Dimension

    @property
    def unit(self) -> Literal["count", "rate", "number", "seconds"]:
        """What its values are: a count, a ratio, seconds, or a number of its own kind."""
        if (self.dimension.counts, self.dimension.seconds) == (0, 0):
            # "1000 * comments / reach" is a number for every thousand, not a share of a whole.
            return "number" if _is_scaled(self.tree) else "rate"
        if self.dimension.counts == 1 and self.dimension.seconds == 0:
            return "count"
        return "seconds" if self.dimension.seconds == 1 and self.dimension.counts in (0, -1) else "number"


def _reach(node: Node) -> tuple[float, float]:
    """Between which powers of ten a result can lie, zero apart: so that no arithmetic runs over, ours or a database's.

    Counts are taken up to 10^15 and, interpolated, down to 10^-6; a difference may be smaller still.
    """
    if isinstance(node, Number):
        size = math.log10(node.value) if node.value else 0.0
        return size, size
    if isinstance(node, Name):
        return -6.0, 15.0
    parts = [_reach(part) for part in node.arguments]
    low, high = min(p[0] for p in parts), max(p[1] for p in parts)
    match node.operator:
        case "multiply":
            return parts[0][0] + parts[1][0], parts[0][1] + parts[1][1]
        case "divide":
            return parts[0][0] - parts[1][1], parts[0][1] - parts[1][0]
        case "add" | "subtract":
            return low - 16.0, high + 1.0
    return low, high


def _is_scaled(node: Node) -> bool:
    """Whether a ratio is multiplied by a number of ten or more."""
    if not isinstance(node, Apply) or node.operator not in ("multiply", "divide", "negate"):
        return False
    numbers = [part.value for part in node.arguments if isinstance(part, Number)]
    scales = node.operator == "multiply" and any(value >= LEAST_SCALE for value in numbers)
    return scales or any(_is_scaled(part) for part in node.arguments)


@lru_cache(maxsize=1)
def _parser() -> Any:
    from lark import Lark

    return Lark(_GRAMMAR, parser="lalr", propagate_positions=True, maybe_placeholders=False)


def read_formula(text: str, units: Mapping[str, Dimension]) -> Formula:
    """Read and check a formula. `units` holds the metrics that may stand in it.

    Raises FormulaError with the place for anything that is not right. Bounded: at most 400
    characters and 40 levels.
    """
    from lark.exceptions import UnexpectedCharacters, UnexpectedInput, UnexpectedToken

    if not text.strip():
        raise FormulaError("Write a formula, such as interactions / reach.", 0, 1)
    if len(text) > LONGEST:
        raise FormulaError(f"A formula has at most {LONGEST} characters.", LONGEST, len(text))
    try:
        parsed = _parser().parse(text)
    except UnexpectedCharacters as error:
        at = error.pos_in_stream or 0
        raise FormulaError(f"“{text[at]}” has no meaning in a formula.", at, at + 1) from None
    except UnexpectedToken as error:
        raise _unexpected(text, error.token) from None
    except UnexpectedInput as error:  # pragma: no cover - the two above are all that lalr raises
        raise FormulaError("This cannot be read.", error.pos_in_stream or 0, len(text)) from None
    names: list[str] = []
    tree, dimension = _checked(parsed, units, names, depth=0)
    if not names:
        raise FormulaError("A metric needs at least one name in its formula, such as interactions.", 0, len(text))
    if dimension.seconds not in (0, 1) or dimension.counts not in (-1, 0, 1):
        raise FormulaError(f"This comes out as {dimension}, which is no figure.", 0, len(text))
    low, high = _reach(tree)
    if max(-low, high) > FURTHEST:
        raise FormulaError("This formula can grow beyond any figure.", 0, len(text))
    return Formula(text=text.strip(), tree=tree, names=tuple(names), dimension=dimension)


def _unexpected(text: str, token: Any) -> FormulaError:
    if token.type == "$END" or token.start_pos is None:
        end = len(text.rstrip())
        return FormulaError("Something is missing here at the end.", max(0, end - 1), end)
    start = int(token.start_pos)
    if token.type in ("NAME", "NUMBER"):
        return FormulaError(f"An operator is missing before “{token}”.", start, start + len(token))
    return FormulaError(f"“{token}” cannot stand here.", start, start + len(token))


def _checked(node: Any, units: Mapping[str, Dimension], names: list[str], depth: int) -> tuple[Node, Dimension]:
    if depth > DEEPEST:
        raise FormulaError("The formula is nested too deeply.", node.meta.start_pos, node.meta.end_pos)
    start, end = node.meta.start_pos, node.meta.end_pos
    if node.data == "number":
        value = float(node.children[0])
        if value > LARGEST_NUMBER:
            raise FormulaError("This number is too large.", start, end)
        return Number(value), Dimension(is_plain=True)
    if node.data == "name":
        return _name(node.children[0], units, names)
    operator, children = node.data, node.children
    if operator == "call":
        operator, children = _function(children)
    parts = [_checked(child, units, names, depth + 1) for child in children]
    dimension = _dimension(operator, [d for _, d in parts], start, end)
    return Apply(operator, tuple(n for n, _ in parts)), dimension


def _name(token: Any, units: Mapping[str, Dimension], names: list[str]) -> tuple[Node, Dimension]:
    key = str(token)
    if key not in units:
        known = _closest(key, units)
        hint = f" Did you mean {known}?" if known else ""
        raise FormulaError(f"There is no metric {key}.{hint}", token.start_pos, token.end_pos)
    if key not in names:
        names.append(key)
    return Name(key), units[key]


def _function(children: list[Any]) -> tuple[Operator, list[Any]]:
    token, arguments = children[0], children[1:]
    name = str(token)
    if name not in _FUNCTIONS:
        raise FormulaError(f"There is no function {name}; there are min, max and abs.", token.start_pos, token.end_pos)
    fewest, most = _FUNCTIONS[name]
    if not fewest <= len(arguments) <= most:
        wanted = "one value" if most == 1 else f"{fewest} to {most} values"
        raise FormulaError(f"{name} takes {wanted}.", token.start_pos, token.end_pos)
    return name, arguments  # type: ignore[return-value]


def _dimension(operator: str, parts: list[Dimension], start: int, end: int) -> Dimension:
    if operator in ("multiply", "divide"):
        sign = 1 if operator == "multiply" else -1
        a, b = parts
        return Dimension(
            counts=a.counts + sign * b.counts, seconds=a.seconds + sign * b.seconds,
            is_plain=a.is_plain and b.is_plain,
        )  # fmt: skip
    named = [d for d in parts if not d.is_plain]
    if any(d != named[0] for d in named[1:]):
        word = {"add": "added", "subtract": "taken from one another"}.get(operator, "compared")
        other = next(d for d in named if d != named[0])
        raise FormulaError(f"{str(named[0]).capitalize()} and {other} cannot be {word}.", start, end)
    return named[0] if named else parts[0]


def _closest(key: str, units: Mapping[str, Dimension]) -> str | None:
    from difflib import get_close_matches

    found = get_close_matches(key.lower(), list(units), n=1, cutoff=0.6)
    return found[0] if found else None


def evaluate(node: Node, values: Mapping[str, Array]) -> Array:
    """The tree over arrays of one shape (or broadcasting ones), NaN where something is missing or divided by zero."""
    if isinstance(node, Number):
        return np.asarray(node.value, dtype=float)
    if isinstance(node, Name):
        return np.asarray(values[node.key], dtype=float)
    parts = [evaluate(argument, values) for argument in node.arguments]
    with np.errstate(over="ignore", invalid="ignore", divide="ignore"):
        made = _APPLIED[node.operator](parts)
    return np.where(np.isfinite(made), made, np.nan)


def _divided(parts: list[Array]) -> Array:
    top, bottom = np.broadcast_arrays(*parts)
    return np.asarray(np.divide(top, bottom, out=np.full(top.shape, np.nan), where=bottom != 0))


_APPLIED: dict[str, Callable[[list[Array]], Array]] = {
    "add": lambda p: p[0] + p[1],
    "subtract": lambda p: p[0] - p[1],
    "multiply": lambda p: p[0] * p[1],
    "divide": _divided,
    "negate": lambda p: -p[0],
    "abs": lambda p: np.abs(p[0]),
    "min": lambda p: np.minimum.reduce(np.broadcast_arrays(*p)),
    "max": lambda p: np.maximum.reduce(np.broadcast_arrays(*p)),
}


def evaluate_over_sums(
    formula: Formula, values: Mapping[str, Array]
) -> tuple[float | None, int, int, dict[str, float]]:
    """The formula over the sums of the posts that have everything it needs.

    values: arrays of shape (posts,). Returns the value (None where missing), how many posts are in
    it, how many are not, and the sums by name.
    """
    columns = np.column_stack([values[name] for name in formula.names])
    whole = ~np.isnan(columns).any(axis=1)
    n, missing = int(whole.sum()), int((~whole).sum())
    if n == 0:
        return None, 0, missing, {}
    sums = {name: float(columns[whole, i].sum()) for i, name in enumerate(formula.names)}
    made = float(evaluate(formula.tree, {key: np.asarray(total) for key, total in sums.items()}))
    return (None if np.isnan(made) else made), n, missing, sums


def write_tree(node: Node, write: Callable[[str], str], *, is_inner: bool = False) -> str:
    """The tree in the signs of print, each name as `write` has it (its words, or its number)."""
    if isinstance(node, Number):
        return f"{node.value:g}"
    if isinstance(node, Name):
        return write(node.key)
    parts = [write_tree(a, write, is_inner=node.operator not in _FUNCTIONS) for a in node.arguments]
    if node.operator in _FUNCTIONS:
        return f"{node.operator}({', '.join(parts)})"
    text = f"−{parts[0]}" if node.operator == "negate" else f"{parts[0]} {_SIGNS[node.operator]} {parts[1]}"
    return f"({text})" if is_inner else text
