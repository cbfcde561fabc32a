"""How the tests share two processors: those that need one thing together stay together."""

from typing import Any

import pytest

_BROWSER = "tests/e2e"


def pytest_itemcollected(item: Any) -> None:
    """Tests of the browser share one installation, those of a file what it sets up."""
    path = str(item.path.relative_to(item.config.rootpath))
    item.add_marker(pytest.mark.xdist_group(_BROWSER if path.startswith(_BROWSER) else path))


@pytest.hookimpl(tryfirst=True)
def pytest_collection_modifyitems(items: list[Any]) -> None:
    """The longest chain starts first."""
    items.sort(key=lambda item: _BROWSER not in str(item.path))
