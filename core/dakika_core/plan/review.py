"""Saying yes to a planned post: who has to, to what exactly, and what is left to be said.

A yes is bound to a digest of what goes out, so that nothing else can go out under it, in whatever order things happen.

In the trade's words: approval workflow, sign-off.
"""

import hashlib
import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from dakika_core.plan.content import FIELDS

MOST_STEPS = 2
# Whose yes counts at a step: that role's, and theirs who may say more.
MAY_SAY: Mapping[str, frozenset[str]] = {
    "guest": frozenset({"guest", "approver", "admin"}),
    "analyst": frozenset({"analyst", "approver", "admin"}),
    "approver": frozenset({"approver", "admin"}),
    "admin": frozenset({"admin"}),
}


@dataclass(frozen=True, kw_only=True)
class Verdict:
    """What somebody said at a step to what had a digest. who is told apart by a key of the teller's choice."""

    step: int
    is_yes: bool
    digest: str
    who: str


def digest_of(versions: Iterable[Mapping[str, Any]], *, in_own_feed: bool = False, as_push: bool = False) -> str:
    """A digest of what goes out: of each version its profile, fields, options and link, and whether it also appears in
    the brand's own feed or as a message in browsers. The minute is none of it.
    """
    told: list[Any] = [
        [one["profile_id"], *(one[name] for name in FIELDS), sorted(one["options"].items()), one["link_id"]]
        for one in sorted(versions, key=lambda one: int(one["profile_id"]))
    ]
    if in_own_feed:
        told.append("own feed")
    if as_push:
        told.append("push")
    return hashlib.sha256(json.dumps(told, ensure_ascii=False, default=list).encode()).hexdigest()


def next_step(steps: Sequence[str], said: Sequence[Verdict], digest: str) -> int | None:
    """The step that waits for a yes to what has this digest, from 0; None where all have said yes.

    said in the order it was said: a wish for a change takes back what was said before it.
    """
    given: dict[int, Verdict] = {}
    for one in said:
        if not one.is_yes:
            given = {}
        elif one.digest == digest:
            given[one.step] = one
    return next((step for step in range(len(steps)) if step not in given), None)


def may_say(steps: Sequence[str], step: int, role: str) -> bool:
    """Whether somebody of a role may say yes at a step."""
    return 0 <= step < len(steps) and role in MAY_SAY.get(steps[step], frozenset())
