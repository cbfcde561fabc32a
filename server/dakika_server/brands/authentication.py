"""Programs: who asks with a token, how often, and what those are answered who ask the same once more.

In the trade's words: API token, rate limit, idempotency key.
"""

import json
from hashlib import sha256
from typing import Any

from django.db import IntegrityError, transaction
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.models import ApiToken, KeptAnswer
from dakika_server.brands.tokens import note_used, token_by
from dakika_server.shared import clock
from dakika_server.shared.callers import calls_in_minute
from dakika_server.shared.errors import Conflict, TooOften, field_errors
from dakika_server.shared.vault import seal, unseal

CALLS_A_MINUTE = 600
LONGEST_KEY = 200


def person_by_token(told: str, address: str) -> tuple[Any, Any] | None:
    """Who asks with a token, and the token; None for one that is none (shared.security.by_token)."""
    token = token_by(told)
    if token is None:
        return None
    note_used(token, address)
    return token.user, token


def count_call(token: ApiToken) -> dict[str, str]:
    """Count a program's call; returns what is told of it (draft-ietf-httpapi-ratelimit-headers). Raises TooOften."""
    calls = calls_in_minute("token", str(token.pk))
    left, seconds = max(0, CALLS_A_MINUTE - calls), 60 - int(clock.now().timestamp()) % 60
    if calls > CALLS_A_MINUTE:
        raise TooOften(f"More than {CALLS_A_MINUTE} calls a minute. Go on in {seconds} seconds.", seconds)
    return {
        "RateLimit-Policy": f'"minute";q={CALLS_A_MINUTE};w=60', "RateLimit": f'"minute";r={left};t={seconds}',
    }  # fmt: skip


class ReplayedError(Exception):
    """What was answered under a key before is answered again."""

    def __init__(self, kept: KeptAnswer) -> None:
        super().__init__(kept.key)
        body = None if kept.sealed is None else json.loads(unseal(kept.sealed))
        self.response = Response(body, status=kept.status or 200, headers={"Idempotency-Replayed": "true"})


def begin_answer(request: Request, token: ApiToken) -> KeptAnswer | None:
    """Note that a POST is being answered that has a key (draft-ietf-httpapi-idempotency-key-header); None without one.

    Raises ReplayedError for one that was answered, Conflict for one that is being answered or was of something else.
    """
    key = request.headers.get("Idempotency-Key", "").strip().strip('"')
    if request.method != "POST" or not key:
        return None
    if len(key) > LONGEST_KEY or not key.isprintable():
        raise field_errors({"Idempotency-Key": f"A key has at most {LONGEST_KEY} signs that can be printed."})
    asked = sha256(
        f"{request.get_full_path()}\n{json.dumps(request.data, sort_keys=True, default=str)}".encode()
    ).hexdigest()
    try:
        with transaction.atomic():
            return KeptAnswer.objects.create(token=token, key=key, asked=asked, at=clock.now())
    except IntegrityError:
        kept = KeptAnswer.objects.get(token=token, key=key)
    if kept.asked != asked:
        raise Conflict("key_used", "This key was used for something else. Take another one.")
    if kept.status is None:
        raise Conflict("being_answered", "This is being answered, or was broken off: look at what came of it.")
    raise ReplayedError(kept)


def keep_answer(kept: KeptAnswer, response: Any) -> None:
    """Keep what was answered; where that was no answer, the key is free again."""
    if response.status_code >= 500 or not isinstance(response, Response):
        kept.delete()
        return
    kept.status, kept.sealed = response.status_code, seal(json.dumps(response.data, default=str))
    kept.save(update_fields=["status", "sealed"])
