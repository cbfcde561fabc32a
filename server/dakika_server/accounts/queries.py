"""What a session shows of itself, and a person of their account.

Brands are told by the area above, through a hook, to keep the order of areas.
"""

import itertools
from typing import Any

from django.db.models import Q

from dakika_server.accounts.models import User
from dakika_server.accounts.passkeys import relying_party
from dakika_server.accounts.sessions import device_of, sessions_of
from dakika_server.shared.hooks import Hook
from dakika_server.shared.log import words_of
from dakika_server.shared.models import AuditEntry

# What happened to an account lately, for its owner.
MOST_EVENTS = 20
brands_seen: Hook[[Any], list[dict[str, Any]]] = Hook("brands that a person may see")


def session_of(user: Any) -> dict[str, Any]:
    """Name, address, choices, and the brands that a person may see."""
    return {
        "name": user.name, "email": user.email, "language": user.language, "time_zone": user.time_zone,
        "theme": user.theme, "brands": list(itertools.chain(*brands_seen(user))),
    }  # fmt: skip


def account_of(user: User, session_key: str | None) -> dict[str, Any]:
    """By what somebody signs in, and where they are."""
    totp = getattr(user, "totp", None)
    return {
        "name": user.name, "email": user.email, "language": user.language, "time_zone": user.time_zone,
        "theme": user.theme, "has_codes": totp is not None and totp.confirmed_at is not None,
        "recovery_codes_left": user.recovery_codes.filter(used_at__isnull=True).count(),
        "takes_passkeys": relying_party() is not None,
        "passkeys": list(user.passkeys.order_by("made_at")),
        "events": [
            {"at": one.at, "words": words_of(one.action), "address": one.address}
            for one in AuditEntry.objects.filter(brand_id=None)
            .filter(Q(actor_id=user.pk) | Q(subject="User", subject_id=user.pk)).order_by("-at", "-pk")[:MOST_EVENTS]
        ],
        "sessions": [
            {"id": one.pk, "began_at": one.began_at, "seen_at": one.seen_at, "address": one.address,
             "device": device_of(one.agent), "is_this": one.session_key == session_key}
            for one in sessions_of(user)
        ],
    }  # fmt: skip
