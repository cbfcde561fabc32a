"""What tests of results over HTTP share."""

from typing import Any

import pytest


@pytest.fixture
def client(editor: Any, client_of: Any) -> Any:
    """An editor of the brand."""
    return client_of(editor)
