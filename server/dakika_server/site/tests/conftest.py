"""What tests of site over HTTP share."""

from typing import Any

import pytest
from django.test import Client


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    """An editor of the brand."""
    found: Client = client_of(editor)
    return found
