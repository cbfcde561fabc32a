"""Sessions have an end."""

from datetime import datetime

from django.conf import settings

from dakika_server.accounts.jobs import forget_old_sign_ins
from dakika_server.shared import clock
from dakika_server.shared.retention import KEPT, Kept


def _over(before: datetime) -> int:
    del before
    from django.contrib.sessions.models import Session

    return Session.objects.filter(expire_date__lt=clock.now()).count()


def _forget(before: datetime) -> int:
    del before
    return forget_old_sign_ins()


def connect() -> None:
    """Say what of accounts has an end: each session has its own, so that what is over is what goes."""
    KEPT.add("sessions", Kept(
        words="Sessions that are over, with records of signing in", setting="DAKIKA_SESSION_DAYS",
        days=lambda: settings.SESSION_COOKIE_AGE // 86_400, would_go=_over,
        forget=_forget,
    ))  # fmt: skip
