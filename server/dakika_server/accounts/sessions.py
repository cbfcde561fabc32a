"""Where people are signed in: seen by themselves, and ended by them.

In the trade's words: active sessions, sign out everywhere.
"""

from datetime import timedelta
from typing import Any

from django.contrib.auth import login
from django.contrib.sessions.models import Session
from django.core.cache import cache
from django.http import HttpRequest

from dakika_server.accounts.models import User, UserSession
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Problem
from dakika_server.shared.security import FOR_PRINT, client_address

BACKEND = "django.contrib.auth.backends.ModelBackend"
# How exactly it is kept when somebody was last seen, and for how long it is sure that it is they.
SEEN_EVERY = timedelta(minutes=5)
SURE_FOR = timedelta(minutes=10)
SURE_SINCE = "sure_since"


def begin_session(request: HttpRequest, user: User) -> None:
    """Sign somebody in who has shown all that is asked of them. The key of the session changes (session fixation)."""
    login(request, user, backend=BACKEND)
    # What waited for a second factor had minutes.
    request.session.set_expiry(None)
    note_sure(request)


def note_begun(sender: Any, request: HttpRequest, user: User, **_: Any) -> None:
    """Keep a session when it begins (signal user_logged_in)."""
    del sender
    if request.session.session_key is None:
        request.session.create()
    key, now = str(request.session.session_key), clock.now()
    cache.add(_mark(key), 1, SEEN_EVERY.total_seconds())
    UserSession.objects.update_or_create(
        session_key=key,
        defaults={
            "user": user, "began_at": now, "seen_at": now, "address": client_address(request)[:45],
            "agent": _agent(request),
        },
    )  # fmt: skip


def note_ended(sender: Any, request: HttpRequest, user: User | None, **_: Any) -> None:
    """Forget a session when its owner signs out (signal user_logged_out)."""
    del sender, user
    UserSession.objects.filter(session_key=request.session.session_key or "").delete()


def note_seen(request: HttpRequest) -> None:
    """Write down that a session is in use, now and then."""
    key = request.session.session_key
    if key is None or request.session.get(FOR_PRINT) or not cache.add(_mark(key), 1, SEEN_EVERY.total_seconds()):
        return
    user, now = request.user, clock.now()
    if not isinstance(user, User):
        return
    seen = {"seen_at": now, "address": client_address(request)[:45], "agent": _agent(request)}
    # One that began before sessions were kept is kept from now on.
    UserSession.objects.update_or_create(
        session_key=key, defaults=seen, create_defaults={**seen, "user": user, "began_at": now}
    )


def _mark(key: str) -> str:
    return f"seen-{key}"


def _agent(request: HttpRequest) -> str:
    return request.headers.get("User-Agent", "").replace("\x00", "")[:300]


def note_sure(request: HttpRequest) -> None:
    """It was shown just now who is at this session."""
    request.session[SURE_SINCE] = clock.now().timestamp()


def require_sure(request: HttpRequest) -> None:
    """Raise Problem confirm_first unless it was shown lately that it is they: a screen left open changes no keys."""
    since = float(request.session.get(SURE_SINCE, 0))
    if clock.now().timestamp() - since > SURE_FOR.total_seconds():
        raise Problem("confirm_first", "Show that it is you: sign in once more to change this.", status_code=409)


def sessions_of(user: User) -> list[UserSession]:
    """Where somebody is signed in, the last seen first; those that have run out are none."""
    kept = list(UserSession.objects.filter(user=user).order_by("-seen_at")[:100])
    alive = set(
        Session.objects.filter(
            session_key__in=[one.session_key for one in kept], expire_date__gt=clock.now()
        ).values_list("session_key", flat=True)
    )
    return [one for one in kept if one.session_key in alive]


def device_of(agent: str) -> str:
    """Browser and system as people call them; empty for what calls itself otherwise."""
    # A fifth of a second to import, and wanted on one screen.
    from ua_parser import parse

    found = parse(agent)
    names = [part.family for part in (found.user_agent, found.os) if part is not None]
    return " on ".join(names)


def end_session(user: User, pk: int) -> bool:
    """End one of somebody's sessions; False where it is none of theirs."""
    found = UserSession.objects.filter(user=user, pk=pk).first()
    if found is None:
        return False
    _end(user, [found])
    return True


def end_other_sessions(user: User, but: str | None) -> int:
    """End all of somebody's sessions but one; returns how many."""
    others = list(UserSession.objects.filter(user=user).exclude(session_key=but or ""))
    _end(user, others)
    return len(others)


def _end(user: User, sessions: list[UserSession]) -> None:
    Session.objects.filter(session_key__in=[one.session_key for one in sessions]).delete()
    UserSession.objects.filter(pk__in=[one.pk for one in sessions]).delete()
    audit.record(user, "end_sessions", user, brand_id=None, count=len(sessions))
