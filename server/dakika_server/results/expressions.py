"""A formula's tree as an expression of the database: as in the core, missing stays missing, and so is by zero."""

from functools import reduce
from typing import Any

from dakika_core.metrics.catalogue import Metric
from dakika_core.metrics.formula import Apply, Name, Node, Number
from django.db.models import Case, Count, Expression, F, FloatField, Q, Sum, Value, When
from django.db.models.functions import Abs, Cast, Greatest, Least, Ln, NullIf


def expression_of(node: Node, prefix: str = "") -> Any:
    """The tree over one post's measures; `posts` is one, everything else a column."""
    if isinstance(node, Number):
        return Value(node.value, output_field=FloatField())
    if isinstance(node, Name):
        if node.key == "posts":
            return Value(1.0, output_field=FloatField())
        return Cast(F(f"{prefix}{node.key}"), FloatField())
    return _applied(node, [expression_of(argument, prefix) for argument in node.arguments])


def _applied(node: Apply, parts: list[Any]) -> Any:
    zero = Value(0.0, output_field=FloatField())
    match node.operator:
        case "add":
            return parts[0] + parts[1]
        case "subtract":
            return parts[0] - parts[1]
        case "multiply":
            return parts[0] * parts[1]
        case "divide":
            return parts[0] / NullIf(parts[1], zero, output_field=FloatField())
        case "negate":
            return zero - parts[0]
        case "abs":
            return Abs(parts[0])
    chosen = Least(*parts) if node.operator == "min" else Greatest(*parts)
    # LEAST and GREATEST pass over what is missing; adding the parts up does not.
    return Case(
        When(Q(_IsMissing(reduce(lambda a, b: a + b, parts))), then=None), default=chosen, output_field=FloatField()
    )


class _IsMissing(Expression):
    """Whether an expression is NULL."""

    conditional = True

    def __init__(self, inner: Any) -> None:
        from django.db.models import BooleanField

        super().__init__(output_field=BooleanField())
        self.inner = inner

    def get_source_expressions(self) -> list[Any]:
        return [self.inner]

    def set_source_expressions(self, exprs: Any) -> None:
        (self.inner,) = exprs

    def as_sql(self, compiler: Any, connection: Any) -> Any:
        sql, parameters = compiler.compile(self.inner)
        return f"({sql}) IS NULL", parameters


def cell(key: str, name: str) -> str:
    """What a metric's sum of one name is called in a query."""
    return f"{key}_of_{name}"


def sums_of(metric: Metric) -> dict[str, Any]:
    """Aggregates of a metric's names over the posts that have all of them, and how many posts those are.

    The index has no names: its logs are added up, so that its mean is geometric.
    """
    key = metric.key
    if key == "index":
        judged = Q(index__gt=0)
        return {cell(key, "log"): Sum(Ln("index"), filter=judged), cell(key, "n"): Count("pk", filter=judged)}
    counted = [name for name in metric.needs if name != "posts"]
    whole = Q(*[Q(**{f"{name}__isnull": False}) for name in counted])
    made: dict[str, Any] = {cell(key, name): Sum(name, filter=whole) for name in counted}
    made[cell(key, "n")] = Count("pk", filter=whole)
    return made
