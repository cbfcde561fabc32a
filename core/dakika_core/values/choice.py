"""Some of many: any of these values, or none of them."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

V = TypeVar("V", str, int)
NOT = "!"
SEPARATOR = ","


@dataclass(frozen=True)
class Choice(Generic[V]):
    """Any of some values; with is_not everything but them. Values are in order, each once, at least one."""

    values: tuple[V, ...]
    is_not: bool = False

    def __post_init__(self) -> None:
        if not self.values:
            raise ValueError("a choice is of at least one value")
        object.__setattr__(self, "values", tuple(sorted(set(self.values))))

    def takes(self, value: V | None) -> bool:
        """Whether a thing of this value is meant; what has no value is none of any."""
        return (value in self.values) is not self.is_not

    @property
    def single(self) -> V | None:
        """Its one value, where it is a choice of one."""
        return self.values[0] if len(self.values) == 1 and not self.is_not else None

    def __str__(self) -> str:
        return (NOT if self.is_not else "") + SEPARATOR.join(str(value) for value in self.values)


def read_choice(text: str, value: Callable[[str], V]) -> Choice[V]:
    """A choice as it stands in an address: "3,7" is any of the two, "!3,7" none of them.

    Raises ValueError for a choice of nothing, and whatever `value` raises for what is no value.
    """
    is_not = text.startswith(NOT)
    parts = [part.strip() for part in text.removeprefix(NOT).split(SEPARATOR)]
    return Choice(tuple(value(part) for part in parts if part), is_not)
