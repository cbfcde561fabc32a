"""How the tests share two processors: those that need one thing together stay together."""

from typing import Any

import pytest
from hypothesis import settings
from xdist.scheduler import LoadFileScheduling

# A busy machine is no defect: nothing here is judged by its time.
settings.register_profile("without deadlines", deadline=None)
settings.load_profile("without deadlines")

_BROWSER = "tests/e2e"


class _Together(LoadFileScheduling):  # type: ignore[misc]
    """Tests of a file share what it sets up; those of the browser share one installation, whatever their file."""

    def _split_scope(self, nodeid: str) -> str:
        return _BROWSER if nodeid.startswith(_BROWSER) else str(super()._split_scope(nodeid))


def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> LoadFileScheduling:
    return _Together(config, log)


@pytest.hookimpl(trylast=True)
def pytest_collection_modifyitems(items: list[Any]) -> None:
    """The longest chain starts first, whatever order others wish for."""
    items.sort(key=lambda item: _BROWSER not in str(item.path))
