"""Promise: nobody sees a brand that is not theirs, and who may only look changes nothing: on every endpoint there is."""

import re
from collections.abc import Iterator
from typing import Any

import pytest
from django.urls import URLPattern, URLResolver, get_resolver

pytestmark = pytest.mark.django_db
METHODS = ("get", "post", "put", "patch", "delete")
# What somebody looks at is their own choice, whatever they may change.
OWN_CHOICE = "/preferences/"


def brand_paths() -> Iterator[str]:
    def walk(patterns: Any, before: str = "") -> Iterator[str]:
        for pattern in patterns:
            route = before + str(pattern.pattern)
            if isinstance(pattern, URLResolver):
                yield from walk(pattern.url_patterns, route)
            elif isinstance(pattern, URLPattern) and "<slug:brand>" in route:
                filled = route.replace("<slug:brand>", "orrery-house").replace("<slug:name>", "summary")
                yield "/" + re.sub(r"<int:\w+>", "1", filled)

    yield from walk(get_resolver().url_patterns)


PATHS = sorted(set(brand_paths()))


def test_there_are_endpoints_to_check() -> None:
    assert len(PATHS) > 20


@pytest.mark.parametrize("path", PATHS)
def test_strangers_find_nothing(path: str, brand: Any, stranger: Any, client_of: Any, client: Any) -> None:
    theirs = client_of(stranger)
    for method in METHODS:
        assert getattr(theirs, method)(path).status_code in (404, 405), method
        assert getattr(client, method)(path).status_code in (401, 403, 405), method


@pytest.mark.parametrize("path", [path for path in PATHS if OWN_CHOICE not in path])
def test_viewers_change_nothing(path: str, viewer: Any, client_of: Any) -> None:
    theirs = client_of(viewer)
    for method in METHODS[1:]:
        assert getattr(theirs, method)(path).status_code in (403, 405), method
