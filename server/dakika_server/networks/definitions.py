"""The networks' definition files, read once."""

import tomllib
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from dakika_core.networks.definition import CountUnit, NetworkDefinition, TextRule

FOLDER = Path(__file__).parent / "definition_files"


@dataclass(frozen=True, kw_only=True)
class NetworkApi:
    """Where and how a network's API is reached."""

    path: str
    scope: str
    connector: str


@lru_cache(maxsize=1)
def _read() -> dict[str, tuple[NetworkDefinition, NetworkApi]]:
    found = {}
    for file in sorted(FOLDER.glob("*.toml")):
        raw = tomllib.loads(file.read_text())
        text = dict(raw.pop("text"))
        definition = NetworkDefinition(
            key=raw["key"],
            name=raw["name"],
            monogram=raw["monogram"],
            text=TextRule(**{**text, "unit": CountUnit(text["unit"])}),
            max_pictures=raw["max_pictures"],
            half_life_hours=raw["half_life_hours"],
            metrics=raw["metrics"],
            public_metrics=frozenset(raw["public"]["metrics"]),
            utm_source=raw["utm_source"],
            default_hours=tuple(raw["default_hours"]),
        )
        found[definition.key] = (definition, NetworkApi(**raw["api"]))
    return found


def all_networks() -> dict[str, NetworkDefinition]:
    """Every network by its key."""
    return {key: definition for key, (definition, _) in _read().items()}


def network(key: str) -> NetworkDefinition:
    """One network. Raises KeyError when there is none of that key."""
    return _read()[key][0]


def network_api(key: str) -> NetworkApi:
    """How a network is reached. Raises KeyError when there is none of that key."""
    return _read()[key][1]
