"""Promise: nobody sees a brand that is not theirs, and who may only look changes nothing: on every endpoint there is."""

import re
from collections.abc import Iterator
from typing import Any

import pytest
from django.urls import URLPattern, URLResolver, get_resolver

pytestmark = pytest.mark.django_db
METHODS = ("get", "post", "put", "patch", "delete")
# What somebody looks at is their own choice, whatever they may change; so is having a page on paper. What is only looked
# at is a question.
OPEN_TO_ALL = ("/preferences/", "/ideas/wordings", "/repetition/preview", "/hashtags/proposals", "/feed-rules/preview", "/notifications", "/results/audience/pdf", "/links/preview", "/plan/check",
               "/foresight/expected", "/timing/rhythms/propose", "/timing/trials/length", "/competitors/posts/looked",
               "/competitors/digest", "/media/zip")  # fmt: skip

# Whoever may look at a plan may say something about it, and do what they were given to do.
OPEN_TO_WHO_LOOKS = (
    "/plan/1/remarks",
    "/plan/1/review",
    "/plan/1/vote",
    "/plan/tasks/1/done",
    "/plan/subscription",
    "/reports/1/pdf",
    "/team/leaving",
)


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


@pytest.mark.parametrize(
    "path", [path for path in PATHS if not any(part in path for part in (*OPEN_TO_ALL, *OPEN_TO_WHO_LOOKS))]
)
def test_viewers_change_nothing(path: str, viewer: Any, client_of: Any) -> None:
    theirs = client_of(viewer)
    for method in METHODS[1:]:
        assert getattr(theirs, method)(path).status_code in (403, 405), method


@pytest.mark.parametrize("part", OPEN_TO_ALL[1:])
def test_what_is_open_to_all_is_none_the_less_of_the_brand(
    part: str, viewer: Any, stranger: Any, client_of: Any
) -> None:
    (path,) = [path for path in PATHS if path.endswith(part)]
    assert client_of(viewer).post(path, {}, content_type="application/json").status_code in (200, 202, 204, 400, 405)
    assert client_of(stranger).post(path, {}, content_type="application/json").status_code == 404


@pytest.mark.parametrize("part", OPEN_TO_WHO_LOOKS)
def test_what_whoever_looks_may_say_is_of_the_brand(part: str, stranger: Any, client_of: Any) -> None:
    (path,) = [path for path in PATHS if path.endswith(part) and "/remarks/" not in path]
    for method in METHODS[1:]:
        assert getattr(client_of(stranger), method)(path).status_code in (404, 405)
