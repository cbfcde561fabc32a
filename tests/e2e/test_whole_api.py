"""Promise: whatever is sent to the API, by an editor, a viewer or nobody, on things that exist: no answer is a defect.

What is sent comes from the API's own description (Schemathesis, which draws by Hypothesis): what it allows, and what
it does not. It stands last, for an editor's part changes and removes what the other tests look at.
"""

import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
import requests
from requests.adapters import HTTPAdapter
from urllib3.util import Retry

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import schemathesis

from dakika_server.shared.describing import committed, whole_of
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from scripts import postgres
from scripts.browser import EDITOR, PASSWORD
from scripts.stack import Stack

VIEWER = "guest@ninthbell.example"
BRAND = "orrery-house"
# Things that exist, by what stands before their number in an address.
TABLES = {
    "links": "links_trackedlink", "conversions": "site_conversion", "domains": "links_linkdomain", "goals": "site_goal",
    "pages": "links_linkpage", "sites": "site_site", "plan": "plan_plannedpost", "printed": "printing_printedpage",
    "findings": "results_finding", "metrics": "results_ownmetric", "posts": "sources_post", "tags": "results_tag",
    "rules": "results_tagrule", "connections": "sources_credential", "feeds": "sources_feed",
    "imports": "sources_import", "profiles": "sources_profile", "media": "media_asset", "versions": "plan_version",
    "notes": "plan_note", "hashtags": "plan_hashtagset", "ideas": "plan_idea", "groups": "plan_ideagroup",
    "templates": "plan_template", "feed-rules": "plan_feedrule", "boosts": "plan_boost", "items": "plan_ownfeeditem", "terms": "sources_post", "reports": "reports_report", "deliveries": "reports_delivery",
    "webhooks": "webhooks_webhook", "team": "accounts_user", "invitations": "brands_invitation", "passkeys": "accounts_passkey",
}  # fmt: skip
# Who asks, and how often at each address: most is to be found where most is allowed.
ASKERS = {
    "nobody": ("", 1), "guest": (VIEWER, 1), "author": (VIEWER, 1), "approver": (VIEWER, 1), "analyst": (VIEWER, 1),
    "viewer": (VIEWER, 1), "admin": (EDITOR, 6),
}  # fmt: skip
REFUSED = {"nobody": 401, "guest": 403, "viewer": 403, "author": 403, "approver": 403, "analyst": 403, "admin": 400}
# Signing out would end the asking; each start of a network's own dialogue is another's business.
LEFT_OUT = {("/api/session", "DELETE"), ("/api/session", "POST"), ("/api/account/sessions/{id}", "DELETE"),
            ("/api/account/everything", "DELETE")}  # fmt: skip

OPEN = {("/api/password-reset", "POST")}


@pytest.fixture(scope="module")
def existing(stack: Stack) -> dict[str, list[int]]:
    brand = f"(SELECT id FROM brands_brand WHERE slug = '{BRAND}')"
    found: dict[str, list[int]] = {}
    for part, table in TABLES.items():
        columns = postgres.sql(
            f"SELECT column_name FROM information_schema.columns WHERE table_name = '{table}'", stack.name
        ).split()  # fmt: skip
        assert columns, f"there is no table {table}"
        where = f"WHERE brand_id = {brand}" if "brand_id" in columns else ""
        key = "id" if "id" in columns else "planned_post_id"
        told = postgres.sql(f"SELECT {key} FROM {table} {where} ORDER BY {key} LIMIT 4", stack.name)
        found[part] = [int(number) for number in told.split()]
    assert sum(bool(numbers) for numbers in found.values()) >= 10, "the demo has hardly anything"
    return found


@contextmanager
def signed_in(stack: Stack, email: str) -> Iterator[requests.Session]:
    """What a person's browser would send with; nobody's without a name."""
    with requests.Session() as session:
        # Between two questions a connection may be closed by whoever has waited long enough (RFC 9112, 9.3.1).
        once_more = HTTPAdapter(
            max_retries=Retry(total=2, allowed_methods=None, backoff_factor=0.1, respect_retry_after_header=False)
        )
        session.mount("http://", once_more)
        session.get(f"{stack.address}/api/session", timeout=60)
        if email:
            answer = session.post(
                f"{stack.address}/api/session",
                json={"email": email, "password": PASSWORD},
                headers=token(session),
                timeout=60,
            )
            assert answer.status_code == 200
        yield session


@contextmanager
def as_role(stack: Stack, email: str, role: str) -> Iterator[None]:
    """Somebody of the demo in another role for a while."""
    of = f"WHERE user_id = (SELECT id FROM accounts_user WHERE email = '{email}')"
    if email != VIEWER:
        yield
        return
    postgres.sql(f"UPDATE brands_membership SET role = '{role}' {of}", stack.name)
    try:
        yield
    finally:
        postgres.sql(f"UPDATE brands_membership SET role = 'viewer' {of}", stack.name)


def token(session: requests.Session) -> dict[str, str]:
    return {"X-CSRFToken": session.cookies.get("csrftoken", "")}


def operations() -> Iterator[Any]:
    """All that can be asked; what removes things comes last."""
    described = schemathesis.openapi.from_dict(whole_of(committed()))
    found = [each.ok() for each in described.get_all_operations()]
    found = [one for one in found if (one.path, one.method.upper()) not in LEFT_OUT]
    yield from sorted(found, key=lambda one: (one.method.upper() == "DELETE", one.path, one.method))


@pytest.mark.parametrize("who", ASKERS)
def test_nothing_that_is_sent_makes_a_defect(who: str, stack: Stack, existing: dict[str, list[int]]) -> None:
    email, times = ASKERS[who]
    found: list[str] = []
    statuses: dict[int, int] = {}
    with as_role(stack, email, who), signed_in(stack, email) as session:
        for operation in operations():
            # Whoever forgot their password is nobody yet; the answer is the same for any address.
            is_open = (operation.path, operation.method.upper()) in OPEN
            wrong = asked(session, stack.address, operation, existing, times, {} if is_open else statuses)
            if wrong:
                found.append(wrong)
    assert found == []
    # Where everything were refused at the door, nothing would have been tried.
    let_in = sum(count for status, count in statuses.items() if status < 400)
    if who != "guest":
        assert let_in == 0 if who == "nobody" else let_in > sum(statuses.values()) / 10, statuses
    assert REFUSED[who] in statuses


def asked(
    session: requests.Session, address: str, operation: Any, existing: dict[str, list[int]], times: int,
    statuses: dict[int, int],
) -> str:  # fmt: skip
    """What was wrong with an answer of an operation, or nothing."""
    told = ""

    @given(
        case=operation.as_strategy(), choice=st.integers(0, 10_000), is_there=st.sampled_from([True, True, True, False])
    )
    @settings(
        max_examples=times, database=None, derandomize=True, deadline=None, phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    def ask(case: Any, choice: int, is_there: bool) -> None:
        nonlocal told
        if "brand" in case.path_parameters:
            case.path_parameters["brand"] = BRAND
        if is_there:
            at(case.path_parameters, operation.path, existing, choice)
        request = case.as_transport_kwargs(base_url=address, headers=token(session))
        request.pop("cookies", None)
        answer = session.request(**request | {"timeout": 60, "allow_redirects": False})
        statuses[answer.status_code] = statuses.get(answer.status_code, 0) + 1
        if wrong := what_is_wrong(answer):
            told = f"{operation.method.upper()} {answer.url}: {wrong} ({str(request)[:400]})"

    ask()
    return told


def at(values: dict[str, Any], path: str, existing: dict[str, list[int]], choice: int) -> None:
    """Have an address speak of things that exist."""
    parts = path.split("/")
    for before, part in zip(parts, parts[1:], strict=False):
        name = part.strip("{}")
        numbers = existing.get("rules" if name == "rule" else before, [])
        if part.startswith("{") and name in values and numbers:
            values[name] = numbers[choice % len(numbers)]


def what_is_wrong(answer: requests.Response) -> str:
    """A defect; or a refusal that is no problem document (RFC 9457). Networks that are away are told by 503."""
    if answer.status_code >= 500 and answer.status_code != 503:
        return f"{answer.status_code} {answer.text[:300]}"
    if answer.status_code >= 400 and "problem+json" not in answer.headers.get("content-type", ""):
        return f"{answer.status_code} is no problem document: {answer.headers.get('content-type')}"
    return ""
