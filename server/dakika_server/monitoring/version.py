"""Which version of Dakika this is."""

import tomllib
from functools import cache
from pathlib import Path

_ROOT = Path(__file__).parents[3]


@cache
def version() -> str:
    """As pyproject.toml has it; "unknown" where that is not there."""
    try:
        told = tomllib.loads((_ROOT / "pyproject.toml").read_text())
    except OSError:
        return "unknown"
    return str(told["project"]["version"])
