"""What an area is to the rest of the house: its area.py says it, and assembly knows areas by that alone."""

from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module

from django.apps import AppConfig


def _nothing() -> None:
    pass


@dataclass(frozen=True, kw_only=True)
class Area:
    """An area as it hands itself in.

    name is that of its room. urls is the module of its addresses below /api/, empty where it has none. connect adds
    to the hooks and registries of the areas below, once, when everything is loaded.
    """

    name: str
    urls: str = ""
    connect: Callable[[], None] = _nothing


class AreaConfig(AppConfig):
    """Django's handle of an area: connects it when the application starts."""

    def ready(self) -> None:
        """Connect what area.py hands in."""
        area_in(self.name).connect()


def area_in(package: str) -> Area:
    """The area of a package."""
    found: Area = import_module(f"{package}.area").AREA
    return found
