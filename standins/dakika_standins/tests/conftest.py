"""The stand-ins at one instant, asked without a network."""

from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

import pytest
from starlette.testclient import TestClient

from dakika_standins.app import create_app
from dakika_standins.state import State

NOW = datetime(2026, 11, 24, 10, 40, tzinfo=UTC)


@pytest.fixture
def state(tmp_path: Path) -> State:
    """A world that nobody has touched yet."""
    return State(tmp_path / "state.json", fixed_now=NOW)


@pytest.fixture
def http(state: State) -> Iterator[TestClient]:
    """Asks it."""
    with TestClient(create_app(state, has_audience=False)) as client:
        yield client
