"""What tests of results over HTTP share."""

from collections.abc import Iterator
from typing import Any

import pytest
from django.db import transaction


@pytest.fixture
def client(editor: Any, client_of: Any) -> Any:
    """An editor of the brand."""
    return client_of(editor)


@pytest.fixture(scope="module")
def kept(django_db_setup: None, django_db_blocker: Any) -> Iterator[None]:
    """What a file's own fixtures make below this stands for all its tests, each of which leaves it as it was."""
    del django_db_setup
    with django_db_blocker.unblock(), transaction.atomic():
        yield
        transaction.set_rollback(True)
