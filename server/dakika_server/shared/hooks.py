"""What an area leaves to those above it: hooks that they answer and registries that they fill at the start.

Areas depend downwards. Where one below needs something of those above, it says so by an object of its
own, with a name and a type; each area above adds to it once, under its own name, from its area.py.

In the trade's words: plug-in registry, signals, dependency inversion.
"""

from collections.abc import Callable, Iterator, Mapping
from typing import Generic, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")
V = TypeVar("V")


class AlreadyAddedError(Exception):
    """Two would answer under one name."""


class Hook(Generic[P, R]):
    """A question or a notice to the areas above. Called, it calls all of them and returns their answers.

    The order is that of their names, whichever was added first: so nobody can come to rely on it.
    """

    def __init__(self, name: str) -> None:
        self.name = name
        self._answers: dict[str, Callable[P, R]] = {}

    def add(self, area: str, answer: Callable[P, R]) -> None:
        """Have an area answer. Raises AlreadyAddedError when it does already."""
        if area in self._answers:
            raise AlreadyAddedError(f"{area} answers {self.name} already")
        self._answers[area] = answer

    def __iter__(self) -> Iterator[Callable[P, R]]:
        return (answer for _, answer in sorted(self._answers.items()))

    def __call__(self, *args: P.args, **kwargs: P.kwargs) -> list[R]:
        """Ask all of them."""
        return [answer(*args, **kwargs) for answer in self]


class Registry(Mapping[str, V]):
    """Things by name that areas add to. What stands in it from the beginning is the area's own that made it."""

    def __init__(self, name: str, own: Mapping[str, V] | None = None) -> None:
        self.name = name
        self._values = dict(own or {})

    def add(self, key: str, value: V) -> None:
        """Add a thing. Raises AlreadyAddedError when there is one by the name."""
        if key in self._values:
            raise AlreadyAddedError(f"{self.name} has {key} already")
        self._values[key] = value

    def add_all(self, values: Mapping[str, V]) -> None:
        """Add several. Raises AlreadyAddedError."""
        for key, value in values.items():
            self.add(key, value)

    def __getitem__(self, key: str) -> V:
        return self._values[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._values)

    def __len__(self) -> int:
        return len(self._values)
