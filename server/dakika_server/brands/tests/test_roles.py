"""Promise: what each role may do is told by one table, and every address keeps to it, whatever is sent."""

import re
from collections.abc import Iterator
from typing import Any

import pytest
from django.urls import URLPattern, URLResolver, get_resolver

from dakika_server.accounts.models import User
from dakika_server.accounts.permissions import PERMISSIONS, Role, permissions_of
from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.permissions import ONLY_LOOKS, ONLY_SHARED
from dakika_server.brands.views import BrandView
from scripts.paths import ROOT

pytestmark = pytest.mark.django_db
CHANGING = ("post", "put", "patch", "delete")
# The table once more, as one would tell it: what each role may do besides looking.
MAY = {
    "admin": set(
        "brand.campaigns brand.change brand.log brand.people brand.status brand.webhooks competitors.sets figures.keep links.make links.pages links.rules media.change plan.boost plan.guests plan.publish plan.write "
        "reports.share reports.write "
        "timing.rhythm timing.trial results.findings results.metrics results.tag results.targets site.conversions site.setup sources.collect sources.connect sources.files "
        "sources.follow".split()
    ),
    "author": {"brand.campaigns", "competitors.sets", "figures.keep", "links.make", "links.pages", "media.change", "plan.write", "reports.write",
               "timing.rhythm",                "results.tag"},
    "approver": {"brand.campaigns", "figures.keep", "plan.boost", "plan.guests", "plan.publish", "plan.write",
                 "reports.share", "reports.write"},
    "viewer": set(),
    "guest": set(),
}  # fmt: skip
MAY["analyst"] = MAY["admin"] - {
    "brand.change",
    "brand.log",
    "brand.people",
    "brand.status",
    "brand.webhooks",
    "plan.boost",
    "plan.guests",
}


def described(patterns: Any = None, before: str = "") -> Iterator[tuple[str, type[BrandView]]]:
    """Every address of a brand as the description has it, and what serves it."""
    for pattern in get_resolver().url_patterns if patterns is None else patterns:
        route = before + str(pattern.pattern)
        if isinstance(pattern, URLResolver):
            yield from described(pattern.url_patterns, route)
        elif isinstance(pattern, URLPattern) and "<slug:brand>" in route:
            yield "/" + re.sub(r"<\w+:(\w+)>", r"{\1}", route), pattern.callback.cls


def filled(path: str) -> str:
    """An address with something in each of its places."""
    named = path.replace("{brand}", "orrery-house").replace("{name}", "summary").replace("{purpose}", "preview")
    return re.sub(r"\{\w+\}", "1", named)


VIEWS = {filled(path): view for path, view in described()}
WALK = [
    (path, method)
    # Who has left is nobody any more, so that comes last.
    for path, view in sorted(VIEWS.items(), key=lambda one: (one[0].endswith("/team/leaving"), one[0]))
    for method in ("get", *CHANGING)
    if hasattr(view, method) and method in view.http_method_names
]


def needed(view: type[BrandView], method: str) -> str:
    return view.reads if method == "get" or view.is_own_choice or view.is_question else view.changes


@pytest.fixture(params=[role.value for role in Role])
def role(request: pytest.FixtureRequest) -> str:
    return str(request.param)


@pytest.fixture
def theirs(role: str, brand: Brand, client_of: Any) -> Any:
    person = User.objects.create(email=f"{role}@ninthbell.example", name=role)
    Membership.objects.create(user=person, brand=brand, role=role)
    return client_of(person)


def test_the_table_says_what_one_would_tell(role: str) -> None:
    reading = {"plan.read"} if role == "guest" else {"plan.read", "brand.read", "reports.read"}
    assert set(permissions_of(role)) == MAY[role] | reading
    assert {name for names in MAY.values() for name in names} | {"plan.read", "brand.read", "reports.read"} == set(
        PERMISSIONS
    )


def test_every_address_is_refused_to_those_who_may_not_and_to_nobody_else(role: str, theirs: Any) -> None:
    """One answer each: 403 without the permission, anything else but that with it."""
    assert len(WALK) > 80
    wrong = []
    for path, method in WALK:
        permission = needed(VIEWS[path], method)
        answer = getattr(theirs, method)(path, *([{}] if method == "get" else [{}, "application/json"]))
        status = answer.status_code
        if answer.streaming:
            # Read to its end, so that its file is closed.
            list(answer.streaming_content)
        if (status == 403) == (permission in permissions_of(role)):
            wrong.append(f"{method} {path} takes {permission}: {status}")
    assert wrong == []


def test_a_refusal_says_what_it_was_and_whom_to_ask(role: str, theirs: Any) -> None:
    answer = theirs.post("/api/brands/orrery-house/sources/collect", {}, "application/json")
    if role in ("viewer", "guest"):
        assert answer.json()["detail"] == ONLY_LOOKS
    elif role in ("author", "approver"):
        assert (
            answer.json()["detail"]
            == f"Your role, {role}, does not let you have profiles collected. Ask an admin of the brand."
        )


def test_a_person_is_told_what_they_may(role: str, theirs: Any) -> None:
    answer = theirs.get("/api/brands/orrery-house")
    if role == "guest":
        assert (answer.status_code, answer.json()["detail"]) == (403, ONLY_SHARED)
    else:
        assert (answer.json()["role"], answer.json()["may"]) == (role, permissions_of(role))


def test_the_front_end_knows_the_permissions_by_the_same_names() -> None:
    text = (ROOT / "web" / "src" / "study" / "permissions.ts").read_text()
    assert re.findall(r'^  "([a-z.]+)",$', text, re.M) == sorted(PERMISSIONS)
